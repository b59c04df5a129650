import * as z from 'zod';
import { MOST_BLOB_TEXT, MOST_CAPSULES, MOST_SOURCES } from './bounds';
import { bounded, flag, list, oneOf, record, text } from './fields';
import { array } from './schema-arrays';
import { BUILT_FIELDS, filterSchema, position } from './schema-equipment';

/** The part of the session schema about what is said, heard, recorded and measured; see journals.ts. */

const HASH = 'allowed: the SHA-256 of a content as 64 hexadecimal digits, or an empty text';
const hash = () => z.string({ error: HASH }).regex(/^([0-9a-f]{64})?$/, { error: HASH });
/** A version of the plan: the hash of its content; empty where none is named. */
const version = () => hash().default('');
const words = (most: number) => text(most).default('');
const ids = (most = 500) => list(text(100), most).default([]);

/** What every entry of a journal has; see journals.ts. */
const entered = {
  id: text(100).default(''),
  /** when it was made, ISO 8601 */
  at: text(40).default(''),
  /** the entry that this one takes back */
  strikes: text(100).default(''),
  /** the entry that this one says anew */
  amends: text(100).default(''),
};

/** And, where somebody says something, who. */
const said = { ...entered, by: words(200) };

/** A recording, which stays where it is: how it is found again. */
export const fileReference = record({
  name: words(500),
  bytes: bounded('bytes').default(0),
  /** when it was changed last, ISO 8601 */
  modified: text(40).default(''),
  /** over its size, its ends and slices between, so that it is known again in any folder */
  fingerprint: hash().default(''),
  sampleRateHz: bounded('sampleRateHz').nullable().default(null),
  /** the input of the channel list that each of its channels is; null where it is none */
  channels: list(bounded('channels').nullable(), 64).default([]),
});

const stretch = {
  fromS: bounded('takeS').default(0),
  toS: bounded('takeS').nullable().default(null),
};

/** How somebody listened. */
export const LISTENED = ['loudspeakers', 'headphones', 'headphones, as from loudspeakers'] as const;
/** Where somebody heard one who sounded alone, and what the two channels said of them. */
export const heardFields = {
  through: oneOf(LISTENED).default('loudspeakers'),
  /** the passage: of which recording, and from when */
  passage: words(200),
  /** of the right channel against the left one */
  levelDb: bounded('cueDb').default(0),
  delayMs: bounded('cueMs').default(0),
  /** of two microphones in one place */
  coincident: flag().default(false),
  /** −1 left … 1 right */
  shift: bounded('pan').default(0),
};

/** Words in which is said what is heard, so that two listeners can be held against each other. */
export const HEARD_WORDS = [
  ...(['width', 'depth', 'definition', 'warmth'] as const),
  ...(['brightness', 'room', 'balance', 'noise'] as const),
] as const;
/** What comes of an instruction: done, impossible, or something is said about it; a tap is heard or not. */
export const ANSWERS = ['words', 'done', 'cannot', 'heard', 'not heard'] as const;
export const BLIND_TESTS = ['identification', 'preference'] as const;

