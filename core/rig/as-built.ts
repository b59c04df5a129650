import { clamp } from '../units/numbers';
import { stripsOf } from '../arrays/routing';
import { arrayFigures } from '../analysis/array-figures';
import { contextOf } from '../prepare/context';
import { enabledArrays, isKnown } from '../session/lists';
import { leadingOf, shiftIn } from '../localisation/leading';
import { USUAL_TOLERANCES, usualTolerances } from '../analysis/tolerance';
import { BOUNDS, BUILT_BOUNDS } from '../session/bounds';
import type { AsBuilt, MicArray, Session } from '../session/schema';

export type BuiltField = AsBuilt['field'];

/** One figure of an array as planned and as it was really set. */
export interface BuiltFigure {
  arrayId: string;
  arrayName: string;
  field: BuiltField;
  planned: number;
  /** null while nobody has looked */
  built: number | null;
  tolerance: number;
  /** set, and farther off than the tolerance */
  outside: boolean;
}

const POSITION_M = 0.03;
const TOLERANCES: Readonly<Record<BuiltField, number>> = {
  x: POSITION_M,
  y: POSITION_M,
  z: POSITION_M,
  aimDeg: 2,
  tiltDeg: 2,
  spacingM: USUAL_TOLERANCES.spacingM,
  includedAngleDeg: USUAL_TOLERANCES.angleDeg,
  rightDb: USUAL_TOLERANCES.sensitivityDb,
};

const PLACE_FIELDS = ['x', 'y', 'z', 'aimDeg', 'tiltDeg'] as const;

function plannedOf(array: MicArray): [BuiltField, number][] {
  const place = PLACE_FIELDS.map((field): [BuiltField, number] => [field, array[field]]);
  const { technique } = array;
  return technique.kind === 'pair'
    ? [
        ...place,
        ['spacingM', technique.spacingM],
        ['includedAngleDeg', technique.includedAngleDeg],
        ['rightDb', 0],
      ]
    : place;
}

/** Every figure that is set by hand, with what was really set. */
export function builtFigures(session: Session): BuiltFigure[] {
  return enabledArrays(session).flatMap((array) =>
    plannedOf(array)
      .filter(([field]) => isKnown(array) || !array.missing.some((name) => name === field))
      .map(([field, planned]) => {
        const entry = session.rig.asBuilt.find(
          (known) => known.arrayId === array.id && known.field === field,
        );
        const built = entry?.value ?? null;
        const usual = usualTolerances(session, array);
        const tolerance =
          field === 'spacingM'
            ? usual.spacingM
            : field === 'rightDb'
              ? usual.sensitivityDb
              : TOLERANCES[field];
        return {
          arrayId: array.id,
          arrayName: array.name,
          field,
          planned,
          built,
          tolerance,
          outside: built !== null && Math.abs(built - planned) > tolerance + 1e-9,
        };
      }),
  );
}

/** A figure as it was noted, brought inside what such a figure can be at all. */
function possible(field: BuiltField, value: number): number {
  const { min, max } = BOUNDS[BUILT_BOUNDS[field]];
  return clamp(value, min, max);
}

/** A pair whose right microphone is louder than its left one by so much, dB. */
export function withRightDb(array: MicArray, db: number): MicArray {
  const { technique, mix } = array;
  if (technique.kind !== 'pair') return array;
  const { min, max } = BOUNDS.gainDb;
  const capsules = stripsOf(technique, mix.capsules).map((strip, i) => ({
    ...strip,
    gainDb: i === 1 ? clamp(strip.gainDb + db, min, max) : strip.gainDb,
  }));
  return { ...array, mix: { ...mix, capsules } };
}

/** The session as it stands in the hall: what was really set in place of what was planned. */
export function builtSession(session: Session): Session {
  const arrays = session.arrays.map((array) => {
    let built = array;
    for (const { arrayId, field, value: noted } of session.rig.asBuilt) {
      if (arrayId !== array.id) continue;
      const value = possible(field, noted);
      if (field === 'rightDb') built = withRightDb(built, value);
      else if (field === 'spacingM' || field === 'includedAngleDeg') {
        const { technique } = built;
        if (technique.kind === 'pair')
          built = { ...built, technique: { ...technique, [field]: value } };
      } else built = { ...built, [field]: value };
    }
    return built;
  });
  return { ...session, arrays };
}

/** How far the pictures of plan and building are apart. */
export interface BuiltEffect {
  arrayId: string;
  arrayName: string;
  /** half recording angle, far field, degrees; null where it is not reached */
  plannedHalfDeg: number | null;
  builtHalfDeg: number | null;
  /** the player whose image moved most, and by how much, percent of the half base */
  worstSourceId: string | null;
  worstPct: number;
}

/** What the differences do to the prediction, for every array of which something was noted. */
export function builtEffects(session: Session): BuiltEffect[] {
  const built = builtSession(session);
  const context = contextOf(session);
  const { model } = session.settings;
  return session.arrays.flatMap((array, index) => {
    const now = built.arrays[index];
    if (!array.enabled || !now || now === array) return [];
    const plan = arrayFigures(array, session.sources, context);
    const real = arrayFigures(now, session.sources, context);
    let worstSourceId: string | null = null;
    let worstPct = 0;
    plan.sources.forEach((figures, i) => {
      const other = real.sources[i];
      const [a, b] = [shiftIn(figures, model), shiftIn(other, model)];
      const moved = a === null || b === null ? 0 : Math.abs(a - b) * 100;
      if (moved > worstPct) {
        worstPct = moved;
        worstSourceId = figures.id;
      }
    });
    const half = (figures: typeof plan) => leadingOf(figures.farField, model)?.halfDeg ?? null;
    return {
      arrayId: array.id,
      arrayName: array.name,
      plannedHalfDeg: half(plan),
      builtHalfDeg: half(real),
      worstSourceId,
      worstPct,
    };
  });
}

/** What is missing for the set-up to be put up again as it was. */
export function completeness(session: Session): string[] {
  const missing: string[] = [];
  const enabled = enabledArrays(session);
  if (enabled.length === 0) missing.push('no array is in use');
  if (session.venue.datumPoints.length < 2) missing.push('two tape points');
  if (session.venue.origin === null) missing.push('where in the hall the datum is');
  if (session.venue.name === '') missing.push('the name of the hall');
  if (session.kit.microphones.length === 0) missing.push('which microphones');
  for (const { arrayName, field, built } of builtFigures(session)) {
    // A level is heard, not set by tape: nobody has to note it.
    if (built === null && field !== 'rightDb')
      missing.push(`${arrayName}: ${FIELD_WORDS[field]} as built`);
  }
  return missing;
}

export const FIELD_WORDS: Readonly<Record<BuiltField, string>> = {
  x: 'right of centre',
  y: 'upstage of edge',
  z: 'height',
  aimDeg: 'aim',
  tiltDeg: 'tilt',
  spacingM: 'spacing',
  includedAngleDeg: 'included angle',
  rightDb: 'right microphone louder by',
};
