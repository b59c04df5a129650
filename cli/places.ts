import { BOUNDS } from '../core/session';
import type { Checker } from './checker';

/**
 * "0,3; -2,4,1.5": right of centre, upstage of the edge, and how high; 1.2 m where it is left out.
 * @param option under which it was typed
 * @returns null where it is none, which the checker then says
 */
export function placesFrom(
  option: string,
  text: string,
  most: number,
  check: Checker,
): { x: number; y: number; z: number }[] | null {
  const places = text.split(';').map((place) => {
    const [x = NaN, y = NaN, z = 1.2, more] = place
      .split(',')
      .map((part) => Number(part.trim() || NaN));
    return { x, y, z: more === undefined ? z : NaN };
  });
  const { min, max } = BOUNDS.positionM;
  const fit = places.every((place) => Object.values(place).every((v) => v >= min && v <= max));
  if (fit && places.length <= most) return places;
  check.errors.push(
    `--${option}: ${JSON.stringify(text)}; allowed: up to ${most} places X,Y or X,Y,Z in metres, each from ${min} to ${max}, joined by semicolons`,
  );
  return null;
}
