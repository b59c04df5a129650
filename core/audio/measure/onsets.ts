import { quantile } from 'd3-array';
import { plainEngine, type SpectraEngine } from '../signal/spectra';
import type { Sound } from '../sound';
import { stepDone, type Work } from '../work';
import type { Planes } from '../wav/decode';
import { delayBetween } from './delay';

/** Delays found at single onsets. */
export interface OnsetDelay {
  /** median over the onsets, ms; null where they are too few or do not agree */
  delayMs: number | null;
  /** of the sound before the room answers, against the first: median over the onsets, dB */
  levelDb: number | null;
  /** from the lowest to the highest tenth, ms */
  spreadMs: number;
  onsets: number;
  /** why there is no figure */
  uncertain: string | null;
}

/** Onsets stand out by this, dB, and are so far apart, s. */
const STANDS_OUT_DB = 12;
const APART_S = 0.15;
/** Levels are looked at in steps of so much, s. */
const STEP_S = 0.001;
/** What is looked at from each onset on: before the room answers, s. */
const WINDOW_S = 0.0025;
const AHEAD_S = 0.001;
/** Onsets that differ by more are no measure, ms. */
const MOST_SPREAD_MS = 0.05;
const FEWEST = 3;
/** Of the loudest step, a tenth. */
const LOUD = 0.1;

/** Levels of all channels in steps of a millisecond: where their onsets are, nearly. */
export class OnsetMeter {
  private readonly hop: number;
  private readonly levels: Levels[];

  /**
   * @param channels 1 … 64
   * @param sampleRateHz 8000 … 384000 Hz
   */
  constructor(
    channels: number,
    private readonly sampleRateHz: number,
  ) {
    this.hop = Math.max(1, Math.round(sampleRateHz * STEP_S));
    this.levels = Array.from({ length: channels }, () => new Levels(this.hop));
  }

  add(planes: Planes, frames: number): void {
    this.levels.forEach((levels, c) => {
      const plane = planes[c];
      if (plane) levels.add(plane, frames);
    });
  }

  /** Frames of the steps in which something sets in, by channel. */
  result(): number[][] {
    return this.levels.map(({ values }) => this.stepsOf(values));
  }

  private stepsOf(levels: Float32Array): number[] {
    const { hop } = this;
    const loud = levels.reduce((most, level) => Math.max(most, level), 0);
    const onsets: number[] = [];
    let before = 0;
    const rise = 10 ** (STANDS_OUT_DB / 20);
    levels.forEach((level, i) => {
      const last = onsets[onsets.length - 1] ?? -Infinity;
      const apart = i * hop - last > APART_S * this.sampleRateHz;
      if (level > loud * LOUD && level > before * rise && apart) onsets.push(i * hop);
      before = Math.max(level, before * 0.9);
    });
    return onsets;
  }
}

/** Root mean squares of the steps of one channel. */
class Levels {
  private kept = new Float32Array(1024);
  private count = 0;
  private filled = 0;
  private sum = 0;

  constructor(private readonly hop: number) {}

  get values(): Float32Array {
    return this.kept.subarray(0, this.count);
  }

  private keep(value: number): void {
    if (this.count === this.kept.length) {
      const more = new Float32Array(2 * this.count);
      more.set(this.kept);
      this.kept = more;
    }
    this.kept[this.count] = value;
    this.count += 1;
  }

  add(plane: Float32Array, frames: number): void {
    for (let from = 0; from < frames;) {
      const to = Math.min(frames, from + this.hop - this.filled);
      let sum = 0;
      for (let i = from; i < to; i++) sum += (plane[i] as number) ** 2;
      this.sum += sum;
      this.filled += to - from;
      from = to;
      if (this.filled < this.hop) continue;
      this.keep(Math.sqrt(this.sum / this.hop));
      this.sum = this.filled = 0;
    }
  }
}

/** One onset, and what is heard from it on. */
export interface Onset {
  /** to the sample */
  at: number;
  /** frame at which the piece begins */
  from: number;
  /** begins a millisecond ahead of it */
  piece: Float32Array;
}

