import type { Sound } from '../sound';
import { planesFor, type Planes } from '../wav/decode';
import type { Block } from '../wav/reader';

/** A recording read on and on through a window that may lie beyond its ends: what is not there is silence. */
export class Sliding {
  private readonly blocks: AsyncGenerator<Block, void, undefined>;
  private held: Planes;
  /** frames from the beginning at which what is held begins, and how many there are */
  private from: number;
  private filled = 0;
  private ended = false;

  /** @param from, to frames that will be asked for, in rising order; they may be beyond the ends */
  constructor(sound: Sound, from: number, to: number) {
    const { format, frames } = sound.info;
    const first = Math.min(frames, Math.max(0, from));
    this.blocks = sound.blocks({ from: first, to: Math.max(first, Math.min(frames, to)) });
    this.held = planesFor(format.channels, 1);
    this.from = first;
  }

  /**
   * @param from not less than in the call before
   * @returns one plane a channel, from exactly there on, until the next call
   */
  async window(from: number, frames: number): Promise<Planes> {
    const keep = Math.min(this.filled, Math.max(0, from - this.from));
    if (keep > 0) {
      for (const plane of this.held) plane.copyWithin(0, keep, this.filled);
      this.from += keep;
      this.filled -= keep;
    }
    while (!this.ended && this.from + this.filled < from + frames) await this.more(from);
    const out = planesFor(this.held.length, frames);
    const [begin, end] = [
      Math.max(from, this.from),
      Math.min(from + frames, this.from + this.filled),
    ];
    if (end > begin) {
      out.forEach((plane, c) => {
        const piece = this.held[c]?.subarray(begin - this.from, end - this.from);
        if (piece) plane.set(piece, begin - from);
      });
    }
    return out;
  }

  /** Takes the next block; what lies before a place is not kept. */
  private async more(least: number): Promise<void> {
    const next = await this.blocks.next();
    if (next.done) {
      this.ended = true;
      return;
    }
    const { planes, frames, position } = next.value;
    if (position + frames <= least) {
      this.from = position + frames;
      this.filled = 0;
      return;
    }
    const needed = this.filled + frames;
    if ((this.held[0]?.length ?? 0) < needed) {
      this.held = this.held.map((plane) => {
        const room = new Float32Array(2 * needed);
        room.set(plane.subarray(0, this.filled));
        return room;
      });
    }
    this.held.forEach((plane, c) => {
      const piece = planes[c]?.subarray(0, frames);
      if (piece) plane.set(piece, this.filled);
    });
    this.filled = needed;
  }

  async close(): Promise<void> {
    await this.blocks.return(undefined);
  }
}
