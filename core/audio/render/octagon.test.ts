import { mean } from 'd3-array';
import { describe, expect, it } from 'vitest';
import { earlyReflections } from '../../acoustics/reflections';
import { transitionFrequency } from '../../acoustics/reverberation-time';
import { demoSession } from '../../demo';
import { hallMeasures } from '../../hall';
import { newArray } from '../../session/create';
import type { Session } from '../../session/schema';
import { outlineOf } from '../../units/outlines';
import { decayTimes } from '../fixtures/memory';
import { bestEngine } from '../signal/fast-spectra';
import { timeAt } from './hall';
import { LateField } from './late';
import { planTake, type RenderPlan } from './plan';
import { renderBlocks } from './take';

/** What is planned in an octagon is measured back. */

const RATE = 48_000;
const OCTAVES = [250, 500, 1000, 2000, 4000, 8000];
const TIMES = [2.8, 2.6, 2.5, 2.2, 1.7, 1.1];

function planned(): RenderPlan {
  const demo = demoSession('2026-01-01T00:00:00Z');
  const [source] = demo.sources;
  if (!source) throw new Error('no player');
  const session: Session = {
    ...demo,
    venue: {
      ...demo.venue,
      widthM: 12,
      depthM: 12,
      heightM: 8,
      origin: { x: 6, y: 6 },
      shape: { corners: outlineOf('octagon', 12, 12).map((corner) => ({ ...corner })) },
      obstacles: [],
      surfaces: ['floor', 'ceiling', 'left', 'right', 'front', 'back'].map((surface) => ({
        surface,
        name: '',
        absorption: 0.1,
      })),
      rt60S: Object.fromEntries(OCTAVES.map((hz, i) => [hz, TIMES[i] ?? 1])),
    },
    sources: [{ ...source, x: 1.2, y: 2.5, z: 1.3, widthM: 0, depthM: 0, q: 1 }],
    arrays: [
      newArray({
        id: 'a',
        name: 'a',
        technique: { kind: 'pair', pattern: 'omni', spacingM: 0.4, includedAngleDeg: 0 },
        x: -0.4,
        y: -3,
        z: 2.8,
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
  const { hall } = plan.value;
  // The hall that rings is the octagon, not the box around it.
  expect(hall).toMatchObject(hallMeasures(session.venue) ?? {});
  return {
    ...plan.value,
    frames: RATE,
    points: [{ ...point, amplitude: 1, phrase, turn: null }],
  };
}

describe('an octagon that is rendered', () => {
  it('has the energy of its images early on, within half a decibel', async () => {
    const plan = { ...planned(), hall: null };
    const planes = plan.channels.map(() => new Float32Array(plan.frames));
    for await (const block of renderBlocks(plan, { engine: await bestEngine() })) {
      planes.forEach((plane, c) =>
        plane.set((block.planes[c] as Float32Array).subarray(0, block.frames), block.position),
      );
    }
    const [point] = plan.points;
    const { room, speed } = plan;
    if (!point || !room) throw new Error('a room is expected');
    plan.channels.forEach(({ receiver }, c) => {
      const images = earlyReflections(room, point.position, receiver, speed) ?? [];
      expect(images.length).toBeGreaterThan(35);
      const wanted =
        (images[0]?.directGain ?? 0) ** 2 + images.reduce((sum, { gain }) => sum + gain * gain, 0);
      const heard = (planes[c] as Float32Array).reduce((sum, v) => sum + v * v, 0);
      expect(Math.abs(10 * Math.log10(heard / wanted))).toBeLessThan(0.5);
    });
  });

  it('rings as long as it should', () => {
    const { hall, channels } = planned();
    if (!hall) throw new Error('a hall is given');
    const receivers = channels.map(({ receiver }) => receiver);
    const field = new LateField({ ...hall, speed: 343 }, receivers, RATE);
    const decays = [1, 2, 3, 4]
      .flatMap((seed) => field.responses(seed * 7919))
      .map((response) => {
        const padded = new Float32Array(response.length + RATE / 2);
        padded.set(response, RATE / 10);
        return decayTimes(padded, RATE);
      });
    for (const hz of OCTAVES) {
      const wanted = timeAt(hall, hz);
      const read = decays.map((bands) => bands.find((one) => one.hz === hz)?.t30?.seconds ?? 0);
      const few = hz < transitionFrequency(hall.volumeM3, wanted);
      expect(Math.abs((mean(read) ?? 0) / wanted - 1), `${hz} Hz`).toBeLessThan(few ? 0.04 : 0.02);
      for (const seconds of read) {
        expect(Math.abs(seconds / wanted - 1), `${hz} Hz`).toBeLessThan(few ? 0.12 : 0.07);
      }
    }
  });
});
