import type { Planes } from '../wav/decode';
import type { Block } from '../wav/reader';
import { LateField } from './late';
import { addPath, AHEAD, directPath, earlyPaths, type Path } from './paths';
import type { RenderPlan, RenderPoint } from './plan';
import { plainEngine, type Spectra, type SpectraEngine, type Spectrum } from './spectra';

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
/** Memory for what is summed up at once, numbers. */
const MOST_SUMS = 2 ** 25;

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
  const block = blockFor(plan.sampleRateHz);
  const engine = help.engine ?? plainEngine;
  const transform = engine.of(2 * block);
  const { channels, points, hall, frames } = plan;
  const hops = Math.ceil(frames / block);
  const perHop = channels.length * (transform.size + 2);
  const together = Math.max(1, Math.min(hops, Math.floor(MOST_SUMS / perHop)));
  const receivers = channels.map(({ receiver }) => receiver);
  const late: Spectrum[][][] = [];
  const sets = hall ? Math.min(LATE_SETS, points.length) : 0;
  const field = hall && new LateField(hall, receivers, plan.sampleRateHz, engine);
  for (let set = 0; field && set < sets; set++) {
    const responses = field.responses(plan.seed + 31_337 * set);
    late.push(responses.map((response) => partitions(response, transform)));
    await help.breathe?.();
  }
  const buses = late.map(() => new Bus(transform, points, sets));
  const steps = Math.ceil(hops / together) * (points.length + sets + 1);
  let step = 0;
  const tick = async (): Promise<void> => {
    step += 1;
    help.progress?.(step / steps);
    await help.breathe?.();
  };
  for (let first = 0; first < hops; first += together) {
    const count = Math.min(together, hops - first);
    const sums = Array.from({ length: count }, () => channels.map(() => transform.silence()));
    for (const point of points) {
      addEarly(plan, point, transform, first, sums);
      await tick();
    }
    for (const [set, responses] of late.entries()) {
      buses[set]?.add(responses, set, first, sums);
      await tick();
    }
    for (let hop = 0; hop < count; hop++) {
      const planes = backInTime(sums[hop] ?? [], transform);
      const position = (first + hop) * block;
      yield { position, frames: Math.min(block, frames - position), planes };
    }
    await tick();
  }
  transform.release(late.flat(2));
}

function addEarly(
  plan: RenderPlan,
  point: RenderPoint,
  transform: Spectra,
  first: number,
  sums: readonly Spectrum[][],
): void {
  const block = transform.size / 2;
  const responses = responsesOf(plan, point, transform);
  const most = Math.max(...responses.map((parts) => parts.length));
  const spectra: Spectrum[] = [];
  // A block earlier for every part of the responses but the first.
  for (let hop = first - most + 1; hop < first + sums.length; hop++) {
    const input = new Float32Array(transform.size);
    readLoop(point.phrase, (hop - 1) * block + AHEAD, input);
    spectra.push(transform.keep(input));
  }
  sums.forEach((channels, hop) => {
    channels.forEach((sum, c) => {
      responses[c]?.forEach((part, p) => {
        const spectrum = spectra[hop + most - 1 - p];
        if (spectrum) transform.multiplyAdd(sum, spectrum, part);
      });
    });
  });
  transform.release([...spectra, ...responses.flat()]);
}

function addScaled(sum: Float32Array, samples: Float32Array, gain: number): void {
  for (let i = 0; i < sum.length; i++) {
    sum[i] = (sum[i] as number) + gain * (samples[i] as number);
  }
}

/** All players of one set of late noise, summed up. */
class Bus {
  constructor(
    private readonly transform: Spectra,
    private readonly points: readonly RenderPoint[],
    private readonly sets: number,
  ) {}

  /** One block of all its players together; silence before the beginning. */
  private summed(set: number, hop: number): Float32Array {
    const block = this.transform.size / 2;
    const sum = new Float32Array(block);
    if (hop < 0) return sum;
    const one = new Float32Array(block);
    this.points.forEach(({ phrase, amplitude, q }, i) => {
      if (i % this.sets !== set) return;
      readLoop(phrase, hop * block, one);
      addScaled(sum, one, amplitude / Math.sqrt(q));
    });
    return sum;
  }

  add(
    responses: readonly Spectrum[][],
    set: number,
    first: number,
    sums: readonly Spectrum[][],
  ): void {
    const block = this.transform.size / 2;
    const most = Math.max(...responses.map((parts) => parts.length));
    const spectra: Spectrum[] = [];
    let before = this.summed(set, first - most);
    for (let hop = first - most + 1; hop < first + sums.length; hop++) {
      const here = this.summed(set, hop);
      const input = new Float32Array(this.transform.size);
      input.set(before);
      input.set(here, block);
      spectra.push(this.transform.keep(input));
      before = here;
    }
    sums.forEach((channels, hop) => {
      channels.forEach((sum, c) => {
        responses[c]?.forEach((part, p) => {
          const spectrum = spectra[hop + most - 1 - p];
          if (spectrum) this.transform.multiplyAdd(sum, spectrum, part);
        });
      });
    });
    this.transform.release(spectra);
  }
}

/** The later half of each: what overlap-save leaves whole. */
function backInTime(spectra: readonly Spectrum[], transform: Spectra): Planes {
  const planes = transform.samplesOf(spectra).map((samples) => samples.slice(transform.size / 2));
  transform.release(spectra);
  return planes;
}