/** Kinds of entries of the log. One of another kind is kept as it is. */
export const LOG_KINDS = {
  /** whatever was said */
  note: record({
    ...said,
    kind: z.literal('note'),
    text: words(5000),
    /** options, takes, comparisons that it is about */
    about: ids(),
    /** players that it is about; empty: the whole */
    players: ids(),
    /** in words that are always the same: −2 far too little … 0 right … 2 far too much */
    judged: list(
      record({ word: oneOf(HEARD_WORDS), degree: bounded('degree') }),
      HEARD_WORDS.length,
    ).default([]),
    /** said without knowing which it was */
    blind: flag().default(false),
    /** by the ids of their contents */
    photographs: ids(20),
  }),
  /** a version of the plan that got a name */
  version: record({ ...said, kind: z.literal('version'), version: version(), name: words(200) }),
  /** one way to put it up, tried */
  option: record({
    ...said,
    kind: z.literal('option'),
    name: words(200),
    version: version(),
    /** the option that it was made from; empty: of the plan itself */
    from: text(100).default(''),
    /** what is other than in the option before, in words */
    changed: list(text(500), 500).default([]),
    why: words(2000),
    /** figures expected of it, as they were then */
    expected: record({}).prefault({}),
    heard: words(5000),
    state: oneOf(['open', 'shortlisted', 'kept', 'dropped']).default('open'),
    /** why it is kept or dropped */
    reason: words(2000),
  }),
  /** what a recording holds */
  measurement: record({
    ...said,
    kind: z.literal('measurement'),
    file: fileReference.nullable().default(null),
    /** the take that it is of, by the id of its entry */
    take: text(100).default(''),
    ...stretch,
    asked: list(text(40), 50).default([]),
    figures: record({}).prefault({}),
    version: version(),
  }),
  /** things that are held against each other by ear */
  comparison: record({
    ...said,
    kind: z.literal('comparison'),
    name: words(200),
    test: oneOf(BLIND_TESTS).default('preference'),
    /** ids of options, takes or recordings, and what they were called */
    among: ids(26),
    names: list(text(500), 26).default([]),
    /** fixed beforehand, of each listener; of a preference of several, for every pair */
    trials: bounded('count').default(10),
    ...stretch,
    /** of one performance, so that they are like for like */
    alike: flag().default(false),
    /** what brings each to one loudness, dB; null where it is not known */
    trimsDb: list(bounded('cueDb').nullable(), 26).default([]),
    /** nobody listens any more: what came of it is shown */
    closed: flag().default(false),
  }),
  /** what somebody prefers, or took for what, of what was heard */
  vote: record({
    ...said,
    kind: z.literal('vote'),
    /** the comparison; empty where it was said openly */
    round: text(100).default(''),
    among: ids(),
    choice: text(100).default(''),
    text: words(2000),
    blind: flag().default(false),
    /** came to the end of what was fixed; else its answers say nothing and have no key */
    finished: flag().default(true),
    /** letters as they were said; what sounded under them is there only once it is finished */
    letters: list(text(2), 10_000).default([]),
    answers: list(
      record({ among: ids(26), hidden: text(100).default(''), said: text(100).default('') }),
      10_000,
    ).default([]),
  }),
  /** a moment of a recording in which a microphone or a head was somewhere */
  moment: record({
    ...said,
    kind: z.literal('moment'),
    /** the take or the recording */
    of: text(1000).default(''),
    atS: bounded('takeS').default(0),
    rating: bounded('rating').nullable().default(null),
    /** where it was, as it was said */
    place: words(500),
    text: words(2000),
  }),
  /** what the hall is asked to do */
  instruction: record({
    ...said,
    kind: z.literal('instruction'),
    text: words(2000),
    of: ids(),
    /** a device in the hall, by its name; empty: all of them */
    to: words(60),
    /** what is to be moved or turned, by how much, and what it is then; null where it is said in words */
    set: record({
      arrayId: text(100),
      /** one microphone of the array; empty: the whole */
      microphone: words(200),
      field: oneOf(BUILT_FIELDS),
      by: bounded('anyFigure').nullable().default(null),
      value: bounded('anyFigure').nullable().default(null),
    })
      .nullable()
      .default(null),
    /** the input of the channel list whose microphone is tapped; null where none is */
    tap: bounded('channels').nullable().default(null),
  }),
  /** what came of an instruction */
  answer: record({
    ...said,
    kind: z.literal('answer'),
    to: text(100).default(''),
    text: words(2000),
    came: oneOf(ANSWERS).default('words'),
    /** what the figure really is, where it is another than was asked for */
    value: bounded('anyFigure').nullable().default(null),
  }),
  /** levels and delays of a mix that was found */
  blend: record({
    ...said,
    kind: z.literal('blend'),
    name: words(200),
    version: version(),
    strips: record({}).prefault({}),
    /** which reverberation is on which array, by its id */
    sends: list(
      record({ arrayId: text(100), name: words(200), sendDb: bounded('gainDb').nullable() }),
      MOST_CAPSULES,
    ).default([]),
  }),
  /** what is heard of somebody's tone, or what is done to that of a layer */
  tone: record({
    ...said,
    kind: z.literal('tone'),
    text: words(2000),
    of: ids(),
    /** what it is of, in words: an array, a bus, the mix */
    layer: words(200),
    highPassHz: bounded('filterHz').nullable().default(null),
    lowPassHz: bounded('filterHz').nullable().default(null),
    filters: list(filterSchema, 16).default([]),
    /** by how much it is compressed at its loudest */
    compressionDb: bounded('headroomDb').nullable().default(null),
    /** level of its send to the reverberation */
    reverbSendDb: bounded('gainDb').nullable().default(null),
  }),
  /** where somebody heard one who sounded alone */
  place: record({
    ...said,
    kind: z.literal('place'),
    /** the take or the recording, and who sounded */
    of: ids(),
    name: words(200),
    ...heardFields,
  }),
  /** what was decided, and of what */
  verdict: record({ ...said, kind: z.literal('verdict'), text: words(5000), of: ids() }),
} as const;

/** An entry of a kind that is not known here. */
const other = record({ ...said, kind: text(40).default('') });

export const logEntry = z.union([...Object.values(LOG_KINDS), other]);

/** The schema of a log entry by its kind: problems are those of its kind. */
export function logSchemaOf(entry: unknown): z.ZodType {
  const { kind } = (typeof entry === 'object' && entry !== null ? entry : {}) as { kind?: unknown };
  const known = typeof kind === 'string' && Object.hasOwn(LOG_KINDS, kind);
  return known ? LOG_KINDS[kind as keyof typeof LOG_KINDS] : other;
}

