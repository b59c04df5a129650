import { patternAOf, sensitivity, type Pattern } from '../acoustics/patterns';
import { checkSpeed, cosDeg, GAIN_FLOOR, inRange, sinDeg } from '../units/guard';
import { reachedBetween } from '../units/numbers';
import { middleOf } from './models/consensus';
import { modelsFor } from './models/index';
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
/** Below this spacing the level decides, whose curve is too bent for a straight line: searched … */
const LEVEL_DECIDES_M = 0.04;
/** … to within this. */
const NARROW_DEG = 1e-4;
const LIMIT_DEG = 180;

interface Sample {
  deg: number;
  sine: number;
  /** null in antiphase */
  icldDb: number | null;
}

/** Sine and cosine of every source angle of a row. */
const GRID = Array.from({ length: LIMIT_DEG / STEP_DEG }, (_, i) => {
  const deg = (i + 1) * STEP_DEG;
  return { deg, sine: sinDeg(deg), cosine: cosDeg(deg) };
});

/** A pair's level differences for distant sources. */
class Row {
  private readonly sine: number;
  private readonly cosine: number;

  constructor(
    private readonly patternA: number,
    halfIncludedDeg: number,
  ) {
    this.sine = sinDeg(halfIncludedDeg);
    this.cosine = cosDeg(halfIncludedDeg);
  }

  private sample(deg: number, sine: number, cosine: number): Sample {
    // Cosines of the angles off both axes, by the sum of angles.
    const [even, odd] = [cosine * this.cosine, sine * this.sine];
    const left = sensitivity(this.patternA, even - odd);
    const right = sensitivity(this.patternA, even + odd);
    if (left * right < 0) return { deg, sine, icldDb: null };
    const ratio = Math.max(Math.abs(right), GAIN_FLOOR) / Math.max(Math.abs(left), GAIN_FLOOR);
    return { deg, sine, icldDb: 20 * Math.log10(ratio) };
  }

  at(deg: number): Sample {
    return this.sample(deg, sinDeg(deg), cosDeg(deg));
  }

