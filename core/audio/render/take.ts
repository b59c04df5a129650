import type { Planes } from '../wav/decode';
import type { Block } from '../wav/reader';
import { LateField, lateFrames } from './late';
import type { Hall } from './hall';
import { powerOfTwo } from '../signal/spectrum';
import { addPath, AHEAD, directPath, earlyPaths, type Path } from './paths';
import type { RenderPlan, RenderPoint } from './plan';
import {
  plainEngine,
  type Product,
  type Spectra,
  type SpectraEngine,
  type Spectrum,
} from './spectra';

/** How a take is made, besides its plan. */
export interface RenderHelp {
  engine: SpectraEngine;
  /** told 0 … 1 now and then */
  progress: (fraction: number) => void;
  /** waited for now and then; what it throws ends the work */
  breathe: () => Promise<void>;
}

/** Sets of late noise that the players share. */
const LATE_SETS = 4;
/** Memory for the responses of points that are worked on together, and for what is summed up at once, numbers. */
const MOST_RESPONSES = 2 ** 24;
const MOST_SUMS = 2 ** 25;
/** Blocks that are made at once where all responses fit: enough to stay near the processor. */
const FEW_BLOCKS = 16;

/** A response cut into blocks, each as a spectrum. */
function partitions(response: Float32Array, transform: Spectra): Spectrum[] {
  const block = transform.size / 2;
  const parts: Spectrum[] = [];
  for (let from = 0; from < response.length; from += block) {
    const padded = new Float32Array(transform.size);
    padded.set(response.subarray(from, from + block));
    parts.push(transform.keep(padded));
  }
  return parts;
}

/** Samples of a phrase that is played again and again from 0 on; silence before. */
function readLoop(phrase: Float32Array, from: number, out: Float32Array): void {
  const { length } = phrase;
  let to = Math.min(out.length, Math.max(0, -from));
  out.fill(0, 0, to);
  while (to < out.length) {
    const at = (from + to) % length;
    const count = Math.min(length - at, out.length - to);
    out.set(phrase.subarray(at, at + count), to);
    to += count;
  }
}

/** Everything on the way of one point's sound: blocks in which the responses of all capsules lie. */
function responsesOf(plan: RenderPlan, point: RenderPoint, transform: Spectra): Spectrum[][] {
  return plan.channels.map(({ receiver }) => {
    const paths: Path[] = [directPath(point.position, receiver, plan.speed)];
    if (plan.room) paths.push(...earlyPaths(plan.room, point.position, receiver, plan.speed));
    const longest = Math.max(...paths.map(({ delayS }) => delayS)) * plan.sampleRateHz;
    const response = new Float32Array(Math.ceil(longest) + 2 * AHEAD);
    for (const { delayS, gain } of paths) {
      addPath(response, { delayS, gain: gain * point.amplitude }, plan.sampleRateHz);
    }
    return partitions(response, transform);
  });
}

/** Blocks of a transform: long enough for the room's early part, no longer than half a second. */
const blockFor = (sampleRateHz: number): number => (sampleRateHz > 60_000 ? 32_768 : 16_384);

/**
 * A simulated take, block by block: what every capsule hears of every player, direct, over the walls and
 * from the late field. Partitioned overlap-save convolution, one response for each point and capsule, the
 * late field shared by sets of players.
 * @param help the plain engine, nothing told and nothing waited for, where it is left out
 */
export async function* renderBlocks(
  plan: RenderPlan,
  help: Partial<RenderHelp> = {},
): AsyncGenerator<Block, void, undefined> {
  const { frames, channels } = plan;
  const round = roundOf(plan);
  if (!round || round.settled + round.frames >= frames) return yield* madeBlocks(plan, help);
  // Whatever is played goes round: so does what is heard, from when its first sound has died away.
  const { settled } = round;
  const until = settled + round.frames;
  const kept = channels.map(() => new Float32Array(round.frames));
  const progress = (fraction: number): void => help.progress?.(fraction * MADE_SHARE);
  for await (const made of madeBlocks({ ...plan, frames: until }, { ...help, progress })) {
    const skipped = Math.max(0, settled - made.position);
    made.planes.forEach((plane, c) => {
      if (skipped >= made.frames) return;
      const to = made.position + skipped - settled;
      (kept[c] as Float32Array).set(plane.subarray(skipped, made.frames), to);
    });
    yield made;
  }
  const block = blockFor(plan.sampleRateHz);
  for (let position = until; position < frames; position += block) {
    const count = Math.min(block, frames - position);
    const planes = kept.map((loop) => {
      const plane = new Float32Array(block);
      readLoop(loop, position - settled, plane.subarray(0, count));
      return plane;
    });
    yield { position, frames: count, planes };
    help.progress?.(MADE_SHARE + ((1 - MADE_SHARE) * (position + count)) / frames);
    await help.breathe?.();
  }
}

