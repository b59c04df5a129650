import { createHash } from 'node:crypto';
import { describe, expect, it } from 'vitest';
import { analyseSession } from '../../analysis';
import { threeMicTree } from '../../arrays/layouts';
import { demoSessions } from '../../demo';
import type { MicArray, Session } from '../../session';
import { delayBetween } from '../measure/delay';
import { onsetDelay } from '../measure/onsets';
import { directPath } from './paths';
import { fastEngine } from '../signal/fast-spectra';
import type { RenderOptions } from './options';
import { planTake, type RenderPlan } from './plan';
import { plainEngine, type SpectraEngine } from '../signal/spectra';
import { renderBlocks } from './take';

const RATE = 48_000;

function planOf(session: Session, change: Partial<RenderOptions> = {}): RenderPlan {
  const plan = planTake(session, { sampleRateHz: RATE, ...change });
  if (!plan.ok) throw new Error(plan.message);
  return plan.value;
}

async function rendered(plan: RenderPlan, engine: SpectraEngine = plainEngine) {
  const planes = plan.channels.map(() => new Float32Array(plan.frames));
  for await (const block of renderBlocks(plan, { engine })) {
    planes.forEach((plane, c) =>
      plane.set((block.planes[c] as Float32Array).subarray(0, block.frames), block.position),
    );
  }
  return planes;
}

const technique = (session: Session, change: MicArray['technique']): Session => ({
  ...session,
  arrays: session.arrays.slice(0, 1).map((array) => ({ ...array, technique: change })),
  // Points: what a figure says of the middle of a wide source no single sound has.
  sources: session.sources.map((source) => ({ ...source, widthM: 0, depthM: 0 })),
});

const SESSIONS = demoSessions('2026-11-26T10:00:00Z');
const PAIR = { kind: 'pair', pattern: 'cardioid', spacingM: 0.17, includedAngleDeg: 110 } as const;
const MID_SIDE = {
  kind: 'mid-side',
  midPattern: 'cardioid',
  sideGainDb: -2,
  sidePositive: 'left',
} as const;

/** Every third player of a session: enough of all directions and distances. */
const some = (session: Session) => session.sources.filter((_, i) => i % 3 === 0).slice(0, 5);

describe('what is planned is measured back from the samples', () => {
  it.each(SESSIONS.map((session) => [session.title, session] as const))(
    '%s: each player alone through a pair and through mid-side',
    async (_, session) => {
      for (const form of [PAIR, MID_SIDE]) {
        const set = technique(session, form);
        const figures = analyseSession(set).arrays[0]?.sources ?? [];
        for (const source of some(set)) {
          const plan = planOf(set, {
            dry: true,
            seconds: 1,
            playerIds: [source.id],
            sound: 'pink noise',
          });
          let [left, right] = await rendered(plan);
          if (!left || !right) throw new Error('no samples');
          if (form.kind === 'mid-side') {
            const gain = 10 ** (form.sideGainDb / 20);
            const [m, s] = [left, right];
            left = m.map((value, i) => value + gain * (s[i] ?? 0));
            right = m.map((value, i) => value - gain * (s[i] ?? 0));
          }
          const found = delayBetween(left, right, RATE, 5);
          const told = figures.find(({ id }) => id === source.id);
          if (told?.antiphase) continue;
          expect(Math.abs((found?.levelDb ?? 99) - (told?.icldDb ?? 0))).toBeLessThan(0.02);
          // A figure counts from the right: what comes later there leads on the left.
          expect(Math.abs((found?.delayMs ?? 99) + (told?.ictdMs ?? 0))).toBeLessThan(0.001);
        }
      }
    },
  );

  it('a tree: every capsule against the first, by time and level', async () => {
    const [session] = SESSIONS;
    if (!session) throw new Error('no demo');
    const { capsules } = threeMicTree(1.2, 0.7, 'omni');
    const set = technique(session, { kind: 'custom', capsules: capsules.map((c) => ({ ...c })) });
    for (const source of some(set)) {
      const plan = planOf(set, {
        dry: true,
        seconds: 1,
        playerIds: [source.id],
        sound: 'pink noise',
      });
      const planes = await rendered(plan);
      const ways = plan.channels.map(({ receiver }) => directPath(source, receiver, plan.speed));
      planes.slice(1).forEach((plane, i) => {
        const found = delayBetween(planes[0] ?? plane, plane, RATE, 10);
        const [one, other] = [ways[0], ways[i + 1]];
        if (!one || !other) throw new Error('no way');
        expect(found?.delayMs).toBeCloseTo((other.delayS - one.delayS) * 1000, 3);
        const wanted = 20 * Math.log10(other.gain / one.gain);
        expect(Math.abs((found?.levelDb ?? 99) - wanted)).toBeLessThan(0.01);
      });
    }
  });

  it('claps in the room keep their delay, or are called uncertain', async () => {
    for (const session of SESSIONS) {
      const set = technique(session, PAIR);
      const source = set.sources[1] ?? set.sources[0];
      if (!source) throw new Error('no player');
      const plan = planOf(set, { seconds: 8, playerIds: [source.id], sound: 'clap' });
      expect(plan.hall).not.toBeNull();
      const [left, right] = await rendered(plan);
      const ways = plan.channels.map(({ receiver }) => directPath(source, receiver, plan.speed));
      const wanted = ((ways[1]?.delayS ?? 0) - (ways[0]?.delayS ?? 0)) * 1000;
      const found = onsetDelay(left ?? new Float32Array(), right ?? new Float32Array(), RATE);
      if (found.delayMs === null) expect(found.uncertain).not.toBeNull();
      else expect(Math.abs(found.delayMs - wanted)).toBeLessThan(0.02);
    }
  }, 60_000);
});

