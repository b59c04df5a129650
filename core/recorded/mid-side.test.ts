import { describe, expect, it } from 'vitest';
import { MidSideMeter } from '../audio/measure/mid-side';
import { whiteNoise } from '../audio/signal/generate';
import { patternAOf, sensitivity } from '../acoustics';
import { pair } from '../fixtures/parts';
import { sessionFrom } from '../session';
import { cosDeg } from '../units/guard';
import {
  decodedAt,
  decoderGuard,
  equivalentPair,
  midSideTracks,
  plannedSideDb,
  saidToBe,
  sidePhase,
} from './mid-side';

const RATE = 8000;
const FRAMES = 4 * RATE;
const noises = Array.from({ length: 12 }, (_, i) => whiteNoise(FRAMES, i + 1));

/** Players across the front, each by its own noise, and a hall from everywhere, in two microphones. */
function recorded(
  gains: (deg: number) => [number, number],
  players: readonly number[],
  hall: number,
): [Float32Array, Float32Array] {
  const [one, two] = [new Float32Array(FRAMES), new Float32Array(FRAMES)];
  const add = (noise: Float32Array | undefined, deg: number, level: number): void => {
    const [a, b] = gains(deg);
    for (let i = 0; i < FRAMES; i++) {
      one[i] = (one[i] ?? 0) + level * a * (noise?.[i] ?? 0);
      two[i] = (two[i] ?? 0) + level * b * (noise?.[i] ?? 0);
    }
  };
  players.forEach((deg, i) => add(noises[i], deg, 1));
  [-150, -90, -30, 30, 90, 150].forEach((deg, i) => add(noises[i + 6], deg, hall));
  return [one, two];
}

const crossed =
  (patternA: number, angleDeg: number) =>
  (deg: number): [number, number] => [
    sensitivity(patternA, cosDeg(deg + angleDeg / 2)),
    sensitivity(patternA, cosDeg(deg - angleDeg / 2)),
  ];
const toMidSide =
  (gains: (deg: number) => [number, number]) =>
  (deg: number): [number, number] => {
    const [left, right] = gains(deg);
    return [(left + right) / 2, (left - right) / 2];
  };

function like(planes: Float32Array[]) {
  const meter = new MidSideMeter(RATE, false);
  meter.add(planes, FRAMES);
  return meter.result();
}

const nobody = { what: null, by: null } as const;
const OFTEN = [-35, -18, -4, 9, 22, 36];

describe('what two channels are like', () => {
  it('is told of forty recordings that differ enough, raw and left and right', () => {
    const made = [0.5, 0.45, 0.41, 0.366, 0.55].flatMap((a) =>
      [90, 100].flatMap((angle) => [0, 0.15].map((hall) => ({ a, angle, hall }))),
    );
    expect(made).toHaveLength(20);
    for (const { a, angle, hall } of made) {
      const gains = crossed(a, angle);
      const text = `A ${a}, ${angle}°, hall ${hall}`;
      expect(like(recorded(toMidSide(gains), OFTEN, hall)).like, text).toBe('mid and side');
      expect(like(recorded(gains, OFTEN, hall)).like, text).toBe('left and right');
    }
  });

  it('is not told of figure-eights at 90° in a hall that sounds from everywhere: they are the same turned', () => {
    const gains = crossed(0, 90);
    for (const make of [gains, toMidSide(gains)]) {
      const found = like(recorded(make, [], 1));
      expect(found.like).toBeNull();
      expect(decoderGuard(found, nobody)).toMatchObject({
        verdict: 'cannot be told',
        decode: null,
        wouldTell: expect.stringContaining('clap') as string,
      });
    }
  });
});

describe('whether they are to be decoded', () => {
  const raw = { sideDb: -8, correlation: 0.05, like: 'mid and side' } as const;
  const leftRight = { sideDb: 0.4, correlation: 0.7, like: 'left and right' } as const;
  const byPlan = { what: 'mid and side', by: 'the plan' } as const;

  it('once where the plan says so too, never a second time', () => {
    expect(decoderGuard(raw, byPlan)).toMatchObject({ verdict: 'raw', decode: true });
    expect(decoderGuard(leftRight, byPlan)).toMatchObject({
      verdict: 'decoded already',
      decode: false,
    });
    expect(decoderGuard(leftRight, nobody)).toMatchObject({
      verdict: 'left and right',
      decode: false,
    });
  });

  it('raw and decoded twice are the same but for gain: names tell them apart', () => {
    const named = { what: 'left and right', by: 'their names' } as const;
    const guard = decoderGuard(raw, named);
    expect(guard).toMatchObject({ verdict: 'decoded once too often', decode: true });
    expect(guard.words).toContain('Their names say left and right');
    expect(decoderGuard(raw, nobody)).toMatchObject({ verdict: 'cannot be told', decode: null });
    const [m, s] = recorded(toMidSide(crossed(0.5, 90)), OFTEN, 0.2);
    const left = m.map((v, i) => v + (s[i] ?? 0));
    const right = m.map((v, i) => v - (s[i] ?? 0));
    const [sum, rest] = [left, right].map((_, k) =>
      left.map((v, i) => v + (k === 0 ? 1 : -1) * (right[i] ?? 0)),
    );
    const [once, again] = [like([m, s]), like([sum ?? m, rest ?? s])];
    expect(again.sideDb).toBeCloseTo(once.sideDb ?? NaN, 4);
    expect(again.correlation).toBeCloseTo(once.correlation ?? NaN, 4);
  });

  it('nothing is told of silence', () => {
    expect(like([new Float32Array(FRAMES), noises[0] ?? new Float32Array()])).toMatchObject({
      sideDb: null,
    });
    const silent = { sideDb: null, correlation: null, like: null };
    expect(decoderGuard(silent, byPlan)).toMatchObject({ verdict: 'cannot be told', decode: null });
  });
});

