import { earlyReflections, type Room } from '../../acoustics/reflections';
import { sensitivity } from '../../acoustics/patterns';
import { length, scale, subtract, dot, type Vec3 } from '../../units/vector';
import type { Receiver } from '../../acoustics/diffuse-field';
import type { ImageFilters } from './image-filters';
import { kaiser } from '../signal/kaiser';

/** One way from a source to a capsule. */
export interface Path {
  /** s from emission */
  delayS: number;
  /** amplitude against 1 m, pattern and surfaces included; negative at a rear lobe */
  gain: number;
  /** what its surfaces do to the sound beyond that; null or absent for nothing */
  filter?: Float32Array | null;
}

/** Nearer than this no capsule is to a source, m: an instrument is no point. */
export const NEAREST_M = 0.05;

/**
 * The direct way from a point to a capsule.
 * @param speed speed of sound, 250 … 450 m/s
 */
export function directPath(
  source: Vec3,
  { position, axis, patternA }: Receiver,
  speed: number,
): Path {
  const line = subtract(source, position);
  const distanceM = Math.max(length(line), NEAREST_M);
  const cosine = dot(scale(line, 1 / distanceM), axis);
  return { delayS: distanceM / speed, gain: sensitivity(patternA, cosine) / distanceM };
}

/**
 * The early reflections from a point to a capsule, to second order.
 * @param speed speed of sound, 250 … 450 m/s
 * @param filters of the room's surfaces, where they absorb unlike in unlike octaves
 * @returns none where one of them is outside the room
 */
export function earlyPaths(
  room: Room,
  source: Vec3,
  receiver: Receiver,
  speed: number,
  filters: ImageFilters | null = null,
): Path[] {
  const found = earlyReflections(room, source, receiver, speed) ?? [];
  return found.map(({ pathM, gain, surfaces }) => ({
    delayS: pathM / speed,
    gain,
    filter: filters?.of(surfaces) ?? null,
  }));
}

/** Taps of a path between two samples, and how sharply their window falls. */
const TAPS = 64;
const KAISER_BETA = 8;

/** The window, finely sampled once. */
const FINE = 4096;
const WINDOW = Float64Array.from({ length: FINE + 1 }, (_, i) => kaiser(i / FINE, KAISER_BETA));

/**
 * Adds a path to an impulse response: a band-limited impulse between the samples, flat to 20 kHz.
 * @param response where it is added, beginning so many samples before emission
 * @param ahead samples of the response before emission, so that the earliest taps fit
 */
export function addPath(
  response: Float32Array,
  { delayS, gain, filter }: Path,
  sampleRateHz: number,
  ahead = TAPS / 2,
): void {
  if (filter) {
    addFiltered(response, { delayS, gain }, filter, sampleRateHz, ahead);
    return;
  }
  const at = delayS * sampleRateHz + ahead;
  const whole = Math.floor(at);
  const fraction = at - whole;
  const sine = Math.sin(Math.PI * fraction);
  for (let k = -TAPS / 2 + 1; k <= TAPS / 2; k++) {
    const to = whole + k;
    if (to < 0 || to >= response.length) continue;
    const x = k - fraction;
    const place = (Math.abs(x) / (TAPS / 2)) * FINE;
    const cell = Math.min(FINE - 1, Math.floor(place));
    const low = WINDOW[cell] as number;
    const window = low + (place - cell) * ((WINDOW[cell + 1] as number) - low);
    // sin(π(k − f)) = −(−1)^k · sin(πf)
    const sinc = Math.abs(x) < 1e-9 ? 1 : (((k & 1) === 0 ? -1 : 1) * sine) / (Math.PI * x);
    response[to] = (response[to] as number) + gain * window * sinc;
  }
}

function addFiltered(
  response: Float32Array,
  { delayS, gain }: Path,
  filter: Float32Array,
  sampleRateHz: number,
  ahead: number,
): void {
  const kernel = new Float32Array(TAPS + 2);
  const at = delayS * sampleRateHz;
  const whole = Math.floor(at);
  addPath(kernel, { delayS: (at - whole) / sampleRateHz, gain }, sampleRateHz, TAPS / 2);
  const first = whole + ahead - TAPS / 2;
  for (let j = 0; j < filter.length; j++) {
    const tap = filter[j] as number;
    const from = first + j;
    for (let k = Math.max(0, -from); k < kernel.length && from + k < response.length; k++) {
      response[from + k] = (response[from + k] as number) + tap * (kernel[k] as number);
    }
  }
}

/** Samples that a response begins before emission. */
export const AHEAD = TAPS / 2;
