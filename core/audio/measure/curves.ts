import type { Sound } from '../sound';
import type { Planes } from '../wav/decode';
import { bestEngine } from '../signal/fast-spectra';
import type { SpectraEngine } from '../signal/spectra';
import { MEASURED_OCTAVES_HZ, WINDOW_S } from './bands';
import { Windows } from './blocks';
import { DelayMeter, type ChannelDelay, type ChannelPair, type DelayCurve } from './delay';
import { channelWeights, LoudnessMeter } from './loudness';
import { hann } from '../signal/spectrum';
import { likeness, ProductMeter } from './products';
import { stepDone, walked, type Work } from '../work';

/** A stretch of a recording, frames. */
export interface FrameRange {
  from: number;
  to: number;
}

/** Figures of a recording over its time, one of each a step; null where there is nothing to tell. */
export interface Curves {
  /** s from one step to the next, and of the first */
  stepS: number;
  fromS: number;
  /** loudness of the last 0.4 s and of the last 3 s, LUFS */
  momentary: (number | null)[];
  shortTerm: (number | null)[];
  /** likeness of two channels, −1 … 1 */
  correlation: (number | null)[];
  /** of the first against the second of them, dB: above zero it leans to the first */
  leanDb: (number | null)[];
  /** of both of them together, means of a sample, of full scale squared */
  powers: number[];
  /** how the second stands against the first, step by step of its own: of what an image is made */
  differences: { stepS: number; values: (ChannelDelay | null)[] };
  /** level of each channel by octave, dB of full scale; one list a channel, one a band */
  bands: { hz: number; db: (number | null)[] }[][];
}

const SILENT = 1e-12;
const STEP_S = 0.1;
/** Differences are read of so much at a time, and of delays up to so much: farther apart nothing is one image. */
const [DIFFERENCE_S, MOST_DIFFERENCE_MS] = [0.4, 10];
const dbOf = (power: number): number | null => (power > SILENT ? 10 * Math.log10(power) : null);

/** Level and time between two channels, stretch by stretch. */
class DifferenceMeter {
  readonly values: (ChannelDelay | null)[] = [];
  private readonly length: number;
  private meter: DelayMeter;
  private filled = 0;

  constructor(
    private readonly pair: ChannelPair,
    private readonly sampleRateHz: number,
    private readonly engine: SpectraEngine,
  ) {
    this.length = Math.round(sampleRateHz * DIFFERENCE_S);
    this.meter = this.fresh();
  }

  private fresh(): DelayMeter {
    return new DelayMeter([[0, 1]], this.sampleRateHz, MOST_DIFFERENCE_MS, this.engine);
  }

  add(planes: Planes, frames: number): void {
    const [left, right] = this.pair.map((c) => planes[c]);
    if (!left || !right) return;
    for (let from = 0; from < frames;) {
      const to = Math.min(frames, from + this.length - this.filled);
      this.meter.add([left.subarray(from, to), right.subarray(from, to)], to - from);
      this.filled += to - from;
      from = to;
      if (this.filled < this.length) continue;
      this.values.push(this.meter.result()[0] ?? null);
      this.meter = this.fresh();
      this.filled = 0;
    }
  }
}

/**
 * Loudness, likeness, lean and levels by octave over time, in steps of 0.1 s, and in steps of 0.4 s
 * what an image is made of.
 * @param range frames, 0 … the recording's
 * @param pair which two channels are compared, from 0
 * @throws Cancelled where it was given up
 */
