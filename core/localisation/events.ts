import { THIRD_OCTAVES_HZ } from '../acoustics/mono';
import type { Route } from '../arrays/routing';
import { GAIN_FLOOR } from '../units/guard';
import { clamp } from '../units/numbers';
import type { EventGroup } from './event-groups';
import type { LocalisationModel } from './models/model';

/** A level and a time difference that place an image. */
export interface PlacingCues {
  icldDb: number;
  ictdMs: number;
}

/** What a listener hears as one thing of one player: a pair, a decoded mid-side, a microphone. */
export interface ImageEvent {
  /** the array that it belongs to, by its place among those mixed */
  origin: number;
  /** first arrival, channel delay included, s */
  timeS: number;
  /** squared amplitudes of its capsules */
  energy: number;
  /** how much of it has an image, 0 … 1; the rest is in antiphase */
  imaged: number;
  /** one as a rule; of bands that differ the lowest level, their middle by energy, and the highest */
  parts: readonly PlacingCues[];
  /** half the difference of its two pans, and their mean: a shift s is heard at mean + half·s */
  half: number;
  mean: number;
  /** two channels of their own, whose levels can differ by mistake */
  pair: boolean;
  /** both channels are inverted: from behind a figure-eight pair */
  inverted: boolean;
}

/** Events with the weight that each has in the place of the whole. */
export interface WeighedEvents {
  events: readonly ImageEvent[];
  /** share of each in the pull, summing to 1 */
  pulls: readonly number[];
  /** energy-weighted share that has no image, 0 … 1 */
  antiphaseShare: number;
}

/** An earlier event counts in full until it is this much weaker: energy ratio (−30 dB). */
const EARLIER_COUNTS = 0.001;
/** Precedence is complete at 1 ms, holds to 30 ms and is lost at 50 ms. */
const HOLDS_FROM_MS = 1;
const HOLDS_TO_MS = 30;
const LOST_AT_MS = 50;
/** What follows keeps so much of its pull: 10 dB less. */
const HELD_BACK = 0.9;
/** In antiphase an image fades out as the weaker channel comes within 12 dB of the stronger. */
const FADES_TO = 0.25;
/** Bands over which the error of a decoder is looked at, Hz. */
const DECODED_BANDS_HZ = THIRD_OCTAVES_HZ.filter((hz) => hz > 190 && hz < 8500);

/** How far an event this much later is held back by precedence, 0 … 1. */
const precedence = (ms: number): number =>
  clamp(ms / HOLDS_FROM_MS, 0, 1) * clamp((LOST_AT_MS - ms) / (LOST_AT_MS - HOLDS_TO_MS), 0, 1);

/** How far an event this much later is heard by itself, 0 … 1. */
const lateness = (ms: number, fromMs: number, toMs: number): number =>
  clamp((ms - fromMs) / (toMs - fromMs), 0, 1);

/** What the earlier events do to one, by a function of how much earlier they are: 0 … 1. */
function heldBy(
  event: ImageEvent,
  events: readonly ImageEvent[],
  by: (ms: number) => number,
): number {
  let free = 1;
  for (const earlier of events) {
    if (!(earlier.timeS < event.timeS)) continue;
    const strength = earlier.energy / (earlier.energy + EARLIER_COUNTS * event.energy);
    free *= 1 - by((event.timeS - earlier.timeS) * 1000) * strength;
  }
  return 1 - free;
}

/** How far an event is heard by itself, after what it follows, when half of that is at a limit. */
export const heardApart = (
  event: ImageEvent,
  events: readonly ImageEvent[],
  limitMs: number,
): number => heldBy(event, events, (ms) => lateness(ms, limitMs - 10, limitMs + 10));

/**
 * Weighs events against each other: by energy, by the first that arrives, and without what comes
 * so late that it is heard apart. An estimate of Rotunda's own.
 * Source: follows H. Wallach, E. B. Newman & M. R. Rosenzweig (1949), H. Haas (1951) and
 * R. Y. Litovsky et al. (1999).
 * @returns null where no event has any energy
 */
