import { NAMED_PATTERNS, type PatternName } from '../acoustics/patterns';
import { farField, halfAngle } from '../localisation/recording-angle';
import type { LocalisationModel } from '../localisation/models/index';
import { prepareArray } from '../localisation/prepared-array';
import type { MicArray, SessionTechnique } from '../session/schema';
import { inRange } from '../units/guard';

type MidSide = Extract<SessionTechnique, { kind: 'mid-side' }>;

/** The mid-side whose recording angle comes closest to that of another array. */
export interface NearestMidSide {
  technique: MidSide;
  /** half recording angle of the array as it is, degrees; null where it is not reached */
  wantedDeg: number | null;
  /** that of the mid-side */
  halfDeg: number | null;
}

const MIDS: readonly PatternName[] = ['cardioid', 'supercardioid', 'subcardioid', 'omni'];
const SIDES_DB = Array.from({ length: 41 }, (_, i) => -12 + i * 0.5);
/** A wider angle than this is not one that anybody works with, degrees. */
const NEVER_DEG = 180;
/** Another pattern than a cardioid for the mid must come so much closer, degrees. */
const LOYALTY_DEG = 1;

const at = { x: 0, y: 0, z: 0, aimDeg: 0, tiltDeg: 0 };

/** Half recording angle of a technique for distant sources, degrees; null where it is not reached. */
function halfOf(
  technique: SessionTechnique,
  model: LocalisationModel,
  speed: number,
): number | null {
  const prepared = prepareArray({ ...at, technique });
  return halfAngle(farField(prepared, speed), model, 1);
}

/**
 * The mid-side that hears the same width of stage as a pair with time differences, which has no
 * exact equivalent: the mid's pattern and the side's level whose recording angle is the closest.
 * @param model that knows both cues
 * @param speed speed of sound, m/s
 * @throws RangeError where speed is outside 250 … 450 m/s
 */
export function nearestMidSide(
  { technique }: Pick<MicArray, 'technique'>,
  model: LocalisationModel,
  speed: number,
): NearestMidSide {
  inRange('speed', speed, 250, 450, 'm/s');
  const wantedDeg = halfOf(technique, model, speed);
  const tried = MIDS.flatMap((midPattern) =>
    SIDES_DB.map((sideGainDb): { technique: MidSide; halfDeg: number | null; away: number } => {
      const midSide: MidSide = { kind: 'mid-side', midPattern, sideGainDb, sidePositive: 'left' };
      const halfDeg = halfOf(midSide, model, speed);
      const away = Math.abs((halfDeg ?? NEVER_DEG) - (wantedDeg ?? NEVER_DEG));
      return {
        technique: midSide,
        halfDeg,
        away: away + (NAMED_PATTERNS[midPattern] === NAMED_PATTERNS.cardioid ? 0 : LOYALTY_DEG),
      };
    }),
  );
  const [first, ...others] = tried;
  if (!first) throw new TypeError('a mid-side is tried');
  const { technique: nearest, halfDeg } = others.reduce(
    (best, one) => (one.away < best.away - 1e-9 ? one : best),
    first,
  );
  return { technique: nearest, wantedDeg, halfDeg };
}
