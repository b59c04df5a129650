import { Halved, halvings } from '../signal/halving';
import { hann } from '../signal/spectrum';
import { plainEngine, type SpectraEngine } from '../signal/spectra';
import type { Planes } from '../wav/decode';
import { Windows } from './blocks';
import { nearestNote, type NearestNote } from './notes';

/** A narrow peak of a take's spectrum. */
export interface Resonance {
  hz: number;
  /** equally tempered, at 440 Hz */
  note: NearestNote;
  /** above what is beside it on average, dB */
  aboveDb: number;
  /** of the time with sound in which it stands out, 0 … 100 % */
  sharePct: number;
  /** stands under whatever is played: a resonance of room, floor or instrument, or a hum */
  underEveryNote: boolean;
}

const LEAST_HZ = 25;
const MOST_HZ = 4000;
/** Window of a spectrum, s: narrow enough a bin for a semitone at 40 Hz. */
const WINDOW_S = 0.68;
/** Peaks stand out by so much on average and, at any moment, by so much, dB. */
const STANDS_DB = 8;
const MOMENT_DB = 6;
/** Beside a peak: from a semitone to a fourth on either side, in ratios. */
const NEAR = 2 ** (1 / 12);
const FAR = 2 ** (5 / 12);
const UNDER_EVERY_PCT = 85;
/** Moments this far under the loudest are silence, dB. */
const SILENCE_DB = -50;
const MOST = 24;
/** Higher rates are halved before, Hz: what is looked at lies well below. */
const MOST_RATE_HZ = 27_000;
/** The floor is read in cells of a third of a semitone, as the median of those beside. */
const CELLS = 36;

/** What lies beside each bin: the median of the cells from a semitone to a fourth away on either side. */
class Floor {
  private readonly cells: { from: number; to: number; near: Int32Array }[] = [];
  private readonly cellOf: Int32Array;
  private readonly levels: Float32Array;
  private readonly floors: Float32Array;

  constructor(binHz: number, top: number) {
    const lowest = LEAST_HZ / FAR;
    const place = (k: number): number => Math.floor(CELLS * Math.log2((k * binHz) / lowest));
    this.cellOf = new Int32Array(top);
    let last = -1;
    for (let k = Math.ceil(lowest / binHz); k < top; k++) {
      if (place(k) !== last) this.cells.push({ from: k, to: k, near: new Int32Array(0) });
      last = place(k);
      (this.cells[this.cells.length - 1] as { to: number }).to = k + 1;
      this.cellOf[k] = this.cells.length - 1;
    }
    const centre = ({ from, to }: { from: number; to: number }): number => (from + to - 1) / 2;
    for (const cell of this.cells) {
      const near = this.cells.flatMap((other, i) => {
        const ratio = centre(other) / centre(cell);
        const away = Math.max(ratio, 1 / ratio);
        return away >= NEAR && away <= FAR ? [i] : [];
      });
      cell.near = Int32Array.from(near);
    }
    this.levels = new Float32Array(this.cells.length);
    this.floors = new Float32Array(this.cells.length);
  }

  /** Reads the cells of a spectrum's powers: the middle of each, then of those beside it. */
  read(powers: Float32Array): void {
    const middleOf = (list: Float32Array): number => {
      list.sort();
      return list[list.length >> 1] ?? 0;
    };
    this.cells.forEach(({ from, to }, i) => {
      this.levels[i] =
        to - from === 1 ? (powers[from] as number) : middleOf(powers.slice(from, to));
    });
    this.cells.forEach(({ near }, i) => {
      const list = new Float32Array(near.length);
      for (let n = 0; n < near.length; n++) list[n] = this.levels[near[n] as number] as number;
      this.floors[i] = middleOf(list);
    });
  }

  /** The usual power beside a bin, in the spectrum that was read last. */
  beside(k: number): number {
    return this.floors[this.cellOf[k] as number] as number;
  }
}

/** What stood out at one moment. */
interface Moment {
  /** power of all of it */
  sum: number;
  peaks: Int32Array;
}

/** One channel: its average, and what stood out when. */
class Channel {
  readonly average: Float64Array;
  readonly moments: Moment[] = [];

  constructor(top: number) {
    this.average = new Float64Array(top);
  }
}

/** Narrow peaks of several channels, block by block. */
export class ResonanceMeter {
  private readonly chains: Halved[];
  private readonly windows: Windows;
  private readonly channels: Channel[];
  private readonly binHz: number;
  private readonly top: number;
  private readonly floor: Floor;

  /**
   * @param channels 1 … 64
   * @param sampleRateHz 8000 … 384000 Hz
   */
  constructor(channels: number, sampleRateHz: number, engine: SpectraEngine = plainEngine) {
    const times = halvings(sampleRateHz, MOST_RATE_HZ);
    const rate = sampleRateHz / 2 ** times;
    const size = 2 ** Math.round(Math.log2(WINDOW_S * rate));
    this.binHz = rate / size;
    const top = Math.min(size / 2, Math.ceil((MOST_HZ * FAR) / this.binHz) + 2);
    this.top = top;
    this.chains = Array.from({ length: channels }, () => new Halved(times, engine));
    this.channels = this.chains.map(() => new Channel(top));
    this.floor = new Floor(this.binHz, top);
    const powers = new Float32Array(top);
    this.windows = new Windows(channels, size, size / 2, hann, engine, (spectra) => {
      spectra.forEach((spectrum, c) => {
        for (let k = 0; k < top; k++) {
          powers[k] = (spectrum[2 * k] as number) ** 2 + (spectrum[2 * k + 1] as number) ** 2;
        }
        const channel = this.channels[c];
        if (channel) this.take(channel, powers);
      });
    });
  }

