import { nominalHz } from '../../core/audio/measure/bands';
import { placeText } from '../../core/audio/measure/readings';
import { formatNumber } from '../../core/units';
import { AXIS, axisTitle } from '../charts/axes';

/** What the charts of the bench share. */

export const HEIGHT = 190;
/** More columns nobody tells apart in a chart of a half page. */
export const COLUMNS = 300;

/** "500", "1k", "31.5" */
export function hzText(exact: number): string {
  const hz = nominalHz(exact);
  if (hz < 1000) return formatNumber(hz, hz % 1 === 0 ? 0 : 1);
  return `${formatNumber(hz / 1000, hz % 1000 === 0 ? 0 : hz % 100 === 0 ? 1 : 2)}k`;
}

/** Values over time, as many as can be seen: of each column the least. */
export function columnsOf(
  values: readonly (number | null)[],
  fromS: number,
  stepS: number,
): { s: number; value: number | null }[] {
  const each = Math.max(1, Math.ceil(values.length / COLUMNS));
  return Array.from({ length: Math.ceil(values.length / each) }, (_, k) => {
    const some = values.slice(k * each, (k + 1) * each).flatMap((value) => value ?? []);
    return {
      s: fromS + k * each * stepS,
      value: some.length === 0 ? null : Math.min(...some),
    };
  });
}

/** Time along the foot. */
export const timeAxis = {
  dataKey: 's',
  type: 'number' as const,
  domain: ['dataMin', 'dataMax'] as const,
  tickFormatter: (s: number) => placeText(s, 0),
  label: axisTitle('time', 'bottom'),
  ...AXIS,
};