export function weighEvents(events: readonly ImageEvent[]): WeighedEvents | null {
  const weights = events.map((event) => {
    const held = heldBy(event, events, precedence);
    const late = heldBy(event, events, (ms) => lateness(ms, HOLDS_TO_MS, LOST_AT_MS));
    return event.energy * (1 - HELD_BACK * held) * (1 - late);
  });
  const all = weights.reduce((sum, weight) => sum + weight, 0);
  if (!(all > 0)) return null;
  const pulls = weights.map((weight) => weight / all);
  const imaged = events.reduce((sum, event, i) => sum + (pulls[i] ?? 0) * event.imaged, 0);
  return { events, pulls, antiphaseShare: clamp(1 - imaged, 0, 1) };
}

const NO_CUES: PlacingCues = { icldDb: 0, ictdMs: 0 };

const heardAt = (
  { half, mean }: ImageEvent,
  { icldDb, ictdMs }: PlacingCues,
  { shift }: LocalisationModel,
): number => clamp(mean + half * shift(icldDb, ictdMs), -1, 1);

/** Where one event alone is heard in a model, −1 … +1; of several bands where their middle is. */
const eventShift = (event: ImageEvent, model: LocalisationModel): number =>
  heardAt(event, event.parts[event.parts.length >> 1] ?? NO_CUES, model);

/** Where the bands of one event are heard: leftmost and rightmost, −1 … +1. */
export function eventExtent(
  event: ImageEvent,
  model: LocalisationModel,
): { left: number; right: number } {
  const places = event.parts.map((part) => heardAt(event, part, model));
  return { left: Math.min(...places), right: Math.max(...places) };
}

/** The mean over weighed events of what each of them has, by their pull; 0 without an image. */
function meanOver({ events, pulls }: WeighedEvents, of: (event: ImageEvent) => number): number {
  let sum = 0;
  let imaged = 0;
  events.forEach((event, i) => {
    const weight = (pulls[i] ?? 0) * event.imaged;
    if (!(weight > 0)) return;
    imaged += weight;
    sum += weight * of(event);
  });
  return imaged > 0 ? clamp(sum / imaged, -1, 1) : 0;
}

/** Where weighed events together are heard in a model, −1 … +1; 0 where nothing has an image. */
export const shiftOfEvents = (weighed: WeighedEvents, model: LocalisationModel): number =>
  meanOver(weighed, (event) => eventShift(event, model));

/**
 * How far weighed events spread where their bands differ: leftmost and rightmost, −1 … +1.
 * @returns null where every event is one image in all bands
 */
export function extentOfEvents(
  weighed: WeighedEvents,
  model: LocalisationModel,
): { left: number; right: number } | null {
  if (weighed.events.every(({ parts }) => parts.length <= 1)) return null;
  return {
    left: meanOver(weighed, (event) => eventExtent(event, model).left),
    right: meanOver(weighed, (event) => eventExtent(event, model).right),
  };
}

const audible = (gain: number): number => Math.max(Math.abs(gain), GAIN_FLOOR);

/** Right over left, dB, as large as any two channels can differ. */
export const levelDifferenceDb = (left: number, right: number): number =>
  20 * Math.log10(audible(right) / audible(left));

/** So much weaker than the other, a channel of opposite polarity leaves half an image: −18 dB. */
const HALF_IMAGED = FADES_TO / 2;

/**
 * Whether two signed amplitudes leave less than half an image: opposite in polarity and less than
 * 18 dB apart. Within 12 dB nothing is left of it; beyond, that of the stronger side returns.
 */
export const isAntiphase = (left: number, right: number): boolean => {
  if (left * right >= 0) return false;
  const [a, b] = [Math.abs(left), Math.abs(right)];
  return a > b ? b > HALF_IMAGED * a : a > HALF_IMAGED * b;
};

