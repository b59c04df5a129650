import { mean } from 'd3-array';
import { missingForKit } from '../kit/needs';
import type { MicArray, Session } from '../session/schema';
import { powerDb } from '../units/guard';
import { partScores, scoreOf, wantedOf, type Measures, type Parts } from './criteria';
import { summaryOf, type ArraySummary } from './summary';
import { arrayFigures, type ArrayFigures } from './array-figures';
import { contextOf } from '../prepare/context';
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

function combOf({ sources }: ArrayFigures): number {
  let [sum, count] = [0, 0];
  for (const { icldDb, ictdMs, image } of sources) {
    if (image === null || icldDb === null || ictdMs === null) continue;
    const ratio = 10 ** (icldDb / 20);
    count += 1;
    if (Math.abs(ictdMs) > 0.02) sum += (2 * ratio) / (1 + ratio * ratio);
  }
  return count === 0 ? 0 : sum / count;
}

/** The figures by which an array is judged, from all its figures. */
export function measuresOf(
  session: Session,
  figures: ArrayFigures,
  summary: ArraySummary,
): Measures {
  const level = new Map(session.sources.map(({ id, levelDb }) => [id, levelDb]));
  const powers = figures.sources.flatMap(({ id, levelAtArrayDb, image }) =>
    levelAtArrayDb === null || image === null
      ? []
      : [10 ** ((levelAtArrayDb - (level.get(id) ?? 0)) / 10)],
  );
  return {
    imageWidthPct: summary.imageWidthPct ?? 0,
    largestGapPct: summary.largestGapPct ?? 0,
    atSpeakersPct: summary.atSpeakersPct ?? 0,
    bandsHeld: summary.bands === 0 ? null : summary.bandsMet / summary.bands,
    directToReverberantDb: summary.directToReverberantDb,
    monoComb: combOf(figures),
    unevennessDb:
      powers.length === 0 ? 0 : powerDb(Math.max(...powers) / Math.max(1e-30, Math.min(...powers))),
    lowCorrelation: summary.lowCorrelation ?? 1,
    broken: summary.broken,
  };
}

/** Judges an array in a session, whether or not it stands in it. */
export function judgeArray(session: Session, array: MicArray): Judgement {
  const figures = arrayFigures(array, session.sources, contextOf(session));
  const summary = summaryOf(session, array, figures);
  const measures = measuresOf(session, figures, summary);
  const wanted = wantedOf(session);
  const parts = partScores(measures, wanted, session.sources.length);
  const { images, decisive } = setUpTolerance(session, array, usualTolerances(array), DRAWS);
  const spans = Object.values(images).flatMap((span) => (span ? (span.high - span.low) * 50 : []));
  return {
    summary,
    measures,
    parts,
    score: scoreOf(parts, wanted, measures.broken),
    lacks: missingForKit(session.kit, array.technique),
    tolerancePct: mean(spans) ?? null,
    decisive,
  };
}

/** The better first: what can be built before what cannot, then by score. */
export const byJudgement = (a: Judgement, b: Judgement): number =>
  Number(a.lacks !== null) - Number(b.lacks !== null) || b.score - a.score;