/** A little of a channel about an onset, and where it begins. */
interface Around {
  from: number;
  samples: Float32Array;
}

/** So much about an onset's step is needed of a channel. */
function reach(sampleRateHz: number): { hop: number; ahead: number; window: number } {
  return {
    hop: Math.max(1, Math.round(sampleRateHz * STEP_S)),
    ahead: Math.round(AHEAD_S * sampleRateHz),
    window: Math.round(WINDOW_S * sampleRateHz),
  };
}

/** To the sample: the first that reaches a tenth of what follows. */
function exactly({ from, samples }: Around, step: number, sampleRateHz: number): Onset {
  const { hop, ahead, window } = reach(sampleRateHz);
  const first = Math.max(0, step - hop - from);
  const stretch = samples.subarray(first, Math.max(first, step + 2 * hop - from));
  const top = stretch.reduce((most, value) => Math.max(most, Math.abs(value)), 0);
  const found = stretch.findIndex((value) => Math.abs(value) >= top * LOUD);
  const at = from + first + Math.max(0, found);
  const begins = Math.max(from, at - ahead);
  return { at, from: begins, piece: samples.slice(begins - from, begins - from + window) };
}

/** @returns frames that are needed of a channel about a step, from and to */
function rangeOf(step: number, sampleRateHz: number): [number, number] {
  const { hop, ahead, window } = reach(sampleRateHz);
  return [Math.max(0, step - hop - ahead), step + 2 * hop + window];
}

/** Each onset of the first aligned on its own with that of the second next to it. */
function compared(
  first: readonly Onset[],
  second: readonly Onset[],
  sampleRateHz: number,
  mostMs: number,
  engine: SpectraEngine,
): OnsetDelay {
  const most = (mostMs / 1000) * sampleRateHz;
  const found = first.flatMap((onset) => {
    const near = second.filter(({ at }) => Math.abs(at - onset.at) <= most);
    const [other] = near.sort((a, b) => Math.abs(a.at - onset.at) - Math.abs(b.at - onset.at));
    if (other === undefined) return [];
    const length = Math.min(onset.piece.length, other.piece.length);
    const fine = delayBetween(
      onset.piece.subarray(0, length),
      other.piece.subarray(0, length),
      sampleRateHz,
      1,
      false,
      engine,
    );
    if (fine?.delayMs == null) return [];
    const shift = other.from - onset.from;
    return [{ delayMs: (shift / sampleRateHz) * 1000 + fine.delayMs, levelDb: fine.levelDb }];
  });
  const delays = found.map(({ delayMs }) => delayMs);
  const [low = 0, median = 0, high = 0] = [0.1, 0.5, 0.9].map((p) => quantile(delays, p) ?? 0);
  const spreadMs = high - low;
  const uncertain =
    delays.length < FEWEST
      ? `${delays.length} onsets were found in both; wanted: ${FEWEST} or more`
      : spreadMs > MOST_SPREAD_MS
        ? `the onsets differ by ${spreadMs.toFixed(2)} ms; allowed: ${MOST_SPREAD_MS} ms`
        : null;
  return {
    delayMs: uncertain === null ? median : null,
    levelDb: uncertain === null ? (quantile(found, 0.5, ({ levelDb }) => levelDb) ?? null) : null,
    spreadMs,
    onsets: delays.length,
    uncertain,
  };
}

function onsetsIn(samples: Float32Array, sampleRateHz: number): Onset[] {
  const meter = new OnsetMeter(1, sampleRateHz);
  meter.add([samples], samples.length);
  const [steps = []] = meter.result();
  return steps.map((step) => {
    const [from, to] = rangeOf(step, sampleRateHz);
    return exactly({ from, samples: samples.subarray(from, to) }, step, sampleRateHz);
  });
}

/**
 * Delay of claps or of music: each onset aligned on its own in both channels and compared before the
 * first reflections; the median over all of them.
 * @param mostMs the largest delay looked for, 0.1 … 2000 ms
 */