export async function curvesOf(
  sound: Sound,
  range: FrameRange,
  pair: ChannelPair = [0, 1],
  work: Partial<Work> = {},
): Promise<Curves> {
  const { format, channelNames, channelMask } = sound.info;
  const { channels, sampleRateHz } = format;
  const loudness = new LoudnessMeter(channelWeights(channelNames, channelMask), sampleRateHz);
  const engine = await bestEngine();
  const correlation: (number | null)[] = [];
  const leanDb: (number | null)[] = [];
  const powers: number[] = [];
  const products = new ProductMeter(Math.round(sampleRateHz * STEP_S), (found) => {
    const alike = likeness(found, SILENT);
    correlation.push(alike);
    powers.push(found.xx + found.yy);
    leanDb.push(alike === null ? null : 10 * Math.log10(found.xx / found.yy));
  });
  const differences = channels > 1 ? new DifferenceMeter(pair, sampleRateHz, engine) : null;
  const octaves = MEASURED_OCTAVES_HZ.filter((hz) => hz * Math.SQRT2 <= sampleRateHz * 0.55);
  const size = 2 ** Math.round(Math.log2(WINDOW_S * sampleRateHz));
  const bin = (hz: number): number => Math.round((hz / sampleRateHz) * size);
  const octavePowers: number[][][] = Array.from({ length: channels }, () => octaves.map(() => []));
  const windows = new Windows(
    channels,
    size,
    Math.round(sampleRateHz * STEP_S),
    hann,
    engine,
    (spectra) =>
      spectra.forEach((spectrum, c) =>
        octaves.forEach((hz, band) => {
          const low = Math.max(1, bin(hz / Math.SQRT2));
          const high = Math.min(size / 2, Math.max(low + 1, bin(hz * Math.SQRT2)));
          let sum = 0;
          for (let k = 2 * low; k < 2 * high; k++) sum += (spectrum[k] as number) ** 2;
          octavePowers[c]?.[band]?.push(sum / windows.gain);
        }),
      ),
  );
  for await (const { planes, frames } of walked(sound, range, work)) {
    loudness.add(planes, frames);
    const [one, other] = pair.map((c) => planes[c]);
    if (one && other) products.add(one, other, frames);
    differences?.add(planes, frames);
    windows.add(planes, frames);
  }
  const told = (values: readonly number[], before: number): (number | null)[] => [
    ...Array.from({ length: before }, () => null),
    ...values.map((value) => (value > -120 ? value : null)),
  ];
  return {
    stepS: STEP_S,
    fromS: range.from / sampleRateHz,
    momentary: told(loudness.momentary(), 3),
    shortTerm: told(loudness.shortTerm(), 29),
    correlation,
    leanDb,
    powers,
    differences: { stepS: DIFFERENCE_S, values: differences?.values ?? [] },
    bands: octavePowers.map((bands) =>
      bands.map((list, band) => ({ hz: octaves[band] ?? 0, db: list.map(dbOf) })),
    ),
  };
}

/** More points than these nobody tells apart. */
const MOST_POINTS = 20_000;

/**
 * Points of two channels, turned by 45°: across is what differs (to the left where the first is louder), up is
 * what both share.
 * @param range frames, 0 … the recording's
 * @param count how many at most, 1 … 20000: spread over the stretch
 * @returns across and up in turn, of full scale
 */
export async function stereoPoints(
  sound: Sound,
  range: FrameRange,
  [first, second]: ChannelPair,
  count: number,
  work: Partial<Work> = {},
): Promise<Float32Array> {
  const every = Math.max(1, Math.ceil((range.to - range.from) / Math.min(count, MOST_POINTS)));
  const points: number[] = [];
  for await (const { planes, frames, position } of walked(sound, range, work)) {
    const [a, b] = [planes[first], planes[second]];
    if (!a || !b) break;
    for (let i = (every - ((position - range.from) % every)) % every; i < frames; i += every) {
      const [x, y] = [a[i] as number, b[i] as number];
      points.push((y - x) * Math.SQRT1_2, (x + y) * Math.SQRT1_2);
    }
  }
  return Float32Array.from(points);
}

/** Every pair of some channels. */
export interface DelayMatrix {
  pairs: { first: number; second: number; delay: ChannelDelay | null; curve: DelayCurve | null }[];
  /** the pair that is farthest apart in time, of those that can be told */
  farthest: { first: number; second: number; delayMs: number } | null;
}

/** Channels of one matrix. */
const MOST_MATRIX_CHANNELS = 16;

/**
 * How every two of some channels stand against each other: delay with its verdict, level, polarity, and
 * the correlation over the delay.
 * @param channels from 0, at most 16
 * @param mostMs the largest delay looked for, 1 … 2000 ms
 * @throws RangeError where channels are more than 16
 * @throws Cancelled where it was given up
 */
export async function delayMatrix(
  sound: Sound,
  range: FrameRange,
  channels: readonly number[],
  mostMs: number,
  work: Partial<Work> = {},
): Promise<DelayMatrix> {
  if (channels.length > MOST_MATRIX_CHANNELS) {
    throw new RangeError(`channels are ${channels.length}; allowed: ${MOST_MATRIX_CHANNELS}`);
  }
  const pairs = channels.flatMap((first, i) =>
    channels.slice(i + 1).map((second): ChannelPair => [first, second]),
  );
  const { sampleRateHz } = sound.info.format;
  const meter = new DelayMeter(pairs, sampleRateHz, mostMs, await bestEngine());
  for await (const { planes, frames } of walked(sound, range, work)) meter.add(planes, frames);
  const delays: (ChannelDelay | null)[] = [];
  for (const delay of meter.steps()) {
    delays.push(delay);
    await stepDone(work);
  }
  const curves = meter.curves();
  let farthest: DelayMatrix['farthest'] = null;
  pairs.forEach(([first, second], i) => {
    const delayMs = delays[i]?.delayMs ?? null;
    if (delayMs === null || Math.abs(delayMs) < Math.abs(farthest?.delayMs ?? 0)) return;
    farthest = { first, second, delayMs };
  });
  return {
    pairs: pairs.map(([first, second], i) => ({
      first,
      second,
      delay: delays[i] ?? null,
      curve: curves[i] ?? null,
    })),
    farthest,
  };
}
