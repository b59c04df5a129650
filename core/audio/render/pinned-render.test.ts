import { describe, expect, it } from 'vitest';
import { demoSessions } from '../../demo';
import { arched, crowded, turned } from '../../fixtures/set-ups';
import { told } from '../../fixtures/told';
import { readyArray } from '../../prepare/arrays';
import { contour, short } from '../fixtures/heard';
import { bandsOf } from './bands';
import { bandWeight, calibratedDecays, readTime } from './decays';
import { lateEnergy, lateEnergySum, timeAt, type Hall } from './hall';
import { LateField } from './late';
import { addPath, directPath, earlyPaths } from './paths';
import { USUAL_RENDER } from './options';
import { phraseKey, soundingPlaces } from './places';
import { planTake } from './plan';
import { soundingRoom } from './sounding-room';
import { planChannels, takeSize } from './size';
import { renderBlocks } from './take';

/** What a simulated take is made of, in figures; frozen anew with `vitest -u` when a change is meant. */

const RATE = 8000;
const SESSIONS = [crowded, turned, arched, ...demoSessions('2026-11-26T10:00:00Z')];
const HALL: Hall = {
  volumeM3: 2400,
  surfaceM2: 1150,
  rt60S: [
    [63, 0.9],
    [125, 0.8],
    [500, 0.7],
    [2000, 0.55],
    [4000, 0.4],
  ],
  speed: 343,
};

describe('a simulated take', () => {
  it('is planned as it was', async () => {
    const of = SESSIONS.flatMap((session) => {
      const places = soundingPlaces(session, { ...USUAL_RENDER, phrase: 'scale', seed: 4 });
      const { room, hall, notes } = soundingRoom(session, false, 343);
      return [
        [session.id, planChannels(session), takeSize(planChannels(session), 3, RATE)],
        [short(room), short(hall), notes],
        ...places.map(({ plays, ...place }) => [short(place), phraseKey(plays)]),
      ];
    });
    const plans = SESSIONS.map((session, i) => {
      const plan = planTake(session, {
        seconds: 1,
        sampleRateHz: RATE,
        dry: i % 2 === 1,
        sound: 'clap',
        playerIds: session.sources.slice(0, 1).map(({ id }) => id),
        ...(i === 2 && { claps: [1, 2].map((y) => ({ x: y, y, z: 1 })) }),
      });
      if (!plan.ok) return plan.message;
      const { points, channels, fullScaleDb, frames, notes } = plan.value;
      return [short(fullScaleDb), frames, notes, short(points), channels.map(({ name }) => name)];
    });
    await expect(told({ of, plans })).toMatchFileSnapshot('../fixtures/pinned-plans.txt');
  });

  it('decays as it did', async () => {
    const hz = [20, 63, 90, 125, 300, 1000, 3000, 4000, 9000];
    const times = hz.map((at) => [at, timeAt(HALL, at)]);
    const energies = [0.001, 0.01, 0.05, 0.2, 1].map((s) => short(lateEnergy(HALL, s, 0.7)));
    const sums = [0.3, 0.7, 2].map((s) => short(lateEnergySum(HALL, s)));
    const centres = [62.5, 125, 250, 500, 1000, 2000];
    const decays = short(calibratedDecays(HALL, centres));
    const weights = [0, 0.3, 0.4, 0.5, 0.6, 0.7, 1].map((off) => short(bandWeight(off, 1 / 6)));
    const bands = [
      [1024, 2, 1 / 6],
      [4096, 2 ** (1 / 3), 0.5],
    ].map(([size = 0, step = 0, skirt = 0]) =>
      bandsOf(size, RATE, step, skirt).map(({ hz, from, weights }) => [
        short(hz),
        from,
        weights.length,
        short(weights.reduce((sum, weight) => sum + weight, 0)),
      ]),
    );
    const falling = Float64Array.from({ length: 900 }, (_, i) => Math.exp(-i / 60));
    const read = short(readTime(falling, 0.001));
    const all = { times, energies, sums, decays, weights, bands, read };
    await expect(told(all)).toMatchFileSnapshot('../fixtures/pinned-decays.txt');
  });

  it('has the late field, the paths and the samples that it had', async () => {
    const [array] = crowded.arrays;
    const [first, second] = crowded.sources;
    if (!array || !first || !second) throw new Error('no array or player');
    const receivers = readyArray(array).capsules;
    const late = new LateField(HALL, receivers, RATE).responses(12).map((one) => contour(one));
    const { room } = soundingRoom(crowded, false, 343);
    const paths = receivers.flatMap((receiver) => [
      short(directPath(first, receiver, 343)),
      ...(room ? earlyPaths(room, second, receiver, 343).map((path) => short(path)) : []),
    ]);
    const taps = new Float32Array(200);
    addPath(taps, { delayS: 0.0071, gain: 0.7 }, RATE);
    addPath(taps, { delayS: 0, gain: -0.2 }, RATE);
    const plan = planTake(
      { ...crowded, sources: [first, second], arrays: [array] },
      { seconds: 1.5, sampleRateHz: RATE, phrase: 'staccato', seed: 3 },
    );
    if (!plan.ok) throw new Error(plan.message);
    const planes = plan.value.channels.map(() => new Float32Array(plan.value.frames));
    for await (const { planes: block, frames, position } of renderBlocks(plan.value, {})) {
      planes.forEach((plane, c) => plane.set(block[c]?.subarray(0, frames) ?? [], position));
    }
    const samples = planes.map((plane) => contour(plane));
    const all = { late, paths, taps: [...taps].map((tap) => short(tap)), samples };
    await expect(told(all)).toMatchFileSnapshot('../fixtures/pinned-take.txt');
  });
});
