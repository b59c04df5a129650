import { matchOfArray } from '../kit/matches';
import { ONE_STAND_M } from '../mechanics/mounts';
import { clamp } from '../units/numbers';
import { capsulesInFrame, type Capsule } from '../arrays/capsules';
import { farCues, nearCues } from '../localisation/cues';
import { inPlane, prepareArray, type PreparedArray } from '../localisation/prepared-array';
import { louderRight, placeOf } from '../localisation/placed';
import { speakingModel } from '../localisation/leading';
import { readyArray } from '../prepare/arrays';
import type { LocalisationModel } from '../localisation/models/model';
import { halfAngle } from '../localisation/recording-angle';
import type { CuesAtAngle } from '../localisation/scan-side';
import { BOUNDS } from '../session/bounds';
import type { MicArray, Session } from '../session/schema';
import { dbToAmplitude, inRange } from '../units/guard';
import { speedOfSound } from '../units/sound';
import { seededRandom } from '../units/random';

/** What a set-up can be off by, either way. */
export interface Tolerances {
  /** spacing of the capsules, m */
  spacingM: number;
  /** angle between the capsules, degrees */
  angleDeg: number;
  /** sensitivity mismatch between the capsules, dB */
  sensitivityDb: number;
  /** temperature, °C */
  temperatureC: number;
}

export const USUAL_TOLERANCES: Tolerances = {
  spacingM: 0.01,
  angleDeg: 2,
  sensitivityDb: 1,
  temperatureC: 5,
};

/** Two stands are set to so much of their distance, m. */
const TWO_STANDS_M = 0.03;

/** A pair that was measured and trimmed is no closer than gains are set, dB. */
const TRIMMED_DB = 0.2;

/** What an array is set to by tape: two stands apart less closely than two microphones on a bar. */
export function tapeTolerances({ technique }: Pick<MicArray, 'technique'>): Tolerances {
  const across = capsulesInFrame(technique).map(({ dx }) => dx);
  const widthM = Math.max(...across, 0) - Math.min(...across, 0);
  return widthM > ONE_STAND_M ? { ...USUAL_TOLERANCES, spacingM: TWO_STANDS_M } : USUAL_TOLERANCES;
}

/**
 * What an array is usually set to: by tape, and a pair whose match is kept in the kit as closely as
 * its trim leaves it.
 */
export function usualTolerances(session: Session, array: MicArray): Tolerances {
  const found = matchOfArray(session, array);
  if (!found) return tapeTolerances(array);
  const sensitivityDb = clamp(found.match.leftDb, TRIMMED_DB, USUAL_TOLERANCES.sensitivityDb);
  return { ...tapeTolerances(array), sensitivityDb };
}

export type ToleranceDimension = keyof Tolerances;

/** Nine out of ten draws lie between low and high. */
export interface Range {
  low: number;
  middle: number;
  high: number;
}

export interface ToleranceResult {
  draws: number;
  seed: number;
  /** half recording angle in the far field, degrees; null where it is not always reached */
  halfDeg: Range | null;
  /** image of each source; null in antiphase */
  images: Record<string, Range | null>;
  /** mean change of the images, in percent of the half base, by each dimension alone at its limit */
  effectPct: Record<ToleranceDimension, number>;
  /** the dimension that matters most */
  decisive: ToleranceDimension;
}

interface Deviation {
  spacingM: number;
  angleDeg: number;
  sensitivityDb: number;
  temperatureC: number;
}

interface Drawn extends Deviation {
  /** m/s */
  speed: number;
}

const DIMENSIONS: readonly ToleranceDimension[] = [
  'spacingM',
  'angleDeg',
  'sensitivityDb',
  'temperatureC',
];
const NONE: Deviation = { spacingM: 0, angleDeg: 0, sensitivityDb: 0, temperatureC: 0 };

/** Capsules on one side of the array move half the deviation outward, on the other the other half. */
function sideOf(capsule: Capsule, array: PreparedArray, axes: Axes): number {
  const off =
    (capsule.position.x - array.centre.x) * axes.x + (capsule.position.y - array.centre.y) * axes.y;
  const facing = capsule.axis.x * axes.x + capsule.axis.y * axes.y;
  return Math.abs(off) > 1e-9 ? Math.sign(off) : Math.sign(Math.abs(facing) > 1e-9 ? facing : 0);
}

interface Axes {
  x: number;
  y: number;
}

/** How a mismatch reaches the mix: level of the right channel, or of each capsule on its way there. */
type Kind = MicArray['technique']['kind'];

/**
 * Gain of one capsule by a mismatch, dB: between both sides of an array half each way; of mid-side
 * the whole of it on the side, which acts on the width.
 */
function mismatchDb(kind: Kind, index: number, side: number, sensitivityDb: number): number {
  if (kind === 'mid-side') return index === 1 ? sensitivityDb : 0;
  return kind === 'custom' ? (side * sensitivityDb) / 2 : 0;
}

