import { readyArray } from '../prepare/arrays';
import type { Capsule } from '../arrays/capsules';
import type { PreparedArray } from '../localisation/prepared-array';
import { MODEL_IDS } from '../localisation/models/index';
import { speakingModel } from '../localisation/leading';
import type { ModelId } from '../localisation/models/model';
import {
  centreSlopes,
  farField,
  halfAngle,
  inPlace,
  recordingAngles,
  type PerModel,
  type RecordingAngle,
} from '../localisation/recording-angle';
import { stageFigures, type StageFigures, type StagePlace } from '../localisation/stage';
import type { MicArray, Source } from '../session/schema';
import { dbToPower, powerDb } from '../units/guard';
import { sameContext, type Context } from '../prepare/context';
import { playersOf } from '../prepare/for-whom';
import { planDistance } from '../units/vector';
import { lastOf, once, remembered } from '../units/remember';
import { azimuthFrom, sourceFigures, type SourceFigures } from './source-figures';
import { edgesAt } from './edges-at';

/** The ensemble as one array sees it. */
export interface EnsembleArc {
  /** angle that the outermost edges subtend at the array on the plan, degrees */
  angleDeg: number;
  /** mean distance on the plan, m */
  distanceM: number;
  /** mean height, m */
  heightM: number;
}

/** Everything about one array that does not depend on a single source. */
export interface ArrayFigures {
  id: string;
  name: string;
  capsules: readonly Capsule[];
  farField: PerModel<RecordingAngle>;
  /** with real sources at the ensemble's distance and height; null without an ensemble */
  inPlace: PerModel<RecordingAngle> | null;
  centreSlope: PerModel<number | null>;
  /** the half recording angle where players stand, in the model that leads: quicker than all of them */
  halfDeg: (model: ModelId) => number | null;
  /** its own sources; null without them */
  ensemble: EnsembleArc | null;
  /** of every source, whoever the array is for */
  sources: readonly SourceFigures[];
  /** of those that it is for: angle, picture and balance are theirs alone */
  own: readonly SourceFigures[];
  stage: PerModel<StageFigures>;
  /** direct energy of its own sources, right over left, dB; null without them */
  balanceDb: number | null;
}

/** The smallest arc that holds all the angles, degrees; puts them in order. */
function smallestArc(angles: Float64Array): number {
  let [least, most] = [Infinity, -Infinity];
  for (const angle of angles) {
    if (angle < least) least = angle;
    if (angle > most) most = angle;
  }
  // Within a half circle nothing between them is wider than what is behind.
  if (most - least <= 180) return most - least;
  const sorted = angles.sort();
  const first = sorted[0] ?? 0;
  const last = sorted[sorted.length - 1] ?? 0;
  let gap = first + 360 - last;
  for (let i = 1; i < sorted.length; i++) {
    gap = Math.max(gap, (sorted[i] ?? 0) - (sorted[i - 1] ?? 0));
  }
  return 360 - gap;
}

/**
 * The ensemble as an array sees it, both ends of wide sources included; null without sources.
 * @param figures of the same sources at this array, where they are known already
 */
function ensembleArc(
  array: PreparedArray,
  sources: readonly Source[],
  figures: readonly SourceFigures[] = [],
): EnsembleArc | null {
  if (sources.length === 0) return null;
  const angles = new Float64Array(2 * sources.length);
  let count = 0;
  let [distance, height] = [0, 0];
  for (const [i, source] of sources.entries()) {
    const known = figures[i];
    if (source.widthM > 0) {
      const [left, right] = edgesAt(array, source);
      angles[count++] = azimuthFrom(array, left);
      angles[count++] = azimuthFrom(array, right);
    } else angles[count++] = known?.azimuthDeg ?? azimuthFrom(array, source);
    distance += known?.planDistanceM ?? planDistance(source, array.centre);
    height += source.z;
  }
  return {
    angleDeg: smallestArc(angles.subarray(0, count)),
    distanceM: distance / sources.length,
    heightM: height / sources.length,
  };
}

/** Written anew by every call. */
let sorting = {
  lefts: new Float64Array(64),
  images: [] as PerModel<StagePlace>[],
  places: [] as (StagePlace | undefined)[],
};

