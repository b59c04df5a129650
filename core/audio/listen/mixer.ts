import { HeadFilter } from './head-filter';
import { LiveMix, type Thinned } from './live';
import { Limiter } from './limiter';
import type { Pose } from './pose';
import { Ramp } from './ramp';
import { StemGains } from './stem-gains';

/** Left and right of something that goes round. */
export type Loop = readonly [left: Float32Array, right: Float32Array];

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

/** What is told of the sound now and then. */
export interface Levels {
  /** frames from the loop's beginning */
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
}

interface Layer {
  now: Loop;
  before: Loop | null;
  /** 0 … 1 on the way from before to now */
  come: number;
}

interface Take {
  /** of its stems, in order */
  ids: readonly string[];
  /** by stem, then by name */
  stems: Map<string, Layer>[];
  trim: number;
  /** on its way to the trim */
  level: number;
  /** what of it follows the hand */
  live: LiveMix | null;
  /** 1: its near layers are heard, 0: what follows the hand in their place */
  near: Ramp;
}

const DIM = 0.1;
/** Takes change places in this time, a layer gives way to its renewal, and a gain goes to another, s. */
const SWITCH_S = 0.02;
const RENEW_S = 0.2;
const GAIN_S = 0.02;
/** A beginning comes in over this, an end goes over that, s. */
const BEGIN_S = 0.4;
const END_S = 0.05;
/** A new trim is come to by this share of the way with every block. */
const LEVELS = 0.1;
/** A shorter range is none, s. */
const SHORTEST_RANGE_S = 0.05;
/** Before another place is gone to, and after it, s. */
const SEEK_S = 0.008;

/**
 * Everything that is heard of a plan, block by block: takes as loops, one of them at a time, what follows
 * the hand, players alone or silent, and how the whole is listened to. Nothing in it ever steps.
 */
export class ListenMixer {
  private readonly takes = new Map<string, Take>();
  private active: string | null = null;
  private leaving: { id: string; left: number } | null = null;
  private wanted: string | null = null;
  private readonly stems = new StemGains();
  private readonly playRamp = new Ramp(0);
  private readonly volume = new Ramp(0);
  private readonly mono = new Ramp(0);
  private readonly swap = new Ramp(0);
  private readonly head = new Ramp(0);
  private headFilters: HeadFilter | null = null;
  private playing = false;
  private hearing: Hearing = { volume: 0, mono: false, swap: false, dim: false, head: null };
  private frame = 0;
  private range: readonly [from: number, to: number];
  private liveOnly = false;
  /** where to go once it has faded */
  private pending: number | null = null;
  private readonly placeRamp = new Ramp(1);
  private readonly limiter: Limiter;
  private told: Levels;

  /**
   * @param loopFrames of one round
   * @param block frames that are made at a time
   */
  constructor(
    private readonly loopFrames: number,
    private readonly sampleRateHz: number,
    private readonly block: number,
  ) {
    this.range = [0, loopFrames];
    this.limiter = new Limiter(block, sampleRateHz);
    this.told = this.nothing();
  }

  private nothing(): Levels {
    return {
      position: this.frame,
      takeId: this.active,
      peaks: [0, 0],
      stems: {},
      limited: 1,
      missing: 0,
      thinned: (this.active && this.takes.get(this.active)?.live?.thinned) || 'all',
    };
  }

  /**
   * A take, empty at first.
   * @param stems their ids
   * @param trim amplitude that makes it as loud as the others
   */
  open(id: string, stems: readonly string[], trim: number): void {
    const known = this.takes.get(id);
    if (known?.ids.join('\n') === stems.join('\n')) known.trim = trim;
    else {
      this.takes.set(id, {
        ids: stems,
        stems: stems.map(() => new Map<string, Layer>()),
        trim,
        level: trim,
        live: null,
        near: new Ramp(0),
      });
    }
    this.keepStems();
  }

  close(id: string): void {
    this.takes.delete(id);
    if (this.active === id) this.active = null;
    this.keepStems();
  }

  /** A layer of a stem; where there was one, it gives way. */
  fill(id: string, stem: number, name: string, loop: Loop): void {
    const layers = this.takes.get(id)?.stems[stem];
    if (!layers || loop[0].length !== this.loopFrames) return;
    const before = layers.get(name);
    layers.set(name, { now: loop, before: before?.now ?? null, come: before ? 0 : 1 });
    if (!before && id === this.active) layers.set(name, { now: loop, before: SILENCE, come: 0 });
  }

