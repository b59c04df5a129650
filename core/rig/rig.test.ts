import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { newArray } from '../session';
import { demoSession } from '../demo';
import { patternText, positionSheet } from './position-sheet';
import { twoTapes } from './two-tapes';

const A = { x: -3, y: 0 };
const B = { x: 3, y: 0 };

describe('two tapes', () => {
  it('gives both distances and the side', () => {
    expect(twoTapes({ x: 0, y: 4 }, A, B)).toMatchObject({
      fromFirstM: 5,
      fromSecondM: 5,
      side: 'upstage',
    });
    expect(twoTapes({ x: 0, y: -4 }, A, B).side).toBe('downstage');
    expect(twoTapes({ x: 0, y: -4 }, B, A).side).toBe('downstage');
    expect(twoTapes({ x: 1, y: 0 }, A, B)).toMatchObject({
      side: 'on the line',
      errorPerCmM: null,
    });
  });

  it('leads back to the point: both circles cross there', () => {
    const c = fc.double({ min: -15, max: 15, noNaN: true });
    fc.assert(
      fc.property(c, c, (x, y) => {
        const { fromFirstM: a, fromSecondM: b, side } = twoTapes({ x, y }, A, B);
        const along = (a * a - b * b + 36) / 12;
        const across = Math.sqrt(Math.max(0, a * a - along * along));
        expect(A.x + along).toBeCloseTo(x, 6);
        expect(side === 'downstage' ? -across : across).toBeCloseTo(y, 5);
      }),
    );
  });

  it('names the error of 1 cm of tape: the farthest that both readings can be off', () => {
    const point = { x: 1, y: 5 };
    const exact = twoTapes(point, A, B);
    let worst = 0;
    for (const da of [-0.01, 0.01]) {
      for (const db of [-0.01, 0.01]) {
        const [a, b] = [exact.fromFirstM + da, exact.fromSecondM + db];
        const along = (a * a - b * b + 36) / 12;
        const across = Math.sqrt(a * a - along * along);
        worst = Math.max(worst, Math.hypot(A.x + along - point.x, across - point.y));
      }
    }
    expect(exact.errorPerCmM).toBeCloseTo(worst, 4);
  });

  it('refuses one point for both tapes', () => {
    expect(() => twoTapes({ x: 1, y: 1 }, A, A)).toThrow('at least 1 cm apart');
  });
});

describe('position sheet', () => {
  it('lists every capsule of the demo with its half of spacing and angle', () => {
    const { arrays, datum } = positionSheet(demoSession('2026-11-23T12:00:00.000Z'));
    expect(datum?.map(({ name }) => name)).toEqual(['A', 'B']);
    const [left, right] = arrays[0]?.capsules ?? [];
    expect(left).toMatchObject({ label: 'L', pattern: 'cardioid', barAngleDeg: -55 });
    expect(left?.barOffsetM).toBeCloseTo(-0.085, 12);
    expect(right?.x).toBeCloseTo(0.085, 12);
    // Post A stands at (−4, 3), the left capsule at (−0.085, −0.4).
    expect(left?.tapes?.fromFirstM).toBeCloseTo(Math.hypot(3.915, 3.4), 9);
    expect(left?.tapes?.side).toBe('downstage');
    // The pair is tilted 15° down, its axes by less, and wider on the plan than 55°.
    expect(left?.tiltDeg).toBeCloseTo(-8.535, 2);
    expect(left?.aimDeg).toBeCloseTo(-55.926, 2);
  });

  it('leaves out what is switched off and copes without tape points', () => {
    const session = demoSession('2026-11-23T12:00:00.000Z');
    const off = newArray({ id: 'x', name: 'Off', enabled: false });
    const sheet = positionSheet({
      ...session,
      arrays: [...session.arrays, off],
      venue: { ...session.venue, datumPoints: [] },
    });
    expect(sheet.arrays.map(({ name }) => name)).toEqual(['Main pair']);
    expect(sheet.datum).toBeNull();
    expect(sheet.arrays[0]?.capsules[0]?.tapes).toBeNull();
  });

  it('names a pattern, or gives its number', () => {
    expect(patternText(0.366)).toBe('supercardioid');
    expect(patternText(0.42)).toBe('A 0.42');
  });
});
