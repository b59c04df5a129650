import { LoudnessMeter } from '../measure/loudness';
import { beforeDirect, lateSets } from '../render/late';
import { LATE_SETS } from '../render/late-take';
import { ImageFilters } from '../render/image-filters';
import { addPath, AHEAD, directPath, type Path } from '../render/paths';
import { plainEngine, type Spectra, type SpectraEngine, type Spectrum } from '../signal/spectra';
import { powerOfTwo } from '../signal/spectrum';
import { earlyReflections } from '../../acoustics/reflections';
import type { Loop } from './mixer';
import type { Scene, SceneCapsule, ScenePoint } from './scene';

/** One finished layer of one stem. */
export interface MadeLayer {
  stem: number;
  /** near: direct sound and first reflections at what follows the hand; rest: everything else; all: both */
  name: 'near' | 'rest' | 'all';
  loop: Loop;
}

/** What is wanted of a scene. */
export interface LoopsWanted {
  /** in layers that the hand can part, or whole */
  layers: 'parted' | 'whole';
  /** the room alone */
  withoutDirect: boolean;
}

/** A transform in which a loop goes round by itself, or one long enough that its end can be laid over its beginning. */
function transformFor(frames: number, longest: number, engine: SpectraEngine): Spectra {
  if (goesRound(frames, engine)) return engine.of(frames);
  return engine.of(powerOfTwo(frames + longest));
}

/** Whether an engine has a transform of just so many frames: what is in it goes round by itself. */
const goesRound = (frames: number, engine: SpectraEngine): boolean =>
  engine.kind === 'fast' && frames % 32 === 0 && onlySmallFactors(frames);

function onlySmallFactors(count: number): boolean {
  let left = count;
  for (const factor of [2, 3, 5]) while (left % factor === 0) left /= factor;
  return left === 1;
}

/** A response longer than the transform goes round in it. */
function laidRound(response: Float32Array, size: number): Float32Array {
  const out = new Float32Array(size);
  for (let i = 0; i < response.length; i++) {
    out[i % size] = (out[i % size] as number) + (response[i] as number);
  }
  return out;
}

/** What comes out of a transform as one round, from emission on. */
function roundOf(samples: Float32Array, frames: number): Float32Array {
  const out = new Float32Array(frames);
  for (let i = 0; i < samples.length; i++) {
    const at = (i + frames - AHEAD) % frames;
    out[at] = (out[at] as number) + (samples[i] as number);
  }
  return out;
}

type Pair = [left: Float32Array, right: Float32Array];

/** The late field of one set, Q = 1: in both channels, and capsule by capsule. */
interface LatePair {
  pair: Pair;
  responses: readonly Float32Array[];
}

/** The late field of each set. */
async function latePairs(scene: Scene, engine: SpectraEngine): Promise<LatePair[]> {
  const { hall, capsules, sampleRateHz, points, seed } = scene;
  if (!hall) return [];
  const receivers = capsules.map(({ receiver }) => receiver);
  const count = Math.min(LATE_SETS, points.length);
  const sets = await lateSets(hall, receivers, sampleRateHz, engine, { seed, count });
  return sets.map((responses): LatePair => {
    const { length } = responses[0] ?? [];
    const sums: Pair = [new Float32Array(length), new Float32Array(length)];
    responses.forEach((response, c) => {
      const { left, right, delayS } = capsules[c] as SceneCapsule;
      const delay = Math.round(delayS * sampleRateHz);
      for (let i = delay; i < length; i++) {
        const value = response[i - delay] as number;
        sums[0][i] = (sums[0][i] as number) + left * value;
        sums[1][i] = (sums[1][i] as number) + right * value;
      }
    });
    return { pair: sums, responses };
  });
}