  /** What follows the hand of a take; null where nothing does. */
  setLive(id: string, mix: LiveMix | null): void {
    const take = this.takes.get(id);
    if (take) take.live = mix;
  }

  /** @returns whether the take could take the pose */
  move(id: string, pose: Pose, timeS: number): boolean {
    return this.takes.get(id)?.live?.move(pose, timeS) ?? false;
  }

  thin(thinned: Thinned): void {
    for (const { live } of this.takes.values()) if (live) live.thinned = thinned;
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
    if (hearing.head && !this.headFilters)
      this.headFilters = new HeadFilter(hearing.head, this.block);
    this.hearing = hearing;
  }

  play(playing: boolean): void {
    this.playing = playing;
  }

  /** Goes to a frame: what is heard fades for a moment, so that nothing steps. */
  seek(frame: number): void {
    this.pending = Math.min(this.loopFrames - 1, Math.max(0, Math.floor(frame)));
    if (this.silent) this.arrive();
  }

  private arrive(): void {
    if (this.pending === null) return;
    this.frame = this.pending;
    this.pending = null;
  }

  /** Goes round between two frames only. */
  setRange(from: number, to: number): void {
    const [low, high] = [Math.min(from, to), Math.max(from, to)].map((frame) =>
      Math.min(this.loopFrames, Math.max(0, Math.round(frame))),
    ) as [number, number];
    // A range too short to be heard is none.
    const least = Math.ceil(SHORTEST_RANGE_S * this.sampleRateHz);
    this.range = high - low < least ? [0, this.loopFrames] : [low, high];
  }

  /** What happened since the last time. */
  levels(): Levels {
    const told = { ...this.told, position: this.frame, takeId: this.active };
    this.told = this.nothing();
    return told;
  }

  /** Frames until the block's end or the range's. */
  private get silent(): boolean {
    return !this.playing && this.playRamp.to === 0;
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
    const seconds = this.block / this.sampleRateHz;
    const mixed: [Float64Array, Float64Array] = [
      new Float64Array(this.block),
      new Float64Array(this.block),
    ];
    this.switchTakes(seconds);
    this.mixTakes(mixed, timeS, seconds);
    raw?.(mixed[0], mixed[1], this.frame);
    this.listen(mixed, seconds);
    const { peaks, gain } = this.limiter.next(mixed, left, right);
    this.told.peaks[0] = Math.max(this.told.peaks[0], peaks[0]);
    this.told.peaks[1] = Math.max(this.told.peaks[1], peaks[1]);
    this.told.limited = Math.min(this.told.limited, gain);
    this.goOn();
  }

  private goOn(): void {
    this.frame += this.block;
    const [from, to] = this.range;
    const whole = from === 0 && to === this.loopFrames;
    // A phrase goes round by itself; a part of it ends in a short silence.
    if (whole && this.frame >= to) this.frame -= to;
    if (this.placeRamp.to > 0) return;
    this.arrive();
    if (this.frame >= to || this.frame < from) this.frame = from;
  }

  /** Whether another place is about to be gone to. */
  private get leavingPlace(): boolean {
    const [from, to] = this.range;
    if (this.pending !== null) return true;
    if (from === 0 && to === this.loopFrames) return false;
    const ahead = this.block * Math.ceil((SEEK_S * this.sampleRateHz) / this.block + 1);
    return this.frame + ahead >= to || this.frame < from;
  }

  private ready(id: string): boolean {
    const take = this.takes.get(id);
    if (!take) return false;
    return take.live !== null || take.stems.every((layers) => layers.size > 0);
  }

  private switchTakes(seconds: number): void {
    const { wanted } = this;
    if (this.leaving) {
      this.leaving.left -= seconds / SWITCH_S;
      if (this.leaving.left <= 0) this.leaving = null;
    }
    if (wanted === null || wanted === this.active || this.leaving) return;
    // What is not there yet is waited for, and what is heard goes on.
    if (!this.ready(wanted)) return;
    this.leaving = this.active === null ? null : { id: this.active, left: 1 };
    this.active = wanted;
  }

