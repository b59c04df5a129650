import { describe, expect, it } from 'vitest';
import { newArray, newSource, sessionFrom, type MicArray, type Session } from '../session';
import { headBelow, secondOfPair, underneath } from './second';

const kit = newSource({ id: 'kit', name: 'Kit', kind: 'drum kit', x: 1, y: 3, z: 0.8 });
const session: Session = { ...sessionFrom({}), sources: [kit] };
const spot = (change: Partial<MicArray>): MicArray =>
  newArray({
    id: 's',
    name: 'Spot',
    role: 'spot',
    technique: { kind: 'single', pattern: 'cardioid' },
    for: { kind: 'some', groups: [], sources: ['kit'] },
    ...change,
  });

describe('the second of a pair', () => {
  it('stands on the other side of the player, mirrored in aim and pan', () => {
    const first = spot({ x: 0.4, y: 2, z: 1.5, aimDeg: 30, tiltDeg: -20 });
    first.mix.capsules = [{ pan: -0.4, gainDb: 0, polarity: 1, delayMs: 3 }];
    const second = secondOfPair(session, first);
    // The kit faces the audience: its axis is the plane x = 1.
    expect(second).toMatchObject({ x: 1.6, y: 2, z: 1.5, aimDeg: -30, tiltDeg: -20 });
    expect(second.mix.capsules).toEqual([{ pan: 0.4, gainDb: 0, polarity: 1, delayMs: 3 }]);
    // And back again.
    const back = secondOfPair(session, { ...first, ...second });
    expect(back).toMatchObject({ x: 0.4, y: 2, aimDeg: 30 });
  });

  it('keeps the distance to a player who faces anywhere', () => {
    for (const facingDeg of [-170, -45, 10, 90, 137]) {
      const turned = { ...session, sources: [{ ...kit, facingDeg }] };
      const first = spot({ x: 0.1, y: 2.2, aimDeg: 48 });
      const second = secondOfPair(turned, first);
      const far = ({ x, y }: { x: number; y: number }) => Math.hypot(x - 1, y - 3);
      expect(far(second)).toBeCloseTo(far(first), 2);
    }
  });

  it('stands beside one that is on the axis, and mirrors at the centre line for everybody', () => {
    expect(secondOfPair(session, spot({ x: 1, y: 2 })).x).toBeCloseTo(0.7, 6);
    const all = spot({ x: -1.5, y: 0, aimDeg: 10, for: { kind: 'all' } });
    const two = { ...session, sources: [kit, { ...kit, id: 'b' }] };
    expect(secondOfPair(two, all)).toMatchObject({ x: 1.5, y: 0, aimDeg: -10 });
  });
});

describe('the bottom microphone', () => {
  it('is as far under the head as the other is over it, and inverted', () => {
    // The snare of a kit that faces the audience: right is the audience’s left.
    const top = spot({ x: 1.3, y: 2.9, z: 0.73, tiltDeg: -60, aimDeg: 10 });
    const head = headBelow(session, top);
    expect(head?.name).toBe('snare drum of Kit');
    if (!head) throw new Error('a head');
    const bottom = underneath(top, head);
    expect(bottom.z).toBeCloseTo(2 * head.heightM - 0.73, 6);
    expect(bottom).toMatchObject({ x: 1.3, y: 2.9, tiltDeg: 60, aimDeg: 10 });
    expect(bottom.mix.capsules.map(({ polarity }) => polarity)).toEqual([-1]);
  });

  it('has a head of a piece, stays off the floor, and none where no drum is', () => {
    const snare = newSource({ id: 'sd', name: 'Snare', kind: 'snare drum', x: 0, y: 2, z: 0.65 });
    const one = { ...session, sources: [snare] };
    const head = headBelow(one, spot({ x: 0.1, y: 2, z: 2 }));
    expect(head).toEqual({ name: 'Snare', heightM: 0.65 });
    expect(head && underneath(spot({ z: 2 }), head).z).toBe(0.05);
    expect(headBelow(one, spot({ x: 3, y: 2, z: 2 }))).toBeNull();
    expect(headBelow(one, spot({ x: 0, y: 2, z: 0.4 }))).toBeNull();
    expect(headBelow({ ...session, sources: [] }, spot({}))).toBeNull();
  });
});
