import { powerOfTwo } from '../signal/spectrum';
import type { Planes } from '../wav/decode';
import type { Hall } from './hall';
import { lateFrames, lateSets } from './late';
import { addScaled, backInTime, partitions, Played, readLoop, type Shape } from './overlap';
import type { RenderPlan, RenderPoint } from './plan';
import { readPoint } from './turns';
import type { Product, SpectraEngine, Spectrum } from '../signal/spectra';

/** Sets of late noise that the players share. */
export const LATE_SETS = 3;
/** A longer transform takes more memory than it saves time. */
const LONGEST_TRANSFORM = 2 ** 19;
/** What a product of two spectra costs against a turn of a transform, a sample. */
const PRODUCT_COST = 3.3;

/**
 * The transform in which the late field costs least: long ones hold a response whole and take more
 * samples at a time, but more of them may be for nothing.
 * @param length of a response, frames of the take, samples
 */
function lateShape(
  length: number,
  frames: number,
  { sets, capsules }: { sets: number; capsules: number },
  engine: SpectraEngine,
): Shape {
  let best = { cost: Infinity, size: 2 * powerOfTwo(length), hop: powerOfTwo(length) };
  for (let power = 2 ** 12; power <= LONGEST_TRANSFORM; power *= 2) {
    for (const size of engine.kind === 'fast' ? [power, 1.5 * power] : [power]) {
      const hop = size - length + 1;
      if (hop < size / 8) continue;
      const hops = Math.ceil(frames / hop);
      const transforms = hops * (sets + capsules) + sets * capsules;
      const cost = size * (transforms * Math.log2(size) + hops * sets * capsules * PRODUCT_COST);
      if (cost < best.cost) best = { cost, size, hop };
    }
  }
  if (best.cost === Infinity)
    best = { ...best, size: LONGEST_TRANSFORM, hop: LONGEST_TRANSFORM / 2 };
  return { transform: engine.of(best.size), hop: best.hop };
}

/** Sets of late responses for a plan, by set and capsule; player i hears set i modulo their count. */
export function lateSetsOf(
  { channels, points, sampleRateHz, seed }: RenderPlan,
  hall: Hall,
  engine: SpectraEngine,
  breathe?: () => Promise<void>,
): ReturnType<typeof lateSets> {
  const receivers = channels.map(({ receiver }) => receiver);
  const count = Math.min(LATE_SETS, points.length);
  return lateSets(hall, receivers, sampleRateHz, engine, { seed, count, breathe });
}

/** All players of one set of late noise, summed up. */
class Bus {
  readonly played: Played;

  constructor(
    { transform, hop: block }: Shape,
    points: readonly RenderPoint[],
    set: number,
    sets: number,
  ) {
    const own = points.filter((_, i) => i % sets === set);
    const loops = loopsOf(own.filter(({ turn }) => !turn));
    const inTurns = own.filter(({ turn }) => turn);
    const one = new Float32Array(transform.size);
    this.played = new Played(transform, (hop) => {
      const input = new Float32Array(transform.size);
      const from = (hop + 1) * block - transform.size;
      let sounds = false;
      for (const loop of loops) {
        readLoop(loop, from, one);
        addScaled(input, one, 1);
        sounds ||= from + one.length > 0;
      }
      for (const point of inTurns) {
        if (!readPoint(point, from, one)) continue;
        addScaled(input, one, point.amplitude / Math.sqrt(point.q));
        sounds = true;
      }
      return sounds ? input : null;
    });
  }

  release(): void {
    this.played.forgetBefore(Infinity);
  }
}

/** What points send into the room, summed up: one loop for all phrases of one length. */
function loopsOf(points: readonly RenderPoint[]): Float32Array[] {
  const loops = new Map<number, Float32Array>();
  for (const { phrase, amplitude, q } of points) {
    const loop = loops.get(phrase.length) ?? new Float32Array(phrase.length);
    addScaled(loop, phrase, amplitude / Math.sqrt(q));
    loops.set(phrase.length, loop);
  }
  return [...loops.values()];
}

/** The late field of all players at all capsules, in blocks of its own: longer ones, as it lasts longer. */
export class Late {
  private readonly buses: Bus[];
  private ready: { from: number; planes: Planes } | null = null;

  private constructor(
    private readonly shape: Shape,
    private readonly capsules: number,
    points: readonly RenderPoint[],
    /** by set, capsule and part */
    private readonly responses: Spectrum[][][],
  ) {
    this.buses = responses.map((_, set) => new Bus(shape, points, set, responses.length));
  }

  /** @param sets as lateSetsOf has them */
  static async of(
    { channels, points, sampleRateHz, frames }: RenderPlan,
    hall: Hall,
    sets: readonly (readonly Float32Array[])[],
    engine: SpectraEngine,
    breathe?: () => Promise<void>,
  ): Promise<Late> {
    const length = lateFrames(hall, sampleRateHz);
    const counts = { sets: sets.length, capsules: channels.length };
    const shape = lateShape(length, frames, counts, engine);
    const responses: Spectrum[][][] = [];
    for (const set of sets) {
      responses.push(set.map((response) => partitions(response, shape)));
      await breathe?.();
    }
    return new Late(shape, channels.length, points, responses);
  }

  private planesOf(hop: number): Planes {
    const { transform, hop: block } = this.shape;
    const products: Product[] = [];
    const sums = Array.from({ length: this.capsules }, () => transform.silence());
    let longest = 0;
    sums.forEach((sum, c) => {
      this.responses.forEach((response, set) => {
        response[c]?.forEach((b, p) => {
          longest = Math.max(longest, p);
          const a = this.buses[set]?.played.at(hop - p);
          if (a) products.push({ sum, a, b });
        });
      });
    });
    transform.multiplyAdd(products);
    for (const bus of this.buses) bus.played.forgetBefore(hop + 1 - longest);
    return backInTime(sums, transform, block);
  }

  /** Adds what lies at a frame and after it to planes of one length. */
  addTo(planes: Planes, position: number): void {
    const block = this.shape.hop;
    const length = planes[0]?.length ?? 0;
    for (let done = 0; done < length;) {
      const hop = Math.floor((position + done) / block);
      if (this.ready?.from !== hop * block) {
        this.ready = { from: hop * block, planes: this.planesOf(hop) };
      }
      const { from, planes: late } = this.ready;
      const at = position + done - from;
      const count = Math.min(length - done, block - at);
      planes.forEach((plane, c) => {
        const samples = (late[c] as Float32Array).subarray(at, at + count);
        addScaled(plane.subarray(done, done + count), samples, 1);
      });
      done += count;
    }
  }

  release(): void {
    for (const bus of this.buses) bus.release();
    this.shape.transform.release(this.responses.flat(2));
  }
}
