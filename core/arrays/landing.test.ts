import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { vec } from '../units';
import { aimToLand, landings } from './landing';
import { elevationInArray } from './mid-side';

const pair = (spacingM: number, includedAngleDeg: number) =>
  ({ kind: 'pair', pattern: 'cardioid', spacingM, includedAngleDeg }) as const;
const at = { x: 0.4, y: -1, z: 2.5, tiltDeg: 0 };

describe('where the axes land', () => {
  it('a pair of 90° at one point, two metres off, lands two metres to each side', () => {
    const array = { x: 0, y: 0, z: 2, aimDeg: 0, tiltDeg: 0, technique: pair(0, 90) };
    const [left, right] = landings(array, vec(-4, 2, 1), vec(4, 2, 1));
    expect(left).toMatchObject({ label: 'L' });
    expect(left?.fraction).toBeCloseTo(0.25, 9);
    expect(right?.fraction).toBeCloseTo(0.75, 9);
    expect(right?.point?.x).toBeCloseTo(2, 9);
  });

  it('one that looks away from the row never meets it', () => {
    const array = { ...at, aimDeg: 180, technique: pair(0.17, 110) };
    for (const { fraction, point } of landings(array, vec(-4, 2, 1), vec(4, 2, 1))) {
      expect(fraction).toBeNull();
      expect(point).toBeNull();
    }
  });

  it('a pair turned as told lands on both points, wherever the row lies', () => {
    const given = fc.record({
      turnDeg: fc.double({ min: -180, max: 180, noNaN: true }),
      off: fc.double({ min: 1.5, max: 8, noNaN: true }),
      half: fc.double({ min: 1, max: 5, noNaN: true }),
      spacingM: fc.double({ min: 0, max: 0.5, noNaN: true }),
      tiltDeg: fc.double({ min: -70, max: 70, noNaN: true }),
      fractions: fc.tuple(
        fc.double({ min: 0, max: 0.35, noNaN: true }),
        fc.double({ min: 0.65, max: 1, noNaN: true }),
      ),
    });
    fc.assert(
      fc.property(given, ({ turnDeg, off, half, spacingM, tiltDeg, fractions }) => {
        const turn = (turnDeg * Math.PI) / 180;
        const along = (right: number) =>
          vec(
            at.x + Math.sin(turn) * off + Math.cos(turn) * right,
            at.y + Math.cos(turn) * off - Math.sin(turn) * right,
            1,
          );
        const [from, to] = [along(-half), along(half)];
        const aim = aimToLand({ ...at, tiltDeg }, spacingM, from, to, fractions);
        if (!aim.ok) throw new Error(aim.message);
        const array = {
          ...at,
          tiltDeg,
          aimDeg: aim.aimDeg,
          technique: pair(spacingM, aim.includedAngleDeg),
        };
        const [left, right] = landings(array, from, to);
        expect(left?.fraction).toBeCloseTo(fractions[0], 6);
        expect(right?.fraction).toBeCloseTo(fractions[1], 6);
      }),
    );
  });

  it('says why there is no such pair', () => {
    const row = [vec(-2, 2, 1), vec(2, 2, 1)] as const;
    expect(aimToLand(at, 1, ...row, [0.5, 0.51])).toMatchObject({
      ok: false,
      message: expect.stringContaining('cross') as string,
    });
    expect(aimToLand({ x: -2, y: 2, tiltDeg: 0 }, 0.2, ...row, [0, 1])).toMatchObject({
      ok: false,
      message: expect.stringContaining('at the array itself') as string,
    });
    expect(aimToLand({ x: 0, y: 2, tiltDeg: 0 }, 0.2, ...row, [0, 1])).toMatchObject({
      ok: false,
      message: expect.stringContaining('in the row itself') as string,
    });
    expect(aimToLand({ ...at, tiltDeg: -90 }, 0.2, ...row, [0, 1])).toMatchObject({
      ok: false,
      message: expect.stringContaining('tilt it less') as string,
    });
    expect(() => aimToLand(at, 0.2, ...row, [-0.1, 1])).toThrow('fraction');
  });
});

describe('elevation above a tilted array', () => {
  const array = { x: 0, y: 0, z: 2, aimDeg: 0 };

  it('level and straight ahead it is the elevation itself', () => {
    expect(elevationInArray({ ...array, tiltDeg: 0 }, vec(0, 2, 0))).toBeCloseTo(-45, 9);
  });

  it('a tilt at the player takes it away; to the side it does so only in part', () => {
    expect(elevationInArray({ ...array, tiltDeg: -45 }, vec(0, 2, 0))).toBeCloseTo(0, 9);
    expect(elevationInArray({ ...array, tiltDeg: -45 }, vec(2, 0, 0))).toBeCloseTo(-30, 9);
    expect(elevationInArray({ ...array, tiltDeg: -45 }, vec(0, 0, 2))).toBe(0);
  });
});
