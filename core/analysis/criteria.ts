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

/**
 * Customary widths of the picture, percent of the base, where nobody wants another: an ensemble
 * fills it, a few players less, a wide instrument alone still less. None of them is a wish.
 */
const ENSEMBLE_PCT = { min: 70, max: 100 };
const FEW_PCT = { min: 50, max: 90 };
const ALONE_PCT = { min: 25, max: 75 };
const FEW = 4;

function customaryWidth(players: number): { min: number; max: number } {
  if (players > FEW) return ENSEMBLE_PCT;
  return players > 1 ? FEW_PCT : ALONE_PCT;
}
/** Customary width of the picture of several players, percent of the base: said where nobody wants another. */
export const CUSTOMARY_WIDTH_PCT = { min: 50, max: 100 } as const;
/** A picture so much narrower than what is wanted is too narrow, percent. */
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

/** Up to this height of an array before an ensemble it stands in the way of eyes, m … */
export const IN_SIGHT_M = 1.9;
/** … from this one on; lower it is below the heads of who sits, m. */
const BELOW_SIGHT_M = 1.1;
/** So many are few: one, two or three. */
export const FEW_PLAYERS = 3;

/** What an array makes of a session, in the figures by which arrays are judged. */
export interface Measures {
  /** in the leading model */
  imageWidthPct: number;
  /** the same in the model that makes it narrowest and in the one that makes it widest */
  narrowestPct: number;
  widestPct: number;
  /** how far the images are from keeping the players' own distances, percent of the base */
  spacingOffPct: number;
  /** in the worst model, as is the next */
  largestGapPct: number;
  atSpeakersPct: number;
  /** fraction of the intent bands that hold, 0 … 1; null without bands */
  bandsHeld: number | null;
  /** mean direct-to-reverberant ratio, dB; null while the room is unknown */
  directToReverberantDb: number | null;
  /** level of the worst player's mono sum against two uncorrelated channels, dB */
  worstMonoDb: number;
  /** the same in the third octave that loses most, 100 Hz … 10 kHz, dB */
  worstMonoBandDb: number;
  /** loudest minus softest player through distance and pattern, dB */
  unevennessDb: number;
  /** how much softer the back half is than the front half, players' own levels left out, dB */
  frontToBackDb: number;
  /** correlation of both channels in the diffuse field at 125 Hz; low is spacious */
  lowCorrelation: number;
  /** how much of the place time makes, the rest level does: 0 … 1 */
  timeShare: number;
  /** mean half span of the images with the usual set-up tolerances, percent; null: not looked at */
  tolerancePct: number | null;
  heightM: number;
  /** somebody sits or stands under it */
  overPeople: boolean;
  microphones: number;
  /** players without a stable or with a swapped image: physics, not taste */
  broken: number;
}

/** One number for each thing that is judged: a weight, or how well it is met, 0 … 1. */
export interface Parts {
  fill: number;
  spacing: number;
  gap: number;
  speakers: number;
  bands: number;
  room: number;
  mono: number;
  even: number;
  depth: number;
  space: number;
  exact: number;
  practice: number;
  sure: number;
  height: number;
  few: number;
}

export interface Wanted {
  /** as it was said, the width itself; else the customary range */
  widthPct: { min: number; max: number };
  roomDb: { min: number; max: number };
  /** which of them somebody said: the others are customary, and never called wanted */
  said: { width: boolean; room: boolean; mono: boolean };
  practice: 'level-first' | 'time-first' | 'both' | null;
  weights: Parts;
}

const MONO_WEIGHT = { 'must-survive': 3, 'should-survive': 1, 'may-be-lost': 0 };

/** Room can be added later and never taken away: where nothing is said, rather close, dB. */
const IN_DOUBT_DB = { min: -2, max: 20 };

/**
 * The intent as numbers; what was not said gets the usual.
 * @param players how many the array is for
 */
