import { mean } from 'd3-array';
import { describe, expect, it } from 'vitest';
import { diffuseFieldCorrelation, type Receiver } from '../../acoustics/diffuse-field';
import { transitionFrequency } from '../../acoustics/reverberation-time';
import { randomEnergyEfficiency } from '../../acoustics/patterns';
import { cosDeg, sinDeg } from '../../units/guard';
import { powerOfTwo, spectrumOf } from '../signal/spectrum';
import { lateEnergySum, timeAt, type Hall } from './hall';
import { LateField, lateFrames, lateSets } from './late';
import { plainEngine } from '../signal/spectra';
import { cholesky, turnInto } from './matrices';
import { decayTimes } from '../fixtures/memory';

const RATE = 48_000;
const OCTAVES = [125, 250, 500, 1000, 2000, 4000, 8000];
const HALL: Hall = {
  volumeM3: 18 * 24 * 12,
  surfaceM2: 2 * (18 * 24 + 18 * 12 + 24 * 12),
  rt60S: [
    [125, 2.2],
    [250, 2.1],
    [500, 2],
    [1000, 1.9],
    [2000, 1.7],
    [4000, 1.4],
    [8000, 0.9],
  ],
  speed: 343,
};

const capsule = (x: number, y: number, deg: number, patternA: number): Receiver => ({
  position: { x, y, z: 3 },
  axis: { x: sinDeg(deg), y: cosDeg(deg), z: 0 },
  patternA,
});
const CAPSULES = [
  capsule(-0.085, 0, -55, 0.5),
  capsule(0.085, 0, 55, 0.5),
  capsule(-0.4, 0.3, 0, 1),
  capsule(0.4, 0, 0, 1),
  capsule(0, 0, 0, 0.5),
  capsule(0, 0, -90, 0),
];

/** A room by its edges, with a time for each octave from 125 Hz. */
const room = (w: number, d: number, h: number, times: readonly number[]): Hall => ({
  volumeM3: w * d * h,
  surfaceM2: 2 * (w * d + w * h + d * h),
  rt60S: OCTAVES.map((hz, i) => [hz, times[i] ?? 1]),
  speed: 343,
});

const field = new LateField(HALL, CAPSULES, RATE);
const sets = [1, 2, 3, 4].map((seed) => field.responses(seed * 31_337));

describe('the late field', () => {
  it('decays as long as the hall, as a measurement reads it', () => {
    const decays = sets.flat().map((response) => decayTimes(response, RATE));
    for (const hz of OCTAVES) {
      const wanted = timeAt(HALL, hz);
      const read = decays.map((bands) => bands.find((one) => one.hz === hz)?.t30?.seconds ?? 0);
      expect(Math.abs((mean(read) ?? 0) / wanted - 1)).toBeLessThan(0.02);
      for (const seconds of read) expect(Math.abs(seconds / wanted - 1)).toBeLessThan(0.07);
    }
  });

  const size = powerOfTwo(sets[0]?.[0]?.length ?? 2);
  const spectra = sets.map((responses) => responses.map((one) => spectrumOf(one, size)));
  const bins = (hz: number): [number, number] => [
    Math.round((hz / Math.SQRT2 / RATE) * size),
    Math.round(((hz * Math.SQRT2) / RATE) * size),
  ];

  it('is as loud in every octave as the room’s energy', () => {
    for (const hz of OCTAVES) {
      const [from, to] = bins(hz);
      const places = Array.from({ length: 9 }, (_, i) => hz * 2 ** ((i + 0.5) / 9 - 0.5));
      const energy =
        places.reduce((sum, at) => sum + at * lateEnergySum(HALL, timeAt(HALL, at)), 0) /
        places.reduce((sum, at) => sum + at, 0);
      CAPSULES.forEach(({ patternA }, c) => {
        let sum = 0;
        for (const set of spectra) {
          for (let k = from; k < to; k++) {
            sum += (set[c]?.[2 * k] ?? 0) ** 2 + (set[c]?.[2 * k + 1] ?? 0) ** 2;
          }
        }
        const level = sum / spectra.length / (to - from) / randomEnergyEfficiency(patternA);
        expect(Math.abs(10 * Math.log10(level / energy))).toBeLessThan(0.3);
      });
    }
  });

  it('is as alike at any two capsules as a diffuse field', () => {
    for (const hz of OCTAVES) {
      const [from, to] = bins(hz);
      CAPSULES.forEach((one, i) => {
        CAPSULES.slice(0, i).forEach((other, j) => {
          let [re, im, a, b] = [0, 0, 0, 0];
          for (const set of spectra) {
            const [x, y] = [set[i] ?? [], set[j] ?? []];
            for (let k = 2 * from; k < 2 * to; k += 2) {
              const [xr = 0, xi = 0, yr = 0, yi = 0] = [x[k], x[k + 1], y[k], y[k + 1]];
              re += xr * yr + xi * yi;
              im += xi * yr - xr * yi;
              a += xr * xr + xi * xi;
              b += yr * yr + yi * yi;
            }
          }
          const wanted = Array.from({ length: 40 }, (_, n) =>
            diffuseFieldCorrelation(
              one,
              other,
              ((from + ((n + 0.5) / 40) * (to - from)) * RATE) / size,
              HALL.speed,
            ),
          );
          const real = mean(wanted, (value) => value.real) ?? 0;
          const imaginary = mean(wanted, (value) => -value.imaginary) ?? 0;
          expect(Math.abs(re / Math.sqrt(a * b) - real)).toBeLessThan(0.05);
          expect(Math.abs(im / Math.sqrt(a * b) - imaginary)).toBeLessThan(0.05);
        });
      });
    }
  });

  it('is found where capsules share a place, and in a hall of one time for all', () => {
    const same = [capsule(0, 0, 0, 1), capsule(0, 0, 0, 1), capsule(0, 0, 0, 0)];
    const [one, other] = new LateField({ ...HALL, rt60S: [[1000, 0.5]] }, same, RATE).responses(1);
    expect(one?.length).toBe(Math.ceil(((0.5 * 65) / 60) * RATE));
    const off = one?.reduce(
      (most, value, i) => Math.max(most, Math.abs(value - (other?.[i] ?? 9))),
      0,
    );
    const top = one?.reduce((most, value) => Math.max(most, Math.abs(value)), 0) ?? 0;
    expect(off).toBeLessThan(top * 0.01);
  });
});

