import { describe, expect, it } from 'vitest';
import { newArray, newSession, newSource, type Session } from '../session';
import { channelMap } from '../channels';
import { speedOfSound } from '../units';
import { bindingByNames, bindingInOrder, boundNames, boundPair, inputOf } from './bound';
import { plannedDifferences, sidesTold } from './planned';

const pairAt = (y: number) =>
  newArray({
    ...{ id: 'main', name: 'Main pair', x: 0, y, z: 2, aimDeg: 0, tiltDeg: 0 },
    technique: { kind: 'pair', pattern: 'omni', spacingM: 0.6, includedAngleDeg: 0 },
  });
const spot = newArray({
  ...{ id: 'spot', name: 'Oboe', x: -1, y: 2.5, z: 2, aimDeg: 0, tiltDeg: 0 },
  technique: { kind: 'single', pattern: 'cardioid' },
});
const session: Session = {
  ...newSession('s', 'Test', '2026-12-01T00:00:00.000Z'),
  arrays: [pairAt(0), spot],
  sources: [
    newSource({ id: 'o', name: 'Oboe', x: -3, y: 3, z: 2 }),
    newSource({ id: 'f', name: 'Flute', x: 0, y: 4, z: 2 }),
  ],
};

describe('what channels are', () => {
  it('by their names, whatever their case; each input once; else by hand', () => {
    expect(channelMap(session).inputs.map(({ name }) => name)).toEqual([
      'Main pair L',
      'Main pair R',
      'Oboe',
    ]);
    const binding = bindingByNames(session, ['OBOE', 'main  pair r', 'Talkback', 'oboe']);
    expect(binding).toEqual([3, 2, null, null]);
    expect(boundNames(session, binding, ['a', 'b', 'Talkback', 'd'])).toEqual([
      'Oboe',
      'Main pair R',
      'Talkback',
      'd',
    ]);
    expect(boundPair(session, binding)).toBeNull();
    expect(boundPair(session, [2, 1])).toEqual([1, 0]);
    expect(bindingInOrder(session, 5)).toEqual([1, 2, 3, null, null]);
  });

  it('an input that is no longer there is none', () => {
    const shorter = { ...session, arrays: [pairAt(0)] };
    expect(inputOf(shorter, [3], 0)).toBeNull();
    expect(boundNames(shorter, [3], ['Input 3'])).toEqual(['Input 3']);
  });
});

describe('what is planned between two microphones', () => {
  const [left, right, oboe] = channelMap(session).inputs;
  if (!left || !right || !oboe) throw new Error('three inputs are expected');

  it('is the way of each player to both of them', () => {
    const [of] = plannedDifferences(session, left, right);
    const [near, far] = [Math.hypot(-3 + 0.3, 3), Math.hypot(-3 - 0.3, 3)];
    const speed = speedOfSound(session.venue.temperatureC);
    expect(of?.delayMs).toBeCloseTo((1000 * (far - near)) / speed, 6);
    expect(of?.levelDb).toBeCloseTo(20 * Math.log10(near / far), 6);
    expect(plannedDifferences(session, right, left)[0]?.delayMs).toBeCloseTo(-(of?.delayMs ?? 0));
  });

  it('tells left from right by somebody at a side, and says so where nobody is', () => {
    const [aside, middle] = plannedDifferences(session, left, right);
    if (!aside || !middle) throw new Error('two players are expected');
    const { delayMs, levelDb } = aside;
    expect(sidesTold({ delayMs, levelDb }, aside).verdict).toBe('as planned');
    const turned = sidesTold({ delayMs: -delayMs, levelDb: -levelDb }, aside);
    expect(turned.verdict).toBe('swapped');
    expect(turned.text).toMatch(/^Left and right are swapped, by Oboe: −\d\.\d\d ms where/);
    expect(sidesTold({ delayMs: 0.8, levelDb: 3 }, middle)).toEqual({
      verdict: 'cannot be told',
      text: expect.stringContaining('Flute is planned too near the middle') as string,
    });
    expect(sidesTold({ delayMs: null, levelDb: null }, aside).verdict).toBe('cannot be told');
    const torn = sidesTold({ delayMs, levelDb: 6 }, { ...aside, levelDb: -3 });
    expect(torn.verdict).toBe('cannot be told');
  });
});
