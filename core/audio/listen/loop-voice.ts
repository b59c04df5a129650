import type { LiveMix } from './live';
import { Ramp } from './ramp';
import { Level, type Ends, type Loop, type Stretch, type Voice } from './voice';

interface Layer {
  now: Loop;
  before: Loop | null;
  /** 0 … 1 on the way from before to now */
  come: number;
}

/** A layer gives way to its renewal in this time, and the near ones to what follows the hand, s. */
const RENEW_S = 0.2;
const SWITCH_S = 0.02;

const SILENCE: Loop = [new Float32Array(0), new Float32Array(0)];

/** A plan as loops that go round: layers of each stem, and what of it follows the hand. */
export class LoopVoice implements Voice {
  /** by stem, then by name */
  readonly stems: Map<string, Layer>[];
  live: LiveMix | null = null;
  /** 1: its near layers are heard, 0: what follows the hand in their place */
  private readonly near = new Ramp(0);
  private readonly level: Level;

  /**
   * @param ids of its stems
   * @param loopFrames of one round
   */
  constructor(
    readonly ids: readonly string[],
    public trim: number,
    readonly loopFrames: number,
  ) {
    this.stems = ids.map(() => new Map<string, Layer>());
    this.level = new Level(trim);
  }

  /**
   * A layer of a stem; where there was one, it gives way.
   * @param heard whether it sounds now: what is new comes in gradually
   */
  fill(stem: number, name: string, loop: Loop, heard: boolean): void {
    const layers = this.stems[stem];
    if (!layers || loop[0].length !== this.loopFrames) return;
    const before = layers.get(name)?.now ?? (heard ? SILENCE : null);
    layers.set(name, { now: loop, before, come: before ? 0 : 1 });
  }

  ready(): boolean {
    return this.live !== null || this.stems.every((layers) => layers.size > 0);
  }

  has(): boolean {
    return true;
  }

  add(stretch: Stretch, fades: Ends, gains: readonly Ends[], powers: Float64Array): void {
    const { seconds, liveOnly } = stretch;
    const frame = stretch.frame % this.loopFrames;
    // Near layers come together, or not at all.
    const whole = this.stems.every((layers) => layers.has('near'));
    const liveLeads = this.live !== null && (liveOnly || !whole);
    const near = this.near.next(liveLeads ? 0 : 1, seconds / SWITCH_S);
    const level = this.level.next(this.trim);
    const trimmed = [fades[0] * level[0], fades[1] * level[1]] as const;
    this.stems.forEach((layers, s) => {
      const [from, to] = gains[s] ?? [1, 1];
      for (const [name, layer] of layers) {
        const [nearFrom, nearTo] = name === 'near' ? near : [1, 1];
        const begin = from * trimmed[0] * nearFrom;
        const end = to * trimmed[1] * nearTo;
        const come = layer.come;
        if (layer.before) {
          layer.come = Math.min(1, come + seconds / RENEW_S);
          const out = [begin * (1 - come), end * (1 - layer.come)] as const;
          this.addLoop(stretch, frame, layer.before, out, s, powers);
          this.addLoop(stretch, frame, layer.now, [begin * come, end * layer.come], s, powers);
          if (layer.come === 1) layer.before = null;
        } else this.addLoop(stretch, frame, layer.now, [begin, end], s, powers);
      }
    });
    if (!this.live) return;
    const stems = gains.map(
      ([from, to]) =>
        [
          from * trimmed[0] * (whole ? 1 - near[0] : 1),
          to * trimmed[1] * (whole ? 1 - near[1] : 1),
        ] as const,
    );
    const { mixed, timeS } = stretch;
    this.live.add(mixed[0], mixed[1], frame, timeS, stems, powers);
  }

  private addLoop(
    { mixed: [left, right] }: Stretch,
    frame: number,
    loop: Loop,
    [from, to]: Ends,
    stem: number,
    powers: Float64Array,
  ): void {
    if ((from === 0 && to === 0) || loop === SILENCE) return;
    const block = left.length;
    const step = (to - from) / block;
    const [l, r] = loop;
    let gain = from;
    let at = frame;
    let power = 0;
    for (let i = 0; i < block; i++) {
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
}
