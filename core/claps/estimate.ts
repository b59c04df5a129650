import { BOUNDS } from '../session/bounds';
import type { MicArray, Session } from '../session/schema';
import { wrapDeg } from '../units/guard';
import { fitted, knownWith, spreadOf, type Fit, type Freedom } from '../verdict/fit';
import { shift } from '../verdict/freedoms';
import type { MeasuredAt } from '../verdict/measured';
import { cuesAt, plannedStand, type Channel, type Place, type Stand } from '../verdict/stand';
import { tapesOf, unknownsOf, writtenOut, type ClapField, type Unknown } from './freedoms';
import { CLAPS_ABOUT } from './layout';

/** One figure of a rig as claps have it. */
export interface ClapFigure {
  /** empty: of the air */
  arrayId: string;
  field: ClapField;
  planned: number;
  /** what claps say */
  value: number;
  /** half of its 90 % interval */
  within: number;
  /** false: these claps say no more than what was expected without any */
  measurable: boolean;
  /** the clap that would mend that; empty where it is measurable, or none would */
  mendedBy: string;
}

/** What a microphone does to a player, as claps have it. */
export interface StageFigure {
  placeId: string;
  name: string;
  /** the microphone that is held against the first */
  of: string;
  plannedMs: number;
  plannedDb: number;
  /** with half of its 90 % interval */
  delayMs: number;
  delayWithinMs: number;
  levelDb: number;
  levelWithinDb: number;
}

/** A rig as claps at known places have it. */
export interface ClapEstimate {
  figures: ClapFigure[];
  stage: StageFigure[];
  /** squares of a deviation that a measured figure leaves in the mean: about one where all is well */
  left: number;
  /** why nothing of it is to be believed; empty where it is */
  refused: string;
}

/** How claps were made. */
export interface ClapOptions {
  /** deviation of a place from what the tapes said, m */
  tapeM: number;
  /** the first array was plumbed: deviation of its place, m; null: it was not */
  plumbM: number | null;
}

export const USUAL_CLAPS: ClapOptions = { tapeM: 0.02, plumbM: null };

/** Half of a 90 % interval, in deviations. */
const NINETY = 1.645;
/** More than this of what was expected without claps is no measurement. */
const NOT_MEASURED = 0.7;
const ROUNDS = 15;
/** Beside the plan it begins with the first array turned, degrees: valleys lie on either side. */
const TURNED_DEG = [0, 15, -15] as const;
/** More than this is left where claps are not of this rig, or not in this order. */
const STRANGE = 5;
const FEWEST_CLAPS = 2;
/** Of a clap that is only thought of, deviations. */
const THOUGHT = { delayWithinMs: 0.004, levelWithinDb: 0.35 } as const;

/** What a field is of an array as it is planned. */
function plannedValue(array: MicArray | undefined, field: ClapField, session: Session): number {
  if (field === 'temperatureC') return session.venue.temperatureC;
  if (!array) return 0;
  const { technique } = array;
  switch (field) {
    case 'spacingM':
    case 'includedAngleDeg':
      return technique.kind === 'pair' ? technique[field] : 0;
    case 'skewDeg':
    case 'rightDb':
    case 'patternA':
    case 'patternDifference':
      return 0;
    default:
      return array[field];
  }
}

/** The same of a place that was only thought of, heard by every channel. */
const thoughtOf = (stand: Stand, place: Place): MeasuredAt =>
  cuesAt(stand, place).map((cue) => cue && { ...cue, ...THOUGHT });

/** The clap after which a figure is measured; empty where none of those that are easily made would do. */
function mending(
  fit: Fit,
  unknowns: readonly Unknown[],
  freedoms: readonly Freedom[],
  index: number,
): string {
  const unknown = unknowns[index];
  const array = fit.stand.arrays.find(({ id }) => id === (unknown?.arrayId ?? ''));
  if (!unknown || !array) return '';
  const slopes = freedoms.map((_, i) => (i === index ? 1 : 0));
  const [best] = CLAPS_ABOUT.map(({ name, at }) => {
    const place = { ...at(array), id: '', name, taped: true };
    const known = knownWith(fit, freedoms, place, thoughtOf(fit.stand, place));
    return { name, within: spreadOf(known, slopes) };
  }).sort((a, b) => a.within - b.within);
  return best && best.within < NOT_MEASURED * unknown.freedom.usual ? best.name : '';
}

function figuresOf(
  session: Session,
  fit: Fit,
  unknowns: readonly Unknown[],
  freedoms: readonly Freedom[],
): ClapFigure[] {
  return unknowns.map(({ arrayId, field, freedom }, i) => {
    const array = session.arrays.find(({ id }) => id === arrayId);
    const planned = plannedValue(array, field, session);
    const value = planned + (fit.values[i] ?? 0);
    const spread = fit.within[i] ?? freedom.usual;
    const measurable = spread <= NOT_MEASURED * freedom.usual;
    return {
      arrayId,
      field,
      planned,
      value: field === 'aimDeg' ? wrapDeg(value) : value,
      within: NINETY * spread,
      measurable,
      mendedBy: measurable ? '' : mending(fit, unknowns, freedoms, i),
    };
  });
}

