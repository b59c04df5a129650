import { techniqueName } from '../core/arrays';
import { MODEL_IDS, solveRecordingAngle, type CommonModelId } from '../core/localisation';
import { BOUNDS } from '../core/session';
import { speedOfSound } from '../core/units';
import { Checker, DISTANCE_BOUNDS } from './checker';
import { readOptions } from './options';
import { failed, succeeded, Usage, type CommandResult } from './result';

/** `solve …`: arrays that have a wanted half recording angle, far-field or at a distance. */
export function solveCommand(args: readonly string[]): CommandResult {
  const given = readOptions(args, ['half', 'model', 'school', 'distance', 'height', 'temperature']);
  if (given.half === undefined) throw new Usage('solve needs --half');
  const check = new Checker();
  const halfDeg = check.number('half', given.half, { min: 5, max: 175, unit: '°' });
  const distanceM = check.number('distance', given.distance ?? '1', DISTANCE_BOUNDS);
  const heightM = check.number('height', given.height ?? '0', BOUNDS.positionM);
  const temperatureC = check.number('temperature', given.temperature ?? '20', BOUNDS.temperatureC);
  const model = check.oneOf<CommonModelId>(
    'model',
    given.model ?? given.school ?? 'consensus',
    MODEL_IDS,
  );
  if (check.errors.length > 0 || model === null) return failed(check.errors);
  const solutions = solveRecordingAngle({
    halfDeg,
    model,
    distanceM: given.distance === undefined ? null : distanceM,
    heightM,
    speed: speedOfSound(temperatureC),
  });
  return succeeded({
    wanted: { halfDeg, model, distanceM: given.distance === undefined ? null : distanceM },
    solutions: solutions.map(({ technique, solvedFor, leastDeg, mostDeg }) => ({
      name: techniqueName(technique),
      solvedFor,
      technique,
      halfDegByModel: { least: leastDeg, most: mostDeg },
    })),
  });
}