  add(planes: Planes, frames: number): void {
    const lower = this.chains.flatMap((chain, c) => {
      const plane = planes[c];
      return plane ? [chain.add(plane, frames)] : [];
    });
    this.windows.add(lower, lower[0]?.length ?? 0);
  }

  private take(channel: Channel, powers: Float32Array): void {
    const { average } = channel;
    let sum = 0;
    for (let k = 0; k < powers.length; k++) {
      const power = powers[k] as number;
      sum += power;
      average[k] = (average[k] as number) + power;
    }
    this.floor.read(powers);
    const peaks: number[] = [];
    this.tops(powers, (k) => {
      if (this.above(powers, k) >= MOMENT_DB) peaks.push(k);
    });
    channel.moments.push({ sum, peaks: Int32Array.from(peaks) });
  }

  /** Bins that are higher than those beside them. */
  private tops(powers: ArrayLike<number>, each: (k: number) => void): void {
    const last = Math.min(this.top - 2, Math.floor(MOST_HZ / this.binHz));
    for (let k = Math.max(1, Math.ceil(LEAST_HZ / this.binHz)); k <= last; k++) {
      const here = powers[k] as number;
      if (here >= (powers[k - 1] as number) && here > (powers[k + 1] as number)) each(k);
    }
  }

  private above(powers: Float32Array, k: number): number {
    return 10 * Math.log10((powers[k] as number) / Math.max(this.floor.beside(k), 1e-30));
  }

  /** What stands out of each channel, one at a time; none where there is less than four windows with sound. */
  *steps(): Generator<Resonance[], void, undefined> {
    const rest = this.chains.map((chain) => chain.rest());
    this.windows.add(rest, rest[0]?.length ?? 0);
    for (const channel of this.channels) yield this.of(channel);
  }

  /** @returns what stands out of each channel; none where there is less than four windows with sound */
  result(): Resonance[][] {
    return [...this.steps()];
  }

  private of({ average, moments }: Channel): Resonance[] {
    const loudest = moments.reduce((most, { sum }) => Math.max(most, sum), 0);
    const sounding = moments.filter(
      ({ sum }) => loudest > 0 && sum > loudest * 10 ** (SILENCE_DB / 10),
    );
    if (sounding.length < 4) return [];
    const counts = new Uint32Array(this.top);
    for (const { peaks } of sounding) {
      for (const k of peaks) counts[k] = (counts[k] ?? 0) + 1;
    }
    const powers = Float32Array.from(average);
    this.floor.read(powers);
    const found: Resonance[] = [];
    this.tops(powers, (k) => {
      const aboveDb = this.above(powers, k);
      if (!(aboveDb >= STANDS_DB)) return;
      const hz = this.binHz * (k + bend(powers, k));
      // A moment's crest may lie a bin beside the average's.
      const out = Math.min(
        sounding.length,
        [k - 1, k, k + 1].reduce((sum, bin) => sum + (counts[bin] ?? 0), 0),
      );
      const sharePct = (out / sounding.length) * 100;
      found.push({
        hz,
        note: nearestNote(hz),
        aboveDb,
        sharePct,
        underEveryNote: sharePct >= UNDER_EVERY_PCT,
      });
    });
    return found
      .sort((a, b) => Number(b.underEveryNote) - Number(a.underEveryNote) || b.aboveDb - a.aboveDb)
      .slice(0, MOST);
  }
}

/**
 * Narrow peaks of a take, 25 Hz … 4 kHz, at most 24, those under every note first, then by their height: each with its nearest note and
 * for how much of the time it stands out of what is beside it. A played note stands out while it is
 * played; what stands under every note is no music.
 * @param samples of one channel, a few seconds of music or noise
 * @param sampleRateHz 8000 … 384000 Hz
 * @returns none where there is less than four windows (about 1.7 s)
 */
export function resonancesOf(samples: Float32Array, sampleRateHz: number): Resonance[] {
  const meter = new ResonanceMeter(1, sampleRateHz);
  meter.add([samples], samples.length);
  return meter.result()[0] ?? [];
}

/** Place of a peak between its bins, by a parabola over decibels. */
function bend(powers: Float32Array, k: number): number {
  const [low = 0, mid = 0, high = 0] = [k - 1, k, k + 1].map((bin) =>
    Math.log(Math.max(powers[bin] ?? 0, 1e-300)),
  );
  const curve = low - 2 * mid + high;
  return curve < 0 ? Math.max(-0.5, Math.min(0.5, (0.5 * (low - high)) / curve)) : 0;
}
