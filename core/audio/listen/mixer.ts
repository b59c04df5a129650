import { Limiter } from './limiter';
import { Listener, type Hearing } from './listener';
import { LiveMix, type Thinned } from './live';
import { LoopVoice } from './loop-voice';
import type { Pose } from './pose';
import { Ramp } from './ramp';
import { StemGains } from './stem-gains';
import { AHEAD_S, BESIDE_S, STREAM_BLOCK, StreamVoice, type StreamShape } from './stream-voice';
import { Timeline } from './timeline';
import type { Ends, Loop, Stretch, Voice } from './voice';

export type { Hearing } from './listener';
export type { Loop } from './voice';
export { STREAM_BLOCK, type ChannelGains, type StreamShape } from './stream-voice';

/** What is told of the sound now and then. */
export interface Levels {
  /** frames from the beginning */
  position: number;
  takeId: string | null;
  /** highest sample of both channels since the last time, against full scale */
  peaks: [number, number];
  /** mean power of each stem, as heard, by its id */
  stems: Record<string, number>;
  /** least gain of the limiter since the last time, 0 … 1 */
  limited: number;
  /** times that something was to be heard and was not there */
  missing: number;
  thinned: Thinned;
  /** it has come to its end and stopped */
  ended: boolean;
}

/** Everything that makes another mixer sound the same. */
export interface MixerState {
  loops: {
    id: string;
    ids: readonly string[];
    trim: number;
    layers: { stem: number; name: string; loop: Loop }[];
    live: { loops: readonly Float32Array[]; stems: readonly number[]; pose: Pose } | null;
  }[];
  streams: { id: string; shape: StreamShape; trim: number }[];
  wanted: string | null;
  stems: ReadonlyMap<string, number>;
  hearing: Hearing;
  timeline: Timeline['state'];
  liveOnly: boolean;
  playing: boolean;
}

/** Takes change places in this time, and a gain goes to another, s. */
const SWITCH_S = 0.02;
const GAIN_S = 0.02;
/** A beginning comes in over this, an end goes over that, s. */
const BEGIN_S = 0.4;
const END_S = 0.05;

/**
 * How loud what leaves still is. What comes has the rest: takes of one performance are alike, so that
 * their amplitudes add, and one that changes place with itself is not heard to.
 */
const leaving = (share: number): number => Math.sin((share * Math.PI) / 2) ** 2;

/**
 * Everything that is heard, block by block: plans as loops and recordings in pieces, one of them at a
 * time and all at one place, what follows the hand, players alone or silent, and how the whole is
 * listened to. Nothing in it ever steps.
 */
export class ListenMixer {
  private readonly takes = new Map<string, Voice>();
  private active: string | null = null;
  private leaving: { id: string; left: number } | null = null;
  private wanted: string | null = null;
  private readonly stems = new StemGains();
  private readonly playRamp = new Ramp(0);
  private readonly listener: Listener;
  private readonly timeline: Timeline;
  private readonly limiter: Limiter;
  private readonly mixed: readonly [Float64Array, Float64Array];
  private playing = false;
  private liveOnly = false;
  private told: Levels;

  /**
   * @param loopFrames of one round of a plan
   * @param block frames that are made at a time
   */
  constructor(
    private readonly loopFrames: number,
    private readonly sampleRateHz: number,
    private readonly block: number,
  ) {
    this.timeline = new Timeline(loopFrames, true, sampleRateHz, block);
    this.listener = new Listener(block);
    this.limiter = new Limiter(block, sampleRateHz);
    this.mixed = [new Float64Array(block), new Float64Array(block)];
    this.told = this.nothing();
  }

  private nothing(): Levels {
    const active = this.active === null ? null : this.takes.get(this.active);
    return {
      position: this.timeline.frame,
      takeId: this.active,
      peaks: [0, 0],
      stems: {},
      limited: 1,
      missing: 0,
      thinned: (active instanceof LoopVoice && active.live?.thinned) || 'all',
      ended: false,
    };
  }

  /**
   * A plan as loops, empty at first.
   * @param stems their ids
   * @param trim amplitude that makes it as loud as the others
   */
  open(id: string, stems: readonly string[], trim: number): void {
    const known = this.takes.get(id);
    if (known?.ids.join('\n') === stems.join('\n')) known.trim = trim;
    else this.takes.set(id, new LoopVoice(stems, trim, this.loopFrames));
    this.keepStems();
  }

