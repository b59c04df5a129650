import type { Block } from '../wav/reader';
import { lateFrames } from './late';
import { Late } from './late-take';
import { backInTime, partitions, Played, readLoop, type Shape } from './overlap';
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

/** Memory for the responses of points that are worked on together, and for what is summed up at once, numbers. */
const MOST_RESPONSES = 2 ** 24;
const MOST_SUMS = 2 ** 25;
/** Blocks that are made at once where all responses fit: enough to stay near the processor. */
const FEW_BLOCKS = 16;

/** Everything on the way of one point's sound: blocks in which the responses of all capsules lie. */
function responsesOf(plan: RenderPlan, point: RenderPoint, shape: Shape): Spectrum[][] {
  return plan.channels.map(({ receiver }) => {
    const paths: Path[] = [directPath(point.position, receiver, plan.speed)];
    if (plan.room) paths.push(...earlyPaths(plan.room, point.position, receiver, plan.speed));
    const longest = Math.max(...paths.map(({ delayS }) => delayS)) * plan.sampleRateHz;
    const response = new Float32Array(Math.ceil(longest) + 2 * AHEAD);
    for (const { delayS, gain } of paths) {
      addPath(response, { delayS, gain: gain * point.amplitude }, plan.sampleRateHz);
    }
    return partitions(response, shape);
  });
}

/**
 * Where no early response is longer than a quarter of a larger transform, three quarters of each are new;
 * otherwise half of a smaller one, and responses in parts.
 */
function shapeFor(
  { frames, sampleRateHz }: RenderPlan,
  longest: number,
  engine: SpectraEngine,
): Shape {
  const block = blockFor(sampleRateHz);
  const large = 4 * block;
  return longest + 2 * AHEAD <= large / 4 && frames > large
    ? { transform: engine.of(large), hop: (3 * large) / 4 }
    : { transform: engine.of(2 * block), hop: block };
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
  const longest = longestPath(plan);
  const round = roundOf(plan, longest);
  if (!round || round.settled + round.frames >= frames) {
    return yield* madeBlocks(plan, longest, help);
  }
  // Whatever is played goes round: so does what is heard, from when its first sound has died away.
  const { settled } = round;
  const until = settled + round.frames;
  const kept = channels.map(() => new Float32Array(round.frames));
  const progress = (fraction: number): void => help.progress?.(fraction * MADE_SHARE);
  for await (const made of madeBlocks({ ...plan, frames: until }, longest, {
    ...help,
    progress,
  })) {
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

/** Samples until the last of the paths from any point to any capsule. */
function longestPath({ points, channels, room, speed, sampleRateHz }: RenderPlan): number {
  let longest = 0;
  for (const { position } of points) {
    for (const { receiver } of channels) {
      const early = room ? earlyPaths(room, position, receiver, speed) : [];
      for (const { delayS } of [directPath(position, receiver, speed), ...early]) {
        longest = Math.max(longest, delayS);
      }
    }
  }
  return Math.ceil(longest * sampleRateHz);
}

/**
 * Samples of one round of all phrases, and after how many what is heard has settled into it.
 * @param longest samples until the last of the paths
 * @returns null where phrases differ in length, or a round of all channels is too much to be held
 */
function roundOf(
  { points, channels, hall, sampleRateHz }: RenderPlan,
  longest: number,
): { frames: number; settled: number } | null {
  const frames = points[0]?.phrase.length ?? 0;
  if (frames * channels.length > MOST_SUMS) return null;
  if (points.some(({ phrase }) => phrase.length !== frames)) return null;
  const late = hall ? lateFrames(hall, sampleRateHz) : 0;
  return { frames, settled: Math.max(late, longest) + 2 * AHEAD };
}

/** The same, made sample by sample to the end. */
async function* madeBlocks(
  plan: RenderPlan,
  longest: number,
  help: Partial<RenderHelp>,
): AsyncGenerator<Block, void, undefined> {
  const engine = help.engine ?? plainEngine;
  const shape = shapeFor(plan, longest, engine);
  const { transform, hop: block } = shape;
  const { channels, points, hall, frames } = plan;
  const hops = Math.ceil(frames / block);
  const spectrum = transform.size + 2;
  const late = hall && (await Late.of(plan, hall, engine, help.breathe));
  const size = Math.max(1, Math.floor(MOST_RESPONSES / (2 * channels.length * spectrum)));
  const groups = Array.from({ length: Math.ceil(points.length / size) }, (_, g) =>
    points.slice(g * size, (g + 1) * size),
  );
  // Many points mean that their responses are made anew for every stretch: the fewer stretches the better.
  const most = Math.floor(MOST_SUMS / (channels.length * spectrum));
  const together = Math.max(1, Math.min(hops, groups.length > 1 ? most : FEW_BLOCKS, most));
  const kept = groups.length === 1 ? new Early(plan, points, shape) : null;
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
      const early = kept ?? new Early(plan, group, shape);
      early.add(first, sums);
      if (!kept) early.release();
      await tick();
    }
    for (let hop = 0; hop < count; hop++) {
      const planes = backInTime(sums[hop] ?? [], transform, block);
      late?.addTo(planes, (first + hop) * block);
      const position = (first + hop) * block;
      yield { position, frames: Math.min(block, frames - position), planes };
    }
    await tick();
  }
  kept?.release();
  late?.release();
}

/** Direct sound and early reflections of some points at all capsules. */
class Early {
  /** by point, capsule and part */
  private readonly responses: Spectrum[][][];
  private readonly played: Played[];
  private readonly transform: Spectra;

  constructor(plan: RenderPlan, points: readonly RenderPoint[], shape: Shape) {
    const { transform, hop: block } = shape;
    this.transform = transform;
    this.responses = points.map((point) => responsesOf(plan, point, shape));
    this.played = points.map(
      ({ phrase }) =>
        new Played(transform, (hop) => {
          const input = new Float32Array(transform.size);
          readLoop(phrase, (hop + 1) * block - transform.size + AHEAD, input);
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
