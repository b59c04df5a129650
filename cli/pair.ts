import { PATTERN_NAMES, type Pattern, type PatternName } from '../core/acoustics';
import {
  centreSlopes,
  farField,
  inPlace,
  prepareArray,
  recordingAngles,
} from '../core/localisation';
import { BOUNDS, boundsText, type Bounds } from '../core/session';
import { speedOfSound } from '../core/units';
import { readOptions } from './options';
import { failed, succeeded, Usage, type CommandResult } from './result';

const DISTANCE: Bounds = { min: 0.1, max: 200, unit: 'm' };

/** Collects what is wrong, so that all of it is reported at once. */
class Checker {
  readonly errors: string[] = [];

  number(name: string, text: string | undefined, bounds: Bounds): number {
    const value = Number(text);
    if (text?.trim() !== '' && value >= bounds.min && value <= bounds.max) return value;
    this.errors.push(
      `--${name}: ${JSON.stringify(text)}; allowed: a number from ${boundsText(bounds)}`,
    );
    return NaN;
  }

  pattern(text: string): Pattern {
    const name = PATTERN_NAMES.find((known): known is PatternName => known === text);
    if (name !== undefined) return name;
    const share = Number(text);
    if (text.trim() !== '' && share >= 0 && share <= 1) return share;
    this.errors.push(
      `--pattern: ${JSON.stringify(text)}; allowed: ${PATTERN_NAMES.join(', ')}, or a number from 0 to 1`,
    );
    return NaN;
  }
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
  for (const name of ['pattern', 'spacing', 'angle'] as const) {
    if (given[name] === undefined) throw new Usage(`pair needs --${name}`);
  }
  const check = new Checker();
  const pattern = check.pattern(given.pattern ?? '');
  const spacingM = check.number('spacing', given.spacing, BOUNDS.spacingM);
  const includedAngleDeg = check.number('angle', given.angle, BOUNDS.includedAngleDeg);
  const temperatureC = check.number('temperature', given.temperature ?? '20', BOUNDS.temperatureC);
  const distanceM = check.number('distance', given.distance ?? '1', DISTANCE);
  const heightM = check.number('height', given.height ?? '0', BOUNDS.positionM);
  if (check.errors.length > 0) return failed(check.errors);

  const speed = speedOfSound(temperatureC);
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