/** Responses of a point in both channels, near and rest. */
function responsesOf(
  scene: Scene,
  point: ScenePoint,
  wanted: LoopsWanted,
  late: LatePair | undefined,
  filters: ImageFilters | null,
): { near: Pair; rest: Pair } {
  const { room, speed, sampleRateHz, followed } = scene;
  const near: [Path, SceneCapsule][] = [];
  const rest: [Path, SceneCapsule][] = [];
  for (const capsule of scene.capsules) {
    const { receiver } = capsule;
    const close = wanted.layers === 'parted' && capsule.live ? near : rest;
    if (!wanted.withoutDirect && point.ways !== 'room') {
      close.push([directPath(point.position, receiver, speed), capsule]);
    }
    if (!room || point.ways === 'direct') continue;
    for (const reflection of earlyReflections(room, point.position, receiver, speed) ?? []) {
      const { surfaces, pathM, gain } = reflection;
      const [over = '', ...more] = surfaces;
      const follows =
        more.length === 0 && followed.includes(over) && scene.live !== 'direct by stem';
      const into = follows ? close : rest;
      // What follows the hand is one multiplication a path, and stays that at rest.
      const filter = into === near ? null : (filters?.of(surfaces) ?? null);
      into.push([{ delayS: pathM / speed, gain, filter }, capsule]);
    }
  }
  const pairOf = (paths: readonly (readonly [Path, SceneCapsule])[], least: number): Pair => {
    const longest = Math.max(
      0,
      ...paths.map(
        ([path, { delayS }]) => (path.delayS + delayS) * sampleRateHz + (path.filter?.length ?? 0),
      ),
    );
    const length = Math.max(least, Math.ceil(longest)) + 2 * AHEAD;
    const out: Pair = [new Float32Array(length), new Float32Array(length)];
    for (const [{ delayS: way, gain, filter }, capsule] of paths) {
      const delayS = way + capsule.delayS;
      const size = gain * point.amplitude;
      if (capsule.left !== 0)
        addPath(
          out[0],
          { delayS, gain: size * capsule.left, filter: filter ?? null },
          sampleRateHz,
        );
      if (capsule.right !== 0)
        addPath(
          out[1],
          { delayS, gain: size * capsule.right, filter: filter ?? null },
          sampleRateHz,
        );
    }
    return out;
  };
  const field = point.ways === 'direct' ? undefined : late;
  const restPair = pairOf(rest, field?.pair[0].length ?? 0);
  if (!field) return { near: pairOf(near, 0), rest: restPair };
  const gain = point.amplitude / Math.sqrt(point.q);
  const [left, right] = restPair;
  const add = (out: Float32Array, from: number, samples: Float32Array, size: number): void => {
    for (let i = 0; i < samples.length && size !== 0; i++) {
      out[from + i] = (out[from + i] as number) + size * (samples[i] as number);
    }
  };
  add(left, AHEAD, field.pair[0], gain);
  add(right, AHEAD, field.pair[1], gain);
  scene.capsules.forEach((capsule, c) => {
    const response = field.responses[c];
    if (!response) return;
    const { delayS } = directPath(point.position, capsule.receiver, speed);
    const early = beforeDirect(response, delayS, sampleRateHz);
    const from = AHEAD + Math.round(capsule.delayS * sampleRateHz);
    const fits = early.subarray(0, Math.max(0, left.length - from));
    add(left, from, fits, -gain * capsule.left);
    add(right, from, fits, -gain * capsule.right);
  });
  return { near: pairOf(near, 0), rest: restPair };
}

/** Integrated loudness of what is heard, as if it went on for ever. */
function loudnessOf(left: Float32Array, right: Float32Array, sampleRateHz: number): number | null {
  const meter = new LoudnessMeter([1, 1], sampleRateHz);
  meter.add([left, right], left.length);
  return meter.result().integrated;
}

/** How the work is told of, and given up. */
export interface LoopsHelp {
  engine: SpectraEngine;
  breathe: () => Promise<void>;
}

/**
 * What a scene sounds like, stem by stem, as loops of one round of the phrases.
 * @param loopOf the phrase of a point
 * @returns loudness of the whole, LUFS; null where it is silent
 */
