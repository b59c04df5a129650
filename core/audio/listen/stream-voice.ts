import { inRange } from '../../units/guard';
import { Ramp } from './ramp';
import { Level, type Ends, type Stretch, type Voice } from './voice';

/** Frames that come at a time. */
export const STREAM_BLOCK = 8192;
/** So far ahead of what is heard everything is to be there, s; of what might be heard instead, so far. */
export const AHEAD_S = 2;
export const BESIDE_S = 0.7;
/** A gain of a channel goes to another in this time, s. */
const GAIN_S = 0.02;

/** How a channel is heard in both: signed amplitudes. */
export interface ChannelGains {
  left: number;
  right: number;
}

/** What a stream is. */
export interface StreamShape {
  /** by the names of its channels */
  ids: readonly string[];
  /** how each of them is heard at first */
  gains: readonly ChannelGains[];
  /** of the whole, at the rate of what is heard */
  frames: number;
}

interface Channel {
  left: Ramp;
  right: Ramp;
  goal: ChannelGains;
}

/**
 * A recording that comes in pieces while it is heard: only those around the place are held. Each of its
 * channels is heard at two gains of its own, so that what is mixed or decoded of them changes at once.
 */
export class StreamVoice implements Voice {
  readonly ids: readonly string[];
  readonly frames: number;
  private readonly blocks = new Map<number, readonly Float32Array[]>();
  private wanted: ReadonlySet<number> = new Set();
  private readonly channels: Channel[];
  private readonly level: Level;

  /** @throws RangeError where it has no channel, more than 64, or a gain that is none */
  constructor(
    { ids, gains, frames }: StreamShape,
    public trim: number,
  ) {
    inRange('channels', ids.length, 1, 64, '');
    this.ids = ids;
    this.frames = frames;
    this.level = new Level(trim);
    this.channels = ids.map((_, c) => {
      const goal = checked(gains[c] ?? { left: 0, right: 0 });
      return { left: new Ramp(goal.left), right: new Ramp(goal.right), goal };
    });
  }

  /** Other gains, channel by channel: they are come to gradually. */
  setGains(gains: readonly ChannelGains[]): void {
    this.channels.forEach((channel, c) => {
      const goal = gains[c];
      if (goal) channel.goal = checked(goal);
    });
  }

  /** How its channels are heard, or are about to be. */
  get gains(): ChannelGains[] {
    return this.channels.map(({ goal }) => goal);
  }

  /**
   * What is to be there, and nothing else is held any more.
   * @param blocks counted from the beginning
   * @returns those that are to come; null where nothing has changed
   */
  want(blocks: ReadonlySet<number>): number[] | null {
    const same =
      blocks.size === this.wanted.size && [...blocks].every((block) => this.wanted.has(block));
    if (same) return null;
    this.wanted = blocks;
    for (const block of this.blocks.keys()) if (!blocks.has(block)) this.blocks.delete(block);
    return [...blocks].filter((block) => !this.blocks.has(block));
  }

  /** A block has come: one plane a channel, STREAM_BLOCK frames of each. */
  feed(block: number, planes: readonly Float32Array[]): void {
    const whole = planes.length === this.ids.length;
    if (!whole || planes.some(({ length }) => length !== STREAM_BLOCK)) return;
    if (this.wanted.has(block)) this.blocks.set(block, planes);
  }

  ready(frame: number): boolean {
    return this.has(frame, 1);
  }

  has(frame: number, frames: number): boolean {
    const last = Math.min(this.frames, frame + frames) - 1;
    for (let block = blockOf(frame); block <= blockOf(last); block++) {
      if (!this.blocks.has(block)) return false;
    }
    return true;
  }

  add(stretch: Stretch, fades: Ends, gains: readonly Ends[], powers: Float64Array): void {
    const level = this.level.next(this.trim);
    const whole = [fades[0] * level[0], fades[1] * level[1]] as const;
    this.channels.forEach(({ left, right, goal }, c) => {
      const most = stretch.seconds / GAIN_S;
      const [toLeft, toRight] = [left.next(goal.left, most), right.next(goal.right, most)];
      const [from, to] = gains[c] ?? [1, 1];
      const both = [from * whole[0], to * whole[1]] as const;
      this.addChannel(stretch, c, scaled(toLeft, both), scaled(toRight, both), powers);
    });
  }

  private addChannel(
    { mixed: [left, right], frame }: Stretch,
    channel: number,
    toLeft: Ends,
    toRight: Ends,
    powers: Float64Array,
  ): void {
    const silent = [...toLeft, ...toRight].every((gain) => gain === 0);
    if (silent) return;
    const frames = left.length;
    const [leftStep, rightStep] = [
      (toLeft[1] - toLeft[0]) / frames,
      (toRight[1] - toRight[0]) / frames,
    ];
    let [l, r, power] = [toLeft[0], toRight[0], 0];
    for (let i = 0; i < frames;) {
      const block = blockOf(frame + i);
      const begin = frame + i - block * STREAM_BLOCK;
      const count = Math.min(frames - i, STREAM_BLOCK - begin);
      const plane = this.blocks.get(block)?.[channel];
      for (let k = 0; k < count; k++, i++) {
        const value = plane ? (plane[begin + k] as number) : 0;
        const [x, y] = [l * value, r * value];
        left[i] = (left[i] as number) + x;
        right[i] = (right[i] as number) + y;
        power += x * x + y * y;
        l += leftStep;
        r += rightStep;
      }
    }
    powers[channel] = (powers[channel] as number) + power;
  }
}

const blockOf = (frame: number): number => Math.floor(frame / STREAM_BLOCK);

const scaled = ([from, to]: Ends, by: Ends): Ends => [from * by[0], to * by[1]];

function checked({ left, right }: ChannelGains): ChannelGains {
  return {
    left: inRange('left', left, -100, 100, ''),
    right: inRange('right', right, -100, 100, ''),
  };
}