export function onsetDelay(
  first: Float32Array,
  second: Float32Array,
  sampleRateHz: number,
  mostMs = 50,
): OnsetDelay {
  const [one, two] = [onsetsIn(first, sampleRateHz), onsetsIn(second, sampleRateHz)];
  return compared(one, two, sampleRateHz, mostMs, plainEngine);
}

/** Which channels are compared at their onsets, and how. */
export interface OnsetsWanted {
  /** first frame of the stretch, to which the steps are counted */
  from: number;
  /** what sets in where, by channel */
  steps: readonly (readonly number[])[];
  against: number;
  mostMs: number;
  engine: SpectraEngine;
}

/** Reads on rather than jumping where the next piece is as near as this, frames. */
const NEAR = 32_768;

/** Pieces of so many channels are held at once. */
const TOGETHER = 16;

/**
 * Every channel against one of them at the onsets that were found in a first pass: only the pieces
 * about them are read again, of a few channels at a time.
 * @returns one entry a channel; null for the one that is measured against
 */
export async function onsetDelays(
  sound: Sound,
  wanted: OnsetsWanted,
  work: Partial<Work> = {},
): Promise<(OnsetDelay | null)[]> {
  const { steps, against, mostMs, engine } = wanted;
  const { sampleRateHz } = sound.info.format;
  const first = (await onsetsAt(sound, wanted, [against], work)).get(against) ?? [];
  const found: (OnsetDelay | null)[] = [];
  while (found.length < steps.length) {
    const some = Array.from(
      { length: Math.min(TOGETHER, steps.length - found.length) },
      (_, i) => found.length + i,
    ).filter((channel) => channel !== against);
    const onsets = await onsetsAt(sound, wanted, some, work);
    for (const channel of some) {
      if (channel > against && found.length === against) found.push(null);
      found.push(compared(first, onsets.get(channel) ?? [], sampleRateHz, mostMs, engine));
      await stepDone(work);
    }
    if (found.length === against) found.push(null);
  }
  return found;
}

/**
 * Onsets of some channels, to the sample, with the pieces about them.
 * @param wanted the steps that an OnsetMeter found from the first frame of the stretch on
 * @param only channels, from 0
 */
export async function onsetsAt(
  sound: Sound,
  { from, steps }: Pick<OnsetsWanted, 'from' | 'steps'>,
  only: readonly number[],
  work: Partial<Work>,
): Promise<Map<number, Onset[]>> {
  const { sampleRateHz } = sound.info.format;
  const pieces = only.flatMap((channel) =>
    (steps[channel] ?? []).map((step) => {
      const [begin, end] = rangeOf(step, sampleRateHz);
      return { channel, step, begin, end };
    }),
  );
  pieces.sort((a, b) => a.begin - b.begin);
  const onsets = new Map(only.map((channel) => [channel, [] as Onset[]]));
  for (let i = 0; i < pieces.length;) {
    let last = i;
    let end = pieces[i]?.end ?? 0;
    while (last + 1 < pieces.length && (pieces[last + 1]?.begin ?? 0) - end < NEAR) {
      last += 1;
      end = Math.max(end, pieces[last]?.end ?? 0);
    }
    const group = pieces.slice(i, last + 1).map((piece) => ({
      ...piece,
      around: { from: piece.begin, samples: new Float32Array(piece.end - piece.begin) },
    }));
    const range = { from: from + (pieces[i]?.begin ?? 0), to: from + end, only };
    for await (const { position, frames, planes } of sound.blocks(range)) {
      for (const { channel, begin, around } of group) {
        const plane = planes[channel];
        const [start, to] = [
          Math.max(position, from + begin),
          Math.min(position + frames, from + begin + around.samples.length),
        ];
        if (!plane || to <= start) continue;
        around.samples.set(plane.subarray(start - position, to - position), start - from - begin);
      }
    }
    for (const { channel, around, step } of group) {
      onsets.get(channel)?.push(exactly(around, step, sampleRateHz));
    }
    i = last + 1;
    await stepDone(work);
  }
  return onsets;
}
