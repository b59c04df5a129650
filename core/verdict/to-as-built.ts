import { BOUNDS } from '../session/bounds';
import type { AsBuilt, Session } from '../session/schema';
import { wrapDeg } from '../units/guard';
import { clamp } from '../units/numbers';
import type { Cause } from './causes';

const round = (value: number, digits: number): number => Number(value.toFixed(digits));

/**
 * What a cause makes of As built: the figures as they really are.
 * @param session the rig that the cause was found against, As built where it was noted
 * @returns none where the cause is nothing that is set on a stand or a bar
 */
export function builtBy(session: Session, cause: Cause): AsBuilt[] {
  const array = session.arrays.find(({ id }) => id === cause.arrayId);
  if (!array) return [];
  const { technique, id: arrayId } = array;
  const [first = 0, second = 0] = cause.values;
  switch (cause.kind) {
    case 'turned':
      return [{ arrayId, field: 'aimDeg', value: round(wrapDeg(array.aimDeg + first), 1) }];
    case 'moved':
      return [
        { arrayId, field: 'x', value: round(array.x + first, 3) },
        { arrayId, field: 'y', value: round(array.y + second, 3) },
      ];
    case 'wider': {
      if (technique.kind !== 'pair') return [];
      const { min, max } = BOUNDS.spacingM;
      const value = round(clamp(technique.spacingM + first, min, max), 4);
      return [{ arrayId, field: 'spacingM', value }];
    }
    case 'angle': {
      if (technique.kind !== 'pair') return [];
      const { min, max } = BOUNDS.includedAngleDeg;
      const value = round(clamp(technique.includedAngleDeg + first, min, max), 1);
      return [{ arrayId, field: 'includedAngleDeg', value }];
    }
    case 'hot': {
      if (technique.kind !== 'pair') return [];
      const { min, max } = BOUNDS.gainDb;
      return [{ arrayId, field: 'rightDb', value: round(clamp(first, min, max), 2) }];
    }
    default:
      return [];
  }
}