  /** A recording, that is asked for in pieces; known already, its gains and its trim change. */
  openStream(id: string, shape: StreamShape, trim: number): void {
    const known = this.takes.get(id);
    if (
      known instanceof StreamVoice &&
      known.frames === shape.frames &&
      known.ids.join('\n') === shape.ids.join('\n')
    ) {
      known.trim = trim;
      known.setGains(shape.gains);
    } else this.takes.set(id, new StreamVoice(shape, trim));
    this.keepStems();
  }

  close(id: string): void {
    this.takes.delete(id);
    if (this.active === id) this.active = null;
    this.keepStems();
  }

  private loopVoice(id: string): LoopVoice | null {
    const take = this.takes.get(id);
    return take instanceof LoopVoice ? take : null;
  }

  /** A layer of a stem; where there was one, it gives way. */
  fill(id: string, stem: number, name: string, loop: Loop): void {
    this.loopVoice(id)?.fill(stem, name, loop, id === this.active);
  }

  /** A piece of a recording has come: STREAM_BLOCK frames of each of its channels. */
  feed(id: string, block: number, planes: readonly Float32Array[]): void {
    const take = this.takes.get(id);
    if (take instanceof StreamVoice) take.feed(block, planes);
  }

  /** Pieces that are wanted next, nearest first, of the recordings of which other ones are than before. */
  wants(): { id: string; blocks: number[] }[] {
    const out: { id: string; blocks: number[] }[] = [];
    for (const [id, take] of this.takes) {
      if (!(take instanceof StreamVoice)) continue;
      const near = id === this.active || id === this.wanted;
      const blocks = new Set<number>();
      for (const [from, to] of this.timeline.coming(near ? AHEAD_S : BESIDE_S)) {
        const last = Math.floor((Math.min(to, take.frames) - 1) / STREAM_BLOCK);
        for (let block = Math.floor(from / STREAM_BLOCK); block <= last; block++) blocks.add(block);
      }
      const missing = take.want(blocks);
      if (missing) out.push({ id, blocks: missing });
    }
    return out;
  }

  /** What follows the hand of a take; null where nothing does. */
  setLive(id: string, mix: LiveMix | null): void {
    const take = this.loopVoice(id);
    if (take) take.live = mix;
  }

  /** @returns whether the take could take the pose */
  move(id: string, pose: Pose, timeS: number): boolean {
    return this.loopVoice(id)?.live?.move(pose, timeS) ?? false;
  }

  thin(thinned: Thinned): void {
    for (const take of this.takes.values()) {
      if (take instanceof LoopVoice && take.live) take.live.thinned = thinned;
    }
  }

  /** The live sound stands for the near layer while something is dragged, or not at all. */
  setLiveOnly(liveOnly: boolean): void {
    this.liveOnly = liveOnly;
  }

  choose(id: string): void {
    this.wanted = id;
  }

  /** @param gains of every stem by its id, 0 … 1; one that is not named keeps what it has */
  setStems(gains: ReadonlyMap<string, number>): void {
    this.stems.set(gains);
  }

  private keepStems(): void {
    this.stems.keep(new Set([...this.takes.values()].flatMap(({ ids }) => ids)));
  }

  hear(hearing: Hearing): void {
    this.listener.hear(hearing);
  }

  play(playing: boolean): void {
    this.playing = playing;
  }

  /**
   * How long it is that is heard.
   * @param round it goes round without a gap; else it stops at its end
   */
  setLength(frames: number, round: boolean): void {
    this.timeline.setLength(frames, round);
  }

  /** Goes to a frame: what is heard fades for a moment, so that nothing steps. */
  seek(frame: number): void {
    this.timeline.seek(frame, this.silent);
  }

  /** Goes round between two frames only. */
  setRange(from: number, to: number): void {
    this.timeline.setRange(from, to);
  }

  /** What happened since the last time. */
  levels(): Levels {
    const told = { ...this.told, position: this.timeline.frame, takeId: this.active };
    this.told = this.nothing();
    return told;
  }

  private get silent(): boolean {
    return !this.playing && this.playRamp.to === 0;
  }

  /** What makes another mixer sound the same; this one is not to be used any more. */
  state(): MixerState {
    const state: MixerState = {
      loops: [],
      streams: [],
      wanted: this.wanted,
      stems: this.stems.wanted,
      hearing: this.listener.hearing,
      timeline: this.timeline.state,
      liveOnly: this.liveOnly,
      playing: this.playing,
    };
    for (const [id, take] of this.takes) {
      const { ids, trim } = take;
      if (take instanceof StreamVoice) {
        const { gains, frames } = take;
        state.streams.push({ id, shape: { ids, gains, frames }, trim });
      } else if (take instanceof LoopVoice) {
        const layers = take.stems.flatMap((stem, s) =>
          [...stem].map(([name, { now }]) => ({ stem: s, name, loop: now })),
        );
        state.loops.push({ id, ids, trim, layers, live: take.live?.state ?? null });
      }
    }
    return state;
  }

