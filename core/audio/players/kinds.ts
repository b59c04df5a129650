import type { Exactness, Voice } from './score';
import type { Struck } from './struck';
import type { Sung } from './sung';
import type { Formant, Sustained } from './sustained';

/** One of four lines, or all that two hands can do. */
type Line = Voice | 'both hands';

/** One voice of a choir. */
export interface VocalPart {
  range: readonly [number, number];
  sound: Sung;
}

/** How exactly players of each kind keep together: what makes many of them more than one. */
export const EXACTNESS: Readonly<Partial<Record<Player['model'], Exactness>>> = {
  sustained: { cents: 4, noteCents: 3, lateS: 0.012, noteS: 0.016 },
  sung: { cents: 6, noteCents: 4, lateS: 0.02, noteS: 0.03 },
  choir: { cents: 0, noteCents: 3, lateS: 0.01, noteS: 0.02 },
};

/** How an instrument sounds, and what it can play. */
export type Player =
  | { model: 'sustained'; line: Line; range: readonly [number, number]; sound: Sustained }
  | { model: 'struck'; line: Line; range: readonly [number, number]; sound: Struck }
  | { model: 'sung'; line: Voice; range: readonly [number, number]; sound: Sung }
  /** all four voices at once */
  | { model: 'choir'; voices: Readonly<Record<Voice, VocalPart>> }
  | { model: 'strokes'; every: number; from: number; key: number; sound: Struck }
  | { model: 'spoken' }
  | { model: 'noise' }
  | { model: 'clicks' };

const formant = (hz: number, gainDb: number, octaves: number): Formant => ({ hz, gainDb, octaves });

const HELD: Sustained = {
  tiltDb: [-10, -6],
  formants: [],
  evenDb: 0,
  attackS: 0.05,
  releaseS: 0.08,
  vibrato: { hz: 5.5, cents: 0 },
  noise: { db: -40, hz: 2500 },
};
const held = (line: Line, low: number, high: number, change: Partial<Sustained>): Player => ({
  model: 'sustained',
  line,
  range: [low, high],
  sound: { ...HELD, ...change },
});

const STRING: Struck = {
  modes: 'string',
  stiffness: 0.00005,
  struckAt: 0.18,
  tiltDb: [-9, -5],
  decayS: 3,
  halfHz: 1500,
  slow: { share: 0, times: 1 },
  detuneCents: 0,
  attackS: 0.0015,
  releaseS: 0.4,
  noise: { db: -22, decayS: 0.03, hz: 1200 },
};
const plucked = (line: Line, low: number, high: number, change: Partial<Struck>): Player => ({
  model: 'struck',
  line,
  range: [low, high],
  sound: { ...STRING, ...change },
});

/** A membrane: modes of an ideal one, over noise of its wires or its stick. */
const DRUM: Struck = {
  ...STRING,
  modes: [1, 1.59, 2.14, 2.3, 2.65, 2.92, 3.16, 3.5, 3.6, 4.06],
  struckAt: 0,
  stiffness: 0,
  tiltDb: [-7, -4],
  decayS: 0.5,
  halfHz: 700,
  attackS: 0.0008,
  releaseS: Infinity,
  noise: { db: -8, decayS: 0.06, hz: 1800 },
};
const strokes = (every: number, from: number, key: number, change: Partial<Struck>): Player => ({
  model: 'strokes',
  every,
  from,
  key,
  sound: { ...DRUM, ...change },
});

/** Modes of a thin plate: many, unevenly spread, the same every time. */
const plate = (count: number): number[] =>
  Array.from({ length: count }, (_, i) => 1 + i * 0.83 + 0.31 * Math.sin(i * 2.39) + i * i * 0.004);

const throat = (scale: number, singers = 1): Sung => ({
  scale,
  vibrato: { hz: 5.6, cents: singers > 1 ? 18 : 45 },
  attackS: singers > 1 ? 0.12 : 0.08,
  releaseS: 0.14,
  singers,
});
const sung = (line: Voice, low: number, high: number, scale: number): Player => ({
  model: 'sung',
  line,
  range: [low, high],
  sound: throat(scale),
});
/** Singers of each voice of a choir. */
const EACH_VOICE = 4;
const part = (low: number, high: number, scale: number): VocalPart => ({
  range: [low, high],
  sound: throat(scale, EACH_VOICE),
});

const body = (...hz: number[]): Formant[] =>
  hz.map((centre, i) => formant(centre, 8 - i * 1.5, 0.5));

