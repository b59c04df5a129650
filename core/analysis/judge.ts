import { mean } from 'd3-array';
import { missingForKit } from '../kit/needs';
import type { MicArray, Session } from '../session/schema';
import {
  OVER_PEOPLE_FROM_M,
  OVER_PEOPLE_M,
  partScores,
  scoreOf,
  wantedOf,
  type Measures,
  type Parts,
} from './criteria';
import { coherentResponse, coherentSumDb } from '../acoustics/coherent-mono';
import { edgesAt } from './edges-at';
import { cuesFrom, monoWaves, nearArrivals } from '../localisation/cues';
import { readyArray } from '../prepare/arrays';
import { planDistance } from '../units/vector';
import { summaryOf, type ArraySummary } from './summary';
import { arrayFigures, type ArrayFigures } from './array-figures';
import { contextOf } from '../prepare/context';
import { MODEL_IDS } from '../localisation/models/index';
import { depthIn, ensembleFrame } from './ensemble-frame';
import { bandResults } from './intent';
import { frontToBackDb, spacingOffPct, timeShareOf, withOwnSpot } from './spread';
import { setUpTolerance, usualTolerances, type ToleranceResult } from './tolerance';

/** An array against the brief, by the same criteria that recommend one. */
export interface Judgement {
  summary: ArraySummary;
  measures: Measures;
  /** how well each part of the brief is met, 0 … 1 */
  parts: Parts;
  /** 0 … 100; below 0 where an image is broken */
  score: number;
  /** what the kit lacks for it, in words; null where it can be built */
  lacks: string | null;
  /** mean half span of the images with the usual set-up tolerances, percent; null without an image */
  tolerancePct: number | null;
  decisive: ToleranceResult['decisive'];
}

/** Draws that are enough to compare; a chart of one array takes ten times as many. */
const DRAWS = 1000;

const most = (values: readonly number[], otherwise: number): number =>
  values.length > 0 ? Math.max(...values) : otherwise;
const least = (values: readonly number[], otherwise: number): number =>
  values.length > 0 ? Math.min(...values) : otherwise;

/** The figures by which an array is judged, from all its figures. */
export function measuresOf(
  session: Session,
  array: MicArray,
  figures: ArrayFigures,
  summary: ArraySummary,
): Omit<Measures, 'tolerancePct'> {
  const { own, stage } = figures;
  const byId = new Map(session.sources.map((source) => [source.id, source]));
  const players = own.flatMap(({ id }) => byId.get(id) ?? []);
  const frame = ensembleFrame(players);
  const spotted = withOwnSpot(session);
  const spoken = MODEL_IDS.filter((id) => stage[id] !== undefined);
  const stages = spoken.flatMap((id) => stage[id] ?? []);
  const widths = stages.map(({ imageWidthPct }) => imageWidthPct);
  const bySource = new Map(own.map((of) => [of.id, of]));
  const held = spoken.map((id) => {
    const results = bandResults(session, bySource, id);
    return results.length === 0 ? 1 : results.filter(({ met }) => met).length / results.length;
  });
  const levels = own.flatMap(({ id, levelAtArrayDb, image }) => {
    const source = byId.get(id);
    if (!source || !frame || levelAtArrayDb === null || image === null) return [];
    return [{ id, depthM: depthIn(frame, source), db: levelAtArrayDb - source.levelDb }];
  });
  const judged = levels.filter(({ id }) => !spotted.has(id)).map(({ db }) => db);
  const ready = readyArray(array);
  const { speed } = contextOf(session);
  // A wide player is heard at both its ends, where the middle may say nothing.
  const ends = players.flatMap((source) => (source.widthM > 0 ? edgesAt(ready, source) : [source]));
  const heard = ends.flatMap((point) => {
    const arrivals = nearArrivals(ready, point, speed);
    return arrivals ? { cues: cuesFrom(ready, arrivals), waves: monoWaves(ready, arrivals) } : [];
  });
  const shares = heard.flatMap(({ cues }) =>
    cues.antiphase ? [] : (timeShareOf(cues.icldDb, cues.ictdMs) ?? []),
  );
  const near = session.sources.some((source) => planDistance(source, array) < OVER_PEOPLE_M);
  return {
    imageWidthPct: summary.imageWidthPct ?? 0,
    narrowestPct: least(widths, 0),
    widestPct: most(widths, 0),
    spacingOffPct: most(
      spoken.map((id) =>
        spacingOffPct(
          own.flatMap(({ azimuthDeg, image }) => {
            const shift = image?.[id]?.shift;
            return shift === undefined ? [] : [{ azimuthDeg, shift }];
          }),
        ),
      ),
      0,
    ),
    largestGapPct: most(
      stages.map(({ largestGapPct }) => largestGapPct),
      0,
    ),
    atSpeakersPct: most(
      stages.map(({ atSpeakersPct }) => atSpeakersPct),
      0,
    ),
    bandsHeld: summary.bands === 0 ? null : least(held, 0),
    directToReverberantDb: summary.directToReverberantDb,
    worstMonoDb: Math.min(
      0,
      summary.worstMonoDb ?? 0,
      ...heard.map(({ waves }) => coherentSumDb(waves)),
    ),
    worstMonoBandDb: Math.min(
      0,
      ...heard.flatMap(({ waves }) => coherentResponse(waves).map(({ levelDb }) => levelDb)),
    ),
    unevennessDb: most(judged, 0) - least(judged, 0),
    frontToBackDb: frontToBackDb(levels),
    lowCorrelation: summary.lowCorrelation ?? 1,
    timeShare: mean(shares) ?? 0,
    heightM: array.z,
    overPeople: near && array.z >= OVER_PEOPLE_FROM_M,
    microphones: summary.microphones,
    broken: summary.broken,
  };
}

/**
 * Judges an array in a session, whether or not it stands in it.
 * @param draws of its set-up tolerance, 100 … 100 000
 */
export function judgeArray(session: Session, array: MicArray, draws = DRAWS): Judgement {
  const figures = arrayFigures(array, session.sources, contextOf(session));
  const summary = summaryOf(session, array, figures);
  const { images, decisive } = setUpTolerance(
    session,
    array,
    usualTolerances(session, array),
    draws,
    1,
    0,
  );
  const spans = Object.values(images).flatMap((span) => (span ? (span.high - span.low) * 50 : []));
  const tolerancePct = mean(spans) ?? null;
  const measures = { ...measuresOf(session, array, figures, summary), tolerancePct };
  const wanted = wantedOf(session, figures.own.length);
  const parts = partScores(measures, wanted, figures.own.length);
  return {
    summary,
    measures,
    parts,
    score: scoreOf(parts, wanted, measures.broken),
    lacks: missingForKit(session.kit, array.technique),
    tolerancePct,
    decisive,
  };
}

/** The better first: what can be built before what cannot, then by score. */
export const byJudgement = (a: Judgement, b: Judgement): number =>
  Number(a.lacks !== null) - Number(b.lacks !== null) || b.score - a.score;