describe('which channels they are', () => {
  const session = sessionFrom({
    id: 's',
    arrays: [
      { id: 'x', name: 'Pair', technique: pair('cardioid', 0.2, 90), x: 0, y: 0, z: 2 },
      {
        id: 'ms',
        name: 'Front',
        technique: { kind: 'mid-side', midPattern: 'cardioid', sideGainDb: -3 },
        ...{ x: 0, y: 1, z: 2 },
      },
    ],
  });

  it('by the plan, else by their names, else the first two', () => {
    const four = ['a', 'b', 'c', 'd'];
    expect(midSideTracks(session, [1, 2, 3, 4], four)).toEqual({ mid: 2, side: 3, copy: null });
    expect(saidToBe(session, [1, 2, 3, 4], four, { mid: 2, side: 3, copy: null })).toEqual({
      what: 'mid and side',
      by: 'the plan',
    });
    expect(saidToBe(session, [1, 2, 3, 4], four, { mid: 0, side: 1, copy: null }).what).toBe(
      'left and right',
    );
    const none = [null, null, null];
    const names = ['Front side', 'Front side inverted', 'Front M'];
    expect(midSideTracks(session, none, names)).toEqual({ mid: 2, side: 0, copy: 1 });
    expect(midSideTracks(session, none, ['', '', ''])).toEqual({ mid: 0, side: 1, copy: null });
    expect(midSideTracks(session, none, ['one'])).toBeNull();
    expect(saidToBe(session, none, ['L', 'R', ''], { mid: 0, side: 1, copy: null })).toEqual({
      what: 'left and right',
      by: 'their names',
    });
    // "Bass" ends in s and is no side, "Room" in m and is no mid.
    expect(midSideTracks(session, none, ['Room', 'Bass', 'x'])?.mid).toBe(0);
    expect(
      saidToBe(session, none, ['Room', 'Bass'], { mid: 0, side: 1, copy: null }).what,
    ).toBeNull();
  });

  it('a cardioid mid with the side as loud is a pair of 0.309 at 126.9°', () => {
    const equal = equivalentPair(session, [3, 4], 0, 0);
    expect(equal?.patternA).toBeCloseTo(0.309, 3);
    expect(equal?.includedAngleDeg).toBeCloseTo(126.87, 2);
    expect(equivalentPair(session, [1, 2], 0, 0)).toBeNull();
    expect(plannedSideDb(session, [3, 4], 0)).toBe(-3);
    expect(plannedSideDb(session, [1, 2], 0)).toBeNull();
    expect(patternAOf('cardioid')).toBe(0.5);
  });
});

describe('a decode', () => {
  it('of unlike mid and side of equal power has no likeness, and mono loses half', () => {
    const found = decodedAt({ sideDb: -6, correlation: 0 }, 6);
    expect(found?.correlation).toBeCloseTo(0, 6);
    expect(found?.monoLossDb).toBeCloseTo(-3.01, 2);
    expect(found?.leftAgainstRightDb).toBeCloseTo(0, 6);
    // (1 − s²) / (1 + s²) with s² a quarter.
    expect(decodedAt({ sideDb: -6.0206, correlation: 0 }, 0)?.correlation).toBeCloseTo(0.6, 5);
    expect(decodedAt({ sideDb: null, correlation: null }, 0)).toBeNull();
    expect(() => decodedAt({ sideDb: 0, correlation: 0 }, 24.1)).toThrow(RangeError);
  });

  it('the high-pass of the side is 3 dB down and 90° ahead at its own frequency', () => {
    const at = sidePhase(200).find(({ hz }) => Math.abs(hz - 200) < 1);
    expect(at?.gainDb).toBeCloseTo(-3.01, 1);
    expect(at?.phaseDeg).toBeCloseTo(90, 0);
    const [low] = sidePhase(200);
    expect(low?.phaseDeg).toBeGreaterThan(165);
    expect(sidePhase(200).at(-1)?.phaseDeg).toBeLessThan(9);
    expect(() => sidePhase(9)).toThrow(RangeError);
  });
});
