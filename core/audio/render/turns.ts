import type { Source } from '../../session/schema';
import { phraseOf } from '../players/phrase';
import { pinkNoise } from '../signal/generate';
import { readLoop } from './overlap';
import type { Hall } from './hall';
import type { SignalTake } from './take-kinds';

/** When a point sounds: its samples once, in a round of so many frames. */
export interface Turn {
  from: number;
  round: number;
}

/** A decay is heard to its end in so many reverberation times, and no silence is shorter than this, s. */
const SILENCE_TIMES = 1.4;
const LEAST_SILENCE_S = 1.5;

/** Silence after each turn: so long that the decay can be measured, s. */
export const silenceAfter = (hall: Pick<Hall, 'rt60S'> | null): number =>
  Math.max(
    LEAST_SILENCE_S,
    SILENCE_TIMES * Math.max(0, ...(hall?.rt60S.map(([, seconds]) => seconds) ?? [])),
  );

/** How loud each signal is at 1 m, dB SPL. */
export const SIGNAL_DB: Readonly<Record<SignalTake, number>> = {
  claps: 100,
  'interrupted noise': 94,
  sweep: 94,
};

const CLAP_S = 0.5;
/** Noise has filled a hall after its reverberation time, and no sooner than this, s. */
const LEAST_NOISE_S = 2;
const SWEEP_S = 6;
const [SWEEP_FROM_HZ, SWEEP_TO_HZ] = [20, 20_000];
const FADE_S = 0.01;

function faded(samples: Float32Array, sampleRateHz: number, atEnd: boolean): Float32Array {
  const frames = Math.round(FADE_S * sampleRateHz);
  return samples.map((value, i) => {
    const begin = Math.min(1, i / frames);
    const end = atEnd ? Math.min(1, (samples.length - 1 - i) / frames) : 1;
    return value * begin * end;
  });
}

/** Rises from 20 Hz to 20 kHz by equal octaves in equal times (A. Farina, AES 108th Convention, 2000). */
function sweep(sampleRateHz: number): Float32Array {
  const top = Math.min(SWEEP_TO_HZ, 0.45 * sampleRateHz);
  const octaves = Math.log(top / SWEEP_FROM_HZ);
  const samples = Float32Array.from({ length: Math.round(SWEEP_S * sampleRateHz) }, (_, i) => {
    const share = i / sampleRateHz / SWEEP_S;
    const turns = ((SWEEP_FROM_HZ * SWEEP_S) / octaves) * (Math.exp(share * octaves) - 1);
    return Math.SQRT2 * Math.sin(2 * Math.PI * turns);
  });
  return faded(samples, sampleRateHz, true);
}

/**
 * The samples of a signal, root mean square one where it sounds.
 * @param hall whose reverberation time noise must fill; null where there is none
 * @param seed any whole number
 * @param sampleRateHz 8000 … 192000 Hz
 */
export function signalOf(
  take: SignalTake,
  hall: Pick<Hall, 'rt60S'> | null,
  seed: number,
  sampleRateHz: number,
): Float32Array {
  switch (take) {
    case 'claps':
      return phraseOf('clap', 'chorale', seed, sampleRateHz).slice(0, CLAP_S * sampleRateHz);
    case 'interrupted noise': {
      const longest = Math.max(0, ...(hall?.rt60S.map(([, seconds]) => seconds) ?? []));
      const frames = Math.round(Math.max(LEAST_NOISE_S, longest) * sampleRateHz);
      const noise = pinkNoise(frames, seed);
      const level = Math.sqrt(noise.reduce((sum, value) => sum + value * value, 0) / frames);
      // It ends at once: that is where the decay begins.
      return faded(
        noise.map((value) => value / level),
        sampleRateHz,
        false,
      );
    }
    case 'sweep':
      return sweep(sampleRateHz);
  }
}

/** From one knock to the next, between tens and units, and before the playing begins, s. */
const [KNOCK_EVERY_S, TENS_S, BEFORE_S] = [0.35, 0.9, 0.9];
const KNOCK_S = 0.25;
/** So much is heard of everybody, s. */
const ROLL_S = 4;

/**
 * When the knocks of a number fall: one each up to ten; tens first, then a pause, then the rest of it, so
 * that nobody counts beyond ten. Twenty is one and then ten.
 * @param number 1 … 500
 * @returns s from the beginning, and when the playing begins
 */
export function knocksOf(number: number): { atS: number[]; untilS: number } {
  const tens = Math.floor((number - 1) / 10);
  const units = ((number - 1) % 10) + 1;
  const atS = Array.from({ length: tens }, (_, i) => i * KNOCK_EVERY_S);
  const from = tens > 0 ? (tens - 1) * KNOCK_EVERY_S + TENS_S : 0;
  for (let i = 0; i < units; i++) atS.push(from + i * KNOCK_EVERY_S);
  return { atS, untilS: (atS[atS.length - 1] ?? 0) + BEFORE_S };
}

/**
 * The knocks of a number as samples.
 * @param number 1 … 500
 * @param seed any whole number
 * @param sampleRateHz 8000 … 192000 Hz
 */
export function knocksFor(number: number, seed: number, sampleRateHz: number): Float32Array {
  const { atS, untilS } = knocksOf(number);
  const stroke = phraseOf('claves', 'chorale', seed, sampleRateHz).subarray(
    0,
    KNOCK_S * sampleRateHz,
  );
  const out = new Float32Array(Math.ceil(untilS * sampleRateHz));
  for (const at of atS) {
    const from = Math.round(at * sampleRateHz);
    out.set(stroke.subarray(0, Math.min(stroke.length, out.length - from)), from);
  }
  return out;
}

/** The beginning of a phrase, faded out. @param sampleRateHz 8000 … 192000 Hz */
export const beginningOf = (phrase: Float32Array, sampleRateHz: number): Float32Array =>
  faded(phrase.slice(0, Math.round(ROLL_S * sampleRateHz)), sampleRateHz, true);

/** How a player is called where nobody gave a name. */
export const calledName = ({ name, kind, id }: Pick<Source, 'name' | 'kind' | 'id'>): string =>
  name || kind || id;

/** What sounds from a place, over and over or at its turn. */
export interface Sounding {
  phrase: Float32Array;
  /** null: again and again from 0 on */
  turn: Turn | null;
}

/**
 * Samples of what a point sends out, from 0 on; silence before.
 * @param from the first sample, −2⁴⁸ … 2⁴⁸
 * @param out filled with as many samples as it holds
 * @returns whether anything sounds there
 */
export function readPoint({ phrase, turn }: Sounding, from: number, out: Float32Array): boolean {
  if (!turn) {
    readLoop(phrase, from, out);
    return from + out.length > 0;
  }
  out.fill(0);
  const first = Math.max(0, Math.floor((from - turn.from - phrase.length) / turn.round));
  let sounds = false;
  for (let k = first; turn.from + k * turn.round < from + out.length; k++) {
    const begin = turn.from + k * turn.round - from;
    const skipped = Math.max(0, -begin);
    if (skipped >= phrase.length) continue;
    const to = Math.max(0, begin);
    out.set(phrase.subarray(skipped, Math.min(phrase.length, skipped + out.length - to)), to);
    sounds = true;
  }
  return sounds;
}
