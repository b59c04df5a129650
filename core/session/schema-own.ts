import * as z from 'zod';
import { bounded, oneOf, record, text } from './fields';

/** A listener's own localisation model as data: where images were heard, and how sure that is. */

const RISING = 'allowed: five shifts above 0 that do not fall and do not exceed 1';

const shifts = z
  .array(z.number({ error: RISING }), { error: RISING })
  .length(5, { error: RISING })
  .refine(
    (values) =>
      values.every((value, i) => value > 0 && value <= 1 && value >= (values[i - 1] ?? 0)),
    { error: RISING },
  );
const SPREAD = 'allowed: five pairs of shifts from 0 to 1, the lower one first';
const end = z.number({ error: SPREAD }).min(0, { error: SPREAD }).max(1, { error: SPREAD });
const spread = z
  .array(
    z.tuple([end, end], { error: SPREAD }).refine(([low, high]) => low <= high, { error: SPREAD }),
    { error: SPREAD },
  )
  .length(5, { error: SPREAD });

export const OWN_MODEL_FIELDS = {
  /** how it is called: a room, a year */
  name: text(200).default(''),
  /** who listened; empty where nobody said it */
  by: text(200).default(''),
  /** when the last image was answered, ISO 8601 */
  at: text(40).default(''),
  through: oneOf(['loudspeakers', 'headphones']).default('loudspeakers'),
  /** shifts at 3, 6, 9, 13 and 18 dB of level alone, and at 0.15, 0.35, 0.6, 0.9 and 1.2 ms of time alone */
  levels: shifts,
  times: shifts,
  /** where they lie nine times of ten */
  levelSpread: spread,
  timeSpread: spread,
  /** p in (L^p + T^p)^(1/p) */
  joining: bounded('joining').default(1),
  joiningSpread: z
    .tuple([z.number().min(0.01).max(100), z.number().min(0.01).max(100)])
    .default([0.3, 3]),
  /** how far right of the middle everything was heard, and how much answers scattered: shifts */
  side: bounded('pan').default(0),
  scatter: bounded('pan').default(0),
  /** how many answers it is made of */
  answers: bounded('answers').default(0),
} as const;

export const ownModel = record(OWN_MODEL_FIELDS);
export type OwnModelData = z.output<typeof ownModel>;
