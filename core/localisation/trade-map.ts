import { patternAOf, sensitivity, type Pattern } from '../acoustics/patterns';
import { checkSpeed, cosDeg, GAIN_FLOOR, inRange, sinDeg } from '../units/guard';
import { MODELS } from './models/index';
import type { LocalisationModel, ModelId } from './models/model';

/** Half recording angles over spacing and included angle. */
export interface TradeMap {
  spacingsM: number[];
  includedAnglesDeg: number[];
  /**
   * per model: half angle at [angle index · spacings + spacing index], degrees; NaN is never
   * handed out, 0 stands for "not reached"
   */
  halfDeg: Partial<Record<ModelId, Float32Array>>;
}

const STEP_DEG = 0.5;
/** Below this spacing the level decides, whose curve is too bent for a straight line: halved. */
const LEVEL_DECIDES_M = 0.04;
const LIMIT_DEG = 180;

/** Level difference of a pair for a distant source; null in antiphase. */
function levelDifference(
  patternA: number,
  halfIncludedDeg: number,
  sourceDeg: number,
): number | null {
  const left = sensitivity(patternA, cosDeg(sourceDeg + halfIncludedDeg));
  const right = sensitivity(patternA, cosDeg(sourceDeg - halfIncludedDeg));
  if (left * right < 0) return null;
  return (
    20 * Math.log10(Math.max(Math.abs(right), GAIN_FLOOR) / Math.max(Math.abs(left), GAIN_FLOOR))
  );
}

/** For every sample, the spacings at which its image is at the loudspeaker. */
interface Demands {
  /** at or above this spacing on the right; Infinity never */
  atLeastM: Float64Array;
  /** at or below this spacing on the left, where the level pulls back; −1 never */
  atMostM: Float64Array;
}

interface Sample {
  deg: number;
  sine: number;
  icldDb: number | null;
}

function sampleAt(patternA: number, halfIncludedDeg: number, deg: number): Sample {
  return { deg, sine: sinDeg(deg), icldDb: levelDifference(patternA, halfIncludedDeg, deg) };
}

/** The angle from which on something holds, between one where it does not and one where it does. */
function halved(from: number, to: number, holds: (deg: number) => boolean): number {
  let [low, high] = [from, to];
  for (let i = 0; i < 14; i++) {
    const middle = (low + high) / 2;
    if (holds(middle)) high = middle;
    else low = middle;
  }
  return high;
}

/** Level differences outward, closer together where the channels turn antiphase. */
function samples(patternA: number, halfIncludedDeg: number): Sample[] {
  const sample = (deg: number): Sample => sampleAt(patternA, halfIncludedDeg, deg);
  const result: Sample[] = [];
  let before: Sample | null = null;
  for (let i = 1; i <= LIMIT_DEG / STEP_DEG; i++) {
    const here = sample(i * STEP_DEG);
    if (before?.icldDb != null && here.icldDb === null) {
      let [low, high] = [before.deg, here.deg];
      for (let k = 0; k < 24; k++) {
        const middle = sample((low + high) / 2);
        if (middle.icldDb === null) high = middle.deg;
        else {
          low = middle.deg;
          result.push(middle);
        }
      }
    }
    result.push(here);
    before = here;
  }
  return result.sort((a, b) => a.deg - b.deg);
}

function demandsOf(
  model: LocalisationModel,
  list: readonly Sample[],
  level: number,
  speed: number,
): Demands {
  const atLeastM = new Float64Array(list.length).fill(Infinity);
  const atMostM = new Float64Array(list.length).fill(-1);
  list.forEach(({ sine, icldDb }, i) => {
    if (icldDb === null) return;
    const metresPerMs = speed / (1000 * Math.max(sine, 1e-9));
    const right = model.timeNeeded(icldDb, level);
    if (right !== null) atLeastM[i] = right * metresPerMs;
    if (icldDb >= 0) return;
    const left = model.timeNeeded(-icldDb, level);
    if (left !== null && left <= 0) atMostM[i] = -left * metresPerMs;
  });
  return { atLeastM, atMostM };
}

