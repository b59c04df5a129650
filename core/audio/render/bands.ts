import { bandWeight } from './decays';

/** The lowest centre, Hz. */
const LOWEST_HZ = 62.5;

/** A band of a spectrum. */
export interface Band {
  hz: number;
  /** bins of the transform, and the weight of each: neighbours add up to one */
  from: number;
  weights: Float32Array;
}

/**
 * Bands from 62.5 Hz up that share out all bins of a transform.
 * @param size of the transform
 * @param sampleRateHz 8000 … 192000 Hz
 * @param step from one centre to the next, 2 for octaves
 * @param skirt half the width over which neighbours change places, of a step, up to 0.5
 */
export function bandsOf(
  size: number,
  sampleRateHz: number,
  step: number,
  skirt: number,
): readonly Band[] {
  const key = `${size} ${sampleRateHz} ${step} ${skirt}`;
  const known = made.get(key);
  if (known) return known;
  const bands = makeBands(size, sampleRateHz, step, skirt);
  if (made.size >= MOST_KEPT) made.clear();
  made.set(key, bands);
  return bands;
}

/** Bands go by no hall: they are made once. */
const made = new Map<string, readonly Band[]>();
const MOST_KEPT = 8;

function makeBands(size: number, sampleRateHz: number, step: number, skirt: number): Band[] {
  const binHz = sampleRateHz / size;
  const centres: number[] = [];
  for (let hz = LOWEST_HZ; hz < sampleRateHz / 2; hz *= step) centres.push(hz);
  return centres.map((hz, i) => {
    const [lowest, highest] = [i === 0, i === centres.length - 1];
    const from = lowest ? 0 : Math.ceil(hz / step / binHz);
    const to = highest ? size / 2 : Math.min(size / 2, Math.floor((hz * step) / binHz));
    const weights = new Float32Array(Math.max(0, to - from + 1)).fill(1);
    for (let k = 0; k < weights.length; k++) {
      const at = (from + k) * binHz;
      if ((lowest && at <= hz) || (highest && at >= hz)) continue;
      weights[k] = bandWeight(Math.abs(Math.log(at / hz)) / Math.log(step), skirt);
    }
    return { hz, from, weights };
  });
}