/** What every microphone does to every player, and how certain that is. */
function stageOf(
  planned: Stand,
  fit: Fit,
  freedoms: readonly Freedom[],
  players: readonly Place[],
): StageFigure[] {
  // Claps are off their places by themselves: a player is not.
  const ofRig = freedoms.map((freedom) => (freedom.place === undefined ? freedom : null));
  return players.flatMap((place) => {
    const [expected, here] = [cuesAt(planned, place), cuesAt(fit.stand, place)];
    const moved = ofRig.map(
      (freedom) => freedom && cuesAt(freedom.apply(fit.stand, freedom.step), place),
    );
    return here.flatMap((cue, k): StageFigure[] => {
      const plan = expected[k];
      const channel = fit.stand.channels[k + 1];
      if (!cue || !plan || !channel) return [];
      const within = (of: 'delayMs' | 'levelDb'): number =>
        NINETY *
        spreadOf(
          fit.known,
          moved.map((cues, i) => {
            const there = cues?.[k];
            return there ? (there[of] - cue[of]) / (freedoms[i]?.step ?? 1) : 0;
          }),
        );
      return [
        {
          placeId: place.id,
          name: place.name,
          of: channel.name,
          plannedMs: plan.delayMs,
          plannedDb: plan.levelDb,
          delayMs: cue.delayMs,
          delayWithinMs: within('delayMs'),
          levelDb: cue.levelDb,
          levelWithinDb: within('levelDb'),
        },
      ];
    });
  });
}

/**
 * How a rig really stands, from claps at places that were taped: weighted least squares over all that can
 * be other than planned, the places among it, about expectations that are wider than what can be wrong.
 * @param channels of microphones, the first main array's first; two and more
 * @param claps places as they were taped, 2 … 60
 * @param measured of each of them, in their order
 * @param players whose cues are told, in m as the plan has them
 */
export function clapEstimate(
  session: Session,
  channels: readonly Channel[],
  claps: readonly Place[],
  measured: readonly MeasuredAt[],
  players: readonly Place[],
  { tapeM, plumbM }: ClapOptions = USUAL_CLAPS,
): ClapEstimate {
  const rig = { ...session, arrays: session.arrays.map(writtenOut) };
  const stand = plannedStand(rig, channels, claps);
  const [first] = channels;
  const unknowns = unknownsOf(session.arrays, channels).map((unknown): Unknown =>
    plumbM !== null && unknown.arrayId === first?.arrayId && isPlace(unknown.field)
      ? { ...unknown, freedom: shift(unknown.arrayId, unknown.field, plumbM) }
      : unknown,
  );
  const freedoms = [...unknowns.map(({ freedom }) => freedom), ...tapesOf(claps.length, tapeM)];
  const aim = unknowns.findIndex(
    ({ arrayId, field }) => arrayId === first?.arrayId && field === 'aimDeg',
  );
  const [fit] = TURNED_DEG.map((deg) =>
    fitted(stand, measured, freedoms, unknowns.length, {
      from: freedoms.map((_, i) => (i === aim ? deg : 0)),
      rounds: ROUNDS,
    }),
  ).sort((a, b) => a.chi2 - b.chi2);
  const heard = measured.flat().reduce((n, cue) => n + (cue ? 2 : 0), 0);
  if (!fit || measured.length < FEWEST_CLAPS || heard === 0) {
    return {
      ...{ figures: [], stage: [], left: 0 },
      refused: 'two places with a clap that both microphones hear are needed at least',
    };
  }
  const left = fit.chi2 / heard;
  return {
    figures: figuresOf(session, fit, unknowns, freedoms),
    stage: stageOf(stand, fit, freedoms, players),
    left,
    refused:
      left > STRANGE
        ? 'no rig near the plan was heard from these places: are they in this order, and is it this array?'
        : '',
  };
}

const isPlace = (field: ClapField): field is 'x' | 'y' => field === 'x' || field === 'y';

/** The bounds of what may be noted of a field. @returns null of what is not noted on a rig */
export const noted = (field: ClapField): { min: number; max: number } | null =>
  field === 'x' || field === 'y' || field === 'z'
    ? BOUNDS.positionM
    : field === 'aimDeg'
      ? BOUNDS.azimuthDeg
      : field === 'spacingM'
        ? BOUNDS.spacingM
        : field === 'includedAngleDeg'
          ? BOUNDS.includedAngleDeg
          : field === 'rightDb'
            ? BOUNDS.gainDb
            : null;
