import { quantileSorted } from 'd3-array';
import type { Planes } from '../wav/decode';
import { speakersOf, type Speaker } from '../wav/format';
import { KWeighted } from './k-weighting';

/** Loudness of a whole take and of its loudest moments. */
export interface Loudness {
  /** LUFS; null where nothing is above the absolute gate */
  integrated: number | null;
  /** loudest 3 s and loudest 0.4 s, LUFS; null where the take is shorter */
  shortTermMax: number | null;
  momentaryMax: number | null;
  /** loudness range, LU; null below 3 s */
  range: number | null;
}

/** Gated means go by steps of 0.1 s; the loudest moment is looked for ten times as finely. */
const FINE_S = 0.01;
const FINE = 10;
const MOMENT = 4;
const SHORT = 30;
const ABSOLUTE = -70;
const RELATIVE = -10;
const RANGE_RELATIVE = -20;

const lufs = (meanSquare: number): number => -0.691 + 10 * Math.log10(meanSquare);
const curvePoint = (meanSquare: number): number =>
  Math.max(-120, lufs(Math.max(meanSquare, 1e-12)));
const power = (loudness: number): number => 10 ** ((loudness + 0.691) / 10);

/** Weight of a channel by its name: surrounds count more, the low effects not at all. */
export function channelWeight(name: string): number {
  if (/^LFE\d?$/i.test(name)) return 0;
  return /^(Ls|Rs|Lss|Rss|Lb|Rb)$/i.test(name) ? 1.41 : 1;
}

/**
 * Weight of a channel by its loudspeaker: those beside the listener count more, the low effects not at all.
 * @param all speakers of the layout: behind the listener are its back ones only beside others at the sides
 */
function speakerWeight(speaker: Speaker | null, all: readonly (Speaker | null)[]): number {
  if (speaker === 'LFE') return 0;
  if (speaker === 'Lss' || speaker === 'Rss') return 1.41;
  const behind = all.includes('Lss') || all.includes('Rss');
  return (speaker === 'Lrs' || speaker === 'Rrs') && !behind ? 1.41 : 1;
}

/**
 * Weights of the channels of a recording: by their names, else by the loudspeakers that its mask has.
 * @param mask of an extensible format; null where there is none
 */
export function channelWeights(names: readonly string[], mask: number | null): number[] {
  const speakers = speakersOf(mask ?? 0, names.length);
  return names.map((name, c) =>
    name.trim() === '' ? speakerWeight(speakers[c] ?? null, speakers) : channelWeight(name),
  );
}

/**
 * Loudness by gated means over 0.4 s, block by block.
 * Source: ITU-R BS.1770-4 (K weighting, gates), EBU Tech 3342 (range).
 */
export class LoudnessMeter {
  private readonly filters: KWeighted[];
  private readonly hop: number;
  /** mean squares of steps of 0.01 s */
  private readonly fine: number[] = [];
  private filled = 0;
  private energy = 0;

  /**
   * @param weights of each channel, 1 for front ones
   * @param sampleRateHz 8000 Hz and more
   */
  constructor(
    private readonly weights: readonly number[],
    sampleRateHz: number,
  ) {
    this.filters = weights.map(() => new KWeighted(sampleRateHz));
    this.hop = Math.round(sampleRateHz * FINE_S);
  }

  add(planes: Planes, frames: number): void {
    for (let from = 0; from < frames;) {
      const to = Math.min(frames, from + this.hop - this.filled);
      this.energy += this.weighted(planes, from, to);
      this.filled += to - from;
      from = to;
      if (this.filled < this.hop) continue;
      this.fine.push(this.energy / this.hop);
      this.filled = 0;
      this.energy = 0;
    }
  }

  /** Energy of all channels over a stretch, two of them at a time. */
  private weighted(planes: Planes, from: number, to: number): number {
    let energy = 0;
    for (let c = 0; c < this.filters.length; c += 2) {
      const [filter, other] = [this.filters[c], this.filters[c + 1]];
      const [plane, next] = [planes[c], planes[c + 1]];
      const [weight, second] = [this.weights[c] ?? 0, this.weights[c + 1] ?? 0];
      if (filter && other && plane && next) {
        const [one, two] = filter.energies(other, plane, next, from, to);
        energy += weight * one + second * two;
      } else if (filter && plane) energy += weight * filter.energy(plane, from, to);
    }
    return energy;
  }

  /** Mean squares over so many steps of 0.1 s, one for each step. */
  private over(count: number): number[] {
    const hops = Array.from({ length: Math.floor(this.fine.length / FINE) }, (_, i) => {
      let sum = 0;
      for (let j = i * FINE; j < (i + 1) * FINE; j++) sum += this.fine[j] as number;
      return sum / FINE;
    });
    return runningMeans(hops, count);
  }

  /** Loudness over 3 s at every 0.1 s, LUFS; for a curve over time. */
  shortTerm(): number[] {
    return this.over(SHORT).map(curvePoint);
  }

  /** Loudness over 0.4 s at every 0.1 s, LUFS; for a curve over time. */
  momentary(): number[] {
    return this.over(MOMENT).map(curvePoint);
  }

  result(): Loudness {
    const moments = this.over(MOMENT);
    const shorts = this.over(SHORT);
    const most = (list: readonly number[]): number | null => {
      const top = list.reduce((best, value) => Math.max(best, value), 0);
      return top > 0 ? lufs(top) : null;
    };
    const gated = moments.filter((value) => value > power(ABSOLUTE));
    const gate = Math.max(power(ABSOLUTE), mean(gated) * 10 ** (RELATIVE / 10));
    const above = gated.filter((value) => value > gate);
    return {
      integrated: above.length > 0 ? lufs(mean(above)) : null,
      shortTermMax: most(runningMeans(this.fine, SHORT * FINE)),
      momentaryMax: most(runningMeans(this.fine, MOMENT * FINE)),
      range: rangeOf(shorts),
    };
  }
}

/** Means over so many values, one for each place where there are as many. */
function runningMeans(values: readonly number[], count: number): number[] {
  const means: number[] = [];
  let sum = 0;
  values.forEach((value, i) => {
    sum += value;
    if (i >= count) sum -= values[i - count] ?? 0;
    if (i >= count - 1) means.push(Math.max(0, sum) / count);
  });
  return means;
}

const mean = (values: readonly number[]): number =>
  values.length === 0 ? 0 : values.reduce((total, value) => total + value, 0) / values.length;

function rangeOf(shorts: readonly number[]): number | null {
  const gated = shorts.filter((value) => value > power(ABSOLUTE));
  if (gated.length === 0) return null;
  const gate = mean(gated) * 10 ** (RANGE_RELATIVE / 10);
  const levels = gated
    .filter((value) => value > gate)
    .map(lufs)
    .sort((a, b) => a - b);
  const [low, high] = [quantileSorted(levels, 0.1), quantileSorted(levels, 0.95)];
  return low === undefined || high === undefined ? null : high - low;
}
