import { HeadFilter } from './head-filter';
import { Ramp } from './ramp';
import type { Ends } from './voice';

/** How the whole is heard. */
export interface Hearing {
  /** amplitude of the whole, 0 … 1 */
  volume: number;
  mono: boolean;
  swap: boolean;
  /** 20 dB less, while somebody talks */
  dim: boolean;
  /** on headphones as from two loudspeakers: what reaches the near ear and the far one; null straight */
  head: readonly [near: Float32Array, far: Float32Array] | null;
}

const DIM = 0.1;
/** A gain goes to another in this time, s. */
const GAIN_S = 0.02;

/** Mono, sides changed, softer, through the head: each of them comes and goes gradually. */
export class Listener {
  hearing: Hearing = { volume: 0, mono: false, swap: false, dim: false, head: null };
  private readonly volume = new Ramp(0);
  private readonly mono = new Ramp(0);
  private readonly swap = new Ramp(0);
  private readonly head = new Ramp(0);
  private headFilters: HeadFilter | null = null;

  /** @param block frames that are made at a time */
  constructor(private readonly block: number) {}

  hear(hearing: Hearing): void {
    if (hearing.head && !this.headFilters) {
      this.headFilters = new HeadFilter(hearing.head, this.block);
    }
    this.hearing = hearing;
  }

  /** Changes a block in place. @param play, place further fades of the whole */
  listen(
    [left, right]: readonly [Float64Array, Float64Array],
    seconds: number,
    play: Ends,
    place: Ends,
  ): void {
    const { mono, swap, dim, head, volume } = this.hearing;
    const most = seconds / GAIN_S;
    const both = this.mono.next(mono ? 1 : 0, most);
    const other = this.swap.next(swap ? 1 : 0, most);
    const loud = this.volume.next(volume * (dim ? DIM : 1), most);
    for (let i = 0; i < this.block; i++) {
      const share = i / this.block;
      const m = both[0] + share * (both[1] - both[0]);
      const s = other[0] + share * (other[1] - other[0]);
      const gain =
        (loud[0] + share * (loud[1] - loud[0])) *
        (play[0] + share * (play[1] - play[0])) *
        (place[0] + share * (place[1] - place[0]));
      const [l, r] = [left[i] as number, right[i] as number];
      const [x, y] = [l + s * (r - l), r + s * (l - r)];
      const middle = (x + y) / 2;
      left[i] = gain * (x + m * (middle - x));
      right[i] = gain * (y + m * (middle - y));
    }
    const through = this.head.next(head ? 1 : 0, most);
    if (this.headFilters && (through[0] > 0 || through[1] > 0)) {
      this.headFilters.blend(left, right, through);
    }
  }
}
