import { median } from 'd3-array';
import type { Planes } from '../wav/decode';

/** Two tracks that are one and the same signal but for a gain. */
export interface SameSignal {
  first: number;
  second: number;
  /** of the second against the first, dB */
  gainDb: number;
  polarity: 1 | -1;
  /** what is left when one is taken from the other, against it, dB; −150 where nothing is */
  residualDb: number;
}

/** Below this two tracks are one signal; two capsules in one place do not come so near. */
const SAME_DB = -40;
const LEAST_DB = -150;
/** Of every block so many of its frames are compared where there are more pairs than that, and at least. */
const MOST_PAIRS = 100;
const SOME_FRAMES = 128;
const SILENT = 1e-18;

/** Energies and products of all pairs of channels, block by block. */
export class GramMeter {
  private readonly sums: Float64Array;
  private frames = 0;

  /** @param channels 1 … 64 */
  constructor(private readonly channels: number) {
    this.sums = new Float64Array(channels * channels);
  }

  add(planes: Planes, frames: number): void {
    const pairs = (this.channels * (this.channels + 1)) / 2;
    const some = Math.ceil((frames * MOST_PAIRS) / pairs);
    const count = Math.min(frames, Math.max(SOME_FRAMES, some));
    this.frames += count;
    for (let a = 0; a < this.channels; a++) {
      for (let b = a; b < this.channels; b++) {
        const [first, second] = [planes[a], planes[b]];
        if (!first || !second) continue;
        let sum = 0;
        for (let i = 0; i < count; i++) sum += (first[i] as number) * (second[i] as number);
        const at = a * this.channels + b;
        this.sums[at] = (this.sums[at] ?? 0) + sum;
      }
    }
  }

  private sum(a: number, b: number): number {
    return this.sums[a * this.channels + b] ?? 0;
  }

  /** Likeness of every two channels, −1 … 1; null where one is silent. */
  correlations(): { first: number; second: number; value: number | null }[] {
    const all = Array.from({ length: this.channels }, (_, c) => c);
    const least = SILENT * Math.max(1, this.frames);
    return all.flatMap((first) =>
      all.slice(first + 1).map((second) => {
        const [xx, yy] = [this.sum(first, first), this.sum(second, second)];
        const heard = xx > least && yy > least;
        return {
          first,
          second,
          value: heard ? this.sum(first, second) / Math.sqrt(xx * yy) : null,
        };
      }),
    );
  }

  result(): { same: SameSignal[]; silent: number[] } {
    const all = Array.from({ length: this.channels }, (_, c) => c);
    const heard = all.filter((c) => this.sum(c, c) > SILENT * Math.max(1, this.frames));
    const same: SameSignal[] = [];
    for (const first of heard) {
      for (const second of heard.filter((c) => c > first)) {
        const [xx, yy, xy] = [
          this.sum(first, first),
          this.sum(second, second),
          this.sum(first, second),
        ];
        const left = Math.max(0, 1 - (xy * xy) / (xx * yy));
        const residualDb = Math.max(LEAST_DB, 10 * Math.log10(left));
        if (!(residualDb <= SAME_DB)) continue;
        same.push({
          first,
          second,
          gainDb: 10 * Math.log10(yy / xx),
          polarity: xy < 0 ? -1 : 1,
          residualDb,
        });
      }
    }
    return { same, silent: all.filter((c) => !heard.includes(c)) };
  }
}

/** One tap, and where it is heard. */
export interface Tap {
  /** s from the beginning of what was looked at */
  atS: number;
  channel: number;
  /** above the next loudest channel, dB */
  clearDb: number;
}

/** What a tap test says of the patching. */
export interface TapTest {
  taps: Tap[];
  verdict: 'as announced' | 'other order' | 'uncertain';
  /** channels that are not where they were announced */
  wrong: { announced: number; heard: number }[];
  /** why nothing can be said; empty where something can */
  uncertain: string;
}

const HOP_S = 0.005;
/** A tap rises by this above its channel's own level, dB. */
const RISES_DB = 20;
/** It is one microphone's where no other rises to within this, dB; a voice is heard by all. */
const CLEAR_DB = 6;
const APART_S = 0.15;

/** Levels of all channels in steps of 5 ms, block by block: all that a tap test needs of a recording. */
export class TapMeter {
  private readonly hop: number;
  private readonly levels: number[][];
  private readonly sums: Float64Array;
  private filled = 0;

