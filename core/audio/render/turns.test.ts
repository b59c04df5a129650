import { describe, expect, it } from 'vitest';
import { demoSessions } from '../../demo';
import type { Session } from '../../session';
import { seededRandom } from '../../units/random';
import { fastEngine } from '../signal/fast-spectra';
import { timeAt } from './hall';
import type { RenderOptions } from './options';
import { planTake } from './plan';
import { plainEngine } from '../signal/spectra';
import { renderBlocks } from './take';
import { knocksFor, knocksOf, readPoint, signalOf } from './turns';
import { decayTimes } from '../fixtures/memory';

const RATE = 24_000;
const [DEMO] = demoSessions('2026-01-01T00:00:00Z');

async function heardOf(session: Session, options: Partial<RenderOptions>) {
  const plan = planTake(session, { sampleRateHz: RATE, ...options });
  if (!plan.ok) throw new Error(plan.message);
  const planes = plan.value.channels.map(() => new Float32Array(plan.value.frames));
  const engine = (await fastEngine()) ?? plainEngine;
  for await (const block of renderBlocks(plan.value, { engine })) {
    planes.forEach((plane, c) =>
      plane.set((block.planes[c] as Float32Array).subarray(0, block.frames), block.position),
    );
  }
  return { plan: plan.value, planes };
}

const levelDb = (samples: Float32Array): number =>
  10 * Math.log10(samples.reduce((sum, value) => sum + value * value, 0) / samples.length + 1e-30);

const demo = (): Session => {
  if (!DEMO) throw new Error('there is a demo');
  return DEMO;
};

describe('knocks', () => {
  it.each([
    [1, 1],
    [9, 9],
    [10, 10],
    [11, 2],
    [20, 11],
    [23, 5],
    [500, 59],
  ])('of number %s are %s, tens first', (number, count) => {
    const { atS, untilS } = knocksOf(number);
    expect(atS.length).toBe(count);
    expect(atS).toEqual([...atS].sort((a, b) => a - b));
    expect(untilS).toBeGreaterThan((atS[count - 1] ?? 0) + 0.5);
  });

  it('can be counted in the samples', () => {
    const samples = knocksFor(23, 1, RATE);
    const step = RATE / 100;
    let [count, quiet] = [0, true];
    const top = samples.reduce((most, value) => Math.max(most, Math.abs(value)), 0);
    for (let at = 0; at + step <= samples.length; at += step) {
      const most = samples
        .subarray(at, at + step)
        .reduce((all, value) => Math.max(all, Math.abs(value)), 0);
      if (quiet && most > 0.3 * top) count += 1;
      quiet = most < 0.05 * top ? true : most > 0.3 * top ? false : quiet;
    }
    expect(count).toBe(5);
  });
});

it('what sounds at its turn is read at any place as if the whole round were there', () => {
  const random = seededRandom(5);
  const whole = (n: number): number => Math.floor(random() * n);
  for (let i = 0; i < 300; i++) {
    const round = 50 + whole(200);
    const phrase = Float32Array.from({ length: 1 + whole(round) }, () => random() - 0.5);
    const turn = { from: whole(round), round };
    const from = whole(900) - 200;
    const out = new Float32Array(1 + whole(400));
    const sounds = readPoint({ phrase, turn }, from, out);
    const wanted = Array.from(out, (_, n) => {
      const at = from + n - turn.from;
      if (at < 0) return 0;
      return phrase[at % round] ?? 0;
    });
    expect([...out]).toEqual(wanted);
    if (!sounds) expect(wanted.every((value) => value === 0)).toBe(true);
  }
});

describe('a roll call', () => {
  it('has everybody in turn alone, and the room’s silence between', async () => {
    const session = demo();
    const { plan, planes } = await heardOf(session, { take: 'roll call' });
    expect(plan.turns.map(({ name }) => name)).toEqual(session.sources.map(({ name }) => name));
    const [left = new Float32Array()] = planes;
    for (const [i, { fromS }] of plan.turns.entries()) {
      const endS = plan.turns[i + 1]?.fromS ?? plan.frames / RATE;
      const stretch = (a: number, b: number) => left.subarray(a * RATE, b * RATE);
      const playsS = fromS + knocksOf(i + 1).untilS;
      // Silence before it has come down; what is played is far above that.
      expect(levelDb(stretch(endS - 0.1, endS))).toBeLessThan(
        levelDb(stretch(playsS + 0.5, playsS + 3)) - 45,
      );
    }
    // Alone it is the same as in its turn.
    const [first] = session.sources;
    const alone = await heardOf(session, { take: 'roll call', playerIds: [first?.id ?? ''] });
    const share = (plane: Float32Array | undefined, db: number) =>
      levelDb(plane?.subarray(0, 4 * RATE) ?? new Float32Array(1)) + db;
    expect(
      share(alone.planes[0], alone.plan.fullScaleDb) - share(left, plan.fullScaleDb),
    ).toBeCloseTo(0, 0);
  });

  it('of more than ten minutes asks for fewer players', () => {
    const session = demo();
    const [first] = session.sources;
    if (!first) throw new Error('there are players');
    const sources = Array.from({ length: 120 }, (_, i) => ({
      ...first,
      id: `p${i}`,
      name: `P ${i}`,
    }));
    const plan = planTake({ ...session, sources }, { take: 'roll call', sampleRateHz: 8000 });
    expect(plan.ok).toBe(false);
    if (!plan.ok) expect(plan.message).toMatch(/120 turns take \d+ s; allowed: up to 600 s/);
  });
});

describe.each(['claps', 'interrupted noise'] as const)('%s in a room', (take) => {
  it.each([0.9, 1.6, 4])('leave its decay of %s s to be measured', async (rt60S) => {
    const session = demo();
    const venue = { ...session.venue, rt60S };
    const [first] = session.sources;
    const { plan, planes } = await heardOf(
      { ...session, venue },
      { take, playerIds: [first?.id ?? ''] },
    );
    const samples = planes[0] ?? new Float32Array();
    const begin = take === 'claps' ? 0 : signalOf(take, plan.hall, 1, RATE).length;
    const found = decayTimes(samples.subarray(begin), RATE);
    for (const hz of [500, 1000, 2000, 4000]) {
      const wanted = plan.hall ? timeAt(plan.hall, hz) : 0;
      const time = found.find((one) => one.hz === hz)?.t30;
      expect(time, `${hz} Hz`).not.toBeNull();
      expect(Math.abs((time?.seconds ?? 0) / wanted - 1), `${hz} Hz`).toBeLessThan(0.12);
    }
  });
});

it('a sweep has every octave, ends by itself and leaves silence', () => {
  const sweep = signalOf('sweep', null, 1, 48_000);
  expect(levelDb(sweep)).toBeCloseTo(0, 0);
  expect(Math.abs(sweep[0] ?? 1)).toBeLessThan(1e-6);
  expect(Math.abs(sweep[sweep.length - 1] ?? 1)).toBeLessThan(1e-3);
});
