import { formatNumber } from '../../core/units';

/** "30 % L", "centre" */
export function panText(pan: number): string {
  if (Math.abs(pan) < 0.005) return 'centre';
  return `${formatNumber(Math.abs(pan) * 100, 0)} % ${pan < 0 ? 'L' : 'R'}`;
}
