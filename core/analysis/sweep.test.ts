import { describe, expect, it } from 'vitest';
import { newArray, newSource, sessionFrom, type Session } from '../session';
import { bestCentreFill, distanceSweep, heightSweep, movementSensitivity } from './sweep';

const player = (id: string, x: number, y: number, rest: object = {}) =>
  newSource({ id, name: id, x, y, z: 1, ...rest });
const omni = newArray({
  id: 'm',
  x: 0,
  y: -3,
  z: 1,
  aimDeg: 0,
  technique: { kind: 'single', pattern: 'omni' },
});
const session = (sources: Session['sources'], arrays = [omni]): Session =>
  sessionFrom({ sources, arrays });

describe('distance swept', () => {
  it('puts the array on its aim at each distance from the middle of the players', () => {
    const two = session([player('a', -1, 2), player('b', 1, 2)]);
    const turned = { ...omni, aimDeg: 90 };
    // From the side the nearer player is 2 m away at 3 m, the farther one 4 m.
    const [side] = distanceSweep(two, turned, [3]);
    expect(side?.valueM).toBe(3);
    expect(side?.unevennessDb).toBeCloseTo(20 * Math.log10(4 / 2), 9);
    const [front] = distanceSweep(two, omni, [3]);
    expect(front?.unevennessDb).toBeCloseTo(0, 9);
  });

  it('counts both ends of a wide player', () => {
    const wide = session([player('a', 0, 2, { widthM: 2, facingDeg: 90 })]);
    // Seen from its end it reaches from 1 m to 3 m.
    const [point] = distanceSweep(wide, omni, [2]);
    expect(point?.unevennessDb).toBeCloseTo(20 * Math.log10(3), 9);
  });

  it('leaves out what stands at a capsule, and everything without players', () => {
    expect(distanceSweep(session([]), omni, [1, 2])).toEqual([]);
    expect(distanceSweep(session([player('a', 0, 2)]), omni, [0, 1])).toHaveLength(1);
    expect(() => distanceSweep(session([player('a', 0, 2)]), omni, [201])).toThrow('distanceM');
  });
});

describe('height swept', () => {
  it('keeps the place: distance by Pythagoras', () => {
    const two = session([player('a', 0, 0), player('b', 0, 1)]);
    const [level, up] = heightSweep(two, omni, [1, 5]);
    expect(level?.unevennessDb).toBeCloseTo(20 * Math.log10(4 / 3), 9);
    expect(up?.unevennessDb).toBeCloseTo(10 * Math.log10((16 + 16) / (9 + 16)), 9);
  });
});

describe('a player who sways', () => {
  const pair = newArray({ id: 'p', x: 0, y: 0, z: 1, aimDeg: 0 });

  it('moves across the line to the array, both ways alike on the axis', () => {
    const [sway] = movementSensitivity(session([player('a', 0, 4)], [pair]), pair, 0.5);
    expect(sway?.from).toBeLessThan(-0.05);
    expect(sway?.to).toBeCloseTo(-(sway?.from ?? 0), 9);
    const [more] = movementSensitivity(session([player('a', 0, 4)], [pair]), pair, 1);
    expect(more?.to).toBeGreaterThan((sway?.to ?? 1) * 1.5);
  });

  it('across, not along: at 90° to the side the sway is along the hall', () => {
    const right = session([player('a', 4, 0)], [pair]);
    const [there] = movementSensitivity(right, pair, 0);
    const [sway] = movementSensitivity(right, pair, 0.5);
    expect(there?.from).toBe(there?.to);
    expect(sway?.sourceId).toBe('a');
    expect(sway?.from).toBeLessThanOrEqual(there?.from ?? 0);
    expect(() => movementSensitivity(right, pair, 10.1)).toThrow('swayM');
  });
});

describe('the centre that closes the hole', () => {
  const point = (gainDb: number, imageWidthPct: number, largestGapPct: number) => ({
    gainDb,
    imageWidthPct,
    largestGapPct,
  });

  it('has the least gap among those that keep three quarters of the width', () => {
    const points = [point(-20, 100, 40), point(-6, 75, 20), point(0, 74.9, 5)];
    expect(bestCentreFill(points)?.gainDb).toBe(-6);
  });

  it('is the lowest level of those that are as good, and none without points', () => {
    const points = [point(-20, 90, 20), point(-10, 90, 19.1), point(-5, 90, 18.9)];
    expect(bestCentreFill(points)?.gainDb).toBe(-5);
    expect(bestCentreFill(points.slice(0, 2))?.gainDb).toBe(-20);
    expect(bestCentreFill([])).toBeNull();
  });
});
