import { add, cross, scale, vec, type Vec3 } from '../units/vector';
import { cosDeg, inRange, sinDeg } from '../units/guard';

/**
 * The array's own axes in the plan frame. The right vector stays horizontal (no roll); tilt turns
 * the aim about it, so at −90° the aim points at the floor and `aimDeg` still turns right and left.
 */
export interface ArrayFrame {
  readonly right: Vec3;
  readonly forward: Vec3;
  readonly up: Vec3;
}

/**
 * @param aimDeg azimuth of the aim: 0° along +y, positive to the right
 * @param tiltDeg elevation of the aim, −90 … 90, negative down
 * @throws RangeError where aimDeg is outside −360 … 360°, tiltDeg is outside −90 … 90°
 */
export function arrayFrame(aimDeg: number, tiltDeg: number): ArrayFrame {
  inRange('aimDeg', aimDeg, -360, 360, '°');
  inRange('tiltDeg', tiltDeg, -90, 90, '°');
  const right = vec(cosDeg(aimDeg), -sinDeg(aimDeg), 0);
  const forward = vec(
    sinDeg(aimDeg) * cosDeg(tiltDeg),
    cosDeg(aimDeg) * cosDeg(tiltDeg),
    sinDeg(tiltDeg),
  );
  return { right, forward, up: cross(right, forward) };
}

/** A vector given by its components in the array's frame, in plan coordinates. */
export function fromFrame(frame: ArrayFrame, dx: number, dy: number, dz: number): Vec3 {
  return add(add(scale(frame.right, dx), scale(frame.forward, dy)), scale(frame.up, dz));
}

/** Unit direction at an azimuth (positive right of the aim) and elevation in the array's frame. */
export function directionInFrame(
  frame: ArrayFrame,
  azimuthDeg: number,
  elevationDeg: number,
): Vec3 {
  const level = cosDeg(elevationDeg);
  return fromFrame(
    frame,
    sinDeg(azimuthDeg) * level,
    cosDeg(azimuthDeg) * level,
    sinDeg(elevationDeg),
  );
}