/** How much of two signed amplitudes has an image: all in phase, less the more they cancel. */
function imagedShare(left: number, right: number, cosine: number): number {
  if (cosine >= 0) return 1;
  const [a, b] = [Math.abs(left), Math.abs(right)];
  const ratio = Math.max(a, b) > 0 ? Math.min(a, b) / Math.max(a, b) : 0;
  return Math.max(0, 1 + (cosine * ratio) / FADES_TO);
}

/** One capsule as it comes out of its strip. */
interface Strand {
  amplitude: number;
  timeS: number;
  /** −1 … +1 */
  pan: number;
}

function strandOf(route: Route, arrival: { gain: number; timeS: number }): Strand {
  const { left, right, delayMs } = route;
  const size = Math.hypot(left, right);
  const sign = left + right < 0 ? -1 : 1;
  return {
    amplitude: arrival.gain * size * sign,
    timeS: arrival.timeS + delayMs / 1000,
    pan: size > 0 ? (Math.atan2(Math.abs(right), Math.abs(left)) * 4) / Math.PI - 1 : 0,
  };
}

function pairEvent(left: Strand, right: Strand, origin: number): ImageEvent {
  const [l, r] = [left.amplitude, right.amplitude];
  return {
    origin,
    timeS: Math.min(left.timeS, right.timeS),
    energy: l * l + r * r,
    imaged: imagedShare(l, r, Math.sign(l * r)),
    parts: [{ icldDb: levelDifferenceDb(l, r), ictdMs: (left.timeS - right.timeS) * 1000 }],
    half: (right.pan - left.pan) / 2,
    mean: (right.pan + left.pan) / 2,
    pair: true,
    inverted: l < 0 && r < 0,
  };
}

function singleEvent({ amplitude, timeS, pan }: Strand, origin: number): ImageEvent {
  const angle = ((pan + 1) * Math.PI) / 4;
  const [left, right] = pan <= -1 ? [1, 0] : pan >= 1 ? [0, 1] : [Math.cos(angle), Math.sin(angle)];
  return {
    origin,
    timeS,
    energy: amplitude * amplitude,
    imaged: 1,
    parts: [{ icldDb: levelDifferenceDb(left, right), ictdMs: 0 }],
    half: 1,
    mean: 0,
    pair: false,
    inverted: false,
  };
}

/** One of several waves at one point, on its way into both channels. */
interface DecodedWave {
  left: number;
  right: number;
  timeS: number;
}

/** Turns by a delay in each band; the same few delays are asked for again and again. */
const knownTurns = new Map<number, Float64Array>();
const MOST_KNOWN = 64;

function turnsOf(lateS: number): Float64Array {
  const known = knownTurns.get(lateS);
  if (known) return known;
  const turns = new Float64Array(2 * DECODED_BANDS_HZ.length);
  DECODED_BANDS_HZ.forEach((hz, i) => {
    const angle = -2 * Math.PI * hz * lateS;
    turns[2 * i] = Math.cos(angle);
    turns[2 * i + 1] = Math.sin(angle);
  });
  if (knownTurns.size >= MOST_KNOWN) knownTurns.clear();
  knownTurns.set(lateS, turns);
  return turns;
}

/** Bands so near to each other in level, dB, are weighed as one: no step as they change places. */
const BANDS_BLUR_DB = 3;

/** The level with half of the energy of all bands on either side, dB. */
function weighedMiddle(levelsDb: Float64Array, energies: Float64Array): number {
  const half = energies.reduce((sum, energy) => sum + energy, 0) / 2;
  let [low, high] = [Math.min(...levelsDb) - BANDS_BLUR_DB, Math.max(...levelsDb) + BANDS_BLUR_DB];
  if (!(half > 0)) return (low + high) / 2;
  for (let i = 0; i < 40; i++) {
    const middle = (low + high) / 2;
    let below = 0;
    for (let band = 0; band < levelsDb.length; band++) {
      const share = (middle - (levelsDb[band] ?? 0) + BANDS_BLUR_DB) / (2 * BANDS_BLUR_DB);
      below += (energies[band] ?? 0) * clamp(share, 0, 1);
    }
    if (below < half) low = middle;
    else high = middle;
  }
  return (low + high) / 2;
}