/** How much of the work it is to make what then goes round. */
const MADE_SHARE = 0.9;

/**
 * Samples of one round of all phrases, and after how many what is heard has settled into it.
 * @returns null where phrases differ in length, or a round of all channels is too much to be held
 */
function roundOf({
  points,
  channels,
  room,
  hall,
  speed,
  sampleRateHz,
}: RenderPlan): { frames: number; settled: number } | null {
  const frames = points[0]?.phrase.length ?? 0;
  if (frames * channels.length > MOST_SUMS) return null;
  if (points.some(({ phrase }) => phrase.length !== frames)) return null;
  let longest = 0;
  for (const { position } of points) {
    for (const { receiver } of channels) {
      const early = room ? earlyPaths(room, position, receiver, speed) : [];
      for (const { delayS } of [directPath(position, receiver, speed), ...early]) {
        longest = Math.max(longest, delayS);
      }
    }
  }
  const late = hall ? lateFrames(hall, sampleRateHz) : 0;
  return { frames, settled: Math.max(late, Math.ceil(longest * sampleRateHz)) + 2 * AHEAD };
}

/** The same, made sample by sample to the end. */
async function* madeBlocks(
  plan: RenderPlan,
  help: Partial<RenderHelp>,
): AsyncGenerator<Block, void, undefined> {
  const block = blockFor(plan.sampleRateHz);
  const engine = help.engine ?? plainEngine;
  const transform = engine.of(2 * block);
  const { channels, points, hall, frames } = plan;
  const hops = Math.ceil(frames / block);
  const spectrum = transform.size + 2;
  const late = hall && (await Late.of(plan, hall, engine, block, help));
  const size = Math.max(1, Math.floor(MOST_RESPONSES / (2 * channels.length * spectrum)));
  const groups = Array.from({ length: Math.ceil(points.length / size) }, (_, g) =>
    points.slice(g * size, (g + 1) * size),
  );
  // Many points mean that their responses are made anew for every stretch: the fewer stretches the better.
  const most = Math.floor(MOST_SUMS / (channels.length * spectrum));
  const together = Math.max(1, Math.min(hops, groups.length > 1 ? most : FEW_BLOCKS, most));
  const kept = groups.length === 1 ? new Early(plan, points, transform) : null;
  const steps = Math.ceil(hops / together) * (groups.length + 1);
  let step = 0;
  const tick = async (): Promise<void> => {
    step += 1;
    help.progress?.(step / steps);
    await help.breathe?.();
  };
  for (let first = 0; first < hops; first += together) {
    const count = Math.min(together, hops - first);
    const sums = Array.from({ length: count }, () => channels.map(() => transform.silence()));
    for (const group of groups) {
      const early = kept ?? new Early(plan, group, transform);
      early.add(first, sums);
      if (!kept) early.release();
      await tick();
    }
    for (let hop = 0; hop < count; hop++) {
      const planes = backInTime(sums[hop] ?? [], transform);
      late?.addTo(planes, (first + hop) * block);
      const position = (first + hop) * block;
      yield { position, frames: Math.min(block, frames - position), planes };
    }
    await tick();
  }
  kept?.release();
  late?.release();
}

/** Spectra of what is played, block after block: what a later stretch needs again is kept. */
class Played {
  private readonly spectra = new Map<number, Spectrum>();

  constructor(
    private readonly transform: Spectra,
    private readonly read: (hop: number) => Float32Array,
  ) {}

  at(hop: number): Spectrum {
    const known = this.spectra.get(hop) ?? this.transform.keep(this.read(hop));
    this.spectra.set(hop, known);
    return known;
  }

  /** Lets go of what is earlier than a block. */
  forgetBefore(hop: number): void {
    for (const [at, spectrum] of this.spectra) {
      if (at >= hop) continue;
      this.transform.release([spectrum]);
      this.spectra.delete(at);
    }
  }
}

/** Direct sound and early reflections of some points at all capsules. */
class Early {
  /** by point, capsule and part */
  private readonly responses: Spectrum[][][];
  private readonly played: Played[];

