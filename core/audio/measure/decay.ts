import { mean } from 'd3-array';
import { Halved, halvings } from '../signal/halving';
import { plainEngine, type SpectraEngine } from '../signal/spectra';
import { powerOfTwo } from '../signal/spectrum';
import { CLAP_S, decayEvents, type DecayEvent } from './decay-events';

/** One way of reading a decay. */
export interface DecayTime {
  /** s */
  seconds: number;
  /** one standard deviation, s */
  uncertaintyS: number;
}

/** A decay of two slopes: of the room itself first, then of one beside it, a pipe or a platform. */
export interface TwoSlopes {
  /** of the beginning, −5 … −15 dB, and of the end, −25 … −35 dB, s */
  earlyS: number;
  lateS: number;
}

/** The decay of one octave. */
export interface OctaveDecay {
  hz: number;
  /** from the beginning of the decay to the noise, dB; of several the best */
  rangeDb: number;
  edt: DecayTime | null;
  t20: DecayTime | null;
  t30: DecayTime | null;
  /** decays that the time is the mean of */
  events: number;
  twoSlopes: TwoSlopes | null;
  /** why a time is missing; empty where none is */
  refused: string;
}

/** Octaves whose decay is asked for, Hz. */
const DECAY_OCTAVES_HZ = [63, 125, 250, 500, 1000, 2000, 4000, 8000] as const;

/** Range that the noise must leave for each reading, dB: its end and 10 dB more. */
const NEEDS = { edt: 20, t20: 35, t30: 45 } as const;
const SPAN = { edt: [0, -10], t20: [-5, -25], t30: [-5, -35] } as const;
/** Deviation of a single decay read backwards (ISO 3382-2, annex A), with n = 10 for impulses. */
const DEVIATION = { edt: [1.26, 0.55], t20: [0.88, 1.9], t30: [0.55, 1.52] } as const;
/** A clap is as good as so many decays of interrupted noise. */
const EQUAL_DECAYS = 10;
/** What is less certain than this is no figure, part of it. */
const MOST_UNCERTAIN = 0.2;
/** Slopes differ by so much at least before two are spoken of, and by so many deviations. */
const [SLOPES_APART, DEVIATIONS_APART] = [1.25, 3];
/** Ten decibels of a decay are so many times less certain than thirty. */
const THIRD_OF_T30 = 2.5;
/** Where the whole is less certain than this, nothing is said of its parts. */
const LEAST_SURE = 0.05;
const SMOOTH_S = 0.02;
/** So far about the end of a sound the loudest moment of an octave is looked for, s. */
const NEAR_S = 0.06;
/** Or so many times as long as an octave takes to rise. */
const RINGS = 12;

/**
 * One octave of a spectrum: a flat band with raised-cosine skirts of a sixth of an octave, no phase.
 * @param factor by which the rate of the octave's samples is lower: the rest of the spectrum is left out
 */
