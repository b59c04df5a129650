import { seededRandom } from '../../units/random';
import { fallDb, HIGHEST_HZ } from './brightness';
import { transformOf } from '../signal/spectrum';
import { swellGain, type Note } from './score';

/** A broad rise of a spectrum, as a body or a bell makes it. */
export interface Formant {
  hz: number;
  gainDb: number;
  /** width at half its height, octaves */
  octaves: number;
}

/** An instrument whose tones are held: bowed, blown or an organ pipe. */
export interface Sustained {
  /** fall of its partials, dB an octave, played softly and loudly */
  tiltDb: readonly [soft: number, loud: number];
  formants: readonly Formant[];
  /** of the even partials, as a pipe closed at one end has them, dB */
  evenDb: number;
  attackS: number;
  releaseS: number;
  vibrato: { hz: number; cents: number };
  /** breath or bow against the tone, dB, and where it lies */
  noise: { db: number; hz: number };
}

const TABLE = 4096;
const VIBRATO_AFTER_S = 0.25;
/** From whole numbers of 32 bits to −1 … 1. */
const WHOLE = 2 ** -31;

/**
 * One period of a tone, its partials up to 20 kHz.
 * @param fundamentalHz 20 … 5000 Hz
 * @param tiltDb fall of the partials, dB an octave
 */
function period(
  { formants, evenDb }: Pick<Sustained, 'formants' | 'evenDb'>,
  fundamentalHz: number,
  tiltDb: number,
  sampleRateHz: number,
  random: () => number,
): Float32Array {
  const most = Math.min(HIGHEST_HZ, 0.45 * sampleRateHz);
  const partials = new Float64Array(2 * TABLE);
  let power = 0;
  for (let k = 1; k < TABLE / 2 && (k * fundamentalHz <= most || k === 1); k++) {
    const hz = k * fundamentalHz;
    let db = tiltDb * Math.log2(k) + (k % 2 === 0 ? evenDb : 0) + fallDb(hz);
    for (const { hz: centre, gainDb, octaves } of formants) {
      db += gainDb * Math.exp(-0.69 * (Math.log2(hz / centre) / (octaves / 2)) ** 2);
    }
    const size = 10 ** (db / 20);
    power += size * size;
    const phase = 2 * Math.PI * random();
    partials[2 * k] = size * Math.cos(phase);
    partials[2 * k + 1] = size * Math.sin(phase);
  }
  const turned = new Float64Array(2 * TABLE);
  transformOf(TABLE).inverseTransform(turned, partials);
  const gain = TABLE / Math.sqrt(power / 2);
  return Float32Array.from(
    { length: TABLE + 1 },
    (_, i) => gain * (turned[2 * (i % TABLE) + 1] as number),
  );
}

/**
 * Adds a held note to a phrase. It begins dull and grows bright with its loudness; its vibrato sets in
 * late and never twice alike.
 * @param out the phrase
 * @param gain of the note
 */
export function playSustained(
  instrument: Sustained,
  note: Note,
  out: Float32Array,
  sampleRateHz: number,
  gain = 1,
): void {
  const random = seededRandom(note.seed);
  const hz = 440 * 2 ** ((note.key - 69) / 12);
  const { tiltDb, attackS, releaseS, vibrato, noise } = instrument;
  const tilt = tiltDb[0] + (tiltDb[1] - tiltDb[0]) * note.force;
  const phases = seededRandom(note.seed + 1);
  const bright = period(instrument, hz, tilt, sampleRateHz, phases);
  const dull = period(instrument, hz, tilt - 6, sampleRateHz, seededRandom(note.seed + 1));
  const from = Math.round(note.atS * sampleRateHz);
  const held = note.lengthS * sampleRateHz;
  const attack = Math.min(attackS * (0.85 + 0.3 * random()), note.lengthS / 2) * sampleRateHz;
  const release = releaseS * sampleRateHz;
  const frames = Math.min(out.length - from, Math.round(held + release));
  const rate = (2 * Math.PI * vibrato.hz * (0.95 + 0.1 * random())) / sampleRateHz;
  const depth = ((vibrato.cents * (0.85 + 0.3 * random())) / 1200) * Math.LN2;
  const after = VIBRATO_AFTER_S * sampleRateHz;
  const step = (TABLE * hz) / sampleRateHz;
  const level = gain * 10 ** ((12 * (note.force - 0.6)) / 20);
  const breath = level * 10 ** (noise.db / 20);
  // A band of noise: two poles around its middle.
  const pole = Math.exp((-Math.PI * noise.hz) / sampleRateHz);
  const turn = 2 * pole * Math.cos((2 * Math.PI * noise.hz) / sampleRateHz);
  const square = pole * pole;
  const narrow = (1 - pole) * 2;
  // The vibrato turns step by step, as a sine for every sample would cost more than the tone.
  const [cos, sin] = [Math.cos(rate), Math.sin(rate)];
  let [re, im] = [1, 0];
  let [at, one, two] = [TABLE * random(), 0, 0];
  // Shifts of one number: a better noise would cost as much as the tone.
  let state = Math.floor(random() * 2 ** 31) | 1;
  for (let i = 0; i < frames; i++) {
    const rise = i < attack ? Math.sin((Math.PI / 2) * (i / attack)) : 1;
    const fall = i > held ? 0.5 + 0.5 * Math.cos(Math.PI * Math.min(1, (i - held) / release)) : 1;
    let swing = 0;
    if (i > after) {
      const next = re * cos - im * sin;
      im = re * sin + im * cos;
      re = next;
      swing = depth * Math.min(1, (i - after) / after) * im;
    }
    at += step * (1 + swing);
    if (at >= TABLE) at -= TABLE;
    const cell = at | 0;
    const share = at - cell;
    const low =
      (dull[cell] as number) + share * ((dull[cell + 1] as number) - (dull[cell] as number));
    const high =
      (bright[cell] as number) + share * ((bright[cell + 1] as number) - (bright[cell] as number));
    const open = rise * fall * (note.swellDb === 0 ? 1 : swellGain(note.swellDb, i / held));
    state ^= state << 13;
    state ^= state >>> 17;
    state ^= state << 5;
    const band = narrow * (state * WHOLE) + turn * one - square * two;
    two = one;
    one = band;
    const to = from + i;
    out[to] =
      (out[to] as number) +
      level * open * (low + Math.min(2, open) * (high - low)) +
      breath * open * (band + (1 - rise) * 2 * band);
  }
}