  private mixTakes(mixed: [Float64Array, Float64Array], timeS: number, seconds: number): void {
    this.stems.next(seconds / GAIN_S);
    const share = this.leaving?.left ?? 0;
    const later = Math.max(0, share - seconds / SWITCH_S);
    if (this.leaving) {
      const fades = [Math.sin((share * Math.PI) / 2), Math.sin((later * Math.PI) / 2)] as const;
      this.addTake(this.leaving.id, mixed, fades, timeS, seconds);
    }
    if (this.active === null) return void (this.told.missing += 1);
    const fades = [Math.cos((share * Math.PI) / 2), Math.cos((later * Math.PI) / 2)] as const;
    this.addTake(this.active, mixed, fades, timeS, seconds);
  }

  private addTake(
    id: string,
    mixed: [Float64Array, Float64Array],
    fades: readonly [number, number],
    timeS: number,
    seconds: number,
  ): void {
    const take = this.takes.get(id);
    if (!take) return void (this.told.missing += 1);
    const gains = this.stems.of(take.ids);
    const powers = new Float64Array(take.stems.length);
    // Near layers come together, or not at all.
    const whole = take.stems.every((layers) => layers.has('near'));
    const liveLeads = take.live !== null && (this.liveOnly || !whole);
    const near = take.near.next(liveLeads ? 0 : 1, seconds / SWITCH_S);
    const level = take.level;
    take.level += (take.trim - level) * LEVELS;
    const trimmed = [fades[0] * level, fades[1] * take.level] as const;
    take.stems.forEach((layers, s) => {
      const [from, to] = gains[s] ?? [1, 1];
      for (const [name, layer] of layers) {
        const [nearFrom, nearTo] = name === 'near' ? near : [1, 1];
        const begin = from * trimmed[0] * nearFrom;
        const end = to * trimmed[1] * nearTo;
        const come = layer.come;
        if (layer.before) {
          layer.come = Math.min(1, come + seconds / RENEW_S);
          const out = [begin * (1 - come), end * (1 - layer.come)] as const;
          this.addLoop(mixed, layer.before, out[0], out[1], s, powers);
          this.addLoop(mixed, layer.now, begin * come, end * layer.come, s, powers);
          if (layer.come === 1) layer.before = null;
        } else this.addLoop(mixed, layer.now, begin, end, s, powers);
      }
    });
    if (take.live) {
      const stems = gains.map(
        ([from, to]) =>
          [
            from * trimmed[0] * (whole ? 1 - near[0] : 1),
            to * trimmed[1] * (whole ? 1 - near[1] : 1),
          ] as const,
      );
      take.live.add(mixed[0], mixed[1], this.frame, timeS, stems, powers);
    }
    take.ids.forEach((stem, s) => {
      const power = (powers[s] ?? 0) / this.block;
      this.told.stems[stem] = Math.max(this.told.stems[stem] ?? 0, power);
    });
  }

  private addLoop(
    [left, right]: [Float64Array, Float64Array],
    loop: Loop,
    from: number,
    to: number,
    stem: number,
    powers: Float64Array,
  ): void {
    if ((from === 0 && to === 0) || loop === SILENCE) return;
    const step = (to - from) / this.block;
    const [l, r] = loop;
    let gain = from;
    let at = this.frame;
    let power = 0;
    for (let i = 0; i < this.block; i++) {
      const [x, y] = [gain * (l[at] as number), gain * (r[at] as number)];
      left[i] = (left[i] as number) + x;
      right[i] = (right[i] as number) + y;
      power += x * x + y * y;
      gain += step;
      at += 1;
      if (at >= this.loopFrames) at = 0;
    }
    powers[stem] = (powers[stem] as number) + power;
  }

  /** Mono, sides changed, softer, through the head: each of them comes and goes gradually. */
  private listen([left, right]: [Float64Array, Float64Array], seconds: number): void {
    const { mono, swap, dim, head, volume } = this.hearing;
    const most = seconds / GAIN_S;
    const both = this.mono.next(mono ? 1 : 0, most);
    const other = this.swap.next(swap ? 1 : 0, most);
    const loud = this.volume.next(volume * (dim ? DIM : 1), most);
    const place = this.placeRamp.next(this.leavingPlace ? 0 : 1, seconds / SEEK_S);
    const play = this.playRamp.next(
      this.playing ? 1 : 0,
      seconds / (this.playing ? BEGIN_S : END_S),
    );
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

const SILENCE: Loop = [new Float32Array(0), new Float32Array(0)];
