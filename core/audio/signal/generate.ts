import { inRange } from '../../units/guard';
import { seededRandom } from '../../units/random';
import type { Planes } from '../wav/decode';

/** What a test signal is made of. */
export interface SignalOptions {
  sampleRateHz: number;
  /** 0.01 … 600 s */
  seconds: number;
  seed: number;
  /** of tones, Hz */
  hz: number;
  /** level of tones and noise against full scale, dB */
  levelDb: number;
  /** of one channel behind the other, ms, −100 … 100; fractions of a sample are kept */
  delayMs: number;
  /** likeness of both channels, −1 … 1 */
  correlation: number;
  /** reverberation time of a decay, s */
  rt60S: number;
  /** noise under a decay, against full scale, dB */
  noiseDb: number;
}

export const USUAL_SIGNAL: SignalOptions = {
  sampleRateHz: 48_000,
  seconds: 5,
  seed: 1,
  hz: 1000,
  levelDb: -20,
  delayMs: 1,
  correlation: 0.5,
  rt60S: 1,
  noiseDb: -120,
};

const gainOf = (db: number): number => 10 ** (db / 20);

/**
 * Gaussian noise of power 1, the same for the same seed.
 * @param length 0 … 2^28 samples
 * @throws RangeError where length is outside 0 … 2^28
 */
export function whiteNoise(length: number, seed: number): Float32Array {
  inRange('length', length, 0, 2 ** 28);
  const random = seededRandom(seed);
  const noise = new Float32Array(length);
  for (let i = 0; i < length; i += 2) {
    const radius = Math.sqrt(-2 * Math.log(1 - random()));
    const angle = 2 * Math.PI * random();
    noise[i] = radius * Math.cos(angle);
    if (i + 1 < length) noise[i + 1] = radius * Math.sin(angle);
  }
  return noise;
}

/**
 * Noise that falls 3 dB an octave, power about 1.
 * Source: the filter of P. Kellet, within 0.05 dB from 9 Hz to Nyquist at 44.1 kHz.
 * @param length 0 … 2^28 samples
 */
export function pinkNoise(length: number, seed: number): Float32Array {
  const noise = whiteNoise(length, seed);
  let [a, b, c, d, e, f, g] = [0, 0, 0, 0, 0, 0, 0];
  for (let i = 0; i < length; i++) {
    const white = noise[i] ?? 0;
    a = 0.99886 * a + white * 0.0555179;
    b = 0.99332 * b + white * 0.0750759;
    c = 0.969 * c + white * 0.153852;
    d = 0.8665 * d + white * 0.3104856;
    e = 0.55 * e + white * 0.5329522;
    f = -0.7616 * f - white * 0.016898;
    noise[i] = (a + b + c + d + e + f + g + white * 0.5362) * 0.33;
    g = white * 0.115926;
  }
  return noise;
}

const SINC_TAPS = 64;

/**
 * A signal so much later, between samples as well: windowed sinc of 64 taps.
 * @param samples to be delayed
 * @param delay in samples, 0 or a fraction as well, negative earlier
 * @returns as long as it was; what is pushed out is lost, what is missing is zero
 */
export function delayed(samples: Float32Array, delay: number): Float32Array {
  const whole = Math.floor(delay);
  const fraction = delay - whole;
  const taps = Float64Array.from({ length: SINC_TAPS }, (_, k) => {
    const x = k - SINC_TAPS / 2 + 1 - fraction;
    const window = 0.5 + 0.5 * Math.cos((Math.PI * x) / (SINC_TAPS / 2));
    return x === 0 ? 1 : (Math.sin(Math.PI * x) / (Math.PI * x)) * window;
  });
  const out = new Float32Array(samples.length);
  for (let i = 0; i < samples.length; i++) {
    if (fraction === 0) {
      out[i] = samples[i - whole] ?? 0;
      continue;
    }
    let sum = 0;
    for (let k = 0; k < SINC_TAPS; k++) {
      sum += (taps[k] ?? 0) * (samples[i - whole - (k - SINC_TAPS / 2 + 1)] ?? 0);
    }
    out[i] = sum;
  }
  return out;
}

const scaled = (samples: Float32Array, gain: number): Float32Array =>
  samples.map((sample) => sample * gain);

function tone({ sampleRateHz, hz, levelDb }: SignalOptions, frames: number): Float32Array {
  const fade = Math.min(frames / 2, sampleRateHz * 0.01);
  const gain = gainOf(levelDb);
  return Float32Array.from({ length: frames }, (_, i) => {
    const edge = Math.min(1, i / fade, (frames - 1 - i) / fade);
    return gain * edge * Math.sin((2 * Math.PI * hz * i) / sampleRateHz);
  });
}

