import type { Block } from '../wav/reader';
import { readPoint } from './turns';
import { arrivedBy, beforeDirect, lateFrames } from './late';
import { Late, lateSetsOf } from './late-take';
import { addScaled, backInTime, partitions, Played, readLoop, type Shape } from './overlap';
import { ImageFilters, longestFilter } from './image-filters';
import { addPath, AHEAD, directPath, earlyPaths, type Path } from './paths';
import type { RenderPlan, RenderPoint } from './plan';
import {
  plainEngine,
  type Product,
  type Spectra,
  type SpectraEngine,
  type Spectrum,
} from '../signal/spectra';

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

/** The beginnings of the late responses, by set and capsule: all that lies before any direct sound. */
type Heads = readonly (readonly Float32Array[])[];

/**
 * Everything on the way of one point's sound: blocks in which the responses of all capsules lie. What the
 * late field of its set would have before the direct sound is taken away here.
 */
function responsesOf(
  plan: RenderPlan,
  point: RenderPoint,
  shape: Shape,
  { heads, filters }: { heads: Heads[number] | undefined; filters: ImageFilters | null },
): Spectrum[][] {
  const room = point.amplitude / Math.sqrt(point.q);
  return plan.channels.map(({ receiver }, c) => {
    const direct = directPath(point.position, receiver, plan.speed);
    const paths: Path[] = [direct];
    if (plan.room) {
      paths.push(...earlyPaths(plan.room, point.position, receiver, plan.speed, filters));
    }
    const longest = Math.max(
      ...paths.map(({ delayS, filter }) => delayS * plan.sampleRateHz + (filter?.length ?? 0)),
    );
    const least = arrivedBy(direct.delayS, plan.sampleRateHz);
    const response = new Float32Array(Math.max(Math.ceil(longest), least) + 2 * AHEAD);
    for (const path of paths) {
      addPath(response, { ...path, gain: path.gain * point.amplitude }, plan.sampleRateHz);
    }
    const head = heads?.[c];
    if (head) {
      const early = beforeDirect(head, direct.delayS, plan.sampleRateHz);
      addScaled(response.subarray(AHEAD, AHEAD + early.length), early, -room);
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
function longestPath({
  points,
  channels,
  room,
  surfaces,
  speed,
  sampleRateHz,
}: RenderPlan): number {
  let longest = 0;
  for (const { position } of points) {
    for (const { receiver } of channels) {
      const early = room ? earlyPaths(room, position, receiver, speed) : [];
      for (const { delayS } of [directPath(position, receiver, speed), ...early]) {
        longest = Math.max(longest, delayS);
      }
    }
  }
  return arrivedBy(longest, sampleRateHz) + (surfaces ? longestFilter(sampleRateHz) : 0);
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
  const roundFor = ({ phrase, turn }: RenderPoint): number => turn?.round ?? phrase.length;
  const frames = points[0] ? roundFor(points[0]) : 0;
  if (frames * channels.length > MOST_SUMS) return null;
  if (points.some((point) => roundFor(point) !== frames)) return null;
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
  const sets = hall && (await lateSetsOf(plan, hall, engine, help.breathe));
  const late = hall && sets && (await Late.of(plan, hall, sets, engine, help.breathe));
  const heads = (sets ?? []).map((set) => set.map((response) => response.slice(0, longest)));
  const size = Math.max(1, Math.floor(MOST_RESPONSES / (2 * channels.length * spectrum)));
  const numbered = points.map((point, i) => ({ point, heads: heads[i % heads.length] }));
  const groups = Array.from({ length: Math.ceil(points.length / size) }, (_, g) =>
    numbered.slice(g * size, (g + 1) * size),
  );
  // Many points mean that their responses are made anew for every stretch: the fewer stretches the better.
  const most = Math.floor(MOST_SUMS / (channels.length * spectrum));
  const together = Math.max(1, Math.min(hops, groups.length > 1 ? most : FEW_BLOCKS, most));
  const kept = groups.length === 1 ? new Early(plan, numbered, shape) : null;
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

  constructor(
    plan: RenderPlan,
    points: readonly { point: RenderPoint; heads: Heads[number] | undefined }[],
    shape: Shape,
  ) {
    const { transform, hop: block } = shape;
    this.transform = transform;
    const { surfaces, sampleRateHz } = plan;
    const filters = surfaces && new ImageFilters(surfaces, sampleRateHz);
    this.responses = points.map(({ point, heads }) =>
      responsesOf(plan, point, shape, { heads, filters }),
    );
    this.played = points.map(
      ({ point }) =>
        new Played(transform, (hop) => {
          const input = new Float32Array(transform.size);
          const sounds = readPoint(point, (hop + 1) * block - transform.size + AHEAD, input);
          return sounds ? input : null;
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
