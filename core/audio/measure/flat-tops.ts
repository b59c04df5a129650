import { STRETCH } from './true-peak';

/** Waves cut off at one level below full scale: clipped before, and turned down since. */
export interface FlatTops {
  /** where they are cut off, dBFS */
  levelDb: number;
  /** crests that are flat there */
  crests: number;
  /** the first of them, s from the beginning */
  firstAtS: number;
}

/** A crest is flat where so many samples in a row differ by no more than a step, or so much of it. */
const LEAST_SAMPLES = 4;
const REST = LEAST_SAMPLES - 1;
const SAME = 2e-5;
/** It is cut off where the samples beside it lie lower by so many times as much: a round one bends less. */
const CORNER = 8;
/** So many crests at one level are no chance. */
const LEAST_CRESTS = 5;
/** Levels are told apart to a twentieth of a decibel. */
const PER_DB = 20;
/** Only what comes near the largest sample is looked at. */
const NEAR = 0.5;

/** Flat crests of one channel, across blocks. */
export class FlatTopFinder {
  private readonly crests = new Map<number, { count: number; first: number }>();
  private run = 0;
  private level = 0;
  private from = 0;
  /** the sample before the run, and the last one of all */
  private before = 0;
  private last = 0;

  /**
   * @param limit full scale: what reaches it is a clip
   * @param step of the samples, of full scale
   */
  constructor(
    private readonly limit: number,
    private readonly step: number,
    private readonly sampleRateHz: number,
  ) {}

  /**
   * @param position of the block's first frame
   * @param tops largest sample of every stretch of it
   * @param peak largest sample of all so far
   */
  add(
    samples: Float32Array,
    frames: number,
    position: number,
    tops: Float32Array,
    peak: number,
  ): void {
    const count = Math.ceil(frames / STRETCH);
    for (let j = 0; j < count; j++) {
      const first = j;
      if (peak > 0) while (j < count && (tops[j] as number) >= NEAR * peak) j += 1;
      if (j > first) {
        this.look(samples, first * STRETCH, Math.min(frames, j * STRETCH), position, NEAR * peak);
        if (j === count) break;
      }
      this.run = 0;
      this.last = samples[Math.min(frames, (j + 1) * STRETCH) - 1] as number;
    }
    this.last = samples[frames - 1] as number;
  }

  private look(
    samples: Float32Array,
    from: number,
    to: number,
    position: number,
    least: number,
  ): void {
    const { limit } = this;
    const steps = 1.5 * this.step;
    let { run, level } = this;
    let same = Math.max(steps, SAME * Math.abs(level));
    for (let i = from; i < to; i++) {
      if (run === 0) {
        // A crest from here on has its fourth sample there: where that is none of it, it begins behind.
        for (let ahead = i + REST; ahead < to; ahead = i + REST) {
          const there = samples[ahead] as number;
          const size = there < 0 ? -there : there;
          if (size < least || size >= limit) i = ahead + 1;
          else {
            const away = there - (samples[ahead - 1] as number);
            const apart = 2.01 * (steps > SAME * size ? steps : SAME * size);
            if (away <= apart && away >= -apart) break;
            i = ahead;
          }
        }
        if (i >= to) break;
      }
      const value = samples[i] as number;
      if (run > 0) {
        const away = value - level;
        if (away <= same && away >= -same) {
          run += 1;
          continue;
        }
        if (run >= LEAST_SAMPLES) {
          this.level = level;
          this.end(value, same);
        }
        run = 0;
      }
      const size = value < 0 ? -value : value;
      // What reaches full scale is a clip, and no flat crest below it.
      if (size < least || size >= limit) continue;
      run = 1;
      level = value;
      same = Math.max(steps, SAME * size);
      this.from = position + i;
      this.before = i > from ? (samples[i - 1] as number) : this.last;
    }
    this.run = run;
    this.level = level;
  }

  private end(after: number, same: number): void {
    const size = Math.abs(this.level);
    const sign = Math.sign(this.level);
    const lower = (value: number): boolean => sign * value < size - CORNER * same;
    if (!lower(this.before) || !lower(after)) return;
    const place = Math.round(20 * Math.log10(size) * PER_DB);
    const known = this.crests.get(place);
    if (known) known.count += 1;
    else this.crests.set(place, { count: 1, first: this.from });
  }

  /** @returns the level with most flat crests; null where they are too few */
  result(): FlatTops | null {
    let best: FlatTops | null = null;
    for (const [place, { count, first }] of this.crests) {
      const beside = this.crests.get(place + 1);
      const crests = count + (beside?.count ?? 0);
      if (crests < LEAST_CRESTS || crests <= (best?.crests ?? 0)) continue;
      const firstAtS = Math.min(first, beside?.first ?? first) / this.sampleRateHz;
      best = { levelDb: place / PER_DB, crests, firstAtS };
    }
    return best;
  }
}
