import { stageIn } from '../../localisation/leading';
import { contextOf } from '../../prepare/context';
import type { Session } from '../../session/schema';
import { arrayFigures, type ArrayFigures } from '../array-figures';
import type { Gauge } from './finding';

/**
 * A figure of one array of a session, whatever became of it.
 * @param digits after the point, 0 … 3
 * @param of the figure in the given unit; null or undefined where there is none
 */
export function arrayGauge(
  arrayId: string,
  words: string,
  unit: string,
  digits: number,
  of: (figures: ArrayFigures, session: Session) => number | null | undefined,
  say?: Gauge['say'],
): Gauge {
  return {
    words,
    unit,
    digits,
    ...(say && { say }),
    of: (session) => {
      const array = session.arrays.find(({ id }) => id === arrayId);
      if (!array?.enabled) return null;
      return of(arrayFigures(array, session.sources, contextOf(session)), session) ?? null;
    },
  };
}

/** Width of an array's picture, percent of the base. */
export const widthGauge = (arrayId: string): Gauge =>
  arrayGauge(
    arrayId,
    'picture',
    '%',
    0,
    (figures, { settings }) => stageIn(figures, settings.model)?.imageWidthPct,
  );
