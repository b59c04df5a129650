import { inRange } from '../units/guard';
import type { Session } from '../session/schema';

/**
 * What counts as what, once for findings, comparison and recommendation. Where a figure is a rule
 * of thumb rather than physics, it is one of this product's own.
 */

export { AT_LOUDSPEAKER } from '../localisation/stage';

/** A stand above this is a high one: wide base, ballast, not one person alone; m. */
export const HIGH_STAND_M = 3;

/** Closer than this on the plan an array is over somebody, m … */
export const OVER_PEOPLE_M = 1;
/** … if it is at least so high, m. */
export const OVER_PEOPLE_FROM_M = 1.8;

/** Width of the picture where the brief does not say, percent of the base. */
export const USUAL_WIDTH_PCT = 85;
/** Where nothing is wanted, a picture below this is narrow, percent; else this much below what is. */
export const NARROW_PCT = 50;
export const WIDTH_TOLERANCE_PCT = 10;

/** A gap between neighbours that is heard as a hole, percent of the base. */
export const LARGE_GAP_PCT = 40;

/** A mono sum below this is a loss, dB against two uncorrelated channels. */
export const MONO_LOSS_DB = -1.5;

/** Frequency at which the correlation of both channels stands for spaciousness in the bass, Hz. */
export const LOW_HZ = 125;

/** Mean direct-to-reverberant ratio that each taste wants, dB. */
export const ROOM_DB = {
  close: { min: 2, max: 20 },
  balanced: { min: -3, max: 4 },
  roomy: { min: -9, max: -1 },
} as const;

/** What an array makes of a session, in the figures by which arrays are judged. */
export interface Measures {
  imageWidthPct: number;
  largestGapPct: number;
  atSpeakersPct: number;
  /** fraction of the intent bands that hold, 0 … 1; null without bands */
  bandsHeld: number | null;
  /** mean direct-to-reverberant ratio, dB; null while the room is unknown */
  directToReverberantDb: number | null;
  /** how deep the mono comb is on average, 0 none … 1 full */
  monoComb: number;
  /** loudest minus softest player through distance and pattern, dB */
  unevennessDb: number;
  /** correlation of both channels in the diffuse field at 125 Hz; low is spacious */
  lowCorrelation: number;
  /** players without a stable or with a swapped image: physics, not taste */
  broken: number;
}

/** One number for each thing that is judged: a weight, or how well it is met, 0 … 1. */
export interface Parts {
  fill: number;
  gap: number;
  speakers: number;
  bands: number;
  room: number;
  mono: number;
  even: number;
  space: number;
}

export interface Wanted {
  imageWidthPct: number;
  roomDb: { min: number; max: number } | null;
  weights: Parts;
}

const MONO_WEIGHT = { 'must-survive': 3, 'should-survive': 1, 'may-be-lost': 0 };

/** The intent as numbers; what was not said gets the usual. */
export function wantedOf({ brief }: Pick<Session, 'brief'>): Wanted {
  const { imageWidthPct, room, mono, bands } = brief.intent;
  return {
    imageWidthPct: imageWidthPct ?? USUAL_WIDTH_PCT,
    roomDb: room === null ? null : ROOM_DB[room],
    weights: {
      fill: 3,
      gap: 1,
      speakers: 2,
      bands: bands.length > 0 ? 4 : 0,
      room: room === null ? 0 : 2,
      mono: mono === null ? 0.5 : MONO_WEIGHT[mono],
      even: 1,
      space: 0.5,
    },
  };
}

/** 1 where all is as wanted, falling to 0. */
const near = (difference: number, tolerance: number): number =>
  Math.max(0, 1 - Math.abs(difference) / tolerance);

/** How far a ratio is outside of what is wanted, dB; 0 inside, and where one is not known. */
export function roomMissDb(ratioDb: number | null, wanted: Wanted['roomDb']): number {
  if (ratioDb === null || !wanted) return 0;
  return Math.max(wanted.min - ratioDb, ratioDb - wanted.max, 0);
}

/**
 * How well an array does in each part, 0 … 1.
 * @param count players, 0 and more
 * @throws RangeError where count is outside 0 … 10⁶
 */
export function partScores(measures: Measures, wanted: Wanted, count: number): Parts {
  inRange('count', count, 0, 1e6);
  // With few players the neighbours are far apart by necessity.
  const evenGap = count > 1 ? measures.imageWidthPct / (count - 1) : 0;
  return {
    fill: near(measures.imageWidthPct - wanted.imageWidthPct, 60),
    gap: near(Math.max(0, measures.largestGapPct - evenGap), 60),
    speakers: near(measures.atSpeakersPct, 50),
    bands: measures.bandsHeld ?? 1,
    room: near(roomMissDb(measures.directToReverberantDb, wanted.roomDb), 8),
    mono: 1 - measures.monoComb,
    even: near(Math.max(0, measures.unevennessDb - 3), 12),
    space: near(Math.max(0, measures.lowCorrelation - 0.2), 0.8),
  };
}

/** Weighted mean of the parts, 0 … 100; a broken image costs more than any taste can give. */
export function scoreOf(parts: Parts, { weights }: Wanted, broken: number): number {
  let sum = 0;
  let total = 0;
  for (const key of Object.keys(weights) as (keyof Parts)[]) {
    sum += weights[key] * parts[key];
    total += weights[key];
  }
  return (sum / total) * 100 - broken * 100;
}
