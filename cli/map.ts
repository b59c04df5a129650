import { tradeMap } from '../core/localisation';
import { BOUNDS } from '../core/session';
import { speedOfSound } from '../core/units';
import { Checker } from './checker';
import { readOptions } from './options';
import { failed, succeeded, Usage, type CommandResult } from './result';

const COUNT_BOUNDS = { min: 2, max: 400, unit: 'cells' };

/** `map …`: half recording angles over spacing and included angle, in every model that knows time. */
export function mapCommand(args: readonly string[]): CommandResult {
  const given = readOptions(args, ['pattern', 'spacing', 'angle', 'cells', 'temperature']);
  if (given.pattern === undefined) throw new Usage('map needs --pattern');
  const check = new Checker();
  const pattern = check.pattern(given.pattern);
  const mostM = check.number('spacing', given.spacing ?? '0.5', BOUNDS.spacingM);
  const mostDeg = check.number('angle', given.angle ?? '180', BOUNDS.includedAngleDeg);
  const cells = Math.round(check.number('cells', given.cells ?? '26', COUNT_BOUNDS));
  const temperatureC = check.number('temperature', given.temperature ?? '20', BOUNDS.temperatureC);
  if (check.errors.length > 0) return failed(check.errors);
  const upTo = (most: number) => Array.from({ length: cells }, (_, i) => (most * i) / (cells - 1));
  const map = tradeMap(pattern, upTo(mostM), upTo(mostDeg), speedOfSound(temperatureC));
  const rows = Object.entries(map.halfDeg).map(([model, halves]) => [
    model,
    map.includedAnglesDeg.map((_, row) =>
      [...halves.subarray(row * cells, (row + 1) * cells)].map((half) => (half > 0 ? half : null)),
    ),
  ]);
  return succeeded({
    pattern,
    spacingsM: map.spacingsM,
    includedAnglesDeg: map.includedAnglesDeg,
    halfDeg: Object.fromEntries(rows) as Record<string, (number | null)[][]>,
  });
}
