/** Left and right of something that goes round. */
export type Loop = readonly [left: Float32Array, right: Float32Array];

/** Values at the beginning and at the end of a stretch. */
export type Ends = readonly [from: number, to: number];

/** One block of what is heard, and where it is. */
export interface Stretch {
  /** added to: left and right */
  mixed: readonly [Float64Array, Float64Array];
  /** of its first sample, from the beginning of what is heard */
  frame: number;
  /** of its beginning, on the clock of the sound, and how long it is, s */
  timeS: number;
  seconds: number;
  /** what is moved stands for what is at rest */
  liveOnly: boolean;
}

/** One of the things that can be heard at the same place in turn. */
export interface Voice {
  /** what of it can be heard alone, in order */
  readonly ids: readonly string[];
  /** amplitude that makes it as loud as the others */
  trim: number;
  /** whether it can begin at a frame */
  ready(frame: number): boolean;
  /** whether so many frames from there can be heard without a gap */
  has(frame: number, frames: number): boolean;
  /**
   * Adds its next block.
   * @param fades of the whole
   * @param gains of what can be heard alone
   * @param powers of the same, added to: sums of squares of both channels
   */
  add(stretch: Stretch, fades: Ends, gains: readonly Ends[], powers: Float64Array): void;
}

/** A new trim is come to by this share of the way with every block. */
const LEVELS = 0.1;

/** A level on its way to its trim. */
export class Level {
  private now: number;

  constructor(trim: number) {
    this.now = trim;
  }

  /** @returns the level at both ends of the next block */
  next(trim: number): Ends {
    const before = this.now;
    this.now += (trim - before) * LEVELS;
    return [before, this.now];
  }
}
