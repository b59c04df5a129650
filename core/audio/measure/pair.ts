import { deviation, mean, median } from 'd3-array';
import { plainEngine, type SpectraEngine } from '../signal/spectra';
import type { Planes } from '../wav/decode';
import { THIRDS_HZ, WINDOW_S } from './bands';
import { steep, Windows } from './blocks';

/** How two spectra differ in one third of an octave. */
export interface BandDifference {
  hz: number;
  /** of the second against the first, dB */
  db: number;
  /** half of the interval that holds it nineteen times of twenty, dB */
  withinDb: number;
}

/** One filter of an equaliser. */
export interface SuggestedFilter {
  kind: 'peak' | 'low shelf' | 'high shelf';
  hz: number;
  gainDb: number;
  /** of peaks; 0.7 of shelves */
  q: number;
}

/** How well two microphones match in the same noise. */
export interface PairMatch {
  /** what the second is to be raised by, dB */
  trimDb: number;
  /** differences after the trim */
  bands: BandDifference[];
  /** root mean square and largest of them, 100 Hz … 10 kHz, dB */
  rmsDb: number;
  worst: BandDifference;
  /** for the second, at most three filters; none where it matches within 0.5 dB */
  filters: SuggestedFilter[];
  /** root mean square of what those leave, dB */
  leftDb: number;
}

/** How alike a figure-eight is in front and behind, and how deep its null is. */
export interface Symmetry {
  /** rear against front by third octave, dB */
  rear: BandDifference[];
  /** of all of them, 100 Hz … 10 kHz, dB */
  rearDb: number;
  /** pattern A of the two sides together: 0 is a figure-eight, above it the front is louder */
  a: number;
  /** from the side against front, dB; null without a side */
  nullDb: number | null;
  null: BandDifference[] | null;
}

const [JUDGED_FROM_HZ, JUDGED_TO_HZ] = [100, 10_000];
const NINETEEN_OF_TWENTY = 1.96;
const MOST_FILTERS = 3;
/** A filter that betters less is not worth it, dB. */
const WORTH_DB = 0.15;
const GOOD_DB = 0.5;

/** Powers of each third of an octave in each window, of several channels, block by block. */
export class ThirdMeter {
  /** by channel and window, the power of each third */
  readonly windows: number[][][];
  private readonly rows: Windows;

  /**
   * @param channels 1 … 64
   * @param sampleRateHz 8000 … 384000 Hz
   */
  constructor(
    channels: number,
    readonly sampleRateHz: number,
    engine: SpectraEngine = plainEngine,
  ) {
    const size = 2 ** Math.round(Math.log2(WINDOW_S * sampleRateHz));
    const bin = (hz: number): number => Math.round((hz / sampleRateHz) * size);
    const ends = bandsOf(sampleRateHz).map((hz) => {
      const low = Math.max(1, bin(hz / 2 ** (1 / 6)));
      return [low, Math.min(size / 2, Math.max(low + 1, bin(hz * 2 ** (1 / 6))))] as const;
    });
    this.windows = Array.from({ length: channels }, () => []);
    this.rows = new Windows(channels, size, size / 2, steep, engine, (spectra) => {
      spectra.forEach((spectrum, c) =>
        this.windows[c]?.push(
          ends.map(([low, high]) => {
            let sum = 0;
            for (let k = 2 * low; k < 2 * high; k++) sum += (spectrum[k] as number) ** 2;
            return sum;
          }),
        ),
      );
    });
  }

  add(planes: Planes, frames: number): void {
    this.rows.add(planes, frames);
  }

  /** Is there enough of a channel to judge it by: half a second, not silent? */
  enough(channel: number): boolean {
    const windows = this.windows[channel] ?? [];
    return (
      windows.length >= FEWEST_WINDOWS && windows.some((bands) => bands.some((x) => x > SILENT))
    );
  }
}

/** Half a second of windows that overlap by half; and a power of a third that is none. */
const [FEWEST_WINDOWS, SILENT] = [5, 1e-12];

const bandsOf = (sampleRateHz: number): number[] =>
  THIRDS_HZ.filter((hz) => hz >= 40 && hz * 1.13 < sampleRateHz / 2);

const decibels = (ratio: number): number => 10 * Math.log10(Math.max(ratio, 1e-15));

/** Difference of two noises by third octave, from the powers of their windows. @param together were both recorded at one time? */
function differences(
  a: readonly number[][],
  b: readonly number[][],
  sampleRateHz: number,
  together: boolean,
): BandDifference[] {
  return bandsOf(sampleRateHz).map((hz, band) => {
    const [x, y] = [a, b].map((windows) => windows.map((bands) => bands[band] ?? 0));
    const [one = 0, two = 0] = [mean(x ?? []), mean(y ?? [])];
    // Windows overlap by half: their number counts for about two thirds.
    const count = Math.max(1, (2 / 3) * Math.min(x?.length ?? 0, y?.length ?? 0));
    const spread = together
      ? (deviation(x ?? [], (value, i) => decibels((y?.[i] ?? 0) / Math.max(value, 1e-30))) ?? 0)
      : Math.hypot(...[x ?? [], y ?? []].map((list) => deviation(list, decibels) ?? 0));
    return {
      hz,
      db: decibels(two / Math.max(one, 1e-30)),
      withinDb: (NINETEEN_OF_TWENTY * spread) / Math.sqrt(count),
    };
  });
}

