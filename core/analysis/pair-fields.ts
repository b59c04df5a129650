import type { PairTechnique } from '../arrays/technique';
import { leadingOf, shiftIn, speakingModel } from '../localisation/leading';
import type { StagePlace } from '../localisation/stage';
import { stageFigures } from '../localisation/stage';
import { readyArray } from '../prepare/arrays';
import { contextOf } from '../prepare/context';
import { playersOf } from '../prepare/for-whom';
import type { MicArray, Session, Source } from '../session/schema';
import { inRange } from '../units/guard';
import {
  AT_LOUDSPEAKER,
  CUSTOMARY_WIDTH_PCT,
  LARGE_GAP_PCT,
  wantedOf,
  WIDTH_TOLERANCE_PCT,
} from './criteria';
import { bandResults } from './intent';
import { sourceFigures, type SourceFigures } from './source-figures';

/**
 * What a pair makes of the picture of those whom it is for, the graver first: somebody in antiphase,
 * turned left for right or at a capsule; somebody at a loudspeaker; a hole; a wanted place missed;
 * a picture narrower or wider than what is wanted or, where nobody wants a width, customary.
 */
export const PICTURE_VERDICTS = [
  'broken',
  'crowded',
  'hole',
  'elsewhere',
  'narrow',
  'wide',
  'fits',
] as const;
export type PictureVerdict = (typeof PICTURE_VERDICTS)[number];

/** The picture of one array by the brief, in the leading model. */
export interface PictureJudgement {
  verdict: PictureVerdict;
  /** players that it is due to; empty where it is the picture as a whole */
  ids: string[];
  /** rightmost minus leftmost image, percent of the base; null without any image */
  widthPct: number | null;
  /** widest empty stretch between neighbours, percent of the base; null likewise */
  gapPct: number | null;
}

type Asked = Pick<Session, 'sources' | 'brief' | 'settings' | 'venue'>;

/** Least and most width that is neither narrow nor wide, percent of the base; null: not judged. */
function widthsFor(
  session: Asked,
  players: readonly Source[],
): { min: number; max: number } | null {
  const { imageWidthPct, bands } = session.brief.intent;
  if (imageWidthPct !== null) {
    return { min: imageWidthPct - WIDTH_TOLERANCE_PCT, max: imageWidthPct + WIDTH_TOLERANCE_PCT };
  }
  if (bands.length > 0) return null;
  if (players.length > 1) return CUSTOMARY_WIDTH_PCT;
  return (players[0]?.widthM ?? 0) > 0 ? wantedOf(session, 1).widthPct : null;
}

/**
 * Judges the picture that an array makes of those whom it is for, whether or not it stands in the
 * session. One player who is a point has no width, so nothing but antiphase and the loudspeakers.
 */
export function judgePicture(session: Asked, array: MicArray): PictureJudgement {
  const context = contextOf(session);
  const players = playersOf(array, session.sources, context.speed);
  return judged(session, array, players, (player) =>
    sourceFigures(readyArray(array), player, context),
  );
}

function judged(
  session: Asked,
  array: MicArray,
  players: readonly Source[],
  figuresOf: (player: Source) => SourceFigures,
): PictureJudgement {
  const { id: model } = speakingModel(session.settings, readyArray(array).coincident);
  const figures = players.map(figuresOf);
  const places: (StagePlace | undefined)[] = figures.map(
    ({ image }) => leadingOf(image, model) ?? undefined,
  );
  const stage = stageFigures(places);
  const result = (verdict: PictureVerdict, ids: string[] = []): PictureJudgement => ({
    verdict,
    ids,
    widthPct: stage?.imageWidthPct ?? null,
    gapPct: stage?.largestGapPct ?? null,
  });
  const named = (keep: (of: SourceFigures) => boolean): string[] =>
    figures.filter(keep).map(({ id }) => id);

  const broken = named((of) => of.antiphase || of.reversed || of.atCapsule);
  if (broken.length > 0) return result('broken', broken);
  const out = named((of) => Math.abs(shiftIn(of, model) ?? 0) >= AT_LOUDSPEAKER);
  if (out.length > 0) return result('crowded', out);
  const bySource = new Map(figures.map((of) => [of.id, of]));
  const bands = bandResults(session, bySource, model).filter(({ sourceId }) =>
    bySource.has(sourceId),
  );
  const wanted = new Set(bands.map(({ sourceId }) => sourceId));
  const gapPct = stage?.largestGapPct ?? 0;
  // Where everybody has a wanted place, so has every gap.
  if (figures.length > 2 && gapPct > LARGE_GAP_PCT && !players.every(({ id }) => wanted.has(id))) {
    return result('hole');
  }
  const missed = bands.filter(({ met }) => !met).map(({ sourceId }) => sourceId);
  if (missed.length > 0) return result('elsewhere', missed);
  const widths = widthsFor(session, players);
  const width = stage?.imageWidthPct;
  if (widths && width !== undefined) {
    if (width < widths.min) return result('narrow');
    if (width > widths.max) return result('wide');
  }
  return result('fits');
}

/** A stretch of spacings with one verdict. */
export interface FieldRun {
  verdict: PictureVerdict;
  fromM: number;
  toM: number;
}

