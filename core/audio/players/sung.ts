import { fallDb, HIGHEST_HZ } from './brightness';
import { seededRandom } from '../../units/random';
import { swellGain, type Note } from './score';

/** A voice: how long its throat is against a man's, and its vibrato. */
export interface Sung {
  /** formants against a man's */
  scale: number;
  vibrato: { hz: number; cents: number };
  attackS: number;
  releaseS: number;
  singers: number;
}

/** Formants of five vowels of a man, Hz; the third and fourth stand close, as singers learn; the fifth is one for all. */
const VOWELS = [
  [700, 1150, 2600, 3000],
  [500, 1700, 2500, 2950],
  [320, 2000, 2700, 3050],
  [450, 850, 2500, 2900],
  [350, 750, 2450, 2850],
] as const;
const FIFTH_HZ = 4100;
const WIDTHS_HZ = [80, 110, 110, 120, 220];
/** Singers share a throat by so many. */
const THROATS = 2;
const TABLE = 2048;
/** The throat takes so much of what it is given; air against the voice, and where it begins. */
const LOUD = 4;
const AIR = 0.35;
const AIR_HZ = 5000;
/** What the formants above the fifth let through of the folds, and from where on. */
const ABOVE = 0.6;
const ABOVE_HZ = 3500;

/** One period of what the vocal folds give and the lips let go, −6 dB an octave. */
function glottal(hz: number, sampleRateHz: number): Float32Array {
  const table = new Float32Array(TABLE + 1);
  for (let k = 1; k * hz < Math.min(HIGHEST_HZ, 0.45 * sampleRateHz); k++) {
    const size = 10 ** (fallDb(k * hz) / 20) / k;
    const turn = (2 * Math.PI * k) / TABLE;
    const [cos, sin] = [Math.cos(turn), Math.sin(turn)];
    let [re, im] = [size, 0];
    for (let i = 0; i <= TABLE; i++) {
      table[i] = (table[i] as number) + im;
      const next = re * cos - im * sin;
      im = re * sin + im * cos;
      re = next;
    }
  }
  return table;
}

/** Formants one after another, each a resonator of gain one at zero. */
function throughThroat(
  samples: Float32Array,
  formants: readonly number[],
  sampleRateHz: number,
): void {
  formants.forEach((hz, f) => {
    const pole = Math.exp((-Math.PI * (WIDTHS_HZ[f] ?? 200)) / sampleRateHz);
    const bend = 2 * pole * Math.cos((2 * Math.PI * hz) / sampleRateHz);
    const square = pole * pole;
    const gain = 1 - bend + square;
    let [one, two] = [0, 0];
    for (let i = 0; i < samples.length; i++) {
      const value = gain * (samples[i] as number) + bend * one - square * two;
      two = one;
      one = value;
      samples[i] = value;
    }
  });
}

/** A trained voice carries: what lies above this is lifted by 6 dB. */
const CARRIES_HZ = 1800;

function carried(samples: Float32Array, sampleRateHz: number): void {
  const keep = Math.exp((-2 * Math.PI * CARRIES_HZ) / sampleRateHz);
  let low = 0;
  for (let i = 0; i < samples.length; i++) {
    const value = samples[i] as number;
    low = keep * low + (1 - keep) * value;
    samples[i] = value + (value - low);
  }
}

/**
 * Adds a sung note to a phrase: one voice or many, each a little out, early or late, with a vibrato of
 * its own; through a throat, and with air above it.
 * @param out the phrase
 */
export function playSung(voice: Sung, note: Note, out: Float32Array, sampleRateHz: number): void {
  const random = seededRandom(note.seed);
  const from = Math.round(note.atS * sampleRateHz);
  const held = note.lengthS * sampleRateHz;
  const release = voice.releaseS * sampleRateHz;
  const frames = Math.min(out.length - from, Math.round(held + release + 0.05 * sampleRateHz));
  // All sing the same words, each with a mouth of one's own.
  const vowel = VOWELS[note.syllable % VOWELS.length] ?? VOWELS[0];
  const table = glottal(440 * 2 ** ((note.key - 69) / 12), sampleRateHz);
  const throats = Math.min(voice.singers, THROATS);
  const level = 10 ** ((12 * (note.force - 0.6)) / 20) / Math.sqrt(voice.singers);
  for (let t = 0; t < throats; t++) {
    const sum = new Float32Array(frames);
    for (let s = t; s < voice.singers; s += throats) {
      sing(voice, note, table, sum, held, sampleRateHz, random);
    }
    const scale = voice.scale * (1 + 0.06 * (random() - 0.5));
    const formants = [...vowel, FIFTH_HZ].map((hz) => hz * scale * (1 + 0.1 * (random() - 0.5)));
    const folds = sum.slice();
    throughThroat(sum, formants, sampleRateHz);
    addAbove(folds, sum, sampleRateHz);
    carried(sum, sampleRateHz);
    for (let i = 0; i < frames; i++) {
      out[from + i] = (out[from + i] as number) + level * LOUD * (sum[i] as number);
    }
  }
  addAir(voice, out.subarray(from, from + frames), level, held, sampleRateHz, random);
}

