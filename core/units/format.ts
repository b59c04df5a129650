import { speedOfSound } from './sound';

export type UnitSystem = 'metric' | 'imperial';

/** How finely a length is read: on the floor with a tape, at the stereo bar with a rule. */
export type LengthPrecision = 'floor' | 'bar';

/** A figure ready to be set in a column: the number, and its unit to be set small behind it. */
export interface FormattedQuantity {
  number: string;
  unit: string;
}

const MISSING: FormattedQuantity = { number: '—', unit: '' };
const MINUS = '−';

/** Fixed decimals, 0 … 20, with a true minus sign and no negative zero; a dash where there is none. */
export function formatNumber(value: number | null | undefined, decimals: number): string {
  if (value === null || value === undefined || !Number.isFinite(value)) return MISSING.number;
  const digits = Math.abs(value).toFixed(decimals);
  return value < 0 && Number(digits) !== 0 ? `${MINUS}${digits}` : digits;
}

/** As formatNumber, with an explicit plus; decimals 0 … 20. */
export function formatSigned(value: number | null | undefined, decimals: number): string {
  const text = formatNumber(value, decimals);
  return value && text !== MISSING.number && Number(text.replace(MINUS, '-')) > 0
    ? `+${text}`
    : text;
}

function greatestDivisor(a: number, b: number): number {
  return b === 0 ? a : greatestDivisor(b, a % b);
}

function inchesText(units: number, perInch: number): string {
  const whole = Math.floor(units / perInch);
  const over = units % perInch;
  if (over === 0) return `${whole}`;
  const divisor = greatestDivisor(over, perInch);
  const fraction = `${over / divisor}/${perInch / divisor}`;
  return whole === 0 ? fraction : `${whole} ${fraction}`;
}

/** Feet and inches (floor, to a quarter inch) or inches (bar, to a sixteenth). */
function imperialLength(metres: number, precision: LengthPrecision): FormattedQuantity {
  const perInch = precision === 'floor' ? 4 : 16;
  const units = Math.round((Math.abs(metres) / 0.0254) * perInch);
  const sign = metres < 0 && units > 0 ? MINUS : '';
  if (precision === 'bar') return { number: `${sign}${inchesText(units, perInch)}`, unit: 'in' };
  const feet = Math.floor(units / (12 * perInch));
  const inches = inchesText(units - feet * 12 * perInch, perInch);
  return { number: `${sign}${feet}′ ${inches}″`, unit: '' };
}

/**
 * A length in the precision a tape has: 1 cm on the floor, 1 mm at the bar (imperial: ¼ in, 1/16 in).
 * @param metres the length; missing or not finite reads as a dash
 */
export function formatLength(
  metres: number | null | undefined,
  system: UnitSystem,
  precision: LengthPrecision = 'floor',
): FormattedQuantity {
  if (metres === null || metres === undefined || !Number.isFinite(metres)) return MISSING;
  if (system === 'imperial') return imperialLength(metres, precision);
  if (precision === 'bar') return { number: formatNumber(metres * 100, 1), unit: 'cm' };
  return { number: formatNumber(metres, 2), unit: 'm' };
}

/** A length as one string, unit included. */
export function lengthText(
  metres: number | null | undefined,
  system: UnitSystem,
  precision: LengthPrecision = 'floor',
): string {
  const { number, unit } = formatLength(metres, system, precision);
  return unit === '' ? number : `${number} ${unit}`;
}

/** Decimals, from so many on, in which a value is told without loss; as many as that at most. */
function decimalsFor(value: number, from: number, most: number): number {
  let decimals = from;
  while (decimals < most && Math.abs(value - Number(value.toFixed(decimals))) > 1e-9) decimals += 1;
  return decimals;
}

/**
 * A number as it was typed: with more decimals than usual where it has them.
 * @param decimals usual ones, 0 … 20
 * @param most decimals at most, 0 … 20; beyond them it is rounded
 */
export const exactNumber = (value: number, decimals: number, most: number): string =>
  formatNumber(value, decimalsFor(value, decimals, most));

/**
 * A length as it was typed, never rounded to what a tape shows: metric with up to `more` decimals
 * beyond the usual ones; imperial in the usual fractions where it is one, else in decimal inches.
 * @param metres the length, m
 * @param more decimals, 0 … 18
 */
export function exactLength(
  metres: number,
  system: UnitSystem,
  precision: LengthPrecision = 'floor',
  more = 4,
): FormattedQuantity {
  if (!Number.isFinite(metres)) return MISSING;
  if (system === 'metric') {
    const [value, usual, unit] = precision === 'bar' ? [metres * 100, 1, 'cm'] : [metres, 2, 'm'];
    return { number: exactNumber(value, usual, usual + more), unit };
  }
  const perInch = precision === 'floor' ? 4 : 16;
  const parts = (metres / 0.0254) * perInch;
  if (Math.abs(parts - Math.round(parts)) < 1e-7 || more < 2) {
    return imperialLength(metres, precision);
  }
  const inches = Math.abs(metres) / 0.0254;
  const sign = metres < 0 ? MINUS : '';
  if (precision === 'bar')
    return { number: `${sign}${exactNumber(inches, 2, 2 + more)}`, unit: 'in' };
  const feet = Math.floor(inches / 12 + 1e-9);
  return { number: `${sign}${feet}′ ${exactNumber(inches - feet * 12, 2, 2 + more)}″`, unit: '' };
}

/** A temperature in the system's unit. */
export function formatTemperature(celsius: number, system: UnitSystem): FormattedQuantity {
  return system === 'imperial'
    ? { number: formatNumber((celsius * 9) / 5 + 32, 0), unit: '°F' }
    : { number: formatNumber(celsius, 1).replace(/\.0$/, ''), unit: '°C' };
}

/** Degrees without a trailing ".0". */
export function angleText(deg: number | null | undefined, decimals = 1): string {
  const text = formatNumber(deg, decimals);
  return text === MISSING.number ? text : `${text.replace(/\.0+$/, '')}°`;
}

/** An image shift (−1 … +1) as percent and side: "63 % R", "centre", "100 % L". */
export function shiftText(shift: number | null | undefined): string {
  if (shift === null || shift === undefined || !Number.isFinite(shift)) return MISSING.number;
  const percent = Math.round(Math.abs(shift) * 100);
  if (percent === 0) return 'centre';
  return `${percent} % ${shift < 0 ? 'L' : 'R'}`;
}

export interface DelayReadings {
  ms: number;
  samples: number;
  metres: number;
}

/** One delay in the three forms people use: milliseconds, samples at the session's rate, path. */
export function delayReadings(
  ms: number,
  sampleRateHz: number,
  temperatureC: number,
): DelayReadings {
  return {
    ms,
    samples: (ms / 1000) * sampleRateHz,
    metres: (ms / 1000) * speedOfSound(temperatureC),
  };
}

/** A pan in words: "30 % L", "centre". @param pan −1 … 1 */
export function panText(pan: number): string {
  if (Math.abs(pan) < 0.005) return 'centre';
  return `${formatNumber(Math.abs(pan) * 100, 0)} % ${pan < 0 ? 'L' : 'R'}`;
}

/** Words as a sentence begins. */
export const capitalised = (words: string): string =>
  words.charAt(0).toUpperCase() + words.slice(1);