/** What spacing makes of the picture at one included angle. */
export interface FieldRow {
  includedAngleDeg: number;
  /** without gaps, ascending, from 0 to the most */
  runs: FieldRun[];
}

const COLUMNS = 24;
/** Edges of fields are found to within this share of the widest spacing. */
const EDGE_SHARE = 1 / 800;

/**
 * The same array as a pair of that spacing and angle, about the same centre.
 * @param spacingM 0 … 50 m
 * @param deg included angle, 0 … 360°
 */
export const asPair = (
  array: MicArray,
  pair: PairTechnique,
  spacingM: number,
  deg: number,
): MicArray => ({
  ...array,
  missing: [],
  technique: { ...pair, spacingM, includedAngleDeg: deg },
});

/**
 * The picture over all spacings and included angles of a pair where it stands, in rows of one angle
 * each; yields the fraction done after every row.
 * @param mostM widest spacing, 0.01 … 50 m
 * @param anglesDeg 0 … 360° each
 * @throws RangeError where mostM or an angle is outside of that
 */
export function* pairFields(
  session: Asked,
  array: MicArray,
  pair: PairTechnique,
  mostM: number,
  anglesDeg: readonly number[],
): Generator<number, FieldRow[], undefined> {
  inRange('mostM', mostM, 0.01, 50, 'm');
  const context = contextOf(session);
  // Whom it is for does not depend on the spacing that is tried.
  const players = playersOf(array, session.sources, context.speed);
  const rows: FieldRow[] = [];
  for (const [index, deg] of anglesDeg.entries()) {
    inRange('includedAngleDeg', deg, 0, 360, '°');
    const at = (spacingM: number): PictureVerdict => {
      const trial = asPair(array, pair, spacingM, deg);
      const ready = readyArray(trial);
      return judged(session, trial, players, (of) => sourceFigures(ready, of, context)).verdict;
    };
    rows.push({ includedAngleDeg: deg, runs: runsOf(at, mostM) });
    yield (index + 1) / anglesDeg.length;
  }
  return rows;
}

/** Stretches of one verdict, their edges halved in on between the columns. */
function runsOf(at: (spacingM: number) => PictureVerdict, mostM: number): FieldRun[] {
  const runs: FieldRun[] = [{ verdict: at(0), fromM: 0, toM: mostM }];
  const change = (lowM: number, low: PictureVerdict, highM: number, high: PictureVerdict): void => {
    if (low === high) return;
    const middleM = (lowM + highM) / 2;
    if (highM - lowM <= mostM * EDGE_SHARE) {
      const last = runs[runs.length - 1];
      if (last) last.toM = middleM;
      runs.push({ verdict: high, fromM: middleM, toM: mostM });
      return;
    }
    const middle = at(middleM);
    change(lowM, low, middleM, middle);
    change(middleM, middle, highM, high);
  };
  let before = runs[0]?.verdict ?? 'fits';
  for (let column = 1; column <= COLUMNS; column++) {
    const [lowM, highM] = [(mostM * (column - 1)) / COLUMNS, (mostM * column) / COLUMNS];
    const here = at(highM);
    change(lowM, before, highM, here);
    before = here;
  }
  return runs;
}

/** A pair on the fields. */
export interface PairPoint {
  spacingM: number;
  includedAngleDeg: number;
}

/**
 * The point nearest to the present one whose picture fits, distances as shares of both scales: a
 * little inside its field where it is wide enough, in whole 5 mm and degrees where that fits too.
 * @returns null where nothing fits; the present point itself where it does
 */
export function nearestFit(
  session: Asked,
  array: MicArray,
  pair: PairTechnique,
  rows: readonly FieldRow[],
  mostM: number,
): PairPoint | null {
  const fits = (spacingM: number, deg: number): boolean =>
    judgePicture(session, asPair(array, pair, spacingM, deg)).verdict === 'fits';
  const { spacingM: fromM, includedAngleDeg: fromDeg } = pair;
  if (fits(fromM, fromDeg)) return { spacingM: fromM, includedAngleDeg: fromDeg };
  const mostDeg = Math.max(1, ...rows.map(({ includedAngleDeg }) => includedAngleDeg));
  const points = rows.flatMap(({ includedAngleDeg, runs }) =>
    runs
      .filter(({ verdict }) => verdict === 'fits')
      .map((run) => {
        const inside = Math.min(0.01, (run.toM - run.fromM) / 2);
        const low = run.fromM === 0 ? 0 : run.fromM + inside;
        const high = run.toM >= mostM ? mostM : run.toM - inside;
        const spacingM = Math.min(Math.max(fromM, low), Math.max(low, high));
        const far = Math.hypot((spacingM - fromM) / mostM, (includedAngleDeg - fromDeg) / mostDeg);
        return { spacingM, includedAngleDeg, far };
      }),
  );
  points.sort((a, b) => a.far - b.far);
  for (const { spacingM, includedAngleDeg } of points.slice(0, 12)) {
    const round = Math.round(spacingM * 200) / 200;
    if (fits(round, includedAngleDeg)) return { spacingM: round, includedAngleDeg };
    const fine = Math.round(spacingM * 1000) / 1000;
    if (fits(fine, includedAngleDeg)) return { spacingM: fine, includedAngleDeg };
  }
  return null;
}