/** A copy of a capsule, shifted along the bar and turned about the upright. */
function deviated(capsule: Capsule, side: number, axes: Axes, deviation: Deviation): Capsule {
  const outward = (side * deviation.spacingM) / 2;
  const turn = (side * deviation.angleDeg * Math.PI) / 360;
  const [sine, cosine] = [Math.sin(turn), Math.cos(turn)];
  const { position, axis } = capsule;
  return {
    label: capsule.label,
    patternA: capsule.patternA,
    position: {
      x: position.x + axes.x * outward,
      y: position.y + axes.y * outward,
      z: position.z,
    },
    axis: {
      x: axis.x * cosine + axis.y * sine,
      y: axis.y * cosine - axis.x * sine,
      z: axis.z,
    },
  };
}

class Draws {
  private readonly axes: Axes;
  private readonly sides: number[];

  private readonly base: PreparedArray;
  private readonly kind: Kind;

  constructor(
    private readonly placed: MicArray,
    private readonly temperatureC: number,
  ) {
    const base = readyArray(placed);
    this.base = base;
    this.kind = placed.technique.kind;
    const turn = (placed.aimDeg * Math.PI) / 180;
    this.axes = { x: Math.cos(turn), y: -Math.sin(turn) };
    this.sides = base.capsules.map((capsule) => sideOf(capsule, base, this.axes));
  }

  array(deviation: Deviation): PreparedArray {
    const { base, sides, axes, kind } = this;
    // Mid and side sit on one another: there is no spacing to get wrong.
    const made = kind === 'mid-side' ? { ...deviation, spacingM: 0 } : deviation;
    const capsules = base.capsules.map((capsule, i) =>
      deviated(capsule, sides[i] ?? 0, axes, made),
    );
    if (kind === 'pair') return { ...base, capsules };
    const routes = base.routes.map((route, i) => {
      const gain = dbToAmplitude(mismatchDb(kind, i, sides[i] ?? 0, deviation.sensitivityDb));
      return { ...route, left: route.left * gain, right: route.right * gain };
    });
    return { ...base, capsules, routes };
  }

  /** The deviation with the speed of sound that goes with it. */
  drawn(deviation: Deviation): Drawn {
    return { ...deviation, speed: speedOfSound(this.temperatureC + deviation.temperatureC) };
  }

  /** Image in the model; NaN (never handed out) marks antiphase. */
  image(
    array: PreparedArray,
    source: MicPoint,
    model: LocalisationModel,
    deviation: Drawn,
  ): number {
    const cues = nearCues(array, source, deviation.speed);
    if (!cues || cues.antiphase) return NaN;
    const mismatch = this.kind === 'pair' ? deviation.sensitivityDb : 0;
    return placeOf(cues, model, mismatch);
  }

  /** The recording angle in the far field, degrees; NaN where it is not reached. */
  half(made: PreparedArray, model: LocalisationModel, deviation: Drawn): number {
    const { placed, kind } = this;
    if (kind === 'pair') return deviatedHalf(placed, model, deviation);
    const ready = { ...made, plane: inPlane(made.capsules, placed) };
    return bothSides((deg) => farCues(ready, deg, deviation.speed), model);
  }
}

interface MicPoint {
  x: number;
  y: number;
  z: number;
}

function rangeOf(values: Float64Array): Range | null {
  for (const value of values) if (Number.isNaN(value)) return null;
  const sorted = values.sort();
  const at = (fraction: number) => sorted[Math.round((sorted.length - 1) * fraction)] ?? 0;
  return { low: at(0.05), middle: at(0.5), high: at(0.95) };
}

/** The recording angle is searched for in so many of the draws; the images for every one. */
const ANGLE_DRAWS = 1600;

const MOST_DRAWS = 10_000;
const LEAST_DRAWS = 200;
const LEAST_IN_EVENTS = 8;
const BY_BAND = 24;
/** Arrivals at capsules that are reckoned in about a third of a second. */
const USUAL_ARRIVALS = 600_000;

/**
 * As many draws as an ordinary wait allows, 200 … 10,000: fewer for a large ensemble or many
 * capsules.
 */
export function usualDraws(sources: number, capsules: number): number {
  const each = Math.max(1, sources) * Math.max(2, capsules);
  return clamp(Math.floor(USUAL_ARRIVALS / each), LEAST_DRAWS, MOST_DRAWS);
}

/** What arrives in events takes longer than the two waves of a pair: as much as so many capsules. */
function reckonedCapsules(array: MicArray): number {
  const { plainPair, capsules, coincident, groups } = readyArray(array);
  if (plainPair) return 2;
  const byBand = !coincident && groups.some(({ kind }) => kind === 'decoded');
  return Math.max(byBand ? BY_BAND : LEAST_IN_EVENTS, 2 * capsules.length);
}

/** The angle is searched for in fewer draws where each step of the search is dear. */
const angleDrawsFor = (array: MicArray): number =>
  readyArray(array).plainPair ? ANGLE_DRAWS : ANGLE_DRAWS / 32;

const within = (value: number, { min, max }: { min: number; max: number }): number =>
  clamp(value, min, max);

function clampTemperature(session: Session, limit: number): number {
  return clamp(session.venue.temperatureC, -20 + limit, 50 - limit);
}

