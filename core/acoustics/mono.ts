import { inRange, powerDb } from '../units/guard';

/** Mono sum of one source that reaches two channels. */
export interface MonoSum {
  /** Lowest frequency above zero at which the sum is weakest, Hz; null without a time difference. */
  firstNotchHz: number | null;
  /** Peak-to-dip ratio of the comb, dB, at most 60; 0 without a time difference. */
  combDb: number;
  /** Level of the mono sum against the power sum of both channels, mean of third octaves, dB. */
  sumDb: number;
}

/** Edges of the third octaves 100 Hz … 10 kHz (IEC 61260 base-ten series); bands share them. */
const EDGES_HZ = Array.from({ length: 22 }, (_, i) => 1000 * 10 ** ((i - 10.5) / 10));
const LAST_EDGE_HZ = EDGES_HZ[EDGES_HZ.length - 1] ?? 0;
/** One over the width of the band below each edge less that of the band above, by their number. */
const EDGE_WEIGHTS = EDGES_HZ.map((edge, i) => {
  const [below, above] = [EDGES_HZ[i - 1], EDGES_HZ[i + 1]];
  const rise = below === undefined ? 0 : 1 / (edge - below);
  return (rise - (above === undefined ? 0 : 1 / (above - edge))) / (EDGES_HZ.length - 1);
});
const COMB_LIMIT_DB = 60;

/** Largest gain and time difference of any two channels of a session. */
const MOST_GAIN = 1e6;
const MOST_MS = 5000;

function checkChannels(left: number, right: number, tauMs: number): void {
  inRange('left', left, -MOST_GAIN, MOST_GAIN);
  inRange('right', right, -MOST_GAIN, MOST_GAIN);
  inRange('tauMs', tauMs, -MOST_MS, MOST_MS, 'ms');
}

/**
 * What is left of a source when both channels are added.
 * Source: linear superposition, |H(f)|² = g_L² + g_R² + 2·g_L·g_R·cos 2πfτ.
 * @param left signed gain in the left channel
 * @param right signed gain in the right channel
 * @param tauMs time difference between the channels, ms, either sign
 * @throws RangeError where a gain is beyond ±10⁶ or tauMs beyond ±5000 ms
 */
export function monoSum(left: number, right: number, tauMs: number): MonoSum {
  checkChannels(left, right, tauMs);
  const tauS = Math.abs(tauMs) / 1000;
  const power = left * left + right * right;
  const product = 2 * left * right;
  const comb = tauS > 1e-7 && product !== 0;
  return {
    firstNotchHz: comb ? (product > 0 ? 0.5 : 1) / tauS : null,
    combDb: comb ? combDepthDb(Math.abs(left), Math.abs(right)) : 0,
    sumDb: power > 0 ? powerDb(1 + (product / power) * averageCosine(tauS)) : 0,
  };
}

function combDepthDb(a: number, b: number): number {
  const q = Math.min(a, b) / Math.max(a, b);
  return q >= 1 ? COMB_LIMIT_DB : Math.min(COMB_LIMIT_DB, 20 * Math.log10((1 + q) / (1 - q)));
}

/** Mean of cos 2πfτ over each third octave, in closed form: the bands share their edges' sines. */
export function bandCosines(tauS: number): Float64Array {
  const means = new Float64Array(EDGES_HZ.length - 1).fill(1);
  const turn = 2 * Math.PI * tauS;
  if (turn * LAST_EDGE_HZ < 1e-6) return means;
  let lowHz = EDGES_HZ[0] ?? 0;
  let sineLow = Math.sin(turn * lowHz);
  for (let i = 1; i < EDGES_HZ.length; i++) {
    const highHz = EDGES_HZ[i] ?? 0;
    const sineHigh = Math.sin(turn * highHz);
    means[i - 1] = (sineHigh - sineLow) / (turn * (highHz - lowHz));
    lowHz = highHz;
    sineLow = sineHigh;
  }
  return means;
}

/**
 * Mean over the third octaves of cos 2πfτ, −1 … 1: how far two equal waves add or cancel.
 * Neighbours share an edge, so each edge's sine is taken once, weighted.
 * @param tauS time between them, s, 0 and more
 */
export function averageCosine(tauS: number): number {
  const at = tauS / TABLE_STEP_S;
  if (at >= TABLE_SIZE) return averageAt(tauS).value;
  const { values, slopes } = (table ??= tabulated());
  const i = Math.floor(at);
  const t = at - i;
  const a = values[i] ?? 1;
  const b = values[i + 1] ?? 1;
  const [atA, atB] = [slopes[i] ?? 0, slopes[i + 1] ?? 0];
  // Cubic between two places of which value and slope are known: right to 10⁻⁸.
  const [away, back] = [t * t * (3 - 2 * t), t * (1 - t)];
  return a + (b - a) * away + TABLE_STEP_S * back * ((1 - t) * atA - t * atB);
}

/** The mean and its slope per second, as they are. */
function averageAt(tauS: number): { value: number; slope: number } {
  const turn = 2 * Math.PI * tauS;
  if (turn * LAST_EDGE_HZ < 1e-4) return { value: 1, slope: 0 };
  let [sum, rise] = [0, 0];
  for (let i = 0; i < EDGES_HZ.length; i++) {
    const [weight, hz] = [EDGE_WEIGHTS[i] ?? 0, EDGES_HZ[i] ?? 0];
    sum += weight * Math.sin(turn * hz);
    rise += weight * hz * Math.cos(turn * hz);
  }
  const value = sum / turn;
  return { value, slope: (rise - value) / tauS };
}

const TABLE_STEP_S = 2e-6;
const TABLE_SIZE = 2500;
let table: { values: Float64Array; slopes: Float64Array } | null = null;

/** Made when it is first asked for: all time differences of a pair up to 1.7 m. */
function tabulated(): { values: Float64Array; slopes: Float64Array } {
  const values = new Float64Array(TABLE_SIZE + 1);
  const slopes = new Float64Array(TABLE_SIZE + 1);
  for (let i = 0; i <= TABLE_SIZE; i++) {
    const { value, slope } = averageAt(i * TABLE_STEP_S);
    values[i] = value;
    slopes[i] = slope;
  }
  return { values, slopes };
}

/** Third-octave centres of the mono response, Hz. */
export const THIRD_OCTAVES_HZ: readonly number[] = Array.from(
  { length: EDGES_HZ.length - 1 },
  (_, i) => 1000 * 10 ** ((i - 10) / 10),
);

/** Mono response of one source in third octaves, dB against the power sum of both channels. */
export interface MonoBand {
  frequencyHz: number;
  levelDb: number;
}
