import { patternAOf, patternNameOf, type Pattern } from '../../core/acoustics';
import { techniqueName, type Technique, type TechniqueName } from '../../core/arrays';
import type { MicArray } from '../../core/session';
import {
  angleText,
  formatNumber,
  formatSigned,
  lengthText,
  type UnitSystem,
} from '../../core/units';

export const TECHNIQUE_WORDS: Readonly<Record<TechniqueName, string>> = {
  spaced: 'Spaced pair (A-B)',
  coincident: 'Coincident, crossed (XY)',
  'near-coincident': 'Near-coincident',
  'figure-eights': 'Crossed figure-eights (Blumlein)',
  'mid-side': 'Mid-side',
  single: 'Single microphone',
  custom: 'Free arrangement',
};

/** "cardioid", or "A 0.42" for a pattern without a name. */
export function patternWords(pattern: Pattern): string {
  const patternA = patternAOf(pattern);
  return patternNameOf(patternA) ?? `A ${formatNumber(patternA, 3).replace(/0+$/, '')}`;
}

/** The numbers that define a technique, briefly: "17 cm · 110°". */
export function techniqueFigures(technique: Technique, units: UnitSystem): string {
  switch (technique.kind) {
    case 'pair': {
      const spacing = lengthText(technique.spacingM, units, 'bar').replace('.0 cm', ' cm');
      const angle = angleText(technique.includedAngleDeg);
      const name = techniqueName(technique);
      if (name === 'spaced') return spacing;
      return technique.spacingM > 0 ? `${spacing} · ${angle}` : angle;
    }
    case 'mid-side':
      return `${patternWords(technique.midPattern)} mid, side ${formatSigned(technique.sideGainDb, 1)} dB`;
    case 'single':
      return patternWords(technique.pattern);
    case 'custom':
      return `${technique.capsules.length} microphones`;
  }
}

/** "Main pair · 17 cm · 110° · 2.70 m up" */
export function arrayCaption(array: MicArray, units: UnitSystem): string {
  const figures = techniqueFigures(array.technique, units);
  return `${array.name} · ${figures} · ${lengthText(array.z, units)} up`;
}
