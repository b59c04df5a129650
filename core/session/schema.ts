import * as z from 'zod';
import { bounded, flag, list, oneOf, record, text } from './fields';
import { MOST_ENTRIES, MOST_SOURCES } from './bounds';
import { array } from './schema-arrays';
import { identity, kit, position, rig } from './schema-equipment';
import { ownModel } from './schema-own';
import { venue } from './schema-venue';
import { acknowledgement, blob, logEntry, mark, take } from './schema-journals';

/**
 * The session file, version 2: the only definition. Types, validation, defaults and the published
 * JSON Schema all come from here.
 */

export const FORMAT = 'rotunda-session';
export const CURRENT_VERSION = 2;

const settings = record({
  units: oneOf(['metric', 'imperial']).default('metric'),
  model: oneOf(['consensus', 'traded', 'added', 'two-slope', 'tangent', 'own']).default(
    'consensus',
  ),
  /** the listener's own localisation model, shown beside the others; `model` says whether it leads */
  own: ownModel.nullable().default(null),
  perspective: oneOf(['audience', 'performer']).default('audience'),
  sampleRateHz: bounded('sampleRateHz').default(96000),
  /** from this delay behind the main array on a layer is heard as an echo */
  echoFromMs: bounded('delayMs').default(35),
  /** lengths of the user's own that can be typed as units: a stick, a shoe */
  ownLengths: list(
    record({
      name: z
        .string({ error: 'allowed: one word of 2 to 20 small letters' })
        .regex(/^[a-z]{2,20}$/, { error: 'allowed: one word of 2 to 20 small letters' }),
      lengthM: bounded('widthM'),
    }),
    20,
  ).default([]),
  /** preferences that the user switched off for this session, with the reason */
  preferencesOff: list(record({ code: text(100), reason: text(1000).default('') }), 100).default(
    [],
  ),
});

const band = record({
  sourceId: text(100),
  /** wanted place of the image, percent of the half base, negative left */
  fromPct: bounded('signedPercent'),
  toPct: bounded('signedPercent'),
});

const intent = record({
  /** wanted width of the picture, percent of the base */
  imageWidthPct: bounded('percent').nullable().default(null),
  /** how much room is wanted in the picture */
  room: oneOf(['close', 'balanced', 'roomy']).nullable().default(null),
  /** how many sound at once: in dense music fewer are worth two microphones of their own */
  density: oneOf(['sparse', 'dense']).nullable().default(null),
  /** how much the mono sum matters */
  mono: oneOf(['must-survive', 'should-survive', 'may-be-lost']).nullable().default(null),
  /** −100 sharp … 0 … +100 spacious */
  tastePct: bounded('signedPercent').default(0),
  /** which cue is to make the places */
  practice: oneOf(['level-first', 'time-first', 'both']).nullable().default(null),
  bands: list(band, MOST_SOURCES).default([]),
});

const storage = record({
  bitDepth: oneOf(['16', '24', '32']).default('24'),
  /** time that all takes together run */
  hours: bounded('hours').default(3),
  /** tracks recorded; null: one for each microphone */
  tracks: bounded('channels').nullable().default(null),
});

const timetableEntry = record({
  id: text(100).default(''),
  title: text(200).default(''),
  kind: oneOf([
    'load-in',
    'build',
    'line-check',
    'option',
    'take',
    'break',
    'strike',
    'other',
  ]).default('other'),
  minutes: bounded('minutes').default(15),
  /** players sit and play: counts towards their load before a break is due */
  playing: flag().default(false),
});

const timetable = record({
  /** local time of day, hh:mm */
  start: z
    .string({ error: 'allowed: a time of day as hh:mm' })
    .regex(/^([01]\d|2[0-3]):[0-5]\d$/, { error: 'allowed: a time of day as hh:mm' })
    .default('09:00'),
  /** players rest after this much playing */
  breakAfterMin: bounded('minutes').default(75),
  breakMin: bounded('minutes').default(15),
  /** when the hall must be left; null: not said */
  end: z
    .string({ error: 'allowed: a time of day as hh:mm' })
    .regex(/^([01]\d|2[0-3]):[0-5]\d$/, { error: 'allowed: a time of day as hh:mm' })
    .nullable()
    .default(null),
  entries: list(timetableEntry, 200).default([]),
});

const brief = record({
  date: text(40).default(''),
  programme: text(2000).default(''),
  notes: text(20000).default(''),
  intent: intent.prefault({}),
  channelLimit: bounded('channels').nullable().default(null),
  /** who does what: names are the user's own */
  people: list(
    record({
      name: text(200).default(''),
      role: text(200).default(''),
      /** has to hear and agree before a set-up is kept */
      mustHear: flag().default(false),
    }),
    200,
  ).default([]),
  storage: storage.prefault({}),
  timetable: timetable.prefault({}),
});

const constraint = z.discriminatedUnion(
  'kind',
  [
    /** a free line of sight to another player */
    record({ kind: z.literal('sees'), sourceId: text(100) }),
    /** at most so far from another player */
    record({ kind: z.literal('near'), sourceId: text(100), mostM: bounded('widthM').default(1.5) }),
    /** stays on the arc or row of its section */
    record({ kind: z.literal('row') }),
  ],
  { error: 'allowed: an object whose kind is sees, near or row' },
);