/** The recording angle of a deviated pair in the far field, degrees; NaN where not reached. */
function deviatedHalf(array: MicArray, model: LocalisationModel, deviation: Drawn): number {
  const { technique } = array;
  const changed =
    technique.kind === 'pair'
      ? {
          ...technique,
          spacingM: within(technique.spacingM + deviation.spacingM, BOUNDS.spacingM),
          includedAngleDeg: within(
            technique.includedAngleDeg + deviation.angleDeg,
            BOUNDS.includedAngleDeg,
          ),
        }
      : technique;
  const ready = prepareArray({ ...array, technique: changed }, array.mix.capsules);
  const shiftDb = deviation.sensitivityDb;
  return bothSides((deg) => louderRight(farCues(ready, deg, deviation.speed), shiftDb), model);
}

/** Half of the whole recording angle: what a mismatch takes from one side it gives to the other. */
function bothSides(cuesAt: CuesAtAngle, model: LocalisationModel): number {
  const right = halfAngle(cuesAt, model, 1);
  const left = halfAngle(cuesAt, model, 1, -1);
  return right === null || left === null ? NaN : (right + left) / 2;
}

/**
 * What an ordinary set-up does to the picture: seeded Monte Carlo, every dimension evenly spread
 * between its limits and independent of the others.
 * @param draws 100 … 100 000; as many as `usualDraws` says where it is not given
 * @param angleDraws of so many of them the recording angle is searched for as well; 0: of none
 * @throws RangeError where draws is outside 100 … 100000, spacingM is outside 0 … 1 m, angleDeg
 *   is outside 0 … 45°, sensitivityDb is outside 0 … 12 dB, temperatureC is outside 0 … 35 °C
 */
export function setUpTolerance(
  session: Session,
  array: MicArray,
  tolerances: Tolerances = usualTolerances(session, array),
  draws = usualDraws(session.sources.length, reckonedCapsules(array)),
  seed = 1,
  angleDraws = angleDrawsFor(array),
): ToleranceResult {
  inRange('draws', draws, 100, 100_000);
  inRange('spacingM', tolerances.spacingM, 0, 1, 'm');
  inRange('angleDeg', tolerances.angleDeg, 0, 45, '°');
  inRange('sensitivityDb', tolerances.sensitivityDb, 0, 12, 'dB');
  inRange('temperatureC', tolerances.temperatureC, 0, 35, '°C');
  const base = readyArray(array);
  const model = speakingModel(session.settings, base.coincident);
  const temperatureC = clampTemperature(session, tolerances.temperatureC);
  const maker = new Draws(array, temperatureC);
  const random = seededRandom(seed);
  const values = session.sources.map(() => new Float64Array(draws));
  const halves: number[] = [];
  const angleEvery = angleDraws > 0 ? Math.max(1, Math.floor(draws / angleDraws)) : Infinity;
  for (let draw = 0; draw < draws; draw++) {
    const deviation = maker.drawn({
      spacingM: (2 * random() - 1) * tolerances.spacingM,
      angleDeg: (2 * random() - 1) * tolerances.angleDeg,
      sensitivityDb: (2 * random() - 1) * tolerances.sensitivityDb,
      temperatureC: (2 * random() - 1) * tolerances.temperatureC,
    });
    const made = maker.array(deviation);
    for (let i = 0; i < values.length; i++) {
      const source = session.sources[i];
      const list = values[i];
      if (source && list) list[draw] = maker.image(made, source, model, deviation);
    }
    if (draw % angleEvery === 0 && angleDraws > 0) {
      halves.push(maker.half(made, model, deviation));
    }
  }
  const effectPct = effects(session, maker, model, tolerances);
  return {
    draws,
    seed,
    halfDeg: rangeOf(Float64Array.from(halves)),
    images: Object.fromEntries(
      session.sources.map(({ id }, i) => [id, rangeOf(values[i] ?? new Float64Array())]),
    ),
    effectPct,
    decisive: DIMENSIONS.reduce((best, next) => (effectPct[next] > effectPct[best] ? next : best)),
  };
}

/** Each dimension alone at both its limits: the mean change of all images. */
function effects(
  session: Session,
  maker: Draws,
  model: LocalisationModel,
  tolerances: Tolerances,
): Record<ToleranceDimension, number> {
  const effect = (dimension: ToleranceDimension): number => {
    let sum = 0;
    let count = 0;
    for (const sign of [-1, 1]) {
      const deviation = maker.drawn({ ...NONE, [dimension]: sign * tolerances[dimension] });
      const made = maker.array(deviation);
      const exact = maker.array(NONE);
      for (const source of session.sources) {
        const change =
          maker.image(made, source, model, deviation) -
          maker.image(exact, source, model, maker.drawn(NONE));
        if (Number.isNaN(change)) continue;
        sum += Math.abs(change);
        count += 1;
      }
    }
    return count === 0 ? 0 : (sum / count) * 100;
  };
  return {
    spacingM: effect('spacingM'),
    angleDeg: effect('angleDeg'),
    sensitivityDb: effect('sensitivityDb'),
    temperatureC: effect('temperatureC'),
  };
}
