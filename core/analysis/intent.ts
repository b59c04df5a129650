import { shiftIn } from '../localisation/leading';
import type { ModelId } from '../localisation/models/model';
import type { Session } from '../session/schema';
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
