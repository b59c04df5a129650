import { LOUDNESS } from '../../audio/listen/matching';
import { LoudnessMeter } from '../../audio/measure/loudness';
import { phraseOf } from '../../audio/players/phrase';
import type { PlayerName } from '../../audio/players/kinds';
import { planTake } from '../../audio/render/plan';
import { renderBlocks } from '../../audio/render/take';
import { plainEngine, type SpectraEngine } from '../../audio/signal/spectra';
import { channelMap } from '../../channels/map';
import type { Session } from '../../session/schema';
import { dbToAmplitude } from '../../units/guard';
import type { Phrase } from './scene';

/** What a question sounds like: rendered, brought to one loudness, as long as each other. */

export const RATE_HZ = 48_000;
/** What is heard of a render: once the hall has filled. */
const [FROM_S, LENGTH_S] = [0.8, 3.4];
export const CLIP_FRAMES = Math.round(LENGTH_S * RATE_HZ);
const FADE_FRAMES = Math.round(0.03 * RATE_HZ);

/** Left and right. */
export type Stereo = readonly [left: Float32Array, right: Float32Array];

/** Something to be heard under a letter. */
export interface Clip {
  letter: string;
  sound: Stereo;
}

/** How a question's sounds are made. */
export interface Making {
  engine: SpectraEngine;
  /** told 0 … 1 now and then */
  progress: (fraction: number) => void;
  breathe: () => Promise<void>;
}

export const PLAIN_MAKING: Making = {
  engine: plainEngine,
  progress: () => undefined,
  breathe: () => Promise.resolve(),
};

/**
 * What the capsules of a set-up hear, by array: 3.4 s at 48 kHz, once the hall has filled.
 * @param seed any whole number, 0 … 2^32
 * @throws Error where there is nothing to render
 */
export async function capsulesHear(
  session: Session,
  phrase: Phrase,
  seed: number,
  { engine, progress, breathe }: Making,
): Promise<ReadonlyMap<string, readonly Float32Array[]>> {
  const planned = planTake(
    session,
    { seconds: FROM_S + LENGTH_S, sampleRateHz: RATE_HZ, phrase, seed },
    undefined,
    engine,
  );
  if (!planned.ok) throw new Error(planned.message);
  const from = Math.round(FROM_S * RATE_HZ);
  const planes = planned.value.channels.map(() => new Float32Array(CLIP_FRAMES));
  for await (const block of renderBlocks(planned.value, { engine, progress, breathe })) {
    const skip = Math.max(0, from - block.position);
    if (skip >= block.frames) continue;
    block.planes.forEach((plane, c) => {
      const to = block.position + skip - from;
      const rest = Math.min(block.frames, skip + CLIP_FRAMES - to);
      planes[c]?.set(plane.subarray(skip, rest), to);
    });
  }
  const by = new Map<string, Float32Array[]>();
  channelMap(session).inputs.forEach(({ arrayId }, i) => {
    const plane = planes[i];
    if (plane) by.set(arrayId, [...(by.get(arrayId) ?? []), plane]);
  });
  return by;
}

/** Two capsules as left and right. @throws TypeError where there are fewer than two */
export function asStereo(capsules: readonly Float32Array[] | undefined): Stereo {
  const [left, right] = capsules ?? [];
  if (!left || !right) throw new TypeError('a pair has two capsules');
  return [left, right];
}

/** One player's phrase alone, without a hall, as long as a clip. */
export function dryPhrase(player: PlayerName, phrase: Phrase, seed: number): Float32Array {
  const whole = phraseOf(player, phrase, seed, RATE_HZ);
  const from = Math.round(FROM_S * RATE_HZ);
  return whole.slice(from, from + CLIP_FRAMES);
}

/** Every sample times a factor. @param by factor, −1000 … 1000 */
export const scaled = (plane: Float32Array, by: number): Float32Array =>
  plane.map((value) => by * value);