const source = record({
  ...identity,
  kind: text(100).default(''),
  group: text(200).default(''),
  ...position,
  z: bounded('positionM').default(1.2),
  /** azimuth it plays towards; 180 = to the audience */
  facingDeg: bounded('azimuthDeg').default(180),
  /** sounding width across facingDeg; 0 = point */
  widthM: bounded('widthM').default(0),
  /** sounding depth along facingDeg of what has a width: the strings of a grand */
  depthM: bounded('widthM').default(0),
  /** dB SPL at 1 m */
  levelDb: bounded('levelDb').default(85),
  /** directivity factor */
  q: bounded('q').default(1),
  /** section whose arcs or rows made it; empty when placed by hand */
  sectionId: text(100).default(''),
  /** what sounds at its two ends, left and right as the player sees it: bass, treble, left hand */
  ends: record({ left: text(40).default(''), right: text(40).default('') })
    .nullable()
    .default(null),
  /** a piano's lid */
  lid: oneOf(['none', 'closed', 'short-stick', 'full-stick', 'off']).default('none'),
  /** panels of an upright that are open or off */
  openPanels: list(oneOf(['top lid', 'upper panel', 'lower panel']), 3).default([]),
  /** a piano's felt lies between hammers and strings */
  felt: flag().default(false),
  /** the player whose set of instruments it is a piece of, to be put together again */
  pieceOf: record({ id: text(100), name: text(200), kind: text(100) })
    .nullable()
    .default(null),
  constraints: list(constraint, 20).default([]),
  /** the user's own decision on a single microphone or a pair for it */
  coverage: oneOf(['mono', 'stereo']).nullable().default(null),
});

/** Players on arcs or rows, made together and changed together. */
const section = record({
  ...identity,
  kind: text(100).default(''),
  shape: oneOf(['arc', 'rows']).default('arc'),
  count: bounded('count').default(8),
  rows: bounded('count').default(1),
  pitchM: bounded('widthM').default(0.8),
  rowDepthM: bounded('widthM').default(0.9),
  /** opening angle of the front row, seen from its centre; with rows it is not used */
  openingDeg: bounded('openingDeg').default(120),
  riserM: bounded('widthM').default(0),
  /** middle of the front row */
  ...position,
  /** where the section as a whole faces */
  facingDeg: bounded('azimuthDeg').default(180),
});

export const sessionSchema = record({
  format: z.literal(FORMAT, { error: `allowed: "${FORMAT}"` }),
  version: z.literal(CURRENT_VERSION, { error: `allowed: ${CURRENT_VERSION}` }),
  id: text(100).default(''),
  title: text(200).default('Untitled session'),
  createdAt: text(40).default(''),
  updatedAt: text(40).default(''),
  settings: settings.prefault({}),
  brief: brief.prefault({}),
  venue: venue.prefault({}),
  sources: list(source, MOST_ENTRIES.sources).default([]),
  sections: list(section, MOST_ENTRIES.sections).default([]),
  arrays: list(array, MOST_ENTRIES.arrays).default([]),
  /** what is kept beside what is in use, to be compared with it */
  candidates: list(
    record({
      ...identity,
      /** an array; of a whole set-up the one that leads */
      array,
      /** all arrays of a whole set-up; empty where it is one array */
      setUp: list(array, MOST_ENTRIES.arrays).default([]),
    }),
    MOST_ENTRIES.candidates,
  ).default([]),
  kit: kit.prefault({}),
  rig: rig.prefault({}),
  /** what the plan and the journals name by id */
  blobs: list(blob, MOST_ENTRIES.blobs).default([]),
  /** journals: they only grow, see journals.ts */
  log: list(logEntry, MOST_ENTRIES.log).default([]),
  takes: list(take, MOST_ENTRIES.takes).default([]),
  marks: list(mark, MOST_ENTRIES.marks).default([]),
  acknowledgements: list(acknowledgement, MOST_ENTRIES.acknowledgements).default([]),
});

export { mixSchema } from './schema-arrays';

export type Session = z.output<typeof sessionSchema>;
export type Source = Session['sources'][number];
export type MicArray = Session['arrays'][number];
export type Venue = Session['venue'];
export type ArrayCandidate = Session['candidates'][number];
export type AsBuilt = Session['rig']['asBuilt'][number];
export type LogEntry = Session['log'][number];
export type Mark = Session['marks'][number];
export type FileReference = Take['files'][number];
export type Take = Session['takes'][number];
export type Acknowledgement = Session['acknowledgements'][number];
export type BlobReference = Session['blobs'][number];
export type Section = Session['sections'][number];
export type Obstacle = Venue['obstacles'][number];
export type SeatBlock = Venue['seats'][number];
export type Underlay = NonNullable<Venue['underlay']>;
export type Kit = Session['kit'];
export type Microphone = Kit['microphones'][number];
export type Timetable = Session['brief']['timetable'];
export type TimetableEntry = Timetable['entries'][number];
export type Constraint = Source['constraints'][number];
export type DatumPoint = Venue['datumPoints'][number];
export type SessionTechnique = MicArray['technique'];
