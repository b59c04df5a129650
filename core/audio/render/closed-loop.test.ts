import { mean } from 'd3-array';
import { describe, expect, it } from 'vitest';
import { diffuseFieldCorrelation, type Receiver } from '../../acoustics/diffuse-field';
import { transitionFrequency } from '../../acoustics/reverberation-time';
import { boundaryPair, fiveChannel, ringWithHeight, threeMicTree } from '../../arrays/layouts';
import { STANDARDS, standardTechnique } from '../../arrays/standards';
import { STARTING_TECHNIQUES, type Technique } from '../../arrays/technique';
import { demoSession } from '../../demo';
import { newArray } from '../../session/create';
import type { MicArray, Session } from '../../session/schema';
import { bestEngine } from '../signal/fast-spectra';
import { powerOfTwo, spectrumOf } from '../signal/spectrum';
import { timeAt } from './hall';
import { LateField } from './late';
import { addPath, AHEAD, directPath } from './paths';
import { planTake, type RenderPlan } from './plan';
import { renderBlocks } from './take';
import { decayTimes } from '../fixtures/memory';

/**
 * What is planned is measured back: every capsule of every kind of array, in five rooms, from five
 * distances. All of it in a long run; here every room and every array, each with one of the distances.
 */
const SOAK = process.env.ROTUNDA_SOAK === '1';
const RATE = 48_000;
const OCTAVES = [250, 500, 1000, 2000, 4000, 8000];

/** Name, width, depth, height, reverberation times by octave. */
type Room = readonly [string, number, number, number, readonly number[]];
const ROOMS: readonly Room[] = [
  ['a living room', 5, 6, 2.6, [0.6, 0.55, 0.5, 0.45, 0.42, 0.4]],
  ['a chamber', 9, 14, 5, [0.9, 0.85, 0.8, 0.75, 0.65, 0.5]],
  ['a hall', 18, 28, 12, [1.9, 1.75, 1.6, 1.5, 1.2, 0.8]],
  ['a church', 20, 45, 16, [4, 3.6, 3.2, 2.6, 1.8, 1]],
  ['a box of stone', 8, 10, 6, [5, 5, 5, 4, 2.5, 1.3]],
];
const DISTANCES = [0.5, 1.5, 3, 6, 12];

const layout = ({ capsules }: { capsules: Extract<Technique, { kind: 'custom' }>['capsules'] }) =>
  ({ kind: 'custom', capsules }) as const;
const ARRAYS: readonly (readonly [string, Technique])[] = [
  ...Object.entries(STARTING_TECHNIQUES),
  ...STANDARDS.map((standard) => [standard.name, standardTechnique(standard)] as const),
  ['wide omnis', { kind: 'pair', pattern: 'omni', spacingM: 2, includedAngleDeg: 0 }],
  ['a pair turned outwards', { kind: 'pair', pattern: 0.3, spacingM: 0.4, includedAngleDeg: 170 }],
  ['a single', { kind: 'single', pattern: 'subcardioid' }],
  ['a tree', layout(threeMicTree(1.5, 0.8, 'omni'))],
  ['five channels', layout(fiveChannel(0.8, 0.4, 0.6, 0.6, 'cardioid'))],
  ['a ring with height', layout(ringWithHeight(4, 0.5, 4, 0.8, 45, 'supercardioid'))],
  ['on a boundary', layout(boundaryPair(0.3))],
];

/** A session with one array in a room, heard from one place, and the room as it sounds. */
function plannedFor(
  [, widthM, depthM, heightM, times]: Room,
  technique: Technique,
  awayM: number,
): RenderPlan {
  const demo = demoSession('2026-01-01T00:00:00Z');
  const [source] = demo.sources;
  if (!source) throw new Error('no player');
  const session: Session = {
    ...demo,
    venue: {
      ...demo.venue,
      widthM,
      depthM,
      heightM,
      rt60S: Object.fromEntries(OCTAVES.map((hz, i) => [hz, times[i] ?? 1])),
    },
    sources: [{ ...source, x: 0.3, y: awayM - 0.2, z: 1.3, widthM: 0, depthM: 0, q: 1 }],
    arrays: [
      newArray({
        id: 'a',
        name: 'a',
        technique: structuredClone(technique) as MicArray['technique'],
        x: 0,
        y: -0.2,
        z: 1.8,
        inUse: true,
      }),
    ],
  };
  const plan = planTake(session, { sampleRateHz: RATE });
  if (!plan.ok) throw new Error(plan.message);
  const [point] = plan.value.points;
  if (!point) throw new Error('nobody plays');
  const phrase = new Float32Array(8 * RATE);
  phrase[0] = 1;
  return {
    ...plan.value,
    frames: RATE,
    points: [{ ...point, amplitude: 1, phrase, turn: null }],
  };
}

async function heardOf(plan: RenderPlan): Promise<Float32Array[]> {
  const planes = plan.channels.map(() => new Float32Array(plan.frames));
  for await (const block of renderBlocks(plan, { engine: await bestEngine() })) {
    planes.forEach((plane, c) =>
      plane.set((block.planes[c] as Float32Array).subarray(0, block.frames), block.position),
    );
  }
  return planes;
}

const energy = (samples: Float32Array): number => samples.reduce((sum, v) => sum + v * v, 0);