/** Planes of one length, sample by sample. */
export const addedUp = (planes: readonly Float32Array[]): Float32Array => {
  const out = new Float32Array(planes[0]?.length ?? 0);
  for (const plane of planes)
    for (let i = 0; i < out.length; i++) out[i] = (out[i] ?? 0) + (plane[i] ?? 0);
  return out;
};

/** L = M + S, R = M − S. @param gain of S, a factor, 0 … 4 */
export function decoded(mid: Float32Array, side: Float32Array, gain: number): Stereo {
  return [
    mid.map((value, i) => value + gain * (side[i] ?? 0)),
    mid.map((value, i) => value - gain * (side[i] ?? 0)),
  ];
}

/** The same as mid and side: half the sum, half the difference. */
export const asMidSide = ([left, right]: Stereo): [mid: Float32Array, side: Float32Array] => [
  left.map((value, i) => (value + (right[i] ?? 0)) / 2),
  left.map((value, i) => (value - (right[i] ?? 0)) / 2),
];

/** Both loudspeakers give the sum. */
export function inMono([left, right]: Stereo): Stereo {
  const sum = left.map((value, i) => (value + (right[i] ?? 0)) / 2);
  return [sum, sum];
}

const TAPS = 767;
/** Odd taps of a Hilbert transform under a window of cosines. */
const HILBERT = Float64Array.from({ length: TAPS }, (_, k) => {
  const n = k - (TAPS - 1) / 2;
  const window = 0.5 + 0.5 * Math.cos((2 * Math.PI * n) / (TAPS + 1));
  return n % 2 === 0 ? 0 : (2 / (Math.PI * n)) * window;
});

/** With the phase of everything turned by so much, degrees; 180 is the polarity. */
export function phaseTurned(plane: Float32Array, deg: number): Float32Array {
  const [cos, sin] = [Math.cos((deg * Math.PI) / 180), Math.sin((deg * Math.PI) / 180)];
  const out = plane.map((value) => cos * value);
  if (Math.abs(sin) < 1e-9) return out;
  const half = (TAPS - 1) / 2;
  // Only every other tap is not 0.
  for (let k = 0; k < TAPS; k += 2) {
    const tap = sin * (HILBERT[k] ?? 0);
    const shift = half - k;
    const to = Math.min(out.length, out.length - shift);
    for (let i = Math.max(0, -shift); i < to; i++) {
      out[i] = (out[i] as number) - tap * (plane[i + shift] as number);
    }
  }
  return out;
}

/** Loudness after ITU-R BS.1770-4, LUFS; null of silence. */
export function loudnessOf(sound: Stereo): number | null {
  const meter = new LoudnessMeter([1, 1], RATE_HZ);
  meter.add([...sound], sound[0].length);
  return meter.result().integrated;
}

const faded = (plane: Float32Array): Float32Array =>
  plane.map((value, i) => {
    const edge = Math.min(i + 0.5, plane.length - i - 0.5);
    return edge >= FADE_FRAMES
      ? value
      : value * 0.5 * (1 - Math.cos((Math.PI * edge) / FADE_FRAMES));
  });

/** Room under full scale for the loudest of them. */
const PEAK = 0.89;

/**
 * All brought to one loudness, and to less together where one would clip.
 * @param louder of each over that, dB; 0 where it is left out
 */
export function matched(sounds: readonly Stereo[], louder: readonly number[] = []): Stereo[] {
  const at = sounds.map((sound, i): Stereo => {
    const soft: Stereo = [faded(sound[0]), faded(sound[1])];
    const gain = dbToAmplitude(LOUDNESS - (loudnessOf(soft) ?? LOUDNESS) + (louder[i] ?? 0));
    return [scaled(soft[0], gain), scaled(soft[1], gain)];
  });
  let most = 0;
  for (const sound of at) {
    for (const plane of sound) for (const value of plane) most = Math.max(most, Math.abs(value));
  }
  return most <= PEAK
    ? at
    : at.map(([left, right]): Stereo => [scaled(left, PEAK / most), scaled(right, PEAK / most)]);
}
