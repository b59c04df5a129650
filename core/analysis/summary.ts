import { mean, sum } from 'd3-array';
import { readyArray } from '../prepare/arrays';
import { anglesIn, leadingOf, stageIn } from '../localisation/leading';
import { distanceFactor, patternAOf, type Pattern } from '../acoustics/patterns';
import type { Technique } from '../arrays/technique';
import type { MicArray, Session } from '../session/schema';
import { arrayFigures, type ArrayFigures } from './array-figures';
import { contextOf } from '../prepare/context';
import { interchannelCorrelation } from './correlation';
import { LOW_HZ } from './criteria';
import { bandResults } from './intent';

/** An array in the few figures by which one is chosen before another, in the session's model. */
export interface ArraySummary {
  /** half recording angle for 100 %, in place where players stand, °; null where never reached */
  halfDeg: number | null;
  /** rightmost minus leftmost image, percent of the base; null without any image */
  widthPct: number | null;
  imageWidthPct: number | null;
  largestGapPct: number | null;
  /** players whose image is at a loudspeaker, percent */
  atSpeakersPct: number | null;
  /** wanted places of the brief: how many there are, how many are met */
  bands: number;
  bandsMet: number;
  /** players in antiphase or on the wrong side */
  broken: number;
  /** level of the worst mono sum against two uncorrelated channels, dB; null without players */
  worstMonoDb: number | null;
  worstMonoId: string | null;
  /** mean direct-to-reverberant ratio, dB; null while the hall is not known */
  directToReverberantDb: number | null;
  /** how many times farther than an omni for the same ratio, power mean over the capsules; 1 without any */
  reach: number;
  /** distance from a source of Q = 1 at which direct and reverberant are equal, m; null as above */
  reachM: number | null;
  /** correlation of its two channels in the reverberant field at 125 Hz; null for one */
  lowCorrelation: number | null;
  microphones: number;
}

/** The figures of one array in this session, whether or not it stands in it. */
export const arraySummary = (session: Session, array: MicArray): ArraySummary =>
  summaryOf(session, array, arrayFigures(array, session.sources, contextOf(session)));

/** The same from figures that are already known. */
export function summaryOf(session: Session, array: MicArray, figures: ArrayFigures): ArraySummary {
  const context = contextOf(session);
  const { model } = session.settings;
  const stage = stageIn(figures, model);
  const bands = bandResults(session, new Map(figures.sources.map((s) => [s.id, s])), model);
  const shifts = figures.sources.flatMap(({ image }) => {
    const place = leadingOf(image, model);
    return place ? [place.left, place.right] : [];
  });
  const rooms = figures.sources.flatMap(({ directToReverberantDb }) => directToReverberantDb ?? []);
  const ready = readyArray(array);
  const energies = ready.diffuse.length > 0 ? ready.diffuse : [1];
  const energy = sum(energies) / energies.length;
  const reach = 1 / Math.sqrt(energy);
  const worst = figures.sources.reduce<{ id: string; db: number } | null>((least, source) => {
    if (!source.mono) return least;
    const { sumDb } = source.mono;
    return !least || sumDb < least.db ? { id: source.id, db: sumDb } : least;
  }, null);
  return {
    halfDeg: anglesIn(figures, model)?.halfDeg ?? null,
    widthPct: shifts.length > 0 ? (Math.max(...shifts) - Math.min(...shifts)) * 50 : null,
    imageWidthPct: stage?.imageWidthPct ?? null,
    largestGapPct: stage?.largestGapPct ?? null,
    atSpeakersPct: stage?.atSpeakersPct ?? null,
    bands: bands.length,
    bandsMet: bands.filter(({ met }) => met).length,
    broken: figures.sources.filter(({ antiphase, reversed }) => antiphase || reversed).length,
    worstMonoDb: worst?.db ?? null,
    worstMonoId: worst?.id ?? null,
    directToReverberantDb: mean(rooms) ?? null,
    reach,
    reachM: context.criticalDistanceM === null ? null : context.criticalDistanceM * reach,
    lowCorrelation: interchannelCorrelation(ready, LOW_HZ, context.speed)?.real ?? null,
    microphones: ready.capsules.length,
  };
}

/** The same array with every microphone switched to one pattern; of mid-side only the mid. */
export function withPattern<T extends Technique>(technique: T, pattern: Pattern): T {
  switch (technique.kind) {
    case 'pair':
    case 'single':
      return { ...technique, pattern };
    case 'mid-side':
      return { ...technique, midPattern: pattern };
    case 'custom':
      return {
        ...technique,
        capsules: technique.capsules.map((capsule) => ({ ...capsule, pattern })),
      };
  }
}

/** What each pattern of a switchable microphone would make of an array as it stands. */
export interface PatternWhatIf {
  pattern: Pattern;
  array: MicArray;
  summary: ArraySummary;
  /** distance factor of one such capsule, 1 … 2 */
  distanceFactor: number;
}

/** The summary that each pattern would give; one for each pattern, in the order given. */
export function patternWhatIf(
  session: Session,
  array: MicArray,
  patterns: readonly Pattern[],
): PatternWhatIf[] {
  return patterns.map((pattern) => {
    const switched = { ...array, technique: withPattern(array.technique, pattern) };
    return {
      pattern,
      array: switched,
      summary: arraySummary(session, switched),
      distanceFactor: distanceFactor(patternAOf(pattern)),
    };
  });
}
