import { describe, expect, it } from 'vitest';
import { coherentResponse } from '../../acoustics/coherent-mono';
import { THIRD_OCTAVES_HZ } from '../../acoustics/mono';
import { pointsAt } from '../../analysis/edges-at';
import { cuesFrom, monoWaves, nearArrivals } from '../../localisation/cues';
import { readyArray } from '../../prepare/arrays';
import { newArray, newSource, sessionFrom, type Session } from '../../session';
import { seededRandom } from '../../units/random';
import { spectrumOf } from '../signal/spectrum';
import { playedPhrase, type PhraseSpec } from '../render/places';
import { sceneLoops } from './loops';
import type { Loop } from './mixer';
import { sceneOf } from './scene';

/**
 * An instrument that is narrower than a piano sounds as wide as the page shows it: from both its
 * ends and its middle, one performance, without a comb among them.
 */

const RATE = 48_000;
const SPEED = 343.2;
const phrases = new Map<string, Float32Array>();
/** A steady noise, so that every band has something in it. */
const noise = (plays: PhraseSpec): PhraseSpec => ({ ...plays, name: 'pink noise' });
const loopOf = ({ plays }: { plays: PhraseSpec }): Float32Array => playedPhrase(plays, phrases);

async function heard(session: Session): Promise<Loop> {
  const [array] = session.arrays;
  if (!array) throw new Error('an array');
  const scene = sceneOf(session, array, RATE);
  if (!scene.ok) throw new Error(scene.message);
  const points = scene.value.points.map((point) => ({ ...point, plays: noise(point.plays) }));
  const work = sceneLoops(
    { ...scene.value, points },
    { layers: 'whole', withoutDirect: false },
    loopOf,
  );
  for (let step = await work.next(); !step.done; step = await work.next()) return step.value.loop;
  throw new Error('no sound');
}

interface Bands {
  /** mono against the power of both channels, dB */
  monoDb: number[];
  correlation: number[];
}

function measured([left, right]: Loop): Bands {
  const size = 2 ** 18;
  const [l, r] = [left, right].map((samples) => spectrumOf(samples.subarray(0, size), size));
  const rows = THIRD_OCTAVES_HZ.map((hz) => {
    const [from, to] = [hz * 10 ** -0.05, hz * 10 ** 0.05].map((at) =>
      Math.round((at * size) / RATE),
    );
    let [ll, rr, lr] = [0, 0, 0];
    for (let i = from ?? 0; i < (to ?? 0); i++) {
      const [a, b, c, d] = [
        l?.[2 * i] ?? 0,
        l?.[2 * i + 1] ?? 0,
        r?.[2 * i] ?? 0,
        r?.[2 * i + 1] ?? 0,
      ];
      ll += a * a + b * b;
      rr += c * c + d * d;
      lr += a * c + b * d;
    }
    return {
      mono: 10 * Math.log10(1 + (2 * lr) / (ll + rr)),
      correlation: lr / Math.sqrt(ll * rr),
    };
  });
  return { monoDb: rows.map(({ mono }) => mono), correlation: rows.map((row) => row.correlation) };
}

/** What the page says of the ends and the middle, together. */
function shown(session: Session): Bands {
  const [array] = session.arrays;
  const [source] = session.sources;
  if (!array || !source) throw new Error('an array and a player');
  const ready = readyArray(array);
  const parts = pointsAt(ready, source).map((point) => {
    const arrivals = nearArrivals(ready, point, SPEED) ?? [];
    const { left, right } = cuesFrom(ready, arrivals);
    const waves = monoWaves(ready, arrivals);
    return {
      left,
      right,
      bands: coherentResponse(waves).map(({ levelDb }) => 10 ** (levelDb / 10)),
    };
  });
  const sum = (of: (part: (typeof parts)[number]) => number): number =>
    parts.reduce((total, part) => total + of(part), 0);
  const power = sum(({ left, right }) => left ** 2 + right ** 2);
  const sides = Math.sqrt(sum(({ left }) => left ** 2) * sum(({ right }) => right ** 2));
  const mono = THIRD_OCTAVES_HZ.map((_, i) =>
    sum(({ left, right, bands }) => (left ** 2 + right ** 2) * (bands[i] ?? 1)),
  );
  return {
    monoDb: mono.map((energy) => 10 * Math.log10(energy / power)),
    correlation: mono.map((energy) => (energy - power) / 2 / sides),
  };
}

const random = seededRandom(7);
const between = (low: number, high: number): number => low + (high - low) * random();
const TECHNIQUES = [
  { kind: 'pair', pattern: 'cardioid', spacingM: 0.17, includedAngleDeg: 110 },
  { kind: 'pair', pattern: 'omni', spacingM: 0.6, includedAngleDeg: 0 },
  { kind: 'pair', pattern: 'figure-eight', spacingM: 0, includedAngleDeg: 90 },
  { kind: 'pair', pattern: 'supercardioid', spacingM: 0.1, includedAngleDeg: 90 },
] as const;
const CASES = Array.from({ length: 20 }, (_, i) => {
  const technique = TECHNIQUES[i % TECHNIQUES.length] ?? TECHNIQUES[0];
  const source = newSource({
    id: 's',
    name: 'S',
    kind: 'violin',
    x: between(-0.8, 0.8),
    y: between(0.7, 2),
    z: 1.2,
    widthM: between(0.2, 0.75),
    facingDeg: between(150, 210),
  });
  const array = newArray({
    id: 'm',
    role: 'main',
    x: 0,
    y: 0,
    z: 1.3,
    technique: { ...technique },
  });
  return sessionFrom({ sources: [source], arrays: [array] });
});

describe('an instrument of 0.2 to 0.75 m', () => {
  it.each(CASES.map((session, i) => [i, session] as const))(
    'case %i: mono and correlation by third octave are those of the page',
    async (_i, session) => {
      const [is, says] = [measured(await heard(session)), shown(session)];
      const off = is.monoDb.map((db, i) => {
        // Deep in a comb a dB is next to nothing: energies are compared, against the power of both.
        const [a, b] = [10 ** (db / 10), 10 ** ((says.monoDb[i] ?? 0) / 10)];
        return Math.abs(a - b);
      });
      expect(Math.max(...off)).toBeLessThan(0.55);
      expect(off.reduce((sum, value) => sum + value, 0) / off.length).toBeLessThan(0.16);
      const apart = is.correlation.map((value, i) => Math.abs(value - (says.correlation[i] ?? 0)));
      // Lower a third octave is hardly wider than one band, and one of the places speaks for it.
      const above = apart.filter((_, i) => (THIRD_OCTAVES_HZ[i] ?? 0) > 300);
      expect(Math.max(...above)).toBeLessThan(0.45);
      expect(above.reduce((sum, value) => sum + value, 0) / above.length).toBeLessThan(0.14);
    },
  );

  it('is not what a point in its middle would be', () => {
    const wide = CASES[1];
    if (!wide) throw new Error('a case');
    const [source] = wide.sources;
    const point = { ...wide, sources: source ? [{ ...source, widthM: 0 }] : [] };
    const [a, b] = [shown(wide), shown(point)];
    const apart = a.correlation.map((value, i) => Math.abs(value - (b.correlation[i] ?? 0)));
    expect(Math.max(...apart)).toBeGreaterThan(0.3);
  });
});