/** Every kind that sounds. */
export const PLAYERS = {
  violin: held('soprano', 55, 96, {
    formants: body(280, 500, 1100, 2700),
    vibrato: { hz: 5.8, cents: 22 },
    attackS: 0.07,
    releaseS: 0.12,
    noise: { db: -32, hz: 3500 },
  }),
  viola: held('alto', 48, 86, {
    formants: body(230, 400, 900, 2200),
    vibrato: { hz: 5.5, cents: 20 },
    attackS: 0.08,
    releaseS: 0.12,
    noise: { db: -32, hz: 2800 },
  }),
  cello: held('tenor', 36, 74, {
    formants: body(180, 300, 600, 1800),
    vibrato: { hz: 5.2, cents: 20 },
    attackS: 0.09,
    releaseS: 0.15,
    noise: { db: -32, hz: 2000 },
  }),
  'double bass': held('bass', 28, 60, {
    formants: body(110, 200, 400, 1000),
    vibrato: { hz: 4.8, cents: 14 },
    attackS: 0.12,
    releaseS: 0.2,
    noise: { db: -30, hz: 1400 },
  }),
  flute: held('soprano', 60, 96, {
    tiltDb: [-18, -11],
    vibrato: { hz: 5.2, cents: 12 },
    attackS: 0.06,
    noise: { db: -24, hz: 4000 },
  }),
  oboe: held('soprano', 58, 91, {
    tiltDb: [-10, -7],
    formants: [formant(1100, 10, 0.8), formant(2900, 8, 0.6)],
    vibrato: { hz: 5.4, cents: 10 },
    attackS: 0.03,
  }),
  clarinet: held('alto', 50, 91, {
    tiltDb: [-11, -6],
    evenDb: -18,
    formants: [formant(1600, 6, 1)],
    attackS: 0.045,
    noise: { db: -36, hz: 3000 },
  }),
  bassoon: held('tenor', 34, 72, {
    tiltDb: [-12, -8],
    formants: [formant(480, 11, 0.8), formant(1150, 5, 0.6)],
    vibrato: { hz: 5, cents: 6 },
    attackS: 0.04,
  }),
  horn: held('tenor', 41, 77, {
    tiltDb: [-18, -9],
    formants: [formant(340, 6, 1)],
    attackS: 0.05,
    noise: { db: -42, hz: 1200 },
  }),
  trumpet: held('soprano', 54, 84, {
    tiltDb: [-14, -7],
    formants: [formant(1300, 8, 1.2)],
    attackS: 0.03,
    noise: { db: -42, hz: 3000 },
  }),
  trombone: held('tenor', 40, 72, {
    tiltDb: [-16, -8],
    formants: [formant(600, 7, 1.2)],
    attackS: 0.04,
    noise: { db: -42, hz: 1500 },
  }),
  tuba: held('bass', 28, 58, {
    tiltDb: [-18, -10],
    formants: [formant(250, 6, 1)],
    attackS: 0.07,
    noise: { db: -40, hz: 700 },
  }),
  'organ pipe': held('both hands', 36, 84, {
    tiltDb: [-10, -10],
    attackS: 0.05,
    releaseS: 0.12,
    noise: { db: -34, hz: 2200 },
  }),
  guitar: plucked('tenor', 40, 76, { decayS: 3, halfHz: 1100, releaseS: 0.25 }),
  // Double courses, plucked nearer to the bridge and sooner gone.
  lute: plucked('alto', 43, 77, {
    decayS: 1.6,
    halfHz: 2000,
    struckAt: 0.09,
    detuneCents: 5,
    releaseS: 0.2,
  }),
  harp: plucked('both hands', 31, 91, { decayS: 4, halfHz: 1600, struckAt: 0.4, releaseS: 1.5 }),
  harpsichord: plucked('both hands', 36, 84, {
    tiltDb: [-3, -3],
    struckAt: 0.12,
    decayS: 5,
    halfHz: 2500,
    attackS: 0.0006,
    releaseS: 0.12,
    noise: { db: -18, decayS: 0.02, hz: 3000 },
  }),
  piano: plucked('both hands', 28, 100, {
    stiffness: 0.0004,
    struckAt: 0.12,
    tiltDb: [-15, -8],
    decayS: 7,
    halfHz: 1400,
    slow: { share: 0.2, times: 3 },
    detuneCents: 0.7,
    attackS: 0.002,
    releaseS: 0.2,
    noise: { db: -30, decayS: 0.05, hz: 900 },
  }),
  soprano: sung('soprano', 60, 84, 1.18),
  alto: sung('alto', 53, 77, 1.12),
  tenor: sung('tenor', 47, 69, 1.04),
  bass: sung('bass', 40, 64, 0.97),
  choir: {
    model: 'choir',
    voices: {
      soprano: part(60, 81, 1.18),
      alto: part(53, 74, 1.12),
      tenor: part(47, 67, 1.04),
      bass: part(40, 62, 0.97),
    },
  },
  timpani: {
    model: 'struck',
    line: 'bass',
    range: [40, 57],
    sound: {
      ...DRUM,
      modes: [1, 1.5, 1.99, 2.44, 2.89],
      tiltDb: [-9, -5],
      decayS: 1.6,
      halfHz: 400,
      attackS: 0.003,
      noise: { db: -16, decayS: 0.08, hz: 300 },
    },
  },
  'bass drum': strokes(4, 0, 26, {
    decayS: 0.7,
    halfHz: 120,
    noise: { db: -14, decayS: 0.03, hz: 1500 },
  }),
  'snare drum': strokes(4, 2, 55, { decayS: 0.18, noise: { db: 2, decayS: 0.22, hz: 4500 } }),
  tom: strokes(4, 3, 45, { decayS: 0.6, halfHz: 400 }),
  'hi-hat': strokes(1, 0.5, 76, {
    modes: plate(40),
    tiltDb: [1, 2],
    decayS: 0.35,
    halfHz: 20_000,
    noise: { db: 4, decayS: 0.12, hz: 9000 },
  }),
  cymbal: strokes(6, 0, 67, {
    modes: plate(48),
    tiltDb: [0, 1],
    decayS: 3.2,
    halfHz: 12_000,
    noise: { db: 0, decayS: 0.9, hz: 8000 },
  }),
  triangle: strokes(3, 1, 91, {
    modes: [1, 1.9, 2.75, 3.4, 4.1, 5.3],
    tiltDb: [-1, 0],
    decayS: 4,
    halfHz: 20_000,
    noise: { db: -12, decayS: 0.02, hz: 9000 },
  }),
  claves: strokes(2, 0, 98, {
    modes: [1, 2.7],
    tiltDb: [-12, -10],
    decayS: 0.12,
    halfHz: 8000,
    noise: { db: -8, decayS: 0.006, hz: 5000 },
  }),
  clap: strokes(2, 0, 84, {
    modes: [1],
    decayS: 0.02,
    noise: { db: 18, decayS: 0.012, hz: 2200 },
  }),
  announcer: { model: 'spoken' },
  'pink noise': { model: 'noise' },
  'click train': { model: 'clicks' },
} as const satisfies Record<string, Player>;

