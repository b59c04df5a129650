import { patternShare } from '../acoustics/patterns';
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
  /** omnidirectional share A of its pattern */
  share: number;
}

/** Every technique written out as capsules in the array's own frame. */
export function capsulesInFrame(technique: Technique): readonly CustomCapsule[] {
  const level = { dy: 0, dz: 0, elevationDeg: 0 };
  switch (technique.kind) {
    case 'pair': {
      const { pattern, spacingM, includedAngleDeg } = technique;
      const dx = spacingM / 2;
      const azimuthDeg = includedAngleDeg / 2;
      return [
        { ...level, label: 'L', dx: -dx, azimuthDeg: -azimuthDeg, pattern },
        { ...level, label: 'R', dx, azimuthDeg, pattern },
      ];
    }
    case 'mid-side': {
      const sideAzimuth = technique.sidePositive === 'left' ? -90 : 90;
      return [
        { ...level, label: 'M', dx: 0, azimuthDeg: 0, pattern: technique.midPattern },
        { ...level, label: 'S', dx: 0, azimuthDeg: sideAzimuth, pattern: 'figure-eight' },
      ];
    }
    case 'single':
      return [{ ...level, label: 'M', dx: 0, azimuthDeg: 0, pattern: technique.pattern }];
    case 'custom':
      return technique.capsules;
  }
}

/** Positions and axes of an array's capsules in the plan frame, in the technique's order. */
export function placeCapsules(array: ArrayPlacement): Capsule[] {
  const frame = arrayFrame(array.aimDeg, array.tiltDeg);
  return capsulesInFrame(array.technique).map((capsule) => ({
    label: capsule.label,
    position: add(array, fromFrame(frame, capsule.dx, capsule.dy, capsule.dz)),
    axis: directionInFrame(frame, capsule.azimuthDeg, capsule.elevationDeg),
    share: patternShare(capsule.pattern),
  }));
}
