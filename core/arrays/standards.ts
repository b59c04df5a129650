import { patternAOf, type PatternName } from '../acoustics/patterns';
import type { PairTechnique, Technique } from './technique';

/** A near-coincident pair with customary published figures. */
export interface Standard {
  name: string;
  pattern: PatternName;
  spacingM: number;
  includedAngleDeg: number;
}

/** The named near-coincident standards, as broadcasters and authors published them. */
export const STANDARDS: readonly Standard[] = [
  { name: 'ORTF', pattern: 'cardioid', spacingM: 0.17, includedAngleDeg: 110 },
  { name: 'NOS', pattern: 'cardioid', spacingM: 0.3, includedAngleDeg: 90 },
  { name: 'DIN', pattern: 'cardioid', spacingM: 0.2, includedAngleDeg: 90 },
  { name: 'RAI', pattern: 'cardioid', spacingM: 0.21, includedAngleDeg: 100 },
  { name: 'EBS', pattern: 'cardioid', spacingM: 0.25, includedAngleDeg: 90 },
  { name: 'Olson', pattern: 'cardioid', spacingM: 0.2, includedAngleDeg: 135 },
];

/** A named standard as the pair that it is. */
export function standardTechnique({
  pattern,
  spacingM,
  includedAngleDeg,
}: Standard): PairTechnique {
  return { kind: 'pair', pattern, spacingM, includedAngleDeg };
}

/** The standard that a name mentions as a word of its own, or null. */
export function standardNamed(text: string): Standard | null {
  const words = new Set(text.toUpperCase().split(/[^A-Z0-9]+/));
  return STANDARDS.find(({ name }) => words.has(name.toUpperCase())) ?? null;
}

const SPACING_TOLERANCE_M = 0.0015;
const ANGLE_TOLERANCE_DEG = 0.5;

/** In which numbers a technique departs from a standard; empty when it is the standard. */
export function departures(standard: Standard, technique: Technique): string[] {
  if (technique.kind !== 'pair') return ['technique'];
  const found: string[] = [];
  if (patternAOf(technique.pattern) !== patternAOf(standard.pattern)) found.push('pattern');
  if (Math.abs(technique.spacingM - standard.spacingM) > SPACING_TOLERANCE_M) found.push('spacing');
  if (Math.abs(technique.includedAngleDeg - standard.includedAngleDeg) > ANGLE_TOLERANCE_DEG) {
    found.push('included angle');
  }
  return found;
}

/** The standard whose numbers a technique has, or null. */
export function standardOf(technique: Technique): Standard | null {
  return STANDARDS.find((standard) => departures(standard, technique).length === 0) ?? null;
}
