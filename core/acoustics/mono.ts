import { powerDb } from '../units/guard';

/** Mono sum of one source that reaches two channels. */
export interface MonoSum {
  /** Lowest frequency above zero at which the sum is weakest, Hz; null without a time difference. */
  firstNotchHz: number | null;
  /** Peak-to-dip ratio of the comb, dB, at most 60; 0 without a time difference. */
  combDb: number;
  /** Level of the mono sum against the power sum of both channels, mean of third octaves, dB. */
  sumDb: number;
}

/** Exact third-octave centres 100 Hz … 10 kHz (IEC 61260 base-ten series). */
const BANDS_HZ = Array.from({ length: 21 }, (_, i) => 1000 * 10 ** ((i - 10) / 10));
const BAND_EDGE = 10 ** 0.05;
const COMB_LIMIT_DB = 60;

/** Mean of cos 2πfτ over the band between two frequencies. */
function meanCosine(low: number, high: number, tauS: number): number {
  const a = 2 * Math.PI * low * tauS;
  const b = 2 * Math.PI * high * tauS;
  return b - a < 1e-9 ? Math.cos(a) : (Math.sin(b) - Math.sin(a)) / (b - a);
}

/**
 * What is left of a source when both channels are added.
 * |H(f)|² = g_L² + g_R² + 2·g_L·g_R·cos 2πfτ.
 * @param left signed gain in the left channel
 * @param right signed gain in the right channel
 * @param tauMs time difference between the channels, ms, either sign
 */
export function monoSum(left: number, right: number, tauMs: number): MonoSum {
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

function averageCosine(tauS: number): number {
  let sum = 0;
  for (const f of BANDS_HZ) sum += meanCosine(f / BAND_EDGE, f * BAND_EDGE, tauS);
  return sum / BANDS_HZ.length;
}
