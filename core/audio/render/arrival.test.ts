import { describe, expect, it } from 'vitest';
import type { Receiver } from '../../acoustics/diffuse-field';
import { lateEnergies, timeAt } from './hall';
import type { RenderPlan } from './plan';
import { renderBlocks } from './take';
import { fastEngine } from '../signal/fast-spectra';
import { plainEngine } from '../signal/spectra';

const RATE = 48_000;
const SPEED = 343;

/** Width, depth, height and reverberation time. */
const ROOMS = [
  ['a living room', 5, 6, 2.6, 0.5],
  ['a chamber', 9, 14, 5, 0.8],
  ['a hall', 18, 28, 12, 1.6],
  ['a church', 20, 45, 16, 3.2],
  ['a box without absorption to speak of', 8, 10, 6, 5],
] as const;
const DISTANCES = [0.5, 2, 4, 8, 15];

/** An array of unlike capsules about the middle of the stage. */
const CAPSULES: Receiver[] = [
  { position: { x: -0.1, y: 1, z: 2 }, axis: { x: -0.5, y: 0.87, z: 0 }, patternA: 0.5 },
  { position: { x: 0.1, y: 1, z: 2 }, axis: { x: 0.5, y: 0.87, z: 0 }, patternA: 0.5 },
  { position: { x: 0.9, y: 1, z: 2 }, axis: { x: 0, y: 1, z: 0 }, patternA: 1 },
];

/** The late field alone: nothing comes back from the walls. */
const BLACK = { floor: 1, ceiling: 1, left: 1, right: 1, front: 1, back: 1 };

function planFor(width: number, depth: number, height: number, rt: number, at: number): RenderPlan {
  const phrase = new Float32Array(4 * RATE);
  phrase[0] = 1;
  const room: RenderPlan['room'] = {
    min: { x: -width / 2, y: -1, z: 0 },
    max: { x: width / 2, y: depth - 1, z: height },
    absorption: BLACK,
  };
  return {
    sampleRateHz: RATE,
    frames: 2 * RATE,
    speed: SPEED,
    channels: CAPSULES.map((receiver, i) => ({ name: `${i}`, arrayId: 'a', receiver })),
    points: [
      {
        sourceId: 's',
        position: { x: 0.3, y: 1 + at, z: 1.5 },
        amplitude: 1,
        q: 1,
        phrase,
        turn: null,
      },
    ],
    room,
    surfaces: null,
    hall: {
      volumeM3: width * depth * height,
      surfaceM2: 2 * (width * depth + width * height + depth * height),
      rt60S: [[1000, rt]],
      speed: SPEED,
    },
    seed: 3,
    fullScaleDb: 120,
    notes: [],
    turns: [],
  };
}

async function heardOf(plan: RenderPlan): Promise<Float32Array[]> {
  const planes = plan.channels.map(() => new Float32Array(plan.frames));
  for await (const block of renderBlocks(plan, { engine: (await fastEngine()) ?? plainEngine })) {
    planes.forEach((plane, c) =>
      plane.set((block.planes[c] as Float32Array).subarray(0, block.frames), block.position),
    );
  }
  return planes;
}

const energy = (samples: Float32Array): number => samples.reduce((sum, v) => sum + v * v, 0);

describe.each(ROOMS)('in %s', (_name, width, depth, height, rt) => {
  it.each(DISTANCES.filter((at) => at < depth - 2))(
    'nothing is heard before the direct sound, at %s m',
    async (at) => {
      const plan = planFor(width, depth, height, rt, at);
      const heard = await heardOf(plan);
      const [{ position }] = plan.points as [RenderPlan['points'][number]];
      plan.channels.forEach(({ receiver }, c) => {
        const samples = heard[c] as Float32Array;
        const { x, y, z } = receiver.position;
        const arrival = Math.hypot(position.x - x, position.y - y, position.z - z) / SPEED;
        const before = samples.subarray(0, Math.max(0, Math.floor((arrival - 0.001) * RATE)));
        expect(10 * Math.log10(energy(before) / energy(samples) + 1e-30)).toBeLessThan(-60);
      });
    },
  );
});

it('what is left of the room is what the hall has from the direct sound on', async () => {
  const plan = planFor(18, 28, 12, 1.6, 15);
  plan.frames = 3 * RATE;
  const heard = await heardOf(plan);
  const { hall } = plan;
  if (!hall) throw new Error('a hall is given');
  plan.channels.forEach(({ receiver }, c) => {
    if (receiver.patternA < 1) return;
    const arrivalS = 15 / SPEED;
    const from = Math.ceil((arrivalS + 0.002) * RATE);
    const late = energy((heard[c] as Float32Array).subarray(from));
    const all = lateEnergies(hall, timeAt(hall, 1000), arrivalS, 1 / RATE, 3 * RATE);
    const wanted = all.reduce((sum, v) => sum + v, 0) / RATE;
    // Noise up to 21 kHz of 24 kHz, of one set.
    expect(Math.abs(10 * Math.log10(late / wanted))).toBeLessThan(1);
  });
});
