import * as z from 'zod';
import {
  bounded,
  flag,
  list,
  MOST_CAPSULES,
  MOST_SOURCES,
  oneOf,
  pattern,
  perBand,
  record,
  text,
} from './fields';

/**
 * The session file, version 1: the only definition. Types, validation, defaults and the published
 * JSON Schema all come from here.
 */

export const FORMAT = 'rotunda-session';
export const CURRENT_VERSION = 1;

const position = { x: bounded('positionM').default(0), y: bounded('positionM').default(0) };
const identity = { id: text(100).default(''), name: text(200).default('') };

const settings = record({
  units: oneOf(['metric', 'imperial']).default('metric'),
  school: oneOf(['traded', 'added', 'two-slope', 'tangent']).default('traded'),
  perspective: oneOf(['audience', 'performer']).default('audience'),
  sampleRateHz: bounded('sampleRateHz').default(96000),
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
  stageFillPct: bounded('percent').nullable().default(null),
  /** how much room is wanted in the picture */
  room: oneOf(['close', 'balanced', 'roomy']).nullable().default(null),
  /** how much the mono sum matters */
  mono: oneOf(['must-survive', 'should-survive', 'may-be-lost']).nullable().default(null),
  bands: list(band, MOST_SOURCES).default([]),
});

const brief = record({
  date: text(40).default(''),
  programme: text(2000).default(''),
  notes: text(20000).default(''),
  intent: intent.prefault({}),
  channelLimit: bounded('channels').nullable().default(null),
});

const datumPoint = record({ ...identity, ...position, z: bounded('positionM').default(0) });

const stage = record({
  widthM: bounded('roomM').default(10),
  depthM: bounded('roomM').default(7),
});

const surface = record({
  surface: oneOf(['floor', 'ceiling', 'left', 'right', 'front', 'back']),
  name: text(200).default(''),
  absorption: perBand('absorption'),
});

const venue = record({
  name: text(200).default(''),
  widthM: bounded('roomM').nullable().default(null),
  depthM: bounded('roomM').nullable().default(null),
  heightM: bounded('roomM').nullable().default(null),
  /** the datum, measured from the left front corner of the rectangle */
  origin: record(position).nullable().default(null),
  /** stage, its front edge centred on the datum */
  stage: stage.prefault({}),
  /** fixed points that tapes are held to; by default the back corners of the stage */
  datumPoints: list(datumPoint, 20).prefault([
    { id: 'a', name: 'A', x: -5, y: 7 },
    { id: 'b', name: 'B', x: 5, y: 7 },
  ]),
  temperatureC: bounded('temperatureC').default(20),
  rt60S: perBand('rt60S').nullable().default(null),
  surfaces: list(surface, 60).default([]),
});

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
  /** dB SPL at 1 m */
  levelDb: bounded('levelDb').default(85),
  /** directivity factor */
  q: bounded('q').default(1),
});

const capsule = record({
  label: text(40).default(''),
  dx: bounded('positionM').default(0),
  dy: bounded('positionM').default(0),
  dz: bounded('positionM').default(0),
  azimuthDeg: bounded('azimuthDeg').default(0),
  elevationDeg: bounded('elevationDeg').default(0),
  pattern: pattern(),
});

export const techniqueSchema = z.discriminatedUnion(
  'kind',
  [
    record({
      kind: z.literal('pair'),
      pattern: pattern(),
      spacingM: bounded('spacingM'),
      includedAngleDeg: bounded('includedAngleDeg'),
    }),
    record({
      kind: z.literal('mid-side'),
      midPattern: pattern(),
      sideGainDb: bounded('gainDb').default(0),
      sidePositive: oneOf(['left', 'right']).default('left'),
    }),
    record({ kind: z.literal('single'), pattern: pattern() }),
    record({ kind: z.literal('custom'), capsules: list(capsule, MOST_CAPSULES) }),
  ],
  { error: 'allowed: an object whose kind is pair, mid-side, single or custom' },
);

const strip = record({
  pan: bounded('pan').default(0),
  gainDb: bounded('gainDb').default(0),
  polarity: z.literal([1, -1], { error: 'allowed: 1 or -1' }).default(1),
  delayMs: bounded('delayMs').default(0),
});

const mix = record({
  faderDb: bounded('gainDb').default(0),
  mute: flag().default(false),
  /** in the technique's order; empty means the technique's usual pans */
  capsules: list(strip, MOST_CAPSULES).default([]),
});

const array = record({
  ...identity,
  role: oneOf(['main', 'outrigger', 'ambience', 'spot', 'overhead', 'surround']).default('main'),
  enabled: flag().default(true),
  ...position,
  z: bounded('positionM').default(2.5),
  aimDeg: bounded('azimuthDeg').default(0),
  tiltDeg: bounded('elevationDeg').default(0),
  technique: techniqueSchema.default({
    kind: 'pair',
    pattern: 'cardioid',
    spacingM: 0.17,
    includedAngleDeg: 110,
  }),
  mix: mix.prefault({}),
});

const microphone = record({
  ...identity,
  /** patterns that it can be switched to */
  patterns: list(pattern(), 20).default([]),
  count: bounded('channels').default(1),
});

const kit = record({
  /** empty means: not said, so nothing is ruled out */
  microphones: list(microphone, 500).default([]),
});

const loose = (most: number) => list(record({}), most).default([]);

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
  sources: list(source, MOST_SOURCES).default([]),
  arrays: list(array, MOST_CAPSULES).default([]),
  kit: kit.prefault({}),
  log: loose(10000),
  takes: loose(10000),
  marks: loose(10000),
});

export type Session = z.output<typeof sessionSchema>;
export type Source = Session['sources'][number];
export type MicArray = Session['arrays'][number];
export type Venue = Session['venue'];
export type DatumPoint = Venue['datumPoints'][number];
export type SessionTechnique = MicArray['technique'];