  /** Sounds as another one did; what this one had been told already stays where that one says nothing of it. */
  takeOver(state: MixerState): void {
    for (const { id, ids, trim, layers, live } of state.loops) {
      this.open(id, ids, trim);
      for (const { stem, name, loop } of layers) this.fill(id, stem, name, loop);
      if (live) {
        this.setLive(id, new LiveMix(live.loops, live.stems, live.pose, this.sampleRateHz));
      }
    }
    for (const { id, shape, trim } of state.streams) this.openStream(id, shape, trim);
    this.setStems(state.stems);
    this.hear(state.hearing);
    const { length, round, range, frame } = state.timeline;
    this.setLength(length, round);
    this.setRange(range[0], range[1]);
    this.seek(frame);
    this.liveOnly = state.liveOnly;
    if (state.wanted !== null) this.choose(state.wanted);
    this.play(state.playing);
  }

  /**
   * The next block.
   * @param timeS of its beginning, on the clock of the sound
   * @param raw told what is mixed, before it is listened to in any way
   */
  process(
    left: Float32Array,
    right: Float32Array,
    timeS: number,
    raw?: (left: Float64Array, right: Float64Array, frame: number) => void,
  ): void {
    if (this.silent) {
      left.fill(0);
      right.fill(0);
      this.limiter.forget();
      return;
    }
    const { mixed, timeline, block } = this;
    const seconds = block / this.sampleRateHz;
    for (const channel of mixed) channel.fill(0);
    this.switchTakes(seconds);
    this.mixTakes({ mixed, frame: timeline.frame, timeS, seconds, liveOnly: this.liveOnly });
    raw?.(mixed[0], mixed[1], timeline.frame);
    const voice = this.active === null ? null : this.takes.get(this.active);
    const there = voice?.has(timeline.frame, timeline.ahead) ?? true;
    if (!there) this.told.missing += 1;
    const place = timeline.fades(there, seconds);
    const play = this.playRamp.next(
      this.playing ? 1 : 0,
      seconds / (this.playing ? BEGIN_S : END_S),
    );
    this.listener.listen(mixed, seconds, play, place);
    const { peaks, gain } = this.limiter.next(mixed, left, right);
    this.told.peaks[0] = Math.max(this.told.peaks[0], peaks[0]);
    this.told.peaks[1] = Math.max(this.told.peaks[1], peaks[1]);
    this.told.limited = Math.min(this.told.limited, gain);
    if (!timeline.goOn()) return;
    this.playing = false;
    this.playRamp.to = 0;
    this.told.ended = true;
  }

  private switchTakes(seconds: number): void {
    const { wanted } = this;
    if (this.leaving) {
      this.leaving.left -= seconds / SWITCH_S;
      if (this.leaving.left <= 0) this.leaving = null;
    }
    if (wanted === null || wanted === this.active || this.leaving) return;
    // What is not there yet is waited for, and what is heard goes on.
    if (!this.takes.get(wanted)?.ready(this.timeline.frame)) return;
    this.leaving = this.active === null ? null : { id: this.active, left: 1 };
    this.active = wanted;
  }

  private mixTakes(stretch: Stretch): void {
    const { seconds } = stretch;
    this.stems.next(seconds / GAIN_S);
    const share = this.leaving?.left ?? 0;
    const later = Math.max(0, share - seconds / SWITCH_S);
    if (this.leaving) {
      const fades = [leaving(share), leaving(later)] as const;
      this.addTake(this.leaving.id, stretch, fades);
    }
    if (this.active === null) return void (this.told.missing += 1);
    const fades = [1 - leaving(share), 1 - leaving(later)] as const;
    this.addTake(this.active, stretch, fades);
  }

  private addTake(id: string, stretch: Stretch, fades: Ends): void {
    const take = this.takes.get(id);
    if (!take) return void (this.told.missing += 1);
    const gains = this.stems.of(take.ids);
    const powers = new Float64Array(take.ids.length);
    take.add(stretch, fades, gains, powers);
    take.ids.forEach((stem, s) => {
      const power = (powers[s] ?? 0) / this.block;
      this.told.stems[stem] = Math.max(this.told.stems[stem] ?? 0, power);
    });
  }
}
