import type { Source } from '../session/schema';
import { toDeg, wrapDeg } from '../units/guard';
import { instrumentOf, type RadiatingSide } from './instruments';

/** Azimuth of each strong side against where the player faces, positive to the player's right. */
const OFFSET_DEG: Readonly<Partial<Record<RadiatingSide, number>>> = {
  front: 0,
  right: 90,
  left: -90,
  behind: 180,
};

export interface OffAxis {
  side: RadiatingSide;
  /** between the strong side and the way to the microphone, degrees on the plan, 0 … 180 */
  offDeg: number;
  /** azimuth that the player would have to face for the strong side to meet the microphone */
  facingForAxisDeg: number;
}

/**
 * How far a microphone stands off the side on which an instrument radiates most.
 * @returns null for a kind that the catalogue does not know, and for one that radiates upwards or
 * all round
 * Source: the customary main directions (J. Meyer, Acoustics and the Performance of Music),
 * reduced to one side each; high frequencies only.
 */
export function offRadiatingSide(
  source: Pick<Source, 'kind' | 'x' | 'y' | 'facingDeg'>,
  at: { x: number; y: number },
): OffAxis | null {
  const side = instrumentOf(source.kind)?.side;
  const offset = side && OFFSET_DEG[side];
  if (side === undefined || offset === undefined) return null;
  const towards = toDeg(Math.atan2(at.x - source.x, at.y - source.y));
  return {
    side,
    offDeg: Math.abs(wrapDeg(source.facingDeg + offset - towards)),
    facingForAxisDeg: wrapDeg(towards - offset),
  };
}

/** Where a player on the plan has to face to play to a place, in whole degrees, −180 … 180. */
export function facingTo({ x, y }: { x: number; y: number }, at: { x: number; y: number }): number {
  return Math.round(wrapDeg(toDeg(Math.atan2(at.x - x, at.y - y)))) || 0;
}
