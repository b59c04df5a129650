import { inRange } from '../units/guard';
import type { Pattern } from '../acoustics/patterns';
import type { CustomTechnique } from './technique';

/**
 * A pair whose two microphones differ in pattern: the same bar, written out as capsules.
 * @throws RangeError where spacingM is outside 0 … 50 m, includedAngleDeg is outside 0 … 360°
 */
export function mixedPair(
  left: Pattern,
  right: Pattern,
  spacingM: number,
  includedAngleDeg: number,
): CustomTechnique {
  inRange('spacingM', spacingM, 0, 50, 'm');
  inRange('includedAngleDeg', includedAngleDeg, 0, 360, '°');
  const capsule = (label: string, side: 1 | -1, pattern: Pattern) => ({
    label,
    dx: (side * spacingM) / 2,
    dy: 0,
    dz: 0,
    azimuthDeg: (side * includedAngleDeg) / 2,
    elevationDeg: 0,
    pattern,
  });
  return { kind: 'custom', capsules: [capsule('L', -1, left), capsule('R', 1, right)] };
}