/** Short bursts of noise once a second, as hands make them. */
function claps({ sampleRateHz, seed, levelDb }: SignalOptions, frames: number): Float32Array {
  const noise = whiteNoise(frames, seed);
  const gain = gainOf(levelDb);
  return noise.map((sample, i) => {
    const sinceS = ((i + sampleRateHz / 2) % sampleRateHz) / sampleRateHz;
    return sample * gain * Math.exp(-sinceS / 0.004);
  });
}

function decay(
  { sampleRateHz, seed, levelDb, rt60S, noiseDb }: SignalOptions,
  frames: number,
): Float32Array {
  const noise = whiteNoise(frames, seed);
  const under = whiteNoise(frames, seed + 104_729);
  const [gain, floor] = [gainOf(levelDb), gainOf(noiseDb)];
  return noise.map(
    (sample, i) =>
      sample * gain * 10 ** ((-3 * i) / sampleRateHz / rt60S) + floor * (under[i] ?? 0),
  );
}

type Maker = (options: SignalOptions, frames: number) => Planes;

const noiseOf = (o: SignalOptions, frames: number): Float32Array =>
  scaled(pinkNoise(frames, o.seed), gainOf(o.levelDb));
const late = ({ delayMs, sampleRateHz }: SignalOptions): number => (delayMs / 1000) * sampleRateHz;

/** The signals by name, each of two channels but for the single ones. */
const SIGNALS = {
  identical: (o, n) => [noiseOf(o, n), noiseOf(o, n)],
  inverted: (o, n) => [noiseOf(o, n), scaled(noiseOf(o, n), -1)],
  'one-sample-late': (o, n) => [noiseOf(o, n), delayed(noiseOf(o, n), 1)],
  delayed: (o, n) => [noiseOf(o, n), delayed(noiseOf(o, n), late(o))],
  correlated: (o, n) => {
    const first = noiseOf(o, n);
    const other = noiseOf({ ...o, seed: o.seed + 7919 }, n);
    const rest = Math.sqrt(Math.max(0, 1 - o.correlation ** 2));
    return [first, first.map((value, i) => o.correlation * value + rest * (other[i] ?? 0))];
  },
  tone: (o, n) => [tone(o, n), tone(o, n)],
  'tone-mono': (o, n) => [tone(o, n)],
  pink: (o, n) => [noiseOf(o, n)],
  white: (o, n) => [scaled(whiteNoise(n, o.seed), gainOf(o.levelDb))],
  decay: (o, n) => [decay(o, n)],
  claps: (o, n) => [claps(o, n), delayed(claps(o, n), late(o))],
  silence: (_, n) => [new Float32Array(n), new Float32Array(n)],
} satisfies Record<string, Maker>;

export type SignalName = keyof typeof SIGNALS;
export const SIGNAL_NAMES = Object.keys(SIGNALS) as SignalName[];

/**
 * A test signal, the same for the same seed.
 * @param change of the usual: 48 kHz, 5 s, seed 1, 1 kHz, −20 dB, 1 ms, correlation 0.5, 1 s over noise of
 *   −120 dB
 * @throws RangeError where sampleRateHz is outside 1000 … 384000 Hz, seconds is outside 0.01 … 600 s,
 *   correlation is outside −1 … 1, delayMs is outside −100 … 100 ms, rt60S is outside 0.05 … 20 s,
 *   hz is outside 1 … 192000 Hz, levelDb is outside −120 … 0 dB, noiseDb is outside −200 … 0 dB
 */
export function makeSignal(name: SignalName, change: Partial<SignalOptions> = {}): Planes {
  const options = { ...USUAL_SIGNAL, ...change };
  inRange('sampleRateHz', options.sampleRateHz, 1000, 384_000, 'Hz');
  inRange('seconds', options.seconds, 0.01, 600, 's');
  inRange('correlation', options.correlation, -1, 1);
  inRange('delayMs', options.delayMs, -100, 100, 'ms');
  inRange('rt60S', options.rt60S, 0.05, 20, 's');
  inRange('hz', options.hz, 1, 192_000, 'Hz');
  inRange('levelDb', options.levelDb, -120, 0, 'dB');
  inRange('noiseDb', options.noiseDb, -200, 0, 'dB');
  return SIGNALS[name](options, Math.round(options.seconds * options.sampleRateHz));
}
