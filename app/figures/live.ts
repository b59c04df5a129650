import {
  createAnalyser,
  stageOf,
  type ArrayFigures,
  type SourceFigures,
} from '../../core/analysis';
import type { MicArray, Session } from '../../core/session';
import { besideOf } from '../document/beside';
import { fieldOf } from '../view/validity';
import type { ImageLineFigures, LiveFigures } from './figures';

/** What is shown, of which the figures are asked. */
export interface Shown {
  session: Session;
  array: MicArray;
  /** what the image line shows instead; null for the same */
  lineArray: MicArray | null;
  wholeMix: boolean;
  ghostId: string | null;
  /** fields that are not valid just now */
  invalid: Readonly<Record<string, string>>;
}

const byId = (list: readonly SourceFigures[]): ReadonlyMap<string, SourceFigures> =>
  new Map(list.map((figures) => [figures.id, figures]));

/** The figures of a page's arrays; what has not changed is not computed again. */
export function createFigures(): (shown: Shown) => LiveFigures {
  const analyser = createAnalyser();
  return ({ session, array, lineArray, wholeMix, ghostId, invalid }) => {
    const figures = analyser.array(session, array);
    const unclear = new Set(
      Object.keys(invalid)
        .map(fieldOf)
        .flatMap(({ of, id }) => (of === 'source' ? [id] : [])),
    );
    const clear = ({ sources }: ArrayFigures) => byId(sources.filter(({ id }) => !unclear.has(id)));
    const bySource = clear(figures);
    const lineOf = (of: ArrayFigures): ImageLineFigures => ({
      arrayId: of.id,
      name: of.name,
      bySource: of === figures ? bySource : clear(of),
      stage: of.stage,
      coincident: of.farField.tangent !== undefined,
    });
    const mixed = wholeMix ? analyser.mix(session)?.filter(({ id }) => !unclear.has(id)) : null;
    const candidate = besideOf(session, lineArray ?? array, ghostId);
    return {
      array,
      figures,
      bySource,
      missing: null,
      imageLine: mixed
        ? {
            arrayId: null,
            name: 'the whole mix, an estimate',
            bySource: byId(mixed),
            stage: stageOf(mixed),
            coincident: mixed.some(({ image }) => image?.tangent !== undefined),
          }
        : lineOf(lineArray && lineArray !== array ? analyser.array(session, lineArray) : figures),
      ghost: candidate
        ? {
            name: candidate.name,
            bySource: byId(analyser.array(session, candidate.array).sources),
          }
        : null,
    };
  };
}