/** Images from left to right in the consensus: almost in order in every other model. */
function imagesInOrder(figures: readonly SourceFigures[]): readonly PerModel<StagePlace>[] {
  if (figures.length > sorting.lefts.length) {
    sorting = { lefts: new Float64Array(2 * figures.length), images: [], places: [] };
  }
  const { lefts, images } = sorting;
  let count = 0;
  for (let i = 0; i < figures.length; i++) {
    const image = figures[i]?.image;
    if (!image?.consensus) continue;
    const { left } = image.consensus;
    let j = count++;
    for (; j > 0 && (lefts[j - 1] ?? 0) > left; j--) {
      lefts[j] = lefts[j - 1] ?? 0;
      images[j] = images[j - 1] ?? image;
    }
    lefts[j] = left;
    images[j] = image;
  }
  images.length = count;
  return images;
}

/** Those of everybody, and the listener's own. */
const ALL_IDS: readonly ModelId[] = [...MODEL_IDS, 'own'];

/** Stage figures in every model, over the sources that have an image. */
export function stageOf(figures: readonly SourceFigures[]): PerModel<StageFigures> {
  const stage: PerModel<StageFigures> = {};
  const images = imagesInOrder(figures);
  const { places } = sorting;
  places.length = images.length;
  for (const model of ALL_IDS) {
    for (let i = 0; i < images.length; i++) places[i] = images[i]?.[model];
    const found = stageFigures(places);
    if (found) stage[model] = found;
  }
  return stage;
}

/** Right over left, summed over sources from their level and level difference. */
function balanceOf(figures: readonly SourceFigures[]): number | null {
  let left = 0;
  let right = 0;
  for (const { levelAtArrayDb, icldDb } of figures) {
    if (levelAtArrayDb === null || icldDb === null) continue;
    const power = dbToPower(levelAtArrayDb);
    const ratio = dbToPower(icldDb);
    left += power / (1 + ratio);
    right += (power * ratio) / (1 + ratio);
  }
  return left > 0 && right > 0 ? powerDb(right / left) : null;
}

/** What an array makes of the far field: the part that no source changes, each when it is first read. */
export interface ArrayBasis {
  prepared: PreparedArray;
  farField: PerModel<RecordingAngle>;
  centreSlope: PerModel<number | null>;
}

const basisAt = remembered((array: MicArray) => {
  let known: { context: Context; basis: ArrayBasis } | null = null;
  return (context: Context): ArrayBasis => {
    const { speed, own } = context;
    if (known?.context.speed === speed && known.context.own === own) return known.basis;
    const prepared = readyArray(array);
    const angles = once(() => recordingAngles(prepared, farField(prepared, speed), own));
    const slopes = once(() => centreSlopes(prepared, farField(prepared, speed), own));
    const basis: ArrayBasis = {
      prepared,
      get farField() {
        return angles();
      },
      get centreSlope() {
        return slopes();
      },
    };
    known = { context, basis };
    return basis;
  };
});

/** Computed once for an array, until the air or the listener's own model changes. */
export const arrayBasis = (array: MicArray, context: Context): ArrayBasis =>
  basisAt(array)(context);

/** What an array made of the last list of sources that it was asked about. */
interface KnownFigures {
  context: Context | null;
  sources: readonly Source[];
  figures: readonly SourceFigures[];
}

const NOTHING_KNOWN: KnownFigures = { context: null, sources: [], figures: [] };
const knownOf = remembered((_array: MicArray): KnownFigures => ({ ...NOTHING_KNOWN }));

/** What is known of a source: in its old place as a rule, and anywhere after a change of order. */
function lookup({ sources, figures }: KnownFigures) {
  const others = once(() => new Map(sources.map((source, i) => [source, figures[i]])));
  return (source: Source, i: number): SourceFigures | undefined =>
    sources[i] === source ? figures[i] : others().get(source);
}

/**
 * All figures of all sources at one array; those that it computed for the last list, and that are
 * in this one, are not computed again.
 * @param onFresh called for each that had to be computed
 */