/** The formants above the fifth, of which there is no account: some of the folds themselves, without their lows. */
function addAbove(folds: Float32Array, sum: Float32Array, sampleRateHz: number): void {
  const keep = Math.exp((-2 * Math.PI * ABOVE_HZ) / sampleRateHz);
  let [low, lower] = [0, 0];
  for (let i = 0; i < sum.length; i++) {
    const value = folds[i] as number;
    low = keep * low + (1 - keep) * value;
    lower = keep * lower + (1 - keep) * (value - low);
    sum[i] = (sum[i] as number) + ABOVE * (value - low - lower);
  }
}

/** Breath above the formants: noise without its lows, as long as the note. */
function addAir(
  { attackS, releaseS, singers }: Sung,
  out: Float32Array,
  level: number,
  held: number,
  sampleRateHz: number,
  random: () => number,
): void {
  const [attack, release] = [attackS * sampleRateHz, releaseS * sampleRateHz];
  const size = level * AIR * Math.sqrt(singers);
  const keep = Math.exp((-2 * Math.PI * AIR_HZ) / sampleRateHz);
  let [low, lower] = [0, 0];
  for (let i = 0; i < out.length; i++) {
    const white = 2 * random() - 1;
    low = keep * low + (1 - keep) * white;
    lower = keep * lower + (1 - keep) * (white - low);
    const rise = Math.min(1, i / attack);
    const fall = i > held ? Math.max(0, 1 - (i - held) / release) : 1;
    out[i] = (out[i] as number) + size * rise * fall * (white - low - lower);
  }
}

function sing(
  { vibrato, attackS, releaseS, singers }: Sung,
  note: Note,
  table: Float32Array,
  sum: Float32Array,
  held: number,
  sampleRateHz: number,
  random: () => number,
): void {
  const many = singers > 1;
  const around = (): number => 2 * random() - 1;
  const out = many ? 2 ** ((8 * around()) / 1200) : 1;
  const late = many ? Math.round(0.04 * random() * sampleRateHz) : 0;
  const hz = 440 * 2 ** ((note.key - 69) / 12) * out;
  const rate = (2 * Math.PI * vibrato.hz * (1 + 0.08 * around())) / sampleRateHz;
  const depth = ((vibrato.cents * (1 + 0.25 * around())) / 1200) * Math.LN2;
  const attack = attackS * (1 + 0.2 * around()) * sampleRateHz;
  const release = releaseS * sampleRateHz;
  const after = 0.2 * sampleRateHz;
  const step = (TABLE * hz) / sampleRateHz;
  const phase = 2 * Math.PI * random();
  let at = TABLE * random();
  // The vibrato turns step by step: a sine for every sample would cost more than the voice.
  const [cos, sin] = [Math.cos(rate), Math.sin(rate)];
  let [re, im] = [Math.cos(phase), Math.sin(phase)];
  for (let i = late; i < sum.length; i++) {
    const n = i - late;
    const rise = n < attack ? 0.5 - 0.5 * Math.cos((Math.PI * n) / attack) : 1;
    const fall = n > held ? Math.max(0, 1 - (n - held) / release) : 1;
    const swing = n > after ? depth * Math.min(1, (n - after) / after) * im : 0;
    const turned = re * cos - im * sin;
    im = re * sin + im * cos;
    re = turned;
    at += step * (1 + swing);
    if (at >= TABLE) at -= TABLE;
    const cell = at | 0;
    const wave =
      (table[cell] as number) +
      (at - cell) * ((table[cell + 1] as number) - (table[cell] as number));
    const size = note.swellDb === 0 ? 1 : swellGain(note.swellDb, n / held);
    sum[i] = (sum[i] as number) + size * rise * fall * wave;
  }
}
