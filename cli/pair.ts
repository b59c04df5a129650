import {
  centreSlopes,
  farField,
  inPlace,
  prepareArray,
  recordingAngleRange,
  recordingAngles,
} from '../core/localisation';
import { BOUNDS } from '../core/session';
import { Checker, DISTANCE_BOUNDS } from './checker';
import { speedOfSound } from '../core/units';
import { readOptions } from './options';
import { failed, succeeded, Usage, type CommandResult } from './result';

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
    const missing = given.spacing === undefined ? 'spacing' : 'angle';
    const { over, ranges } = recordingAngleRange(
      pattern,
      given.spacing === undefined ? null : spacingM,
      given.angle === undefined ? null : includedAngleDeg,
      speed,
    );
    return succeeded({
      question: `Which ${missing}? Without it there is only a range.`,
      over,
      recordingAngleRange: ranges,
    });
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