export type PlayerName = keyof typeof PLAYERS;
export const PLAYER_NAMES = Object.keys(PLAYERS) as PlayerName[];

/** Which words of a kind of instrument sound like which player; the first that fits. */
const BY_WORDS: readonly (readonly [RegExp, PlayerName])[] = [
  [/harpsichord|virginal|spinet|clavichord/, 'harpsichord'],
  [/piano|celesta|marimba|xylophone|vibraphone|glockenspiel/, 'piano'],
  [/organ|harmonium/, 'organ pipe'],
  [/double bass|violone|contrabass\b/, 'double bass'],
  [/cello|viol\b|gamba/, 'cello'],
  [/viola/, 'viola'],
  [/violin|fiddle/, 'violin'],
  [/flute|recorder|piccolo/, 'flute'],
  [/oboe|cor anglais/, 'oboe'],
  [/clarinet|saxophone/, 'clarinet'],
  [/bassoon/, 'bassoon'],
  [/trumpet|cornet/, 'trumpet'],
  [/trombone/, 'trombone'],
  [/tuba|euphonium/, 'tuba'],
  [/horn/, 'horn'],
  [/harp/, 'harp'],
  [/guitar/, 'guitar'],
  [/lute|theorbo|mandolin/, 'lute'],
  [/timpan/, 'timpani'],
  [/bass drum/, 'bass drum'],
  [/snare|side drum/, 'snare drum'],
  [/hi-hat/, 'hi-hat'],
  [/cymbal|tam-tam|gong/, 'cymbal'],
  [/triangle/, 'triangle'],
  [/\btom|drum|kit|percussion/, 'tom'],
  [/clave|woodblock/, 'claves'],
  [/clap/, 'clap'],
  [/choir|chorus/, 'choir'],
  [/soprano|treble/, 'soprano'],
  [/alto|mezzo/, 'alto'],
  [/tenor/, 'tenor'],
  [/\bbass\b|baritone/, 'bass'],
  [/voice|sing/, 'soprano'],
  [/speak|speech|announc|narrat/, 'announcer'],
];

/**
 * The player that a kind of instrument sounds like.
 * @returns pink noise for what has no sound of its own
 */
export function playerFor(kind: string): PlayerName {
  const words = kind.trim().toLowerCase();
  return BY_WORDS.find(([pattern]) => pattern.test(words))?.[1] ?? 'pink noise';
}