describe.each([
  ['that falls steeply towards the top', room(20, 45, 16, [5, 4.5, 4, 3.4, 2.6, 1.6, 0.7])],
  ['that is longest in the middle', room(12, 20, 9, [1.2, 1.4, 1.6, 1.6, 1.3, 0.8, 0.35])],
  ['of 60 m³', room(4, 6, 2.5, [0.45, 0.4, 0.4, 0.4, 0.38, 0.35, 0.3])],
])('the late field of a room %s', (_name, hall) => {
  const small = new LateField(hall, CAPSULES.slice(0, 3), RATE);
  const heard = [1, 2, 3].flatMap((seed) => small.responses(seed * 31_337));

  it('decays as long as the room: 2 % in the mean, 7 % each', () => {
    const decays = heard.map((response) => {
      // As in a recording: something before it, and a while after it.
      const padded = new Float32Array(response.length + RATE / 2);
      padded.set(response, RATE / 10);
      return decayTimes(padded, RATE);
    });
    for (const [hz, wanted] of hall.rt60S) {
      const read = decays.map((bands) => bands.find((one) => one.hz === hz)?.t30?.seconds ?? 0);
      // Below it a room has single resonances, and few enough bins that chance shows.
      const few = hz < transitionFrequency(hall.volumeM3, wanted);
      expect(Math.abs((mean(read) ?? 0) / wanted - 1), `${hz} Hz`).toBeLessThan(few ? 0.04 : 0.02);
      for (const seconds of read) {
        expect(Math.abs(seconds / wanted - 1), `${hz} Hz`).toBeLessThan(few ? 0.12 : 0.07);
      }
    }
  });
});

it('the late field of a dead studio does not ring, and has no end that is louder than what comes before', () => {
  const hall = room(5, 6, 2.6, [0.3, 0.25, 0.2, 0.2, 0.2, 0.2, 0.18]);
  for (const response of new LateField(hall, CAPSULES.slice(0, 2), RATE).responses(7)) {
    const part = Math.floor(response.length / 6);
    const energies = Array.from({ length: 6 }, (_, i) =>
      response.subarray(i * part, (i + 1) * part).reduce((sum, value) => sum + value * value, 0),
    );
    for (const [i, energy] of energies.entries()) {
      if (i > 0) expect(energy).toBeLessThan(0.7 * (energies[i - 1] ?? 0));
    }
  }
});

describe('sets of the late field', () => {
  const hall: Hall = { ...HALL, rt60S: [[1000, 0.4]] };
  const pair = CAPSULES.slice(0, 2);
  const setsOf = (of: Hall, seed: number, receivers = pair) =>
    lateSets(of, receivers, 16_000, plainEngine, { seed, count: 2 });

  it('are the same for the same hall, microphones and seed, made again or remembered', async () => {
    const first = await setsOf(hall, 5);
    expect(first.map((set) => set.length)).toEqual([2, 2]);
    expect(first[0]?.[0]?.length).toBe(lateFrames(hall, 16_000));
    expect(await setsOf({ ...hall }, 5)).toBe(first);
    const others = [
      await setsOf(hall, 6),
      await setsOf({ ...hall, volumeM3: 2000 }, 5),
      await setsOf(hall, 5, CAPSULES.slice(1, 3)),
    ];
    for (const other of others) expect(other[0]?.[1]).not.toEqual(first[0]?.[1]);
    const again = await setsOf(hall, 5);
    expect(again).not.toBe(first);
    expect(again).toEqual(first);
    // The first set alone is the field of its seed.
    expect(new LateField(hall, pair, 16_000).responses(5)).toEqual(first[0]);
  });
});

describe('complex matrices', () => {
  it('turn one covariance into another', () => {
    // [[2, i], [−i, 3]] into [[1, 0.5], [0.5, 1]].
    const found = cholesky(Float64Array.from([2, 0, 0, 1, 0, -1, 3, 0]), 2);
    const wanted = cholesky(Float64Array.from([1, 0, 0.5, 0, 0.5, 0, 1, 0]), 2);
    const turn = turnInto(wanted, found, 2);
    const at = (matrix: Float64Array, i: number, j: number) => {
      const k = 2 * (2 * i + j);
      return [matrix[k] ?? 0, matrix[k + 1] ?? 0] as const;
    };
    // T·L̂ = L, entry by entry.
    for (const i of [0, 1]) {
      for (const j of [0, 1]) {
        let [re, im] = [0, 0];
        for (const k of [0, 1]) {
          const [ar, ai] = at(turn, i, k);
          const [br, bi] = at(found, k, j);
          re += ar * br - ai * bi;
          im += ar * bi + ai * br;
        }
        expect(re).toBeCloseTo(at(wanted, i, j)[0], 12);
        expect(im).toBeCloseTo(at(wanted, i, j)[1], 12);
      }
    }
  });
});
