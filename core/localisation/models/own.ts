import { inRange } from '../../units/guard';
import { clamp, zeroBetween } from '../../units/numbers';
import { monotoneCubic } from '../../units/monotone-cubic';
import { remembered } from '../../units/remember';
import type { LocalisationModel } from './model';

/** Level differences at which a listener's curve is known, dB. */
export const KNOTS_DB = [3, 6, 9, 13, 18] as const;
/** Time differences at which it is known, ms. */
export const KNOTS_MS = [0.15, 0.35, 0.6, 0.9, 1.2] as const;

/** Where a listener hears what: shifts at the knots, rising, and how both cues join. */
export interface OwnShape {
  /** at KNOTS_DB, above 0 and rising up to 1 */
  levels: readonly number[];
  /** at KNOTS_MS, above 0 and rising up to 1 */
  times: readonly number[];
  /** p in (L^p + T^p)^(1/p): at 1 they add; 0.3 … 3 */
  joining: number;
}

/** A listener's curves of level alone and of time alone: of differences from 0 on, dB and ms. */
export interface OwnCurves {
  level: (db: number) => number;
  time: (ms: number) => number;
}

/** Monotone cubics through nothing and the knots; flat beyond the last. */
export const ownCurves = ({ levels, times }: Omit<OwnShape, 'joining'>): OwnCurves => ({
  level: monotoneCubic([0, ...KNOTS_DB], [0, ...levels]),
  time: monotoneCubic([0, ...KNOTS_MS], [0, ...times]),
});

const powered = (value: number, exponent: number): number =>
  value < 0 ? -((-value) ** exponent) : value ** exponent;

/**
 * Where both differences together place an image, not held to the line.
 * @param icldDb level difference, dB, positive to the right
 * @param ictdMs time difference, ms, positive to the right
 * @param joining 0.3 … 3
 */
export function joinedShift(
  { level, time }: OwnCurves,
  joining: number,
  icldDb: number,
  ictdMs: number,
): number {
  const l = icldDb < 0 ? -level(-icldDb) : level(icldDb);
  const t = ictdMs < 0 ? -time(-ictdMs) : time(ictdMs);
  if (t === 0) return l;
  if (l === 0) return t;
  if (joining === 1) return l + t;
  return powered(powered(l, joining) + powered(t, joining), 1 / joining);
}

const HALVINGS = 50;

/**
 * A listener's own localisation model: measured by clicks on the line, one for every image.
 * @throws RangeError where shifts are not five each, above 0 and rising up to 1, or joining is outside 0.3 … 3
 * Source: Rotunda’s own fit of a listener’s answers.
 */
export function ownModelOf({ levels, times, joining }: OwnShape): LocalisationModel {
  for (const [name, shifts] of [
    ['levels', levels],
    ['times', times],
  ] as const) {
    if (shifts.length !== KNOTS_DB.length) {
      throw new RangeError(`${name} has ${shifts.length} shifts; allowed: ${KNOTS_DB.length}`);
    }
    let before = 0;
    for (const shift of shifts) before = inRange(name, shift, before, 1);
  }
  inRange('joining', joining, 0.3, 3);
  const curves = ownCurves({ levels, times });
  const most = KNOTS_MS[KNOTS_MS.length - 1] ?? 0;
  const joined = (icldDb: number, ictdMs: number): number =>
    joinedShift(curves, joining, icldDb, ictdMs);
  const shift = (icldDb: number, ictdMs: number): number => clamp(joined(icldDb, ictdMs), -1, 1);
  return {
    id: 'own',
    name: 'yours',
    holds: 'Where you heard images of level alone, of time alone and of both.',
    authors: 'your own answers',
    source: 'Rotunda’s own fit of a listener’s answers to 120 images or fewer.',
    range:
      'To 18 dB and 1.2 ms, one listener at one place; about 3 % of the half base on average, about ' +
      '11 % at the worst point. Leaves out frequency and everything beyond the loudspeakers.',
    levelOnly: false,
    surelyNarrower: { at75: 0, full: 0 },
    shift,
    margin: (icldDb, ictdMs, level) => Math.abs(shift(icldDb, ictdMs)) - level,
    timeNeeded: (icldDb, level) => {
      if (shift(icldDb, most) < level) return null;
      if (shift(icldDb, -most) >= level) return -most;
      return zeroBetween((ms) => shift(icldDb, ms) - level, -most, most, HALVINGS);
    },
  };
}

/** The same, made once for the same figures. */
export const ownModel: (shape: OwnShape) => LocalisationModel = remembered(ownModelOf);