export function figuresOver(
  array: MicArray,
  sources: readonly Source[],
  context: Context,
  onFresh?: () => void,
): readonly SourceFigures[] {
  const known = knownOf(array);
  const same = known.context !== null && sameContext(known.context, context);
  if (same && known.sources === sources) return known.figures;
  const before = same && known.sources.length > 0 ? lookup(known) : null;
  const prepared = readyArray(array);
  const figures = sources.map((source, i) => {
    const found = before?.(source, i);
    if (found) return found;
    onFresh?.();
    return sourceFigures(prepared, source, context);
  });
  known.context = context;
  known.sources = sources;
  known.figures = figures;
  return figures;
}

/** Nearer than this an ensemble has no distance from an array, m. */
const APART_M = 0.05;

/** Is there a distance between an array and its players: on the plan, or below it? */
export const isApart = (
  { steep, centre }: Pick<PreparedArray, 'steep' | 'centre'>,
  { distanceM, heightM }: Pick<EnsembleArc, 'distanceM' | 'heightM'>,
): boolean => (steep ? Math.abs(centre.z - heightM) : distanceM) > APART_M;

/** The in-place recording angle, or null where the ensemble has no distance from the array. */
function inPlaceAngles(
  prepared: PreparedArray,
  ensemble: EnsembleArc | null,
  { speed, own }: Context,
): PerModel<RecordingAngle> | null {
  if (!ensemble || !isApart(prepared, ensemble)) return null;
  const { distanceM, heightM } = ensemble;
  return recordingAngles(prepared, inPlace(prepared, distanceM, heightM, speed), own);
}

/** As anglesIn has it, of one model alone. */
function halfIn(
  { prepared }: ArrayBasis,
  ensemble: EnsembleArc | null,
  { speed, own }: Context,
  model: ModelId,
): number | null {
  const cuesAt =
    ensemble && isApart(prepared, ensemble)
      ? inPlace(prepared, ensemble.distanceM, ensemble.heightM, speed)
      : farField(prepared, speed);
  const speaking = speakingModel({ model, own }, prepared.coincident);
  const right = halfAngle(cuesAt, speaking, 1);
  if (prepared.symmetric || right === null) return right;
  const left = halfAngle(cuesAt, speaking, 1, -1);
  return left === null ? null : (right + left) / 2;
}

/** All figures of one array over all sources; what is known of either is not computed again. */
export function arrayFigures(
  array: MicArray,
  sources: readonly Source[],
  context: Context,
): ArrayFigures {
  const basis = arrayBasis(array, context);
  const figures = figuresOver(array, sources, context);
  return assemble(array, basis, sources, figures, context);
}

/**
 * Puts the figures of an array together from those of its sources, which are given in their order.
 * What every source bears on is worked out when it is asked for: not while one is dragged.
 */
export function assemble(
  array: MicArray,
  basis: ArrayBasis,
  sources: readonly Source[],
  figures: readonly SourceFigures[],
  context: Context,
): ArrayFigures {
  const players = once(() => playersOf(array, sources, context.speed));
  const own = once(() => {
    if (players() === sources) return figures;
    const ids = new Set(players().map(({ id }) => id));
    return figures.filter(({ id }) => ids.has(id));
  });
  const ensemble = once(() => ensembleArc(basis.prepared, players(), own()));
  const angles = once(() => inPlaceAngles(basis.prepared, ensemble(), context));
  const half = lastOf((model: ModelId) => halfIn(basis, ensemble(), context, model));
  const balance = once(() => balanceOf(own()));
  const stage = once(() => stageOf(own()));
  const all: Omit<ArrayFigures, 'halfDeg'> = {
    id: array.id,
    name: array.name,
    capsules: basis.prepared.capsules,
    get farField() {
      return basis.farField;
    },
    get inPlace() {
      return angles();
    },
    get centreSlope() {
      return basis.centreSlope;
    },
    get ensemble() {
      return ensemble();
    },
    sources: figures,
    get own() {
      return own();
    },
    get stage() {
      return stage();
    },
    get balanceDb() {
      return balance();
    },
  };
  // A question, not a figure: whoever lists the figures does not list it.
  return Object.defineProperty(all, 'halfDeg', { value: half }) as ArrayFigures;
}
