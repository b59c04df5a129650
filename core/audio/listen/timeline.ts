import { Ramp } from './ramp';
import type { Ends } from './voice';

/** A shorter range is none, s. */
const SHORTEST_RANGE_S = 0.05;
/** Before another place is gone to, and after it, s. */
const SEEK_S = 0.008;

/** The one place at which everything is heard, and how it goes on from there. */
export class Timeline {
  /** frames from the beginning */
  frame = 0;
  private range: readonly [from: number, to: number];
  /** where to go once it has faded */
  private pending: number | null = null;
  /** what is to be heard next is not there yet */
  private held = false;
  private readonly fade = new Ramp(1);

  /**
   * @param length frames
   * @param round what is heard goes round by itself, without a gap
   */
  constructor(
    private length: number,
    private round: boolean,
    private readonly sampleRateHz: number,
    private readonly block: number,
  ) {
    this.range = [0, length];
  }

  private get whole(): boolean {
    return this.range[0] === 0 && this.range[1] === this.length;
  }

  /** So many frames before another place is gone to it begins to fade. */
  get ahead(): number {
    return this.block * Math.ceil((SEEK_S * this.sampleRateHz) / this.block + 1);
  }

  /** Another length: all of it, and the place is kept where it still is one. */
  setLength(length: number, round: boolean): void {
    if (length === this.length && round === this.round) return;
    [this.length, this.round] = [length, round];
    this.range = [0, length];
    if (this.frame >= length) this.pending = 0;
  }

  /** @param silent whether nothing is heard that would have to fade */
  seek(frame: number, silent: boolean): void {
    this.pending = Math.min(this.length - 1, Math.max(0, Math.floor(frame)));
    if (silent) this.arrive();
  }

  /** Goes round between two frames only. */
  setRange(from: number, to: number): void {
    const [low, high] = [Math.min(from, to), Math.max(from, to)].map((frame) =>
      Math.min(this.length, Math.max(0, Math.round(frame))),
    ) as [number, number];
    // A range too short to be heard is none.
    const least = Math.ceil(SHORTEST_RANGE_S * this.sampleRateHz);
    this.range = high - low < least ? [0, this.length] : [low, high];
  }

  private arrive(): void {
    if (this.pending === null) return;
    this.frame = this.pending;
    this.pending = null;
  }

  /**
   * Whether another place is about to be gone to, or what comes next is waited for.
   * @param there whether what follows can be heard
   */
  private leaving(there: boolean): boolean {
    if (this.pending !== null || !there) return true;
    if (this.whole && this.round) return false;
    return this.frame + this.ahead >= this.range[1] || this.frame < this.range[0];
  }

  /** How loud the next block is: it fades before it goes elsewhere. */
  fades(there: boolean, seconds: number): Ends {
    const leaving = this.leaving(there);
    const fades = this.fade.next(leaving ? 0 : 1, seconds / SEEK_S);
    this.held = leaving && !there && this.fade.to === 0;
    return fades;
  }

  /**
   * A block on.
   * @returns whether the end has come of something that does not go round
   */
  goOn(): boolean {
    const [from, to] = this.range;
    const inside = this.frame >= from && this.frame < to;
    if (this.held && this.pending === null && inside) return false;
    this.frame += this.block;
    // A phrase goes round by itself; a part of it ends in a short silence.
    if (this.whole && this.round && this.frame >= to) this.frame -= to;
    if (this.fade.to > 0) return false;
    this.arrive();
    const ended = this.frame >= to && this.whole && !this.round;
    if (this.frame >= to || this.frame < from) this.frame = from;
    return ended;
  }

  /** The stretches that come within so many s, if nobody does anything. */
  coming(seconds: number): Ends[] {
    const [from, to] = this.range;
    const out: Ends[] = [];
    let left = Math.min(Math.ceil(seconds * this.sampleRateHz), to - from);
    let at = this.pending ?? this.frame;
    if (at >= to || at < from) at = from;
    while (left > 0) {
      const end = Math.min(to, at + left);
      out.push([at, end]);
      left -= end - at;
      if (this.whole && !this.round) break;
      at = from;
    }
    return out;
  }

  get state(): { frame: number; length: number; round: boolean; range: Ends } {
    const { frame, length, round, range } = this;
    return { frame: this.pending ?? frame, length, round, range };
  }
}
