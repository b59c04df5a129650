import * as z from 'zod';
import { BUILT_FIELDS } from '../session/schema-equipment';
import { ANSWERS } from '../session/schema-journals';
import { STAGE_LIMITS } from './wire';

/**
 * What a device in the hall sees of a session, and what the two ends say to each other: the sheet in the
 * words that the booth prints, what is asked, and what came of it. Everything else of the plan stays in
 * the booth.
 */

const words = (most = 2000) => z.string().max(most);
const id = words(100);
const table = z.object({
  head: z.array(words(1000)).max(30),
  rows: z.array(z.array(words(20_000)).max(30)).max(1000),
});
const point = z.tuple([z.number(), z.number()]);
const ink = z.enum(['ink', 'grey', 'accent']);
const shape = z.discriminatedUnion('kind', [
  z.object({
    kind: z.literal('line'),
    from: point,
    to: point,
    ink,
    width: z.number(),
    dash: z.array(z.number()).max(8).optional(),
  }),
  z.object({
    kind: z.literal('circle'),
    at: point,
    radius: z.number(),
    ink,
    filled: z.boolean(),
  }),
  z.object({
    kind: z.literal('text'),
    at: point,
    words: words(1000),
    size: z.number(),
    ink,
    middle: z.boolean(),
  }),
]);
const drawing = z.object({
  width: z.number().positive().max(10_000),
  height: z.number().min(0).max(10_000),
  title: words(1000),
  shapes: z.array(shape).max(20_000),
});

const figure = z.object({
  field: z.enum(BUILT_FIELDS),
  name: words(100),
  /** in the units of the session, and in the other system where it has one */
  planned: words(100),
  plannedOther: words(100),
  /** as noted in the hall; null while nobody has looked */
  built: words(100).nullable(),
  /** noted, and farther off than such a figure may be */
  outside: z.boolean(),
});
export type StageFigure = z.infer<typeof figure>;

const stageArray = z.object({
  id,
  name: words(200),
  lines: z.array(words(20_000)).max(100),
  detail: drawing,
  positions: table,
  bar: table,
  figures: z.array(figure).max(BUILT_FIELDS.length),
});
export type StageArray = z.infer<typeof stageArray>;

const asked = z.object({
  id,
  at: words(40),
  /** by name; empty: every device */
  to: words(STAGE_LIMITS.name),
  /** what is said big, what it is in the other system, and what it is then */
  lead: words(),
  figure: words(200),
  other: words(200),
  then: words(400),
  /** whose figure somebody may say otherwise than it was asked */
  field: z.enum(BUILT_FIELDS).nullable(),
  tap: z.number().nullable(),
  state: z.enum(['open', 'done', 'cannot']),
  heard: z.boolean().nullable(),
  answers: z
    .array(z.object({ by: words(200), text: words(), came: z.enum(ANSWERS), at: words(40) }))
    .max(1000),
});
export type StageAsked = z.infer<typeof asked>;

export const stageDocument = z.object({
  title: words(500),
  facts: words(1000),
  datum: words(5000),
  heard: words(20_000),
  units: z.enum(['metric', 'imperial']),
  plan: drawing,
  section: drawing,
  players: table,
  arrays: z.array(stageArray).max(200),
  cautions: z.array(words(20_000)).max(1000),
  deference: words(),
  asked: z.array(asked).max(500),
  /** whether the stage may change the plan */
  mayEdit: z.boolean(),
});
export type StageDocument = z.infer<typeof stageDocument>;

const patch = z.object({
  op: z.enum(['add', 'remove', 'replace']),
  path: z.array(z.union([z.string().max(100), z.number().int().min(0)])).max(12),
  value: z.unknown().optional(),
});

/** What a booth says to a device. */
export const boothSays = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('document'), document: stageDocument }),
  z.object({ kind: z.literal('patches'), patches: z.array(patch).max(50_000) }),
  /** what was said is in the log, or why it is not */
  z.object({ kind: z.literal('taken'), id, why: words(500).nullable() }),
]);
export type BoothSays = z.infer<typeof boothSays>;

const said = { id };
/** What a device says to the booth. */
export const stageSays = z.discriminatedUnion('kind', [
  /** its page is there, and knows nothing yet */
  z.object({ kind: z.literal('begin') }),
  z.object({
    ...said,
    kind: z.literal('answer'),
    to: id,
    came: z.enum(['words', 'done', 'cannot']),
    text: words(),
    value: z.number().min(-1000).max(1000).nullable(),
  }),
  /** what really stands there; null: not looked at after all */
  z.object({
    ...said,
    kind: z.literal('built'),
    arrayId: id,
    field: z.enum(BUILT_FIELDS),
    value: z.number().min(-1000).max(1000).nullable(),
    /** it is as planned */
    asPlanned: z.boolean(),
  }),
  /** a change of the plan itself, which the booth may allow */
  z.object({
    ...said,
    kind: z.literal('plan'),
    arrayId: id,
    field: z.enum(BUILT_FIELDS),
    value: z.number().min(-1000).max(1000),
  }),
  z.object({ ...said, kind: z.literal('note'), text: words(5000) }),
  z.object({
    ...said,
    kind: z.literal('photograph'),
    name: words(200),
    text: words(500),
    /** JPEG, as base64 */
    data: z.string().max(Math.ceil((STAGE_LIMITS.photographBytes * 4) / 3) + 8),
  }),
]);
export type StageSays = z.infer<typeof stageSays>;
