import type { ModelId } from '../localisation/models/model';
import { angleText } from '../units/format';
import type { ArrayFigures } from './array-figures';

/** What an array holds between its loudspeakers, and what its players need of it. */
export interface Holding {
  /** half recording angle in the leading model, in place where players stand, °; null: never reached */
  halfDeg: number | null;
  /** the outermost of those whom it is for, off its aim, °; null without any */
  neededDeg: number | null;
}

/** The recording angle against the player who sits farthest out. */
export function holdingOf(figures: Pick<ArrayFigures, 'own' | 'halfDeg'>, model: ModelId): Holding {
  const angles = figures.own
    .filter(({ atCapsule }) => !atCapsule)
    .map(({ azimuthDeg }) => Math.abs(azimuthDeg));
  return {
    halfDeg: figures.halfDeg(model),
    neededDeg: angles.length > 0 ? Math.max(...angles) : null,
  };
}

/** The same in a sentence. */
export function holdingText({ halfDeg, neededDeg }: Holding): string {
  const holds =
    halfDeg === null ? 'No direction reaches a loudspeaker' : `Holds ±${angleText(halfDeg)}`;
  if (neededDeg === null)
    return `${holds}${halfDeg === null ? '' : ' of distant sources'}; nobody plays yet.`;
  if (neededDeg === 0) return `${holds}; its players are straight ahead.`;
  const needs = `${holds}, the players need ±${angleText(neededDeg)}`;
  if (halfDeg === null) return `${needs}.`;
  const spare = halfDeg - neededDeg;
  return `${needs}: ${angleText(Math.abs(spare))} ${spare < 0 ? 'short' : 'to spare'}.`;
}
