import { clamp } from './numbers';
/**
 * Guards and constants that the whole core shares, so that rounding cannot make a NaN and a bad
 * argument is named where it enters.
 */

/** Gains below this count as silence; it bounds every level difference to ±120 dB. */
export const GAIN_FLOOR = 1e-6;

const DEG = Math.PI / 180;

/** Sines and cosines of whole degrees, which most that are asked for are. */
const MOST_WHOLE = 720;
const wholeDegrees = (of: (rad: number) => number): Float64Array =>
  Float64Array.from({ length: 2 * MOST_WHOLE + 1 }, (_, i) => of((i - MOST_WHOLE) * DEG));
const SINES = wholeDegrees(Math.sin);
const COSINES = wholeDegrees(Math.cos);

const isWhole = (deg: number, whole: number): boolean =>
  whole === deg && whole >= -MOST_WHOLE && whole <= MOST_WHOLE;

/** Sine of an angle in degrees. */
export function sinDeg(deg: number): number {
  const whole = deg | 0;
  return isWhole(deg, whole) ? (SINES[whole + MOST_WHOLE] ?? 0) : Math.sin(deg * DEG);
}
/** Cosine of an angle in degrees. */
export function cosDeg(deg: number): number {
  const whole = deg | 0;
  return isWhole(deg, whole) ? (COSINES[whole + MOST_WHOLE] ?? 0) : Math.cos(deg * DEG);
}
/** Radians in degrees. */
export const toDeg = (rad: number): number => rad / DEG;

/** Arc cosine in degrees that tolerates a cosine rounded just past ±1. */
export function acosDeg(cosine: number): number {
  return toDeg(Math.acos(clamp(cosine, -1, 1)));
}

/**
 * Checks one argument of a public function. The bounds belong to the range; NaN does not.
 * @param unit for the message: m, s, dB, Hz, °
 * @returns the value itself
 * @throws RangeError naming the argument, the value received and the allowed range
 */
export function inRange(name: string, value: number, min: number, max: number, unit = ''): number {
  if (value >= min && value <= max) return value;
  const suffix = unit === '' ? '' : ` ${unit}`;
  throw new RangeError(`${name} is ${value}; allowed: ${min} to ${max}${suffix}`);
}

/**
 * Speed of sound that any air inside the product's temperatures can have, m/s.
 * @throws RangeError where speed is outside 250 … 450 m/s
 */
export function checkSpeed(speed: number): void {
  inRange('speed', speed, 250, 450, 'm/s');
}

/** 20·lg of an amplitude ratio, in dB; magnitudes below the gain floor read as the floor. */
export function amplitudeDb(amplitude: number): number {
  return 20 * Math.log10(Math.max(Math.abs(amplitude), GAIN_FLOOR));
}

/** 10·lg of a power ratio, in dB; ratios below the squared gain floor read as that floor. */
export function powerDb(power: number): number {
  return 10 * Math.log10(Math.max(power, GAIN_FLOOR * GAIN_FLOOR));
}

/** Amplitude factor of a level in dB. */
export const dbToAmplitude = (db: number): number => 10 ** (db / 20);

/** Power ratio of a level in dB. */
export const dbToPower = (db: number): number => Math.exp(db * NEPERS_PER_DB);
const NEPERS_PER_DB = Math.LN10 / 10;

/** An angle folded into (−180°, 180°]. */
export function wrapDeg(deg: number): number {
  if (deg > -180 && deg <= 180) return deg;
  const turned = deg % 360;
  if (turned > 180) return turned - 360;
  return turned <= -180 ? turned + 360 : turned;
}
