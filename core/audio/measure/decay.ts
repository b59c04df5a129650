import { spectrumOf, powerOfTwo, transformOf } from '../signal/spectrum';

/** One way of reading a decay. */
export interface DecayTime {
  /** s */
  seconds: number;
  /** one standard deviation, s */
  uncertaintyS: number;
}

/** The decay of one octave. */
export interface OctaveDecay {
  hz: number;
  /** from the beginning of the decay to the noise, dB */
  rangeDb: number;
  edt: DecayTime | null;
  t20: DecayTime | null;
  t30: DecayTime | null;
  /** why a time is missing; empty where none is */
  refused: string;
}

/** Octaves whose decay is asked for, Hz. */
export const DECAY_OCTAVES_HZ = [63, 125, 250, 500, 1000, 2000, 4000, 8000] as const;

/** Range that the noise must leave for each reading, dB: its end and 10 dB more. */
const NEEDS = { edt: 20, t20: 35, t30: 45 } as const;
const SPAN = { edt: [0, -10], t20: [-5, -25], t30: [-5, -35] } as const;
/** Deviation of a single decay read backwards (ISO 3382-2, annex A), with n = 10 for impulses. */
const DEVIATION = { edt: [1.26, 0.55], t20: [0.88, 1.9], t30: [0.55, 1.52] } as const;
const EQUAL_DECAYS = 10;
const SMOOTH_S = 0.02;

/** One octave of a signal: a flat band with raised-cosine skirts of a sixth of an octave, no phase. */
function octaveOf(
  spectrum: Float64Array,
  size: number,
  hz: number,
  sampleRateHz: number,
): Float64Array {
  const out = new Float64Array(spectrum.length);
  const skirt = 1 / 6;
  for (let k = 1; k < size / 2; k++) {
    const octaves = Math.abs(Math.log2((k * sampleRateHz) / size / hz));
    const beyond = (octaves - (0.5 - skirt / 2)) / skirt;
    const gain = beyond <= 0 ? 1 : beyond >= 1 ? 0 : Math.cos((Math.PI / 2) * beyond);
    if (gain === 0) continue;
    for (const [at, sign] of [
      [2 * k, 1],
      [2 * (size - k), 1],
    ] as const) {
      out[at] = sign * gain * (spectrum[at] ?? 0);
      out[at + 1] = sign * gain * (spectrum[at + 1] ?? 0);
    }
  }
  const samples = new Float64Array(size * 2);
  transformOf(size).inverseTransform(samples, out);
  return samples;
}

interface Read {
  seconds: number;
}

/** A straight line through a decay between two levels. */
function slope(
  curve: Float64Array,
  stepS: number,
  [from, to]: readonly [number, number],
): Read | null {
  let [n, sx, sy, sxx, sxy] = [0, 0, 0, 0, 0];
  for (let i = 0; i < curve.length; i++) {
    const y = curve[i] ?? -999;
    if (y > from) continue;
    if (y < to) break;
    const x = i * stepS;
    n += 1;
    sx += x;
    sy += y;
    sxx += x * x;
    sxy += x * y;
  }
  const width = n * sxx - sx * sx;
  if (n < 3 || !(width > 0)) return null;
  const perSecond = (n * sxy - sx * sy) / width;
  return perSecond < 0 ? { seconds: -60 / perSecond } : null;
}

/**
 * Reverberation by octave from the decay in a recording: from its loudest moment on, integrated
 * backwards with the noise taken out. Times that the noise leaves no room for are refused.
 * @param samples of one channel, a clap, a shot or interrupted noise and what follows
 * @param sampleRateHz 8000 … 384000 Hz
 * Source: M. R. Schroeder, JASA 37 (1965); ISO 3382-1 (EDT, T20, T30), ISO 3382-2 annex A.
 */
export function decayTimes(samples: Float32Array, sampleRateHz: number): OctaveDecay[] {
  const size = powerOfTwo(samples.length);
  const spectrum = spectrumOf(samples, size);
  const step = Math.max(1, Math.round(sampleRateHz * 0.001));
  return DECAY_OCTAVES_HZ.filter((hz) => hz * Math.SQRT2 < sampleRateHz / 2).map((hz) =>
    octaveDecay(octaveOf(spectrum, size, hz, sampleRateHz), samples.length, step, hz, sampleRateHz),
  );
}

