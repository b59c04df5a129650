import * as z from 'zod';
import { PATTERN_NAMES } from '../acoustics/patterns';

/**
 * Building blocks of the session schema. Every message says what is allowed; what was received
 * and where is added when the problems are listed.
 */

export interface Bounds {
  min: number;
  max: number;
  unit: string;
}

/** The limits of every number that a user can type, shared by the file and the fields. */
export const BOUNDS = {
  positionM: { min: -200, max: 200, unit: 'm' },
  spacingM: { min: 0, max: 50, unit: 'm' },
  includedAngleDeg: { min: 0, max: 360, unit: '°' },
  azimuthDeg: { min: -360, max: 360, unit: '°' },
  elevationDeg: { min: -90, max: 90, unit: '°' },
  patternA: { min: 0, max: 1, unit: '' },
  gainDb: { min: -60, max: 24, unit: 'dB' },
  levelDb: { min: 0, max: 160, unit: 'dB' },
  q: { min: 0.1, max: 100, unit: '' },
  widthM: { min: 0, max: 100, unit: 'm' },
  roomM: { min: 0.5, max: 200, unit: 'm' },
  temperatureC: { min: -20, max: 50, unit: '°C' },
  rt60S: { min: 0.1, max: 12, unit: 's' },
  absorption: { min: 0, max: 1, unit: '' },
  pan: { min: -1, max: 1, unit: '' },
  delayMs: { min: 0, max: 1000, unit: 'ms' },
  percent: { min: 0, max: 100, unit: '%' },
  signedPercent: { min: -100, max: 100, unit: '%' },
  channels: { min: 1, max: 256, unit: 'channels' },
  hours: { min: 0, max: 24, unit: 'h' },
  minutes: { min: 0, max: 1440, unit: 'min' },
  count: { min: 0, max: 999, unit: '' },
  sensitivityMvPa: { min: 0.1, max: 200, unit: 'mV/Pa' },
  kilograms: { min: 0, max: 200, unit: 'kg' },
  metresPerPixel: { min: 1e-5, max: 10, unit: 'm' },
  headroomDb: { min: 0, max: 40, unit: 'dB' },
  dbu: { min: -20, max: 30, unit: 'dBu' },
  anyFigure: { min: -1000, max: 1000, unit: '' },
  pixels: { min: 1, max: 20000, unit: 'pixels' },
  openingDeg: { min: 0, max: 340, unit: '°' },
  sampleRateHz: { min: 8000, max: 768000, unit: 'Hz' },
} as const satisfies Record<string, Bounds>;

export type BoundsName = keyof typeof BOUNDS;

export const MOST_SOURCES = 500;
export const MOST_CAPSULES = 200;

/** How many entries the lists of a session may have, for the file and for every edit. */
export const MOST_ENTRIES = {
  sources: MOST_SOURCES,
  sections: 100,
  arrays: MOST_CAPSULES,
  candidates: 50,
  takes: 10_000,
  log: 10_000,
  marks: 10_000,
} as const;

/** "−200 to 200 m" */
export function boundsText({ min, max, unit }: Bounds): string {
  const behind = unit === '' || unit === '°' ? unit : ` ${unit}`;
  return `${min} to ${max}${behind}`;
}

export function bounded(name: BoundsName) {
  const { min, max } = BOUNDS[name];
  const error = `allowed: a number from ${boundsText(BOUNDS[name])}`;
  return z.number({ error }).min(min, { error }).max(max, { error });
}

export function text(most: number) {
  const error = `allowed: text of up to ${most} characters`;
  return z.string({ error }).max(most, { error });
}

export function oneOf<const T extends readonly [string, ...string[]]>(values: T) {
  return z.enum(values, { error: `allowed: ${values.join(', ')}` });
}

export function list<T extends z.ZodType>(item: T, most: number) {
  const error = `allowed: a list of up to ${most} entries`;
  return z.array(item, { error }).max(most, { error });
}

/** An object that keeps fields it does not know, so that newer files survive a round trip. */
export function record<T extends z.core.$ZodLooseShape>(shape: T) {
  return z.looseObject(shape, { error: 'allowed: an object' });
}

export const flag = () => z.boolean({ error: 'allowed: true or false' });

export const pattern = () => {
  const error = `allowed: ${PATTERN_NAMES.join(', ')}, or a number from 0 to 1`;
  return z.union(
    [z.enum(PATTERN_NAMES, { error }), z.number({ error }).min(0, { error }).max(1, { error })],
    { error },
  );
};

/** One figure, or one per octave band keyed by its centre in hertz. */
export function perBand(name: BoundsName) {
  const allowed = `allowed: ${boundsText(BOUNDS[name])}, as one number or one per octave band`;
  return z.union(
    [
      bounded(name),
      z.record(z.string().regex(/^\d+$/, { error: allowed }), bounded(name), { error: allowed }),
    ],
    {
      error: allowed,
    },
  );
}
