import { alike, Follower } from './follow';
import { addWay, betweenSamples, type Between, type Way } from './interpolate';
import { CAPSULE, POINT, WAYS, waysOf, type Pose } from './pose';

/** Phrases are held at so many times the rate, and are true up to this share of it. */
export const OVERSAMPLED = 2;
export const TRUE_TO = 8300 / 96_000;
/** One set of ways gives way to another in this time, s. */
const CROSS_S = 0.02;
const THIN_S = 0.05;

interface Stretch {
  from: Float64Array;
  to: Float64Array;
  capsules: Float64Array;
  capsulesTo: Float64Array;
}

/** One set of ways: all points to all capsules, from where they are heard now. */
class Ways {
  private last: Float64Array | null = null;
  private lastCapsules: Float64Array | null = null;
  private readonly next: Float64Array;
  private readonly each = new Float64Array(2 * WAYS);

  constructor(readonly follower: Follower) {
    const { points, capsules } = follower.heard;
    this.next = new Float64Array((points.length / POINT) * (capsules.length / CAPSULE) * 2 * WAYS);
  }

  /** @returns delays, gains and capsules at the block's beginning and at its end */
  advance(timeS: number, seconds: number): Stretch {
    const { follower, next, last, lastCapsules } = this;
    if (last && lastCapsules && !follower.moving) {
      return { from: last, to: last, capsules: lastCapsules, capsulesTo: lastCapsules };
    }
    follower.advance(timeS, seconds);
    this.fill(next);
    const to = next.slice();
    const capsulesTo = follower.heard.capsules.slice();
    this.last = to;
    this.lastCapsules = capsulesTo;
    return { from: last ?? to, to, capsules: lastCapsules ?? capsulesTo, capsulesTo };
  }

  private fill(out: Float64Array): void {
    const { heard } = this.follower;
    const mics = heard.capsules.length / CAPSULE;
    for (let p = 0; p < heard.points.length / POINT; p++) {
      for (let c = 0; c < mics; c++) {
        waysOf(heard, p, c, this.each);
        out.set(this.each, (p * mics + c) * 2 * WAYS);
      }
    }
  }
}

let fitted: Between | null = null;

/** Made once: fitting it takes longer than a block may. */
const usualBetween = (): Between => (fitted ??= betweenSamples(TRUE_TO));

/** What of the sound is wanted. */
export type Thinned = 'all' | 'direct only';

/** Direct sound and first reflections that follow the hand. */
export class LiveMix {
  private readonly between: Between = usualBetween();
  private ways: Ways;
  private leaving: { ways: Ways; left: number } | null = null;
  private readonly way: Way = { delay: 0, delayEnd: 0, gain: 0, gainEnd: 0 };
  private surfaces = 1;
  private one = new Float64Array(0);
  thinned: Thinned = 'all';

  /**
   * @param loops of each live point, guarded, at OVERSAMPLED times the rate
   * @param stems of each live point
   */
  constructor(
    private readonly loops: readonly Float32Array[],
    private readonly stems: readonly number[],
    pose: Pose,
    private readonly sampleRateHz: number,
  ) {
    this.ways = new Ways(new Follower(pose));
  }

  /**
   * Where everything is at a time; of as many points and capsules as before.
   * @param timeS on the clock of the sound
   * @returns whether it could be taken
   */
  move(pose: Pose, timeS: number): boolean {
    const { follower } = this.ways;
    if (!alike(follower.heard, pose)) return false;
    if (follower.jumpsTo(pose)) {
      this.leaving = { ways: this.ways, left: 1 };
      this.ways = new Ways(new Follower(pose));
    } else follower.add(pose, timeS);
    return true;
  }

  /** What makes another one of it: where everything is by now, moved or still moving. */
  get state(): { loops: readonly Float32Array[]; stems: readonly number[]; pose: Pose } {
    return { loops: this.loops, stems: this.stems, pose: this.ways.follower.last };
  }

  get moving(): boolean {
    return this.ways.follower.moving || this.leaving !== null;
  }

