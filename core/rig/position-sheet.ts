import { planDistance } from '../units/vector';
import { clamp } from '../units/numbers';
import { enabledArrays, isKnown } from '../session/lists';
import { referenceOf } from '../ensembles/surfaces';
import { placeCapsules, type Capsule } from '../arrays/capsules';
import { patternNameOf } from '../acoustics/patterns';
import type { DatumPoint, MicArray, Session } from '../session/schema';
import { contextOf } from '../prepare/context';
import { forWhomText } from '../prepare/for-whom';
import { toDeg } from '../units/guard';
import { twoTapes, type TwoTapes } from './two-tapes';

/** Where one microphone goes. */
export interface CapsuleRow {
  label: string;
  pattern: string;
  x: number;
  y: number;
  heightM: number;
  /** azimuth its axis points to, degrees, positive right of straight upstage; null: not known */
  aimDeg: number | null;
  /** elevation of its axis, degrees, negative down; null: not known */
  tiltDeg: number | null;
  /** null where the session has fewer than two datum points apart from each other */
  tapes: TwoTapes | null;
  /** sideways from the bar's centre along the bar, m, negative left; null: not known */
  barOffsetM: number | null;
  /** ahead of the array's centre and above it, m; 0 on a bar */
  barAheadM: number;
  barUpM: number;
  /** its axis off the array's aim, degrees, negative left; null: not known */
  barAngleDeg: number | null;
}

/** One array on the sheet. */
export interface ArraySheet {
  id: string;
  name: string;
  heightM: number;
  /** the surface that its height is set out from, where that is not the floor, and how far over it, m */
  reference?: { name: string; aboveM: number };
  aimDeg: number;
  tiltDeg: number;
  /** tapes to the floor point below the array's centre */
  centreTapes: TwoTapes | null;
  technique: MicArray['technique'];
  /** numbers of a pair that are not known; where one is, nothing that follows from it is given */
  missing: MicArray['missing'];
  /** the players that it is for, in words */
  forWhom: string;
  capsules: CapsuleRow[];
}

export interface PositionSheet {
  datum: [DatumPoint, DatumPoint] | null;
  arrays: ArraySheet[];
}

function datumPair(points: readonly DatumPoint[]): [DatumPoint, DatumPoint] | null {
  const [first, second] = points;
  if (!first || !second) return null;
  return planDistance(second, first) > 0.01 ? [first, second] : null;
}

/** "cardioid", or "A 0.42" where the part A, 0 … 1, is no named pattern. */
export function patternText(patternA: number): string {
  return patternNameOf(patternA) ?? `A ${patternA.toFixed(3).replace(/0+$/, '')}`;
}

/** Horizontal direction of an axis; straight down or up has none, so the array's aim is given. */
function axisAzimuth(capsule: Capsule, fallbackDeg: number): number {
  const { x, y } = capsule.axis;
  return Math.hypot(x, y) < 1e-9 ? fallbackDeg : toDeg(Math.atan2(x, y));
}

const ON_BAR = { offsetM: 0, angleDeg: 0, aheadM: 0, upM: 0 } as const;

interface BarValues {
  offsetM: number;
  angleDeg: number;
  aheadM: number;
  upM: number;
}

function barValues(array: MicArray, index: number): BarValues {
  const { technique } = array;
  if (technique.kind === 'pair') {
    const side = index === 0 ? -1 : 1;
    return {
      ...ON_BAR,
      offsetM: (side * technique.spacingM) / 2,
      angleDeg: (side * technique.includedAngleDeg) / 2,
    };
  }
  if (technique.kind === 'mid-side') {
    const side = technique.sidePositive === 'left' ? -90 : 90;
    return { ...ON_BAR, angleDeg: index === 0 ? 0 : side };
  }
  if (technique.kind === 'single') return ON_BAR;
  const capsule = technique.capsules[index];
  if (!capsule) return ON_BAR;
  const { dx, dy, dz, azimuthDeg } = capsule;
  return { offsetM: dx, aheadM: dy, upM: dz, angleDeg: azimuthDeg };
}

function arraySheet(
  session: Session,
  array: MicArray,
  forWhom: string,
  datum: [DatumPoint, DatumPoint] | null,
): ArraySheet {
  const tapes = (x: number, y: number) => (datum ? twoTapes({ x, y }, datum[0], datum[1]) : null);
  const lacks = (name: MicArray['missing'][number]): boolean =>
    !isKnown(array) && array.missing.includes(name);
  const [noSpacing, noAngle] = [lacks('spacingM'), lacks('includedAngleDeg')];
  const capsules = placeCapsules(array).map((capsule, index) => {
    const { x, y, z } = noSpacing ? array : capsule.position;
    const { offsetM, angleDeg, aheadM, upM } = barValues(array, index);
    return {
      label: capsule.label,
      pattern: patternText(capsule.patternA),
      x,
      y,
      heightM: z,
      aimDeg: noAngle ? null : axisAzimuth(capsule, array.aimDeg),
      tiltDeg: noAngle ? null : toDeg(Math.asin(clamp(capsule.axis.z, -1, 1))),
      tapes: tapes(x, y),
      barOffsetM: noSpacing ? null : offsetM,
      barAheadM: aheadM,
      barUpM: upM,
      barAngleDeg: noAngle ? null : angleDeg,
    };
  });
  const reference = referenceOf(session, array);
  return {
    id: array.id,
    name: array.name,
    heightM: array.z,
    ...(reference
      ? { reference: { name: reference.name, aboveM: array.z - reference.heightM } }
      : {}),
    aimDeg: array.aimDeg,
    tiltDeg: array.tiltDeg,
    centreTapes: tapes(array.x, array.y),
    technique: array.technique,
    missing: isKnown(array) ? [] : array.missing,
    forWhom,
    capsules,
  };
}

/** The sheet a rigger works from: every enabled array, every capsule, from two fixed points. */
export function positionSheet(session: Session): PositionSheet {
  const datum = datumPair(session.venue.datumPoints);
  const arrays = enabledArrays(session);
  const { speed } = contextOf(session);
  const whom = (array: MicArray) => forWhomText(array, session.sources, speed);
  return { datum, arrays: arrays.map((array) => arraySheet(session, array, whom(array), datum)) };
}
