import { PATTERN_NAMES, type Pattern, type PatternName } from '../core/acoustics';
import { boundsText, type Bounds } from '../core/session';

export const DISTANCE_BOUNDS: Bounds = { min: 0.1, max: 200, unit: 'm' };

/** Collects what is wrong, so that all of it is reported at once. */
export class Checker {
  readonly errors: string[] = [];

  number(name: string, text: string | undefined, bounds: Bounds): number {
    const value = Number(text);
    if (text?.trim() !== '' && value >= bounds.min && value <= bounds.max) return value;
    this.errors.push(
      `--${name}: ${JSON.stringify(text)}; allowed: a number from ${boundsText(bounds)}`,
    );
    return NaN;
  }

  pattern(text: string): Pattern {
    const name = PATTERN_NAMES.find((known): known is PatternName => known === text);
    if (name !== undefined) return name;
    const patternA = Number(text);
    if (text.trim() !== '' && patternA >= 0 && patternA <= 1) return patternA;
    this.errors.push(
      `--pattern: ${JSON.stringify(text)}; allowed: ${PATTERN_NAMES.join(', ')}, or a number from 0 to 1`,
    );
    return NaN;
  }

  oneOf<T extends string>(name: string, text: string, allowed: readonly T[]): T | null {
    const found = allowed.find((value) => value === text);
    if (found !== undefined) return found;
    this.errors.push(`--${name}: ${JSON.stringify(text)}; allowed: ${allowed.join(', ')}`);
    return null;
  }
}