describe('a simulated take', () => {
  const [session] = SESSIONS;
  const short = (change: Partial<RenderOptions> = {}) =>
    planOf(session as Session, { seconds: 2, ...change });

  it('is the same for the same plan and seed, another for another', async () => {
    const marks = await Promise.all(
      [short(), short(), short({ seed: 2 })].map(async (plan) => {
        const hash = createHash('sha256');
        for (const plane of await rendered(plan)) {
          hash.update(Int16Array.from(plane, (value) => Math.round(value * 32_767)));
        }
        return hash.digest('hex');
      }),
    );
    // This very take: another mark is another sound, and is to be listened to.
    expect(marks[0]).toMatchInlineSnapshot(
      `"3bd728d10a852d0cab8c18983c9f2a5b2bf58134ef9761a5c952bc6ec2b4eb72"`,
    );
    expect(marks[0]).toBe(marks[1]);
    expect(marks[0]).not.toBe(marks[2]);
  }, 60_000);

  it('is the same by the fast and the plain path to −120 dB', async () => {
    const fast = await fastEngine();
    expect(fast?.kind).toBe('fast');
    const plan = short();
    const [quick, slow] = [await rendered(plan, fast ?? plainEngine), await rendered(plan)];
    quick.forEach((plane, c) => {
      const other = slow[c] as Float32Array;
      const off = plane.reduce((sum, value, i) => sum + (value - (other[i] ?? 0)) ** 2, 0);
      const all = plane.reduce((sum, value) => sum + value ** 2, 0);
      expect(10 * Math.log10(off / all)).toBeLessThan(-120);
    });
  }, 60_000);

  it.each([8000, 44_100, 96_000, 192_000])(
    'is made at %i Hz, room and all',
    async (sampleRateHz) => {
      const plan = planOf(session as Session, { seconds: 1, sampleRateHz });
      for (const plane of await rendered(plan)) {
        expect(plane.length).toBe(sampleRateHz);
        expect(plane.every(Number.isFinite)).toBe(true);
        expect(
          Math.max(...plane.subarray(sampleRateHz / 2, sampleRateHz / 2 + 4000)),
        ).toBeGreaterThan(1e-4);
      }
    },
    60_000,
  );

  it('that is longer than a round goes on as if every sample were made', async () => {
    const engine = (await fastEngine()) ?? plainEngine;
    const plan = planOf(
      { ...(session as Session), sources: (session as Session).sources.slice(0, 2) },
      { seconds: 21.3, sampleRateHz: 8000 },
    );
    // One phrase told twice over is no shorter, but no round of all.
    const points = plan.points.map((point, i) => {
      if (i > 0) return point;
      const twice = new Float32Array(2 * point.phrase.length);
      twice.set(point.phrase);
      twice.set(point.phrase, point.phrase.length);
      return { ...point, phrase: twice };
    });
    const [rounds, whole] = [
      await rendered(plan, engine),
      await rendered({ ...plan, points }, engine),
    ];
    rounds.forEach((plane, c) => {
      const other = whole[c] as Float32Array;
      expect(plane.length).toBe(Math.round(21.3 * 8000));
      for (const from of [0, 60_000, 100_000, 165_000]) {
        let [off, all] = [0, 0];
        for (let i = from; i < Math.min(plane.length, from + 20_000); i++) {
          off += ((plane[i] ?? 0) - (other[i] ?? 0)) ** 2;
          all += (plane[i] ?? 0) ** 2;
        }
        expect(10 * Math.log10(off / all)).toBeLessThan(-110);
      }
    });
  }, 60_000);

  it('is the sum of its players, dry', async () => {
    const plan = short({ dry: true, seconds: 1 });
    const ids = (session as Session).sources.map(({ id }) => id);
    const whole = await rendered(plan);
    const sum = whole.map((plane) => new Float32Array(plane.length));
    for (const id of ids) {
      const one = planOf(session as Session, { dry: true, seconds: 1, playerIds: [id] });
      const planes = await rendered(one);
      const gain = 10 ** ((one.fullScaleDb - plan.fullScaleDb) / 20);
      sum.forEach((plane, c) =>
        plane.forEach((value, i) => (plane[i] = value + gain * (planes[c]?.[i] ?? 0))),
      );
    }
    whole.forEach((plane, c) => {
      const off = plane.reduce(
        (most, value, i) => Math.max(most, Math.abs(value - (sum[c]?.[i] ?? 9))),
        0,
      );
      expect(off).toBeLessThan(1e-5);
    });
  });

  it('of a walking clapper is a row of claps, each with the delay of its own place', async () => {
    const claps = [
      { x: -3, y: 3, z: 1.2 },
      { x: 0, y: 2, z: 1.2 },
      { x: 3, y: 3, z: 1.2 },
    ];
    const set = technique(session as Session, PAIR);
    const plan = planOf(set, { dry: true, claps });
    const every = plan.frames / claps.length;
    expect(plan.turns.map(({ fromS }) => fromS * RATE)).toEqual([0, every, 2 * every]);
    const [left, right] = await rendered(plan);
    claps.forEach((place, i) => {
      const part = (plane?: Float32Array) =>
        plane?.slice(i * every, (i + 1) * every) ?? new Float32Array();
      const found = delayBetween(part(left), part(right), RATE, 5);
      const ways = plan.channels.map(({ receiver }) => directPath(place, receiver, plan.speed));
      const wanted = ((ways[1]?.delayS ?? 0) - (ways[0]?.delayS ?? 0)) * 1000;
      expect(found?.delayMs).toBeCloseTo(wanted, 3);
    });
    expect(() => planTake(set, { claps: [] })).toThrow(RangeError);
  });

  it('without a hall says so, and without players or arrays does not begin', () => {
    const base = session as Session;
    const bare = { ...base, venue: { ...base.venue, widthM: null } };
    expect(planOf(bare).notes.join()).toContain('no room in the sound');
    const silent = { ...base, venue: { ...base.venue, rt60S: null } };
    expect(planOf(silent).notes.join()).toContain('early reflections only');
    const refusal = (given: Session): string => {
      const plan = planTake(given);
      return plan.ok ? '' : plan.message;
    };
    expect(refusal({ ...base, sources: [] })).toContain('no players');
    expect(refusal({ ...base, arrays: [] })).toContain('no array');
    expect(() => planTake(base, { seconds: 601 })).toThrow(RangeError);
  });

  it('of five hundred singers has sixteen performances, no two neighbours with the same', () => {
    const base = session as Session;
    const [first] = base.sources;
    if (!first) throw new Error('no player');
    const sources = Array.from({ length: 500 }, (_, i) => ({
      ...first,
      id: `s${i}`,
      kind: 'soprano',
      widthM: 0,
      x: (i % 50) * 0.4 - 10,
      y: 2 + Math.floor(i / 50),
    }));
    const plan = planOf(
      { ...base, sources },
      { dry: true, phrase: 'staccato', sampleRateHz: 8000 },
    );
    expect(plan.points.length).toBe(500);
    expect(new Set(plan.points.map(({ phrase }) => phrase)).size).toBe(16);
    expect(plan.points[0]?.phrase).not.toBe(plan.points[1]?.phrase);
    // One of them alone plays what it plays among all.
    const alone = planOf(
      { ...base, sources },
      { dry: true, phrase: 'staccato', sampleRateHz: 8000, playerIds: ['s7'] },
    );
    expect(alone.points[0]?.phrase).toEqual(plan.points[7]?.phrase);
  });

  it('of a wide source comes from several places, the low notes at the player’s left', () => {
    const base = session as Session;
    const [first] = base.sources;
    if (!first) throw new Error('no player');
    const piano = { ...first, kind: 'grand piano', facingDeg: 180, widthM: 1.5, x: 0, y: 3 };
    const plan = planOf({ ...base, sources: [piano] }, { dry: true });
    expect(plan.points.length).toBe(2);
    // Its player looks to the audience: his left is its right.
    expect(plan.points[0]?.position.x).toBeGreaterThan(plan.points[1]?.position.x ?? 9);
  });
});