export async function* sceneLoops(
  scene: Scene,
  wanted: LoopsWanted,
  loopOf: (point: ScenePoint) => Float32Array,
  help: Partial<LoopsHelp> = {},
): AsyncGenerator<MadeLayer, number | null, undefined> {
  const engine = help.engine ?? plainEngine;
  const [firstPoint] = scene.points;
  if (!firstPoint) return null;
  const frames = loopOf(firstPoint).length;
  const late = await latePairs(scene, engine);
  const { surfaces } = scene;
  const filters = surfaces && new ImageFilters(surfaces, scene.sampleRateHz);
  await help.breathe?.();
  const longest = Math.ceil(scene.sampleRateHz * LONGEST_EARLY_S) + (late[0]?.pair[0].length ?? 0);
  const transform = transformFor(frames, longest, engine);
  const whole: Pair = [new Float32Array(frames), new Float32Array(frames)];
  for (const [s] of scene.stems.entries()) {
    const sums = { near: spectrumPair(transform), rest: spectrumPair(transform) };
    for (const [i, point] of scene.points.entries()) {
      if (point.stem !== s) continue;
      const set = late[i % Math.max(1, late.length)];
      const responses = responsesOf(scene, point, wanted, set, filters);
      const played = transform.keep(laidRound(loopOf(point), transform.size));
      for (const name of ['near', 'rest'] as const) {
        responses[name].forEach((response, side) => {
          if (response.length <= 2 * AHEAD) return;
          const b = transform.keep(laidRound(response, transform.size));
          transform.multiplyAdd([{ sum: sums[name][side] as Spectrum, a: played, b }]);
          transform.release([b]);
        });
      }
      transform.release([played]);
      await help.breathe?.();
    }
    for (const name of ['near', 'rest'] as const) {
      if (name === 'near' && wanted.layers === 'whole') continue;
      const loop = transform.samplesOf(sums[name]).map((samples) => roundOf(samples, frames));
      const [left, right] = loop as [Float32Array, Float32Array];
      addTo(whole[0], left);
      addTo(whole[1], right);
      // What follows the hand at all times needs no loop of its own.
      if (name === 'near' && scene.live === 'always') continue;
      yield { stem: s, name: wanted.layers === 'whole' ? 'all' : name, loop: [left, right] };
    }
    transform.release([...sums.near, ...sums.rest]);
    await help.breathe?.();
  }
  return loudnessOf(whole[0], whole[1], scene.sampleRateHz);
}

/** No early reflection of a hall that a session may have is later, s. */
const LONGEST_EARLY_S = 1.5;

const spectrumPair = (transform: Spectra): Spectrum[] => [transform.silence(), transform.silence()];

function addTo(sum: Float32Array, samples: Float32Array): void {
  for (let i = 0; i < sum.length; i++) sum[i] = (sum[i] as number) + (samples[i] as number);
}

/**
 * How loud a scene is at about, from its energies: at once, before anything is made.
 * @returns LUFS of phrases that sound all the time
 */
export function expectedLoudness(scene: Scene): number {
  let energy = 0;
  const { hall } = scene;
  const seconds = hall?.rt60S[Math.floor(hall.rt60S.length / 2)]?.[1] ?? 0;
  const room = hall ? (4 * Math.PI * hall.speed * seconds) / hall.volumeM3 / 13.8 : 0;
  for (const { position, amplitude, q, ways } of scene.points) {
    for (const { receiver, left, right } of scene.capsules) {
      const { gain } = directPath(position, receiver, scene.speed);
      const direct = ways === 'room' ? 0 : gain * gain;
      const around = ways === 'direct' ? 0 : room / (3 * q);
      energy += amplitude ** 2 * (left * left + right * right) * (direct + around);
    }
  }
  return -0.691 + 10 * Math.log10(Math.max(energy, 1e-12));
}

/** A loop at twice its rate, with the same sound up to 20 kHz at 48 kHz: for what is read between its samples. */
export function doubled(loop: Float32Array, engine: SpectraEngine = plainEngine): Float32Array {
  const { length } = loop;
  if (goesRound(length, engine)) {
    const wide = new Float32Array(2 * length + 2);
    // Nothing is above the old half of the rate.
    wide.set(engine.of(length).forward(loop).subarray(0, length));
    const [samples] = engine.of(2 * length).backward(wide, wide);
    return samples.map((value) => 2 * value);
  }
  // A path of half a sample: the band-limited impulse that every render is made of.
  const taps = new Float32Array(2 * AHEAD + 1);
  addPath(taps, { delayS: 0.5, gain: 1 }, 1);
  const around = Float32Array.from({ length: length + taps.length }, (_, i) => {
    return loop[(i - AHEAD + length) % length] as number;
  });
  const out = new Float32Array(2 * length);
  for (let i = 0; i < length; i++) {
    let sum = 0;
    for (let k = 0; k < taps.length; k++) sum += (taps[k] as number) * (around[i + k] as number);
    out[2 * i] = loop[i] as number;
    out[2 * i + 1] = sum;
  }
  return out;
}