  /**
   * Adds a block to both channels.
   * @param frame of its first sample, from the loops' beginning on
   * @param timeS of its beginning
   * @param gains of every stem at its beginning and at its end
   * @param powers of every stem, added to: sums of squares of both channels
   */
  add(
    left: Float64Array,
    right: Float64Array,
    frame: number,
    timeS: number,
    gains: readonly (readonly [from: number, to: number])[],
    powers: Float64Array,
  ): void {
    const seconds = left.length / this.sampleRateHz;
    const wanted = this.thinned === 'all' ? 1 : 0;
    const surfacesFrom = this.surfaces;
    const step = seconds / THIN_S;
    this.surfaces = Math.max(
      Math.min(wanted, surfacesFrom + step),
      Math.min(surfacesFrom, Math.max(wanted, surfacesFrom - step)),
    );
    let [from, to] = [1, 1];
    if (this.leaving) {
      const { ways, left: before } = this.leaving;
      const after = Math.max(0, before - seconds / CROSS_S);
      const fades = [Math.sin((before * Math.PI) / 2), Math.sin((after * Math.PI) / 2)] as const;
      this.addSet(ways, left, right, frame, timeS, gains, powers, fades, surfacesFrom);
      [from, to] = [Math.cos((before * Math.PI) / 2), Math.cos((after * Math.PI) / 2)];
      this.leaving = after > 0 ? { ways, left: after } : null;
    }
    this.addSet(this.ways, left, right, frame, timeS, gains, powers, [from, to], surfacesFrom);
  }

  private addSet(
    ways: Ways,
    left: Float64Array,
    right: Float64Array,
    frame: number,
    timeS: number,
    gains: readonly (readonly [from: number, to: number])[],
    powers: Float64Array,
    fades: readonly [number, number],
    surfacesFrom: number,
  ): void {
    const frames = left.length;
    const { from, to, capsules, capsulesTo } = ways.advance(timeS, frames / this.sampleRateHz);
    const mics = capsules.length / CAPSULE;
    const scale = OVERSAMPLED * this.sampleRateHz;
    const count = this.surfaces === 0 && surfacesFrom === 0 ? 1 : WAYS;
    const one = this.one.length === frames ? this.one : (this.one = new Float64Array(frames));
    this.loops.forEach((loop, p) => {
      const stem = this.stems[p] ?? 0;
      const [gain, gainEnd] = gains[stem] ?? [1, 1];
      if (gain === 0 && gainEnd === 0) return;
      for (let c = 0; c < mics; c++) {
        one.fill(0);
        for (let w = 0; w < count; w++) {
          const at = (p * mics + c) * 2 * WAYS + 2 * w;
          this.way.delay = (from[at] as number) * scale;
          this.way.delayEnd = (to[at] as number) * scale;
          this.way.gain = (from[at + 1] as number) * (w === 0 ? 1 : surfacesFrom);
          this.way.gainEnd = (to[at + 1] as number) * (w === 0 ? 1 : this.surfaces);
          if (this.way.gain === 0 && this.way.gainEnd === 0) continue;
          addWay(one, loop, this.between, OVERSAMPLED, frame, this.way);
        }
        const [begin, end] = [gain * fades[0], gainEnd * fades[1]];
        const mic = c * CAPSULE;
        let toLeft = begin * (capsules[mic + 7] as number);
        let toRight = begin * (capsules[mic + 8] as number);
        const leftStep = (end * (capsulesTo[mic + 7] as number) - toLeft) / frames;
        const rightStep = (end * (capsulesTo[mic + 8] as number) - toRight) / frames;
        let power = 0;
        for (let i = 0; i < frames; i++) {
          const value = one[i] as number;
          const [l, r] = [toLeft * value, toRight * value];
          left[i] = (left[i] as number) + l;
          right[i] = (right[i] as number) + r;
          power += l * l + r * r;
          toLeft += leftStep;
          toRight += rightStep;
        }
        powers[stem] = (powers[stem] as number) + power;
      }
    });
  }
}