const judged = (bands: readonly BandDifference[]): BandDifference[] =>
  bands.filter(({ hz }) => hz >= JUDGED_FROM_HZ && hz <= JUDGED_TO_HZ);
const rmsOf = (values: readonly number[]): number =>
  Math.sqrt(values.reduce((sum, value) => sum + value * value, 0) / Math.max(1, values.length));

/**
 * Gain of a filter at a frequency, dB: the analogue forms, which digital ones follow below a fifth of
 * the rate.
 * Source: R. Bristow-Johnson, "Cookbook formulae for audio equalizer biquad filter coefficients".
 * @param hz 1 … 200000 Hz
 */
export function filterGainDb({ kind, hz: centre, gainDb, q }: SuggestedFilter, hz: number): number {
  const a = 10 ** (gainDb / 40);
  const w = hz / centre;
  const size = (re: number, im: number): number => re * re + im * im;
  if (kind === 'peak') {
    return decibels(size(1 - w * w, (w * a) / q) / size(1 - w * w, w / (a * q)));
  }
  const slope = (Math.sqrt(a) / q) * w;
  const [up, down] = [size(a - w * w, slope), size(1 - a * w * w, slope)];
  const other = [size(1 - a * w * w, slope), size(a - w * w, slope)] as const;
  const [over, under] = kind === 'low shelf' ? [up, down] : other;
  return decibels((a * a * over) / under);
}

/** The filter that betters a row of differences most. */
function bestFilter(bands: readonly BandDifference[]): SuggestedFilter | null {
  const kinds = [
    ...[0.7, 1.4, 2.8].map((q) => ({ kind: 'peak' as const, q })),
    { kind: 'low shelf' as const, q: 0.7 },
    { kind: 'high shelf' as const, q: 0.7 },
  ];
  let best: SuggestedFilter | null = null;
  let least = rmsOf(bands.map(({ db }) => db)) - WORTH_DB;
  for (const { hz, db } of bands) {
    for (const { kind, q } of kinds) {
      for (const part of [0.6, 0.8, 1, 1.2]) {
        const filter = { kind, hz, q, gainDb: Math.round(-db * part * 10) / 10 };
        const left = rmsOf(bands.map((band) => band.db + filterGainDb(filter, band.hz)));
        if (left < least) [best, least] = [filter, left];
      }
    }
  }
  return best;
}

/**
 * How well two microphones match that stood side by side in the same noise: a trim, and a short
 * equaliser for the second.
 * @param meter both channels, recorded together, half a second and more
 * @returns null where one is silent or there is too little of it
 */
export function matchOfThirds(meter: ThirdMeter): PairMatch | null {
  if (!meter.enough(0) || !meter.enough(1)) return null;
  const [first = [], second = []] = meter.windows;
  const raw = differences(first, second, meter.sampleRateHz, true);
  const offset = median(judged(raw), ({ db }) => db) ?? 0;
  const bands = raw.map((band) => ({ ...band, db: band.db - offset }));
  const heard = judged(bands);
  const [top] = [...heard].sort((a, b) => Math.abs(b.db) - Math.abs(a.db));
  if (!top) return null;
  const filters: SuggestedFilter[] = [];
  let left = heard;
  while (filters.length < MOST_FILTERS && rmsOf(left.map(({ db }) => db)) > GOOD_DB / 2) {
    if (Math.max(...left.map(({ db }) => Math.abs(db))) < GOOD_DB) break;
    const filter = bestFilter(left);
    if (!filter) break;
    filters.push(filter);
    left = left.map((band) => ({ ...band, db: band.db + filterGainDb(filter, band.hz) }));
  }
  return {
    trimDb: -offset,
    bands,
    rmsDb: rmsOf(heard.map(({ db }) => db)),
    worst: top,
    filters,
    leftDb: rmsOf(left.map(({ db }) => db)),
  };
}

/**
 * How alike a figure-eight is from both sides, in noise taken one after the other with nothing else
 * moved but the microphone turned.
 * @param front, rear the noise from either side, of one microphone
 * @param side the noise from its edge, where its null is; null where there is none
 * @returns null where one is silent or there is too little of it
 */
export function symmetryOfThirds(
  front: ThirdMeter,
  rear: ThirdMeter,
  side: ThirdMeter | null,
): Symmetry | null {
  if (!front.enough(0) || !rear.enough(0)) return null;
  const against = (other: ThirdMeter): BandDifference[] =>
    differences(front.windows[0] ?? [], other.windows[0] ?? [], front.sampleRateHz, false);
  const back = against(rear);
  const rearDb = mean(judged(back), ({ db }) => db) ?? 0;
  const nulls = side && (side.windows[0] ?? []).length >= FEWEST_WINDOWS ? against(side) : null;
  const ratio = 10 ** (rearDb / 20);
  return {
    rear: back,
    rearDb,
    // A + B cos: 1 in front, 2A − 1 behind.
    a: (1 - ratio) / 2,
    nullDb: nulls ? (mean(judged(nulls), ({ db }) => db) ?? null) : null,
    null: nulls,
  };
}
