import { patternAOf } from '../acoustics/patterns';
import { inRange } from '../units/guard';
import { add, type Vec3 } from '../units/vector';
import { arrayFrame, directionInFrame, fromFrame } from './frame';
import type { CustomCapsule, Technique } from './technique';

/** An array's place and arrangement, as a session stores it. */
export interface ArrayPlacement {
  x: number;
  y: number;
  z: number;
  aimDeg: number;
  tiltDeg: number;
  technique: Technique;
}

/** One microphone in the plan frame. */
export interface Capsule {
  label: string;
  position: Vec3;
  /** unit vector */
  axis: Vec3;
  /** omnidirectional part A of its pattern */
  patternA: number;
}

/** A capsule on the array's own right-left line, level with its aim. */
function onLine(
  label: string,
  dx: number,
  azimuthDeg: number,
  pattern: CustomCapsule['pattern'],
): CustomCapsule {
  return { label, dx, dy: 0, dz: 0, azimuthDeg, elevationDeg: 0, pattern };
}

/**
 * Every technique written out as capsules in the array's own frame.
 * @throws RangeError where spacingM is outside 0 … 50 m, includedAngleDeg is outside 0 … 360°
 */
export function capsulesInFrame(technique: Technique): readonly CustomCapsule[] {
  switch (technique.kind) {
    case 'pair': {
      const { pattern, spacingM, includedAngleDeg } = technique;
      inRange('spacingM', spacingM, 0, 50, 'm');
      inRange('includedAngleDeg', includedAngleDeg, 0, 360, '°');
      return [
        onLine('L', -spacingM / 2, -includedAngleDeg / 2, pattern),
        onLine('R', spacingM / 2, includedAngleDeg / 2, pattern),
      ];
    }
    case 'mid-side':
      return [
        onLine('M', 0, 0, technique.midPattern),
        onLine('S', 0, technique.sidePositive === 'left' ? -90 : 90, 'figure-eight'),
      ];
    case 'single':
      return [onLine('', 0, 0, technique.pattern)];
    case 'custom':
      return technique.capsules;
  }
}

/** "Main pair L"; of a single microphone, which has no letter, the array's name alone. */
export const microphoneName = (array: string, label: string): string =>
  label === '' ? array : `${array} ${label}`;

/**
 * Positions and axes of an array's capsules in the plan frame, in the technique's order.
 * @throws RangeError where a coordinate is outside −400 … 400 m
 */
export function placeCapsules(array: ArrayPlacement): Capsule[] {
  for (const axis of ['x', 'y', 'z'] as const) inRange(axis, array[axis], -400, 400, 'm');
  const frame = arrayFrame(array.aimDeg, array.tiltDeg);
  return capsulesInFrame(array.technique).map((capsule) => ({
    label: capsule.label,
    position: add(array, fromFrame(frame, capsule.dx, capsule.dy, capsule.dz)),
    axis: directionInFrame(frame, capsule.azimuthDeg, capsule.elevationDeg),
    patternA: patternAOf(capsule.pattern),
  }));
}
