import * as z from 'zod';
import { PATTERN_NAMES } from '../acoustics/patterns';
import { BOUNDS, boundsText, type BoundsName } from './bounds';

/**
 * Building blocks of the session schema. Every message says what is allowed; what was received
 * and where is added when the problems are listed.
 */

/** A number within the bounds of that name. */
export function bounded(name: BoundsName) {
  const { min, max } = BOUNDS[name];
  const error = `allowed: a number from ${boundsText(BOUNDS[name])}`;
  return z.number({ error }).min(min, { error }).max(max, { error });
}

/** Text of 0 … `most` characters. */
export function text(most: number) {
  const error = `allowed: text of up to ${most} characters`;
  return z.string({ error }).max(most, { error });
}

/** One of the words given. */
export function oneOf<const T extends readonly [string, ...string[]]>(values: T) {
  return z.enum(values, { error: `allowed: ${values.join(', ')}` });
}

/** A list of 0 … `most` entries. */
export function list<T extends z.ZodType>(item: T, most: number) {
  const error = `allowed: a list of up to ${most} entries`;
  return z.array(item, { error }).max(most, { error });
}

/** An object that keeps fields it does not know, so that newer files survive a round trip. */
export function record<T extends z.core.$ZodLooseShape>(shape: T) {
  return z.looseObject(shape, { error: 'allowed: an object' });
}

/** True or false. */
export const flag = () => z.boolean({ error: 'allowed: true or false' });

/** A microphone pattern: a preset's name, or its omnidirectional part A, 0 … 1. */
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