  constructor(
    plan: RenderPlan,
    points: readonly RenderPoint[],
    private readonly transform: Spectra,
  ) {
    const block = transform.size / 2;
    this.responses = points.map((point) => responsesOf(plan, point, transform));
    this.played = points.map(
      ({ phrase }) =>
        new Played(transform, (hop) => {
          const input = new Float32Array(transform.size);
          readLoop(phrase, (hop - 1) * block + AHEAD, input);
          return input;
        }),
    );
  }

  add(first: number, sums: readonly Spectrum[][]): void {
    const products: Product[] = [];
    let longest = 0;
    sums.forEach((channels, hop) => {
      channels.forEach((sum, c) => {
        this.responses.forEach((response, i) => {
          response[c]?.forEach((b, p) => {
            longest = Math.max(longest, p);
            const a = this.played[i]?.at(first + hop - p);
            if (a) products.push({ sum, a, b });
          });
        });
      });
    });
    this.transform.multiplyAdd(products);
    for (const one of this.played) one.forgetBefore(first + sums.length - longest);
  }

  release(): void {
    for (const one of this.played) one.forgetBefore(Infinity);
    this.transform.release(this.responses.flat(2));
  }
}

function addScaled(sum: Float32Array, samples: Float32Array, gain: number): void {
  for (let i = 0; i < sum.length; i++) {
    sum[i] = (sum[i] as number) + gain * (samples[i] as number);
  }
}

/** All players of one set of late noise, summed up. */
class Bus {
  readonly played: Played;

  constructor(transform: Spectra, points: readonly RenderPoint[], set: number, sets: number) {
    const loops = loopsOf(points.filter((_, i) => i % sets === set));
    const block = transform.size / 2;
    const one = new Float32Array(transform.size);
    this.played = new Played(transform, (hop) => {
      const input = new Float32Array(transform.size);
      for (const loop of loops) {
        readLoop(loop, (hop - 1) * block, one);
        addScaled(input, one, 1);
      }
      return input;
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
class Late {
  private readonly buses: Bus[];
  private ready: { from: number; planes: Planes } | null = null;

  private constructor(
    private readonly transform: Spectra,
    private readonly capsules: number,
    points: readonly RenderPoint[],
    /** by set, capsule and part */
    private readonly responses: Spectrum[][][],
  ) {
    this.buses = responses.map((_, set) => new Bus(transform, points, set, responses.length));
  }

  /** @param block samples of a block of the early part; the late ones are so many or 2, 4 or 8 times as many */
  static async of(
    { channels, points, sampleRateHz, seed }: RenderPlan,
    hall: Hall,
    engine: SpectraEngine,
    block: number,
    help: Partial<RenderHelp>,
  ): Promise<Late> {
    const receivers = channels.map(({ receiver }) => receiver);
    const field = new LateField(hall, receivers, sampleRateHz, engine);
    const length = powerOfTwo(field.frames) / 2;
    const transform = engine.of(2 * Math.min(8 * block, Math.max(block, length)));
    const responses: Spectrum[][][] = [];
    for (let set = 0; set < Math.min(LATE_SETS, points.length); set++) {
      const made = field.responses(seed + 31_337 * set);
      responses.push(made.map((response) => partitions(response, transform)));
      await help.breathe?.();
    }
    return new Late(transform, channels.length, points, responses);
  }

  private planesOf(hop: number): Planes {
    const products: Product[] = [];
    const sums = Array.from({ length: this.capsules }, () => this.transform.silence());
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
    this.transform.multiplyAdd(products);
    for (const bus of this.buses) bus.played.forgetBefore(hop + 1 - longest);
    return backInTime(sums, this.transform);
  }

  /** Adds what lies at a frame and after it to planes that do not reach over one of its blocks. */
  addTo(planes: Planes, position: number): void {
    const block = this.transform.size / 2;
    const hop = Math.floor(position / block);
    if (this.ready?.from !== hop * block) {
      this.ready = { from: hop * block, planes: this.planesOf(hop) };
    }
    const { from, planes: late } = this.ready;
    planes.forEach((plane, c) => {
      addScaled(plane, (late[c] as Float32Array).subarray(position - from), 1);
    });
  }

  release(): void {
    for (const bus of this.buses) bus.release();
    this.transform.release(this.responses.flat(2));
  }
}

/** The later half of each: what overlap-save leaves whole. */
function backInTime(spectra: readonly Spectrum[], transform: Spectra): Planes {
  const planes = transform.samplesOf(spectra).map((samples) => samples.slice(transform.size / 2));
  transform.release(spectra);
  return planes;
}
