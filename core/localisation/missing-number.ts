import type { Pattern } from '../acoustics/patterns';
import type { ModelId } from './models/model';
import { tradeMap } from './trade-map';

const SPACINGS_M = [0.1, 0.15, 0.2, 0.25, 0.3, 0.4, 0.5];
const ANGLES_DEG = [0, 30, 60, 80, 90, 100, 110, 120];

export interface HalfAngleRange {
  minHalfDeg: number;
  /** null where some of the pairs never reach the loudspeaker */
  maxHalfDeg: number | null;
}

export interface MissingNumber {
  /** the customary values that were tried for what is missing */
  over: { spacingM: number[] } | { includedAngleDeg: number[] };
  ranges: Partial<Record<ModelId, HalfAngleRange>>;
}

/**
 * What a pair with a missing number could have: never one figure, always the range over customary
 * values (far field).
 * @param spacingM null when it is the one that is missing
 * @param includedAngleDeg null when it is the one that is missing
 * @param speed speed of sound, m/s
 */
export function recordingAngleRange(
  pattern: Pattern,
  spacingM: number | null,
  includedAngleDeg: number | null,
  speed: number,
): MissingNumber {
  const spacings = spacingM === null ? SPACINGS_M : [spacingM];
  const angles = includedAngleDeg === null ? ANGLES_DEG : [includedAngleDeg];
  const ranges: MissingNumber['ranges'] = {};
  const { halfDeg } = tradeMap(pattern, spacings, angles, speed);
  for (const [model, cells] of Object.entries(halfDeg) as [ModelId, Float32Array][]) {
    const known = [...cells].filter((half) => half > 0);
    ranges[model] = {
      minHalfDeg: Math.min(...known, 180),
      maxHalfDeg: known.length < cells.length ? null : Math.max(...known),
    };
  }
  return {
    over: spacingM === null ? { spacingM: spacings } : { includedAngleDeg: angles },
    ranges,
  };
}