/** Later than it should be, in samples, and louder, in dB: the shift and gain at which the pulse fits best. */
function against(heard: Float32Array, delay: number, gain: number): [number, number] {
  const first = Math.floor(delay) - AHEAD;
  const fit = (later: number): { gain: number; left: number } => {
    const pulse = new Float32Array(3 * AHEAD);
    addPath(pulse, { delayS: delay + later - first, gain: 1 }, 1, 0);
    let [xy, yy, xx] = [0, 0, 0];
    for (let i = 0; i < pulse.length; i++) {
      const [x, y] = [heard[first + i] ?? 0, pulse[i] as number];
      xy += x * y;
      yy += y * y;
      xx += x * x;
    }
    return { gain: xy / yy, left: xx - xy ** 2 / yy };
  };
  const tried = Array.from({ length: 41 }, (_, i) => (i - 20) / 10);
  const [best = 0] = tried.sort((a, b) => fit(a).left - fit(b).left);
  return [best, 20 * Math.log10(fit(best).gain / gain)];
}

const combinations = ROOMS.flatMap((room, r) =>
  ARRAYS.map(([name, technique], a) => ({
    room,
    name,
    technique,
    distances: DISTANCES.filter((at, d) => at < room[2] - 1 && (SOAK || d === (r + a) % 5)),
  })),
).filter(({ distances }) => distances.length > 0);

describe.each(ROOMS)('in %s', (roomName) => {
  const mine = combinations.filter(({ room }) => room[0] === roomName);
  it.each(mine.map((one) => [one.name, one] as const))(
    '%s: nothing before the direct sound, and that at its time and level',
    async (_, { room, technique, distances }) => {
      for (const at of distances) {
        const plan = plannedFor(room, technique, at);
        const [wet, early] = [await heardOf(plan), await heardOf({ ...plan, hall: null })];
        const [{ position }] = plan.points as [RenderPlan['points'][number]];
        plan.channels.forEach(({ receiver }, c) => {
          const { delayS, gain } = directPath(position, receiver, plan.speed);
          const samples = wet[c] as Float32Array;
          const before = samples.subarray(0, Math.max(0, Math.floor((delayS - 0.001) * RATE)));
          expect(10 * Math.log10(energy(before) / energy(samples) + 1e-30)).toBeLessThan(-60);
          // What is near its null has no direct sound to speak of.
          if (Math.abs(gain) * Math.max(at, 0.5) < 0.05) return;
          const [later, louder] = against(early[c] as Float32Array, delayS * RATE, gain);
          expect(Math.abs(later / RATE)).toBeLessThan(0.00002);
          expect(Math.abs(louder)).toBeLessThan(0.3);
        });
      }
    },
    200_000,
  );
});

/** Octaves of a response's spectrum, by bins. */
const binsOf = (hz: number, size: number): [number, number] => [
  Math.round((hz / Math.SQRT2 / RATE) * size),
  Math.round(((hz * Math.SQRT2) / RATE) * size),
];

/** How far the likeness of two capsules is from that of a diffuse field, octave by octave. */
function farthest(receivers: readonly Receiver[], sets: readonly Float32Array[][]): number {
  const size = powerOfTwo(sets[0]?.[0]?.length ?? 2);
  const spectra = sets.map((responses) => responses.map((one) => spectrumOf(one, size)));
  let off = 0;
  for (const hz of OCTAVES) {
    const [from, to] = binsOf(hz, size);
    receivers.forEach((one, i) => {
      receivers.slice(0, i).forEach((other, j) => {
        let [re, a, b] = [0, 0, 0];
        for (const set of spectra) {
          const [x, y] = [set[i] ?? [], set[j] ?? []];
          for (let k = 2 * from; k < 2 * to; k++) {
            re += (x[k] ?? 0) * (y[k] ?? 0);
            a += (x[k] ?? 0) ** 2;
            b += (y[k] ?? 0) ** 2;
          }
        }
        const wanted = Array.from({ length: 40 }, (_, n) => {
          const at = ((from + ((n + 0.5) / 40) * (to - from)) * RATE) / size;
          return diffuseFieldCorrelation(one, other, at, 343).real;
        });
        off = Math.max(off, Math.abs(re / Math.sqrt(a * b) - (mean(wanted) ?? 0)));
      });
    });
  }
  return off;
}

describe.each(ROOMS)('the room’s own sound in %s', (...room) => {
  const [roomName] = room;
  const mine = ARRAYS.filter((_, a) => SOAK || a % 5 === ROOMS.findIndex(([n]) => n === roomName));
  it.each(mine)(
    'is at the capsules of %s as long and as alike as it should be',
    (_name, technique) => {
      const { hall, channels } = plannedFor(room, technique, 1.5);
      if (!hall) throw new Error('a hall is given');
      const receivers = channels.map(({ receiver }) => receiver);
      const field = new LateField({ ...hall, speed: 343 }, receivers, RATE);
      const sets = [1, 2, 3, 4].map((seed) => field.responses(seed * 31_337));
      expect(farthest(receivers, sets)).toBeLessThan(receivers.length > 2 ? 0.08 : 0.05);
      const decays = sets.flat().map((response) => {
        const padded = new Float32Array(response.length + RATE / 2);
        padded.set(response, RATE / 10);
        return decayTimes(padded, RATE);
      });
      for (const hz of OCTAVES) {
        const wanted = timeAt(hall, hz);
        const read = decays.map((bands) => bands.find((one) => one.hz === hz)?.t30?.seconds ?? 0);
        const few = hz < transitionFrequency(hall.volumeM3, wanted);
        const off = Math.abs((mean(read) ?? 0) / wanted - 1);
        expect(off, `${hz} Hz`).toBeLessThan(few ? 0.04 : 0.02);
        for (const seconds of read) {
          expect(Math.abs(seconds / wanted - 1), `${hz} Hz`).toBeLessThan(few ? 0.12 : 0.07);
        }
      }
    },
    200_000,
  );
});
