import { inRange } from '../units/guard';
import type { PreparedArray } from './prepared-array';
import { placeOf } from './placed';
import type { CuesAtAngle, PerModel } from './recording-angle';
import { modelsFor } from './models/index';
import type { ModelId } from './models/model';
import type { OwnShape } from './models/own';
import { AT_LOUDSPEAKER } from './stage';

/** One point of the localisation curve. */
export interface CurvePoint {
  /** source angle off the aim, degrees */
  sourceDeg: number;
  icldDb: number | null;
  ictdMs: number | null;
  /** shift per model; missing in antiphase */
  shift: PerModel<number>;
}

/**
 * The localisation curve: where a source at each angle appears.
 * @param limitDeg from −limit to +limit, 1 … 180°
 * @param stepDeg 0.1 … 30°
 * @param own a listener's own model, beside the others
 * @throws RangeError where limitDeg is outside 1 … 180°, stepDeg is outside 0.1 … 30°
 */
export function localisationCurve(
  array: PreparedArray,
  cuesAt: CuesAtAngle,
  limitDeg: number,
  stepDeg: number,
  own: OwnShape | null = null,
): CurvePoint[] {
  inRange('limitDeg', limitDeg, 1, 180, '°');
  inRange('stepDeg', stepDeg, 0.1, 30, '°');
  const count = Math.round((2 * limitDeg) / stepDeg);
  const models = modelsFor(array.coincident, own);
  return Array.from({ length: count + 1 }, (_, i) => {
    const sourceDeg = -limitDeg + i * stepDeg;
    const cues = cuesAt(sourceDeg);
    const usable = cues && !cues.antiphase;
    const shift: PerModel<number> = {};
    if (usable) {
      for (const model of models) shift[model.id] = placeOf(cues, model);
    }
    return {
      sourceDeg,
      icldDb: usable ? cues.icldDb : null,
      ictdMs: usable ? cues.ictdMs : null,
      shift,
    };
  });
}

/** How much of the base ten degrees of the hall take, where they take least and most. */
export interface Crowding {
  /** percent of the whole base */
  leastPct: number;
  mostPct: number;
  /** middle of those ten degrees, off the aim, degrees */
  leastAtDeg: number;
  mostAtDeg: number;
}

const STEP_DEG = 10;

/**
 * Where the image crowds and where it gapes: the part of the base that each ten degrees take, of
 * those that lie inside the recording angle.
 * @param points of one array, ascending, ten degrees apart
 * @returns null where fewer than two such stretches have an image between the loudspeakers
 */
export function crowdingOf(points: readonly CurvePoint[], model: ModelId): Crowding | null {
  const stretches = points.slice(1).flatMap((point, i) => {
    const before = points[i];
    const [from, to] = [before?.shift[model], point.shift[model]];
    if (!before || from === undefined || to === undefined) return [];
    if (Math.abs(point.sourceDeg - before.sourceDeg - STEP_DEG) > 1e-6) return [];
    if (Math.max(Math.abs(from), Math.abs(to)) >= AT_LOUDSPEAKER) return [];
    const atDeg = (point.sourceDeg + before.sourceDeg) / 2;
    return [{ pct: Math.abs(to - from) * 50, atDeg }];
  });
  if (stretches.length < 2) return null;
  const least = stretches.reduce((a, b) => (b.pct < a.pct ? b : a));
  const most = stretches.reduce((a, b) => (b.pct > a.pct ? b : a));
  return {
    leastPct: least.pct,
    mostPct: most.pct,
    leastAtDeg: least.atDeg,
    mostAtDeg: most.atDeg,
  };
}