function octaveOf(
  spectrum: Float32Array,
  size: number,
  hz: number,
  sampleRateHz: number,
  factor: number,
): Float32Array {
  const out = new Float32Array(size / factor + 2);
  const skirt = 1 / 6;
  const bin = (away: number): number => ((hz * 2 ** away) / sampleRateHz) * size;
  const from = Math.max(1, Math.floor(bin(-0.5 - skirt / 2)));
  const to = Math.min(size / 2 - 1, Math.ceil(bin(0.5 + skirt / 2)));
  for (let k = from; k <= to; k++) {
    const octaves = Math.abs(Math.log2((k * sampleRateHz) / size / hz));
    const beyond = (octaves - (0.5 - skirt / 2)) / skirt;
    const gain = beyond <= 0 ? 1 : beyond >= 1 ? 0 : Math.cos((Math.PI / 2) * beyond);
    out[2 * k] = (gain / factor) * (spectrum[2 * k] as number);
    out[2 * k + 1] = (gain / factor) * (spectrum[2 * k + 1] as number);
  }
  return out;
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

/** What is to be measured of several decays in one recording. */
export interface DecayOptions {
  /** one of them, from 0; null: the mean of all */
  event: number | null;
  engine: SpectraEngine;
}

/**
 * Reverberation by octave from the decays in a recording: each from where its sound ends, integrated
 * backwards with the noise taken out; of several the mean. Times that the noise leaves no room for, or that
 * are less certain than a fifth, are refused. Step by step, none of which takes long: whoever takes them can
 * breathe between.
 * @param samples of one channel: claps, shots or interrupted noise and what follows
 * @param sampleRateHz 8000 … 384000 Hz
 * Source: M. R. Schroeder, JASA 37 (1965); ISO 3382-1 (EDT, T20, T30), ISO 3382-2 annexes A and B.
 */
export function* decaySteps(
  samples: Float32Array,
  sampleRateHz: number,
  { event = null, engine = plainEngine }: Partial<DecayOptions> = {},
): Generator<void, OctaveDecay[], undefined> {
  const step = LOWEST * Math.max(1, Math.round((sampleRateHz * 0.001) / LOWEST));
  const all = decayEvents(samples, sampleRateHz);
  const events = event === null ? all : all.slice(event, event + 1);
  yield;
  const each: OneDecay[][] = [];
  for (const one of events) each.push(yield* octavesOf(samples, one, step, sampleRateHz, engine));
  return DECAY_OCTAVES_HZ.filter((hz) => hz * Math.SQRT2 < sampleRateHz / 2).map((hz, band) => {
    const found = each.flatMap((bands) => bands[band] ?? []);
    return averaged(hz, found, events);
  });
}

/** Before an event, so that a filter of no phase has where to ring, s. */
const BEFORE_S = 0.2;

/** The samples of an octave need no more than so many times its centre as their rate; at most so much lower. */
const [RATE_OF_OCTAVE, LOWEST] = [128, 8];

function factorOf(hz: number, sampleRateHz: number): number {
  let factor = LOWEST;
  while (factor > 1 && sampleRateHz / factor < RATE_OF_OCTAVE * hz) factor /= 2;
  return factor;
}

/** What follows a sound for longer than this is another, s. */
const LONGEST_S = 20;

function* octavesOf(
  samples: Float32Array,
  { atS, toS, soundedS }: DecayEvent,
  step: number,
  sampleRateHz: number,
  engine: SpectraEngine,
): Generator<void, OneDecay[], undefined> {
  const first = Math.max(0, Math.floor((atS - BEFORE_S) * sampleRateHz));
  const last = Math.floor(Math.min(toS, atS + LONGEST_S) * sampleRateHz);
  const part = samples.subarray(first, last);
  const spectra = engine.of(powerOfTwo(Math.max(32 * LOWEST, part.length)));
  const spectrum = spectra.forward(part);
  const around = Math.round((atS * sampleRateHz - first) / step);
  const found: OneDecay[] = [];
  for (const hz of DECAY_OCTAVES_HZ.filter((octave) => octave * Math.SQRT2 < sampleRateHz / 2)) {
    yield;
    const factor = factorOf(hz, sampleRateHz);
    const lower = engine.of(spectra.size / factor);
    const band = lower.samples(octaveOf(spectrum, spectra.size, hz, sampleRateHz, factor));
    const of = { hz, stepS: step / sampleRateHz, around, clap: soundedS < CLAP_S };
    const length = Math.floor(part.length / factor);
    found.push(octaveDecay(band, length, step / factor, of));
  }
  return found;
}

/** Decays are read below 12 kHz: higher rates are halved before, Hz. */
const MOST_RATE_HZ = 50_000;

/**
 * One channel as decays are read from it, at a rate of at most 50 kHz.
 * @param sampleRateHz of the recording, 8000 … 384000 Hz
 */
export class DecayTrack {
  readonly rate: number;
  private readonly held: Float32Array;
  private readonly times: number;
  private chain: Halved;
  private filled = 0;

  /** @param seconds that are held of it, 0 … 60 */
  constructor(
    sampleRateHz: number,
    seconds: number,
    private readonly engine: SpectraEngine = plainEngine,
  ) {
    this.times = halvings(sampleRateHz, MOST_RATE_HZ);
    this.rate = sampleRateHz / 2 ** this.times;
    this.chain = new Halved(this.times, engine);
    this.held = new Float32Array(Math.ceil(seconds * this.rate));
  }

  /** @param frames of the samples that count */
  add(samples: Float32Array, frames: number): void {
    this.keep(this.chain.add(samples, frames));
  }

  private keep(lower: Float32Array): void {
    const kept = lower.subarray(0, this.held.length - this.filled);
    this.held.set(kept, this.filled);
    this.filled += kept.length;
  }

  /** From the beginning again, with another channel: what was held is gone. */
  restart(): void {
    this.chain = new Halved(this.times, this.engine);
    this.filled = 0;
  }

  /** What was held; nothing may be added behind it. */
  end(): Float32Array {
    this.keep(this.chain.rest());
    return this.held.subarray(0, this.filled);
  }
}

/** Which octave of what is looked at. */
interface OctaveOf {
  hz: number;
  stepS: number;
  /** step at which the sound ends */
  around: number;
  clap: boolean;
}

/** One decay of an octave. */
interface OneDecay {
  rangeDb: number;
  seconds: Record<keyof typeof NEEDS, number | null>;
  early: number | null;
  late: number | null;
}

/** The mean of several decays, and how certain it is. */
function averaged(
  hz: number,
  found: readonly OneDecay[],
  events: readonly DecayEvent[],
): OctaveDecay {
  const bandwidth = hz / Math.SQRT2;
  const rangeDb = Math.max(0, ...found.map((one) => one.rangeDb));
  const reasons: string[] = [];
  const counts: number[] = [];
  const read = (kind: keyof typeof NEEDS): DecayTime | null => {
    const heard = found.flatMap((one, i) => {
      const seconds = one.seconds[kind];
      return seconds === null ? [] : [{ seconds, clap: (events[i]?.soundedS ?? 0) < CLAP_S }];
    });
    const seconds = mean(heard, (one) => one.seconds);
    if (seconds === undefined) return null;
    counts.push(heard.length);
    const [factor, more] = DEVIATION[kind];
    const decays =
      heard.reduce((sum, { clap }) => sum + (clap ? EQUAL_DECAYS : 1), 0) / heard.length;
    const deviation =
      factor * Math.sqrt((1 + more / decays) / (bandwidth * seconds) / heard.length);
    if (deviation > MOST_UNCERTAIN) {
      reasons.push(
        `${kind.toUpperCase()} would be ${seconds.toFixed(1)} ± ${(seconds * deviation).toFixed(1)} s: too uncertain`,
      );
      return null;
    }
    return { seconds, uncertaintyS: seconds * deviation };
  };
  const times = { edt: read('edt'), t20: read('t20'), t30: read('t30') };
  const missing = (Object.keys(NEEDS) as (keyof typeof NEEDS)[]).filter((kind) =>
    found.every((one) => one.seconds[kind] === null),
  );
  if (found.length === 0) reasons.unshift('nothing that ends and leaves the room to itself');
  else if (missing.length > 0) {
    const wanted = missing.map((kind) => `${NEEDS[kind]} dB for ${kind.toUpperCase()}`).join(', ');
    reasons.unshift(`${rangeDb.toFixed(0)} dB between decay and noise; wanted: ${wanted}`);
  }
  return {
    hz,
    rangeDb,
    ...times,
    events: Math.max(0, ...counts),
    twoSlopes: times.t30 ? twoSlopesOf(found, times.t30) : null,
    refused: reasons.join('; '),
  };
}

/** Two slopes, where chance does not explain the second. */
function twoSlopesOf(found: readonly OneDecay[], t30: DecayTime): TwoSlopes | null {
  const both = found.flatMap(({ early, late }) =>
    early !== null && late !== null ? [{ early, late }] : [],
  );
  const earlyS = mean(both, ({ early }) => early);
  const lateS = mean(both, ({ late }) => late);
  if (earlyS === undefined || lateS === undefined) return null;
  const sure = lateS - earlyS > DEVIATIONS_APART * THIRD_OF_T30 * Math.SQRT2 * t30.uncertaintyS;
  const enough = t30.uncertaintyS < LEAST_SURE * t30.seconds;
  return enough && sure && lateS > SLOPES_APART * earlyS ? { earlyS, lateS } : null;
}

function octaveDecay(
  band: Float32Array,
  length: number,
  step: number,
  { hz, stepS, around, clap }: OctaveOf,
): OneDecay {
  const count = Math.floor(length / step);
  const energies = Float64Array.from({ length: count }, (_, j) => {
    let sum = 0;
    for (let i = j * step; i < (j + 1) * step; i++) sum += (band[i] as number) ** 2;
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
  // The loudest moment of the octave about the end of the sound: a filter may have it earlier or later.
  let start = Math.min(count - 1, around);
  // Noise has no loudest moment: it ends where it ended.
  const near = !clap ? 0 : Math.round(Math.max(NEAR_S, (RINGS * Math.SQRT2) / hz) / stepS);
  for (let j = Math.max(0, around - near); j <= Math.min(count - 1, around + near); j++)
    if (level(j) > level(start)) start = j;
  // The noise is what the last tenth holds.
  const tail = Math.max(1, Math.floor((count - start) * 0.1));
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
  const read = (kind: keyof typeof NEEDS): number | null =>
    rangeDb < NEEDS[kind] ? null : (slope(decibels, stepS, SPAN[kind])?.seconds ?? null);
  const seconds = { edt: read('edt'), t20: read('t20'), t30: read('t30') };
  const part = (from: number, to: number): number | null =>
    seconds.t30 === null ? null : (slope(decibels, stepS, [from, to])?.seconds ?? null);
  return { rangeDb, seconds, early: part(-5, -15), late: part(-25, -35) };
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
