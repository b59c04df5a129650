import { WIDTH_TOLERANCE_PCT } from './criteria';
import { shiftIn, stageIn } from '../localisation/leading';
import type { ModelId } from '../localisation/models/model';
import type { Session } from '../session/schema';
import type { ArrayFigures } from './array-figures';
import type { SourceFigures } from './source-figures';

/** What became of one wanted place. */
export interface BandResult {
  sourceId: string;
  fromPct: number;
  toPct: number;
  /** image by the model, percent of the half base; null in antiphase or without a figure */
  atPct: number | null;
  met: boolean;
  /** how far outside, percent; 0 inside, null without an image */
  missPct: number | null;
}

/** Every wanted place that names a source which is there, and whether the image lies in it. */
export function bandResults(
  { sources, brief }: Pick<Session, 'sources' | 'brief'>,
  bySource: ReadonlyMap<string, SourceFigures>,
  model: ModelId,
): BandResult[] {
  const there = new Set(sources.map(({ id }) => id));
  return brief.intent.bands
    .filter(({ sourceId }) => there.has(sourceId))
    .map(({ sourceId, fromPct, toPct }) => {
      const [low, high] = [Math.min(fromPct, toPct), Math.max(fromPct, toPct)];
      const of = bySource.get(sourceId);
      const shift = shiftIn(of, model);
      const atPct = shift === null ? null : shift * 100;
      const missPct = atPct === null ? null : Math.max(0, low - atPct, atPct - high);
      return { sourceId, fromPct: low, toPct: high, atPct, met: missPct === 0, missPct };
    });
}

/** One wish of the brief against its figure. */
export interface IntentResult {
  name: string;
  wanted: string;
  /** null: no figure yet */
  met: boolean | null;
}

/** The wanted places and the wanted width of the picture, each met or not. */
export function intentResults(
  session: Session,
  figures: ArrayFigures,
  bySource: ReadonlyMap<string, SourceFigures>,
): IntentResult[] {
  const { model } = session.settings;
  const { intent } = session.brief;
  const results: IntentResult[] = [];
  if (intent.bands.length > 0) {
    const bands = bandResults(session, bySource, model);
    results.push({
      name: 'places',
      wanted: `${bands.filter(({ met }) => met).length} of ${bands.length}`,
      met: bands.every(({ met }) => met),
    });
  }
  if (intent.imageWidthPct !== null) {
    const fill = stageIn(figures, model)?.imageWidthPct;
    results.push({
      name: 'width',
      wanted: `${intent.imageWidthPct} %`,
      met: fill === undefined ? null : Math.abs(fill - intent.imageWidthPct) <= WIDTH_TOLERANCE_PCT,
    });
  }
  return results;
}