/**
 * For each spacing the first sample that is reached. Wider spacings reach on the right at smaller
 * angles, narrower ones on the left, so one walk outward serves all spacings of each kind.
 */
function firstReached({ atLeastM, atMostM }: Demands, spacingsM: readonly number[]): Int32Array {
  const first = new Int32Array(spacingsM.length).fill(-1);
  const count = atLeastM.length;
  let i = 0;
  for (let column = spacingsM.length - 1; column >= 0; column--) {
    const spacing = spacingsM[column] ?? 0;
    while (i < count && spacing < (atLeastM[i] ?? Infinity)) i++;
    if (i < count) first[column] = i;
  }
  i = 0;
  for (let column = 0; column < spacingsM.length; column++) {
    const spacing = spacingsM[column] ?? 0;
    while (i < count && spacing > (atMostM[i] ?? -1)) i++;
    const known = first[column] ?? -1;
    if (i < count && (known < 0 || i < known)) first[column] = i;
  }
  return first;
}

/** Between two samples the needed spacing is nearly straight over the angle. */
function between(
  list: readonly Sample[],
  { atLeastM }: Demands,
  index: number,
  spacingM: number,
): number {
  const here = list[index]?.deg ?? 0;
  const [needed, before] = [atLeastM[index] ?? 0, atLeastM[index - 1] ?? Infinity];
  const fall = before - needed;
  if (!Number.isFinite(fall) || spacingM < needed || !(fall > 1e-12)) return here;
  const from = list[index - 1]?.deg ?? 0;
  return from + ((here - from) * (before - spacingM)) / fall;
}

/**
 * Half recording angles (far field) of a pair over a grid of spacings and included angles, in all
 * models that know time. For each included angle the spacing that each source angle needs is
 * worked out once; wider spacings are then reached at smaller angles.
 * @param spacingsM ascending, 0 … 50 m
 * @param includedAnglesDeg 0 … 360°
 * @param speed speed of sound, m/s
 */
export function tradeMap(
  pattern: Pattern,
  spacingsM: readonly number[],
  includedAnglesDeg: readonly number[],
  speed: number,
  level = 1,
): TradeMap {
  const patternA = patternAOf(pattern);
  checkSpeed(speed);
  inRange('level', level, 0.01, 1);
  for (const spacingM of spacingsM) inRange('spacingM', spacingM, 0, 50, 'm');
  const models = MODELS.filter(({ levelOnly }) => !levelOnly);
  const halfDeg: TradeMap['halfDeg'] = {};
  for (const { id } of models) {
    halfDeg[id] = new Float32Array(spacingsM.length * includedAnglesDeg.length);
  }
  includedAnglesDeg.forEach((includedDeg, row) => {
    inRange('includedAngleDeg', includedDeg, 0, 360, '°');
    const list = samples(patternA, includedDeg / 2);
    for (const model of models) {
      const target = halfDeg[model.id];
      const wanted = demandsOf(model, list, level, speed);
      const first = firstReached(wanted, spacingsM);
      const reachedAt = (deg: number, spacingM: number): boolean => {
        const exact = demandsOf(model, [sampleAt(patternA, includedDeg / 2, deg)], level, speed);
        return spacingM >= (exact.atLeastM[0] ?? 0) || spacingM <= (exact.atMostM[0] ?? -1);
      };
      spacingsM.forEach((spacingM, column) => {
        const index = first[column] ?? -1;
        if (!target || index < 0) return;
        target[row * spacingsM.length + column] =
          spacingM < LEVEL_DECIDES_M
            ? halved(list[index - 1]?.deg ?? 0, list[index]?.deg ?? 0, (deg) =>
                reachedAt(deg, spacingM),
              )
            : between(list, wanted, index, spacingM);
      });
    }
  });
  return { spacingsM: [...spacingsM], includedAnglesDeg: [...includedAnglesDeg], halfDeg };
}
