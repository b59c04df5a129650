import { describe, expect, it } from 'vitest';
import { newArray, newSource, sessionFrom, type Session } from '../session';
import { clashes } from './clashes';

const spot = newArray({
  id: 'spot',
  name: 'Spot',
  // Not a close one: of whom a spot is for it may be as near as it does not touch.
  role: 'main',
  x: 0,
  y: 2,
  z: 1.3,
  technique: { kind: 'single', pattern: 'cardioid' },
});
const session = (change: Partial<Session>): Session => ({
  ...sessionFrom({}),
  arrays: [spot],
  ...change,
});

describe('what comes too close', () => {
  it('a player, by the straight distance and not by that on the plan', () => {
    const sources = [newSource({ id: 'low', name: 'Low', x: 0.1, y: 2, z: 0.9 })];
    expect(clashes(session({ sources }))).toEqual([]);
    const [clash] = clashes(
      session({ sources: [newSource({ id: 'near', name: 'Near', x: 0.1, y: 2, z: 1.2 })] }),
    );
    expect(clash).toMatchObject({ with: 'player', id: 'near', leastM: 0.25 });
    expect(clash?.distanceM).toBeCloseTo(Math.hypot(0.1, 0.1), 9);
  });

  it('a microphone for somebody may be close to him, and to nobody else', () => {
    const own = newSource({ id: 'own', name: 'Own', x: 0.12, y: 2, z: 1.3 });
    const other = newSource({ id: 'other', name: 'Other', x: -0.2, y: 2, z: 1.3 });
    const close = { ...spot, role: 'spot' as const };
    expect(clashes(session({ arrays: [close], sources: [own] }))).toEqual([]);
    const touching = { ...own, x: 0.04 };
    expect(clashes(session({ arrays: [close], sources: [touching] }))[0]).toMatchObject({
      leastM: 0.05,
    });
    expect(clashes(session({ arrays: [close], sources: [own, other] }))[0]).toMatchObject({
      id: 'other',
      leastM: 0.25,
    });
  });

  it('the nearest part of a wide instrument, not its middle', () => {
    const organ = newSource({ id: 'o', x: 1.4, y: 2, z: 1.3, widthM: 2.6, facingDeg: 180 });
    const [clash] = clashes(session({ sources: [organ] }));
    expect(clash?.distanceM).toBeCloseTo(0.1, 9);
  });

  it('a turned column up to its height; inside it the distance is none', () => {
    const column = { ...blank(), x: 0.6, y: 2, widthM: 0.6, depthM: 0.6, heightM: 4, turnDeg: 45 };
    // Its corner points at the microphone: half the diagonal is 0.424 m.
    const [turned] = clashes(withObstacle(column));
    expect(turned?.distanceM).toBeCloseTo(0.6 - 0.3 * Math.SQRT2, 1);
    expect(clashes(withObstacle({ ...column, turnDeg: 0, x: 0.9 }))).toEqual([]);
    expect(clashes(withObstacle({ ...column, heightM: 1 }))).toEqual([]);
    expect(clashes(withObstacle({ ...column, x: 0 }))[0]?.distanceM).toBe(0);
  });

  it('a riser below the microphone is what it stands on', () => {
    const riser = { ...blank(), kind: 'riser' as const, x: 0, y: 2, heightM: 1.2 };
    expect(clashes(withObstacle(riser))).toEqual([]);
    expect(clashes(withObstacle({ ...riser, heightM: 1.4 }))).toHaveLength(1);
  });

  it('two arrays at one place, named once; those switched off are not there', () => {
    const twin = { ...spot, id: 'twin', name: 'Twin', x: 0.04 };
    expect(clashes(session({ arrays: [spot, twin] }))).toHaveLength(1);
    expect(clashes(session({ arrays: [spot, { ...twin, enabled: false }] }))).toEqual([]);
    expect(clashes(session({ arrays: [spot, { ...twin, x: 0.2 }] }))).toEqual([]);
  });

  it('the distance to keep is the user’s', () => {
    const sources = [newSource({ id: 'near', x: 0.4, y: 2, z: 1.3 })];
    expect(clashes(session({ sources }))).toEqual([]);
    const careful = session({ sources });
    careful.rig.clearanceM = 0.5;
    expect(clashes(careful)).toHaveLength(1);
  });
});

function blank() {
  const [obstacle] = sessionFrom({ venue: { obstacles: [{ id: 'o', kind: 'column' }] } }).venue
    .obstacles;
  if (!obstacle) throw new TypeError('the schema gave no obstacle');
  return obstacle;
}

function withObstacle(obstacle: ReturnType<typeof blank>): Session {
  const plain = session({});
  return { ...plain, venue: { ...plain.venue, obstacles: [obstacle] } };
}