/**
 * What sits at one point and is decoded, as mid and side are: exactly where all of it comes
 * together, and in each third octave 200 Hz … 8 kHz where a part comes at another time, which
 * turns it against the others. Placed by level alone: at the middle of the bands by their energy,
 * from the leftmost to the rightmost of them.
 */
function decodedEvent(waves: readonly DecodedWave[], origin: number): ImageEvent {
  const timeS = Math.min(...waves.map((wave) => wave.timeS));
  const together = waves.every((wave) => wave.timeS === timeS);
  const bands = together ? 1 : DECODED_BANDS_HZ.length;
  // A difference of a picosecond is one of arithmetic.
  const turns = waves.map((wave) => turnsOf(Math.round((wave.timeS - timeS) * 1e12) / 1e12));
  const levelsDb = new Float64Array(bands);
  const energies = new Float64Array(bands);
  let [imaged, energy, inverted] = [0, 0, 0];
  for (let band = 0; band < bands; band++) {
    let [leftRe, leftIm, rightRe, rightIm] = [0, 0, 0, 0];
    for (let i = 0; i < waves.length; i++) {
      const { left, right } = waves[i] as DecodedWave;
      const re = together ? 1 : (turns[i]?.[2 * band] ?? 1);
      const im = together ? 0 : (turns[i]?.[2 * band + 1] ?? 0);
      leftRe += left * re;
      leftIm += left * im;
      rightRe += right * re;
      rightIm += right * im;
    }
    const left = Math.sqrt(leftRe * leftRe + leftIm * leftIm);
    const right = Math.sqrt(rightRe * rightRe + rightIm * rightIm);
    const product = left * right;
    const between = product > 0 ? (leftRe * rightRe + leftIm * rightIm) / product : 0;
    levelsDb[band] = levelDifferenceDb(left, right);
    imaged += imagedShare(left, right, between) / bands;
    energies[band] = left * left + right * right;
    energy += (left * left + right * right) / bands;
    if (leftRe < 0 && rightRe < 0) inverted += 1 / bands;
  }
  const places =
    bands === 1
      ? levelsDb
      : [Math.min(...levelsDb), weighedMiddle(levelsDb, energies), Math.max(...levelsDb)];
  return {
    origin,
    timeS,
    energy,
    imaged,
    parts: Array.from(places, (icldDb) => ({ icldDb, ictdMs: 0 })),
    half: 1,
    mean: 0,
    pair: false,
    inverted: inverted > 0.5,
  };
}

/**
 * The events of one source: its arrivals in their groups, each through its strip.
 * @param arrivals of every capsule: signed amplitude and time, s
 */
export function eventsOf(
  groups: readonly EventGroup[],
  routes: readonly Route[],
  arrivals: readonly { gain: number; timeS: number }[],
): ImageEvent[] {
  const strand = (i: number): Strand | null => {
    const [route, arrival] = [routes[i], arrivals[i]];
    return route && arrival ? strandOf(route, arrival) : null;
  };
  return groups.flatMap((group): ImageEvent[] => {
    if (group.kind === 'single') {
      const only = strand(group.capsule);
      return only && only.amplitude !== 0 ? [singleEvent(only, group.origin)] : [];
    }
    if (group.kind === 'pair') {
      const [left, right] = [strand(group.left), strand(group.right)];
      if (!left || !right || (left.amplitude === 0 && right.amplitude === 0)) return [];
      return [pairEvent(left, right, group.origin)];
    }
    const waves = group.capsules.flatMap((i): DecodedWave[] => {
      const [route, arrival] = [routes[i], arrivals[i]];
      if (!route || !arrival || arrival.gain === 0) return [];
      const { left, right, delayMs } = route;
      if (left === 0 && right === 0) return [];
      const timeS = arrival.timeS + delayMs / 1000;
      return [{ left: arrival.gain * left, right: arrival.gain * right, timeS }];
    });
    return waves.length > 0 ? [decodedEvent(waves, group.origin)] : [];
  });
}