  /**
   * @param channels 1 … 64
   * @param sampleRateHz 8000 … 384000 Hz
   */
  constructor(
    channels: number,
    private readonly sampleRateHz: number,
  ) {
    this.hop = Math.max(1, Math.round(HOP_S * sampleRateHz));
    this.levels = Array.from({ length: channels }, () => []);
    this.sums = new Float64Array(channels);
  }

  add(planes: Planes, frames: number): void {
    for (let from = 0; from < frames;) {
      const to = Math.min(frames, from + this.hop - this.filled);
      planes.forEach((plane, c) => {
        let sum = 0;
        for (let i = from; i < to; i++) sum += (plane[i] as number) ** 2;
        this.sums[c] = (this.sums[c] ?? 0) + sum;
      });
      this.filled += to - from;
      from = to;
      if (this.filled < this.hop) continue;
      this.levels.forEach((list, c) =>
        list.push(10 * Math.log10((this.sums[c] ?? 0) / this.hop + 1e-12)),
      );
      this.sums.fill(0);
      this.filled = 0;
    }
  }

  /** Taps by microphone: what rises in one channel far above its own level and above all others. */
  private taps(): Tap[] {
    const rises = this.levels.map((list) => {
      const usual = median(list) ?? 0;
      return list.map((level) => level - usual);
    });
    const taps: Tap[] = [];
    let last = -Infinity;
    for (let j = 0; j < (rises[0]?.length ?? 0); j++) {
      const order = rises
        .map((rise, channel) => ({ channel, rise: rise[j] ?? 0 }))
        .sort((a, b) => b.rise - a.rise);
      const [top, next] = order;
      const clearDb = (top?.rise ?? 0) - (next?.rise ?? 0);
      if (!top || top.rise < RISES_DB || clearDb < CLEAR_DB) continue;
      const atS = (j * this.hop) / this.sampleRateHz;
      const before = taps[taps.length - 1];
      // Taps come in twos and threes, and ring.
      const again = before?.channel === top.channel;
      if (!again && atS - last < APART_S) continue;
      last = atS;
      if (again) before.clearDb = Math.max(before.clearDb, clearDb);
      else taps.push({ atS, channel: top.channel, clearDb });
    }
    return taps;
  }

  /**
   * Which microphone every tap of an announced test was heard on. Gains may differ; voices are left
   * out, as all channels hear them.
   * @param announced channels from 0 in the order in which they were announced
   */
  result(announced: readonly number[]): TapTest {
    const taps = this.taps();
    if (taps.length !== announced.length) {
      const uncertain = `${taps.length} microphones were heard tapped; announced: ${announced.length}`;
      return { taps, verdict: 'uncertain', wrong: [], uncertain };
    }
    const wrong = taps.flatMap(({ channel }, i) =>
      channel === announced[i] ? [] : [{ announced: announced[i] ?? 0, heard: channel }],
    );
    const verdict = wrong.length === 0 ? 'as announced' : 'other order';
    return { taps, verdict, wrong, uncertain: '' };
  }
}

/** Which of two channels a sound from one side reaches first, and louder. */
export interface SideHeard {
  /** the channel that is nearer to it: 0 the first, 1 the second; null where that cannot be told */
  nearer: 0 | 1 | null;
  uncertain: string;
}

const LEAST_LATE_MS = 0.05;
const LEAST_LOUDER_DB = 1.5;

/**
 * The side of a pair that a sound came from, by the delay and level of its onsets: for finding left and
 * right swapped with a sound whose side is known.
 * @param delayMs of the second against the first, null where it cannot be told
 * @param levelDb of the second against the first
 */
export function sideHeard(delayMs: number | null, levelDb: number | null): SideHeard {
  const byTime = Math.abs(delayMs ?? 0) < LEAST_LATE_MS ? 0 : Math.sign(-(delayMs ?? 0));
  const byLevel = Math.abs(levelDb ?? 0) < LEAST_LOUDER_DB ? 0 : Math.sign(levelDb ?? 0);
  const unknown = (uncertain: string): SideHeard => ({ nearer: null, uncertain });
  if (byTime === 0 && byLevel === 0) {
    return unknown(
      `neither channel is earlier by ${LEAST_LATE_MS} ms nor louder by ${LEAST_LOUDER_DB} dB`,
    );
  }
  if (byTime * byLevel < 0) return unknown('one channel is earlier, the other louder');
  return { nearer: byTime + byLevel > 0 ? 1 : 0, uncertain: '' };
}
