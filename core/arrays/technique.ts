import { patternAOf, type Pattern } from '../acoustics/patterns';

/** Two equal microphones; the left one sits at −spacing/2 and points half the angle to the left. */
export type PairTechnique = {
  kind: 'pair';
  pattern: Pattern;
  spacingM: number;
  includedAngleDeg: number;
};

/** A forward microphone and a sideways figure-eight at one point. */
export type MidSideTechnique = {
  kind: 'mid-side';
  midPattern: Pattern;
  sideGainDb: number;
  sidePositive: 'left' | 'right';
};

export type SingleTechnique = {
  kind: 'single';
  pattern: Pattern;
};

/** One microphone in the array's frame: dx right, dy along the aim, dz up; metres and degrees. */
export type CustomCapsule = {
  label: string;
  dx: number;
  dy: number;
  dz: number;
  azimuthDeg: number;
  elevationDeg: number;
  pattern: Pattern;
};

export type CustomTechnique = {
  kind: 'custom';
  capsules: readonly CustomCapsule[];
};

export type Technique = PairTechnique | MidSideTechnique | SingleTechnique | CustomTechnique;

/** What a practitioner calls the arrangement. */
export type TechniqueName =
  'spaced' | 'coincident' | 'near-coincident' | 'figure-eights' | 'mid-side' | 'single' | 'custom';

/** Classifies a technique by its numbers: a pair without spacing is coincident, and so on. */
export function techniqueName(technique: Technique): TechniqueName {
  if (technique.kind !== 'pair') return technique.kind;
  if (technique.spacingM > 0) return technique.includedAngleDeg > 0 ? 'near-coincident' : 'spaced';
  return patternAOf(technique.pattern) === 0 ? 'figure-eights' : 'coincident';
}

/** Sensible numbers to begin with when a technique is chosen. */
export const STARTING_TECHNIQUES: Readonly<
  Record<Exclude<TechniqueName, 'single' | 'custom'>, Technique>
> = {
  spaced: { kind: 'pair', pattern: 'omni', spacingM: 0.5, includedAngleDeg: 0 },
  coincident: { kind: 'pair', pattern: 'cardioid', spacingM: 0, includedAngleDeg: 90 },
  'near-coincident': { kind: 'pair', pattern: 'cardioid', spacingM: 0.17, includedAngleDeg: 110 },
  'figure-eights': { kind: 'pair', pattern: 'figure-eight', spacingM: 0, includedAngleDeg: 90 },
  'mid-side': { kind: 'mid-side', midPattern: 'cardioid', sideGainDb: 0, sidePositive: 'left' },
};