function octaveDecay(
  band: Float64Array,
  length: number,
  step: number,
  hz: number,
  sampleRateHz: number,
): OctaveDecay {
  const stepS = step / sampleRateHz;
  const count = Math.floor(length / step);
  const energies = Float64Array.from({ length: count }, (_, j) => {
    let sum = 0;
    for (let i = j * step; i < (j + 1) * step; i++) sum += (band[2 * i] ?? 0) ** 2;
    return sum / step;
  });
  const smooth = Math.max(1, Math.round(SMOOTH_S / stepS));
  const level = (j: number): number => {
    let [sum, n] = [0, 0];
    for (let i = Math.max(0, j - smooth); i <= Math.min(count - 1, j + smooth); i++) {
      sum += energies[i] ?? 0;
      n += 1;
    }
    return sum / Math.max(1, n);
  };
  let start = 0;
  for (let j = 0; j < count; j++) if (level(j) > level(start)) start = j;
  // The noise is what the last tenth holds.
  const tail = Math.max(1, Math.floor(count * 0.1));
  const noise = energies.subarray(count - tail).reduce((sum, value) => sum + value, 0) / tail;
  const top = level(start);
  const rangeDb = top > 0 ? 10 * Math.log10(top / Math.max(noise, top * 1e-12)) : 0;
  // Down to where the decay comes within 5 dB of the noise.
  let end = start;
  while (end < count - 1 && level(end) > noise * 10 ** 0.5) end += 1;
  const curve = new Float64Array(Math.max(0, end - start));
  // What lies beyond goes on falling as the last 10 dB above do.
  const last = fallFrom(energies, start, end, stepS);
  let sum = last > 0 ? (Math.max(0, level(end) - noise) * last) / (6 * Math.LN10) / stepS : 0;
  for (let j = end - 1; j >= start; j--) {
    sum += Math.max(0, (energies[j] ?? 0) - noise);
    curve[j - start] = sum;
  }
  const whole = curve[0] ?? 0;
  const decibels = curve.map((value) =>
    whole > 0 ? 10 * Math.log10(value / whole + 1e-300) : -999,
  );
  const bandwidth = hz / Math.SQRT2;
  const read = (kind: keyof typeof NEEDS): DecayTime | null => {
    if (rangeDb < NEEDS[kind]) return null;
    const line = slope(decibels, stepS, SPAN[kind]);
    if (!line) return null;
    const [factor, more] = DEVIATION[kind];
    const deviation = factor * Math.sqrt((1 + more / EQUAL_DECAYS) / (bandwidth * line.seconds));
    return { seconds: line.seconds, uncertaintyS: line.seconds * deviation };
  };
  const times = { edt: read('edt'), t20: read('t20'), t30: read('t30') };
  const missing = (Object.keys(NEEDS) as (keyof typeof NEEDS)[]).filter((kind) => !times[kind]);
  return {
    hz,
    rangeDb,
    ...times,
    refused:
      missing.length === 0
        ? ''
        : `${rangeDb.toFixed(0)} dB between decay and noise; wanted: ${missing
            .map((kind) => `${NEEDS[kind]} dB for ${kind.toUpperCase()}`)
            .join(', ')}`,
  };
}

/** Time of 60 dB by the later half of a decay, s; 0 where it cannot be told. */
function fallFrom(energies: Float64Array, start: number, end: number, stepS: number): number {
  const middle = Math.floor((start + end) / 2);
  const mean = (from: number, to: number): number =>
    energies.subarray(from, to).reduce((sum, value) => sum + value, 0) / Math.max(1, to - from);
  const part = Math.floor((end - middle) / 2);
  if (part < 2) return 0;
  const [early, late] = [mean(middle, middle + part), mean(middle + part, end)];
  if (!(late > 0) || late >= early) return 0;
  return (60 * part * stepS) / (10 * Math.log10(early / late));
}
