import { sum } from 'd3-array';
import { patternNameOf, patternAOf, type Pattern } from '../acoustics/patterns';
import { capsulesInFrame } from '../arrays/capsules';
import type { Technique } from '../arrays/technique';
import type { Kit, Microphone } from '../session/schema';

/** "cardioid", "figure-eight", "A 0.42" */
export function patternWord(pattern: Pattern): string {
  const patternA = patternAOf(pattern);
  return patternNameOf(patternA) ?? `A ${patternA}`;
}

/** Can this microphone be switched to a pattern? */
export function canDo(microphone: Pick<Microphone, 'patterns'>, pattern: Pattern): boolean {
  const patternA = patternAOf(pattern);
  return microphone.patterns.some((own) => patternAOf(own) === patternA);
}

const NUMBERS = ['no', 'one', 'two', 'three', 'four', 'five', 'six', 'seven', 'eight'];
const inWords = (count: number): string => NUMBERS[count] ?? `${count}`;
const plural = (word: string, count: number): string => (count === 1 ? word : `${word}s`);

/** How many microphones of each pattern a technique takes, by pattern in words. */
function patternCounts(technique: Technique): Map<string, { pattern: Pattern; count: number }> {
  const counts = new Map<string, { pattern: Pattern; count: number }>();
  for (const { pattern } of capsulesInFrame(technique)) {
    const word = patternWord(pattern);
    const known = counts.get(word);
    counts.set(word, { pattern, count: (known?.count ?? 0) + 1 });
  }
  return counts;
}

/**
 * What a kit lacks for a technique, in words ("two figure-eights"); null where it can be built, or
 * where the kit is not known. A pair wants two of the same entry: two different microphones do not
 * make one.
 */
export function missingForKit(kit: Pick<Kit, 'microphones'>, technique: Technique): string | null {
  const { microphones } = kit;
  if (microphones.length === 0) return null;
  const alike = technique.kind === 'pair';
  const missing: string[] = [];
  for (const [word, { pattern, count }] of patternCounts(technique)) {
    const fit = microphones.filter((microphone) => canDo(microphone, pattern));
    const have = alike
      ? Math.max(0, ...fit.map((microphone) => microphone.count))
      : sum(fit, ({ count }) => count);
    if (have < count) missing.push(`${inWords(count)} ${plural(word, count)}`);
  }
  return missing.length === 0 ? null : missing.join(' and ');
}

/** One customary technique, and whether the kit builds it. */
export interface Allowed {
  name: string;
  technique: Technique;
  /** what is missing, in words; null where it can be built */
  lacks: string | null;
}

const pair = (pattern: Pattern, spacingM: number, includedAngleDeg: number): Technique => ({
  kind: 'pair',
  pattern,
  spacingM,
  includedAngleDeg,
});
const midSide = (midPattern: Pattern): Technique => ({
  kind: 'mid-side',
  midPattern,
  sideGainDb: 0,
  sidePositive: 'left',
});

const CUSTOMARY: readonly (readonly [string, Technique])[] = [
  ['spaced omnis', pair('omni', 0.5, 0)],
  ['near-coincident cardioids', pair('cardioid', 0.17, 110)],
  ['near-coincident subcardioids', pair('subcardioid', 0.3, 90)],
  ['coincident cardioids', pair('cardioid', 0, 90)],
  ['coincident supercardioids', pair('supercardioid', 0, 90)],
  ['crossed figure-eights', pair('figure-eight', 0, 90)],
  ['mid-side, cardioid mid', midSide('cardioid')],
  ['mid-side, omni mid', midSide('omni')],
  ['mid-side, figure-eight mid', midSide('figure-eight')],
];

/** Every customary technique with what the kit lacks for it: shown, never hidden. */
export function allowedByKit(kit: Pick<Kit, 'microphones'>): Allowed[] {
  return CUSTOMARY.map(([name, technique]) => ({
    name,
    technique,
    lacks: missingForKit(kit, technique),
  }));
}