/** A caution that somebody has read. */
export const acknowledgement = record({
  ...entered,
  code: text(100).default(''),
  /** who has read it */
  name: text(200).default(''),
});

/** A take, and the state in which it was made, so that the next one can be told from it. */
export const take = record({
  ...said,
  number: bounded('count').default(1),
  name: words(200),
  comment: text(5000).default(''),
  /** the option that was up, by the id of its entry */
  option: text(100).default(''),
  version: version(),
  /** takes that share one are like for like */
  performance: text(100).default(''),
  files: list(fileReference, 64).default([]),
  /** how it was made where it is a simulation */
  simulation: record({
    seed: bounded('anyFigure').default(1),
    phrase: words(40),
    sampleRateHz: bounded('sampleRateHz').default(48_000),
  })
    .nullable()
    .default(null),
  state: record({
    temperatureC: bounded('temperatureC').nullable().default(null),
    lids: list(record({ sourceId: text(100), lid: text(40) }), MOST_SOURCES).default([]),
    /** panels that are open, and felt that is in */
    panels: list(
      record({ sourceId: text(100), open: list(text(40), 3).default([]) }),
      MOST_SOURCES,
    ).default([]),
    felt: ids(),
    /** who plays, who conducts, who is in the hall */
    people: words(2000),
    sources: list(
      record({ id: text(100), ...position, z: bounded('positionM') }),
      MOST_SOURCES,
    ).default([]),
    arrays: list(
      record({
        id: text(100),
        ...position,
        z: bounded('positionM'),
        aimDeg: bounded('azimuthDeg'),
        tiltDeg: bounded('elevationDeg'),
      }),
      MOST_CAPSULES,
    ).default([]),
    gainsDb: list(
      z.number({ error: 'allowed: a number in dB, or null' }).nullable(),
      MOST_CAPSULES * 2,
    ).default([]),
  }).prefault({}),
});

/** What stands or sits in the place of a mark. */
export const MARK_USES = ['microphones', 'ears'] as const;
/** What a mark was made of. */
export const MARK_ORIGINS = ['hand', 'plan', 'as built', 'option', 'sweep'] as const;

/** A place in a hall that was good for an instrument or for listening, or was not. */
export const mark = record({
  ...said,
  name: words(200),
  /** microphones stood there, or somebody listened */
  use: oneOf(MARK_USES).default('microphones'),
  made: oneOf(MARK_ORIGINS).default('hand'),
  /** when it was first said, where it came from another session; else as entered */
  since: text(40).default(''),
  hall: words(200),
  instrument: words(100),
  x: bounded('positionM').nullable().default(null),
  y: bounded('positionM').nullable().default(null),
  z: bounded('positionM').nullable().default(null),
  /** how far it was from fixed points or from a surface of the instrument */
  measured: list(record({ from: words(200), m: bounded('farM') }), 20).default([]),
  /** the fixed points of that plan, by which it is found in another one */
  fixed: list(
    record({ name: words(200), ...position, z: bounded('positionM').default(0) }),
    20,
  ).default([]),
  /** the hall of that plan, and where its datum was in it */
  room: record({
    widthM: bounded('roomM').nullable().default(null),
    depthM: bounded('roomM').nullable().default(null),
    origin: record(position).nullable().default(null),
  }).prefault({}),
  /** where it was against an instrument: to the right of it and ahead, as it faces, above its floor */
  against: record({
    kind: words(100),
    name: words(200),
    right: bounded('positionM').default(0),
    ahead: bounded('positionM').default(0),
    up: bounded('positionM').default(0),
    facingDeg: bounded('azimuthDeg').default(180),
  })
    .nullable()
    .default(null),
  /** what stood there, with its aim */
  array: array.nullable().default(null),
  /** the take that proved it, by the id of its entry */
  take: text(100).default(''),
  rating: bounded('rating').nullable().default(null),
  tags: list(text(60), 50).default([]),
  /** by the ids of their contents */
  photographs: ids(20),
  text: words(5000),
  version: version(),
});

const BLOB_HASH = 'allowed: 64 hexadecimal digits, the SHA-256 of the content';
/** Something large that the plan or a journal names: stored once, by the hash of its content. */
export const blob = record({
  id: text(100).default(''),
  hash: z.string({ error: BLOB_HASH }).regex(/^[0-9a-f]{64}$/, { error: BLOB_HASH }),
  /** media type */
  type: text(100).default('application/octet-stream'),
  bytes: bounded('bytes'),
  name: text(200).default(''),
  /** the content in base64, where a file holds it itself */
  data: z
    .string({ error: 'allowed: base64, or null' })
    .max(MOST_BLOB_TEXT, { error: 'allowed: up to 12 MB' })
    .nullable()
    .default(null),
});