  /** Outward, closer together where the channels turn antiphase. */
  samples(): Sample[] {
    const result: Sample[] = [];
    let before = this.sample(0, 0, 1);
    for (const { deg, sine, cosine } of GRID) {
      const here = this.sample(deg, sine, cosine);
      if (before.icldDb !== null && here.icldDb === null) {
        let [low, high] = [before.deg, deg];
        for (let k = 0; k < 24; k++) {
          const middle = this.at((low + high) / 2);
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
    return result;
  }
}

/** What one model asks of one row: at each sample the spacings whose image is at the loudspeaker. */
class Demands {
  /** at or above this spacing on the right; Infinity never, NaN not worked out yet */
  private readonly known: Float64Array;
  /** at or below this spacing on the left; NaN not worked out yet */
  private readonly knownMost: Float64Array;

  /** @param voices of a consensus of three: what those three ask, which it need not ask again */
  constructor(
    readonly model: LocalisationModel,
    private readonly list: readonly Sample[],
    private readonly level: number,
    private readonly speed: number,
    private readonly voices: readonly Demands[] = [],
  ) {
    this.known = new Float64Array(list.length).fill(NaN);
    this.knownMost = new Float64Array(list.length).fill(NaN);
  }

  private metresPerMs(sine: number): number {
    return this.speed / (1000 * Math.max(sine, 1e-9));
  }

  /** Reached at or above this spacing on the right, m; Infinity never. */
  atLeastFor({ sine, icldDb }: Sample): number {
    const ms = icldDb === null ? null : this.model.timeNeeded(icldDb, this.level);
    return ms === null ? Infinity : ms * this.metresPerMs(sine);
  }

  /** Reached at or below this spacing on the left, where the level pulls back, m; −1 never. */
  atMostFor({ sine, icldDb }: Sample): number {
    if (icldDb === null || icldDb >= 0) return -1;
    const ms = this.model.timeNeeded(-icldDb, this.level);
    return ms !== null && ms <= 0 ? -ms * this.metresPerMs(sine) : -1;
  }

  /** The same of a sample of the row; of few of them it is ever asked. */
  atLeast(i: number): number {
    const known = this.known[i] ?? Infinity;
    const sample = this.list[i];
    if (!Number.isNaN(known) || !sample) return known;
    const [a, b, c] = this.voices;
    return (this.known[i] =
      a && b && c ? middleOf(a.atLeast(i), b.atLeast(i), c.atLeast(i)) : this.atLeastFor(sample));
  }

  atMost(i: number): number {
    const known = this.knownMost[i] ?? -1;
    const sample = this.list[i];
    if (!Number.isNaN(known) || !sample) return known;
    const [a, b, c] = this.voices;
    return (this.knownMost[i] =
      a && b && c ? middleOf(a.atMost(i), b.atMost(i), c.atMost(i)) : this.atMostFor(sample));
  }

  /** Between two samples the level decides, whose curve is bent: searched for. */
  narrow(index: number, spacingM: number, row: Row): number {
    const { model, level, list } = this;
    const here = list[index]?.deg ?? 0;
    const marginAt = (deg: number): number | null => {
      const { sine, icldDb } = row.at(deg);
      if (icldDb === null) return null;
      return model.margin(icldDb, spacingM / this.metresPerMs(sine), level);
    };
    return reachedBetween(marginAt, list[index - 1]?.deg ?? 0, here, NARROW_DEG) ?? here;
  }

  /**
   * For each spacing the first sample that is reached. Wider spacings reach on the right at smaller
   * angles, narrower ones on the left, so one walk outward serves all spacings of each kind.
   */
  firstReached(spacingsM: readonly number[]): Int32Array {
    const first = new Int32Array(spacingsM.length).fill(-1);
    const { list } = this;
    let i = 0;
    for (let column = spacingsM.length - 1; column >= 0; column--) {
      const spacing = spacingsM[column] ?? 0;
      while (i < list.length && spacing < this.atLeast(i)) i++;
      if (i < list.length) first[column] = i;
    }
    let column = 0;
    for (let index = 0; index < list.length; index++) {
      const most = this.atMost(index);
      for (; column < spacingsM.length && (spacingsM[column] ?? 0) <= most; column++) {
        const known = first[column] ?? -1;
        if (known < 0 || index < known) first[column] = index;
      }
    }
    return first;
  }

  /** Between two samples the needed spacing is nearly straight over the angle. */
  between(index: number, spacingM: number): number {
    const here = this.list[index]?.deg ?? 0;
    const needed = this.atLeast(index);
    const before = index > 0 ? this.atLeast(index - 1) : Infinity;
    const fall = before - needed;
    if (!Number.isFinite(fall) || spacingM < needed || !(fall > 1e-12)) return here;
    const from = this.list[index - 1]?.deg ?? 0;
    return from + ((here - from) * (before - spacingM)) / fall;
  }
}

/**
 * Half recording angles (far field) of a pair over a grid of spacings and included angles, in all
 * models that know time. For each included angle the spacing that each source angle needs is
 * worked out once; wider spacings are then reached at smaller angles.
 * @param spacingsM ascending, 0 … 50 m
 * @param includedAnglesDeg 0 … 360°
 * @param speed speed of sound, m/s
 * @throws RangeError where speed is outside 250 … 450 m/s, level is outside 0.01 … 1, spacingM is
 *   outside 0 … 50 m, includedAngleDeg is outside 0 … 360°
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
  const models = modelsFor(false);
  const halfDeg: TradeMap['halfDeg'] = {};
  for (const { id } of models) {
    halfDeg[id] = new Float32Array(spacingsM.length * includedAnglesDeg.length);
  }
  includedAnglesDeg.forEach((includedDeg, row) => {
    inRange('includedAngleDeg', includedDeg, 0, 360, '°');
    const pair = new Row(patternA, includedDeg / 2);
    const list = pair.samples();
    const voices = models
      .filter(({ id }) => id !== 'consensus')
      .map((model) => new Demands(model, list, level, speed));
    for (const model of models) {
      const target = halfDeg[model.id];
      const demands =
        voices.find((voice) => voice.model === model) ??
        new Demands(model, list, level, speed, voices);
      if (!target) continue;
      const first = demands.firstReached(spacingsM);
      for (const [column, spacingM] of spacingsM.entries()) {
        const index = first[column] ?? -1;
        if (index < 0) continue;
        target[row * spacingsM.length + column] =
          spacingM < LEVEL_DECIDES_M
            ? demands.narrow(index, spacingM, pair)
            : demands.between(index, spacingM);
      }
    }
  });
  return { spacingsM: [...spacingsM], includedAnglesDeg: [...includedAnglesDeg], halfDeg };
}