export function wantedOf({ brief }: Pick<Session, 'brief'>, players = FEW + 1): Wanted {
  const { imageWidthPct, room, mono, bands, tastePct, practice } = brief.intent;
  const taste = tastePct / 100;
  return {
    widthPct:
      imageWidthPct === null ? customaryWidth(players) : { min: imageWidthPct, max: imageWidthPct },
    roomDb: room === null ? IN_DOUBT_DB : ROOM_DB[room],
    said: { width: imageWidthPct !== null, room: room !== null, mono: mono !== null },
    practice,
    weights: {
      // Wishes for single players say more than a width.
      fill: bands.length > 0 ? 1 : 3,
      spacing: bands.length > 0 ? 0.5 : 1.5,
      gap: 1,
      speakers: 2,
      bands: bands.length > 0 ? 6 : 0,
      room: room === null ? 1.5 : 2,
      mono: mono === null ? 0.5 : MONO_WEIGHT[mono],
      even: 1,
      depth: 0.5,
      space: 1 + 2 * Math.max(0, taste),
      exact: 0.5 + 2 * Math.max(0, -taste),
      practice: practice === null ? 0 : 2,
      sure: 0.5,
      height: 0.5,
      few: 0.25,
    },
  };
}

/** From this share of time on a picture has all the air that time gives it, 0 … 1. */
const AIRY_SHARE = 0.35;

/** 1 where all is as wanted, falling to 0. */
const near = (difference: number, tolerance: number): number =>
  Math.max(0, 1 - Math.abs(difference) / tolerance);

/** How far a ratio is outside of what is wanted, dB; 0 inside, and where one is not known. */
export function roomMissDb(ratioDb: number | null, wanted: Wanted['roomDb']): number {
  if (ratioDb === null) return 0;
  return Math.max(wanted.min - ratioDb, ratioDb - wanted.max, 0);
}

/** A stand in nobody's eyes and not a high one: below the heads of who sits, or above all. */
const heightScore = (heightM: number, count: number): number => {
  // Before one or two a low stand hides nobody.
  if (heightM <= BELOW_SIGHT_M && count <= FEW_PLAYERS) return 1;
  if (heightM < IN_SIGHT_M) return near(IN_SIGHT_M - heightM, 1.4);
  return near(Math.max(0, heightM - HIGH_STAND_M), 2);
};

function practiceScore(timeShare: number, practice: Wanted['practice']): number {
  if (practice === 'level-first') return 1 - timeShare;
  if (practice === 'time-first') return timeShare;
  return 1 - Math.abs(2 * timeShare - 1);
}

/**
 * How well an array does in each part, 0 … 1; width, spacing, gaps and wishes in whatever model
 * makes them worst.
 * @param count players, 0 and more
 * @throws RangeError where count is outside 0 … 10⁶
 */
export function partScores(measures: Measures, wanted: Wanted, count: number): Parts {
  inRange('count', count, 0, 1e6);
  // With few players the neighbours are far apart by necessity.
  const evenGap = count > 1 ? measures.imageWidthPct / (count - 1) : 0;
  const widthMiss = Math.max(
    0,
    wanted.widthPct.min - measures.narrowestPct,
    measures.widestPct - wanted.widthPct.max,
  );
  return {
    fill: near(widthMiss, 80),
    spacing: near(measures.spacingOffPct, 25),
    gap: near(Math.max(0, measures.largestGapPct - evenGap), 60),
    speakers: near(measures.atSpeakersPct, 50),
    bands: measures.bandsHeld ?? 1,
    room: near(roomMissDb(measures.directToReverberantDb, wanted.roomDb), 8),
    // A comb takes no level from the whole: it counts where somebody said that mono matters.
    mono: near(
      wanted.said.mono
        ? Math.min(0, measures.worstMonoBandDb + 1)
        : Math.min(0, 2 * (measures.worstMonoDb + 1)),
      9,
    ),
    even: near(Math.max(0, measures.unevennessDb - 3), 12),
    depth: near(Math.max(0, measures.frontToBackDb - 3), 9),
    // Well below 0 the bass is not wide but out of phase.
    // Half of the space is the room's two sides in the bass, half what only time differences give.
    space:
      near(Math.max(0, measures.lowCorrelation - 0.2, -0.1 - measures.lowCorrelation), 0.8) / 2 +
      Math.min(1, measures.timeShare / AIRY_SHARE) / 2,
    exact: 1 - measures.timeShare,
    practice: practiceScore(measures.timeShare, wanted.practice),
    sure: near(Math.max(0, (measures.tolerancePct ?? 0) - 2), 15),
    height: heightScore(measures.heightM, count) * (measures.overPeople ? 0.4 : 1),
    few: near(Math.max(0, measures.microphones - 2), 6),
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
