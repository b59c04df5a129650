import type { Pattern } from '../core/acoustics';
import {
  centreSlopes,
  farField,
  inPlace,
  prepareArray,
  recordingAngles,
  tradeMap,
} from '../core/localisation';
import { BOUNDS } from '../core/session';
import { Checker, DISTANCE_BOUNDS } from './checker';
import { speedOfSound } from '../core/units';
import { readOptions } from './options';
import { failed, succeeded, Usage, type CommandResult } from './result';

const SPACINGS_M = [0.1, 0.15, 0.2, 0.25, 0.3, 0.4, 0.5];
const ANGLES_DEG = [0, 30, 60, 80, 90, 100, 110, 120];

interface Given {
  pattern: Pattern;
  spacingM: number | null;
  includedAngleDeg: number | null;
}

/** What a pair with a missing number could have: never one figure, always the range. */
function rangeOver({ pattern, spacingM, includedAngleDeg }: Given, speed: number): CommandResult {
  const missing = spacingM === null ? 'spacing' : 'angle';
  const spacings = spacingM === null ? SPACINGS_M : [spacingM];
  const angles = includedAngleDeg === null ? ANGLES_DEG : [includedAngleDeg];
  const ranges: Record<string, { minHalfDeg: number; maxHalfDeg: number | null }> = {};
  const { halfDeg } = tradeMap(pattern, spacings, angles, speed);
  for (const [school, cells] of Object.entries(halfDeg)) {
    const known = [...cells].filter((half) => half > 0);
    ranges[school] = {
      minHalfDeg: Math.min(...known, 180),
      maxHalfDeg: known.length < cells.length ? null : Math.max(...known),
    };
  }
  return succeeded({
    question: `Which ${missing}? Without it there is only a range.`,
    over: missing === 'spacing' ? { spacingM: spacings } : { includedAngleDeg: angles },
    recordingAngleRange: ranges,
  });
}

/** `pair …`: recording angles and centre slopes of a pair, far-field and, if asked, in place. */
export function pairCommand(args: readonly string[]): CommandResult {
  const given = readOptions(args, [
    'pattern',
    'spacing',
    'angle',
    'temperature',
    'distance',
    'height',
  ]);
  if (given.pattern === undefined) throw new Usage('pair needs --pattern');
  if (given.spacing === undefined && given.angle === undefined) {
    throw new Usage('pair needs --spacing, --angle, or both');
  }
  const check = new Checker();
  const pattern = check.pattern(given.pattern);
  const spacingM = check.number('spacing', given.spacing ?? '0', BOUNDS.spacingM);
  const includedAngleDeg = check.number('angle', given.angle ?? '0', BOUNDS.includedAngleDeg);
  const temperatureC = check.number('temperature', given.temperature ?? '20', BOUNDS.temperatureC);
  const distanceM = check.number('distance', given.distance ?? '1', DISTANCE_BOUNDS);
  const heightM = check.number('height', given.height ?? '0', BOUNDS.positionM);
  if (check.errors.length > 0) return failed(check.errors);

  const speed = speedOfSound(temperatureC);
  if (given.spacing === undefined || given.angle === undefined) {
    const known = {
      pattern,
      spacingM: given.spacing === undefined ? null : spacingM,
      includedAngleDeg: given.angle === undefined ? null : includedAngleDeg,
    };
    return rangeOver(known, speed);
  }
  const technique = { kind: 'pair', pattern, spacingM, includedAngleDeg } as const;
  const array = prepareArray({ x: 0, y: 0, z: 0, aimDeg: 0, tiltDeg: 0, technique });
  const far = farField(array, speed);
  return succeeded({
    recordingAngle: recordingAngles(array, far),
    centreSlope: centreSlopes(array, far),
    ...(given.distance === undefined
      ? {}
      : { inPlace: recordingAngles(array, inPlace(array, distanceM, heightM, speed)) }),
  });
}
