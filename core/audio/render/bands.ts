import type { Band } from '../signal/spectra';
import { bandWeight, type Edge } from './decays';

/** The lowest centre, Hz. */
const LOWEST_HZ = 62.5;

/**
 * Bands from 62.5 Hz up that share out all bins of a transform.
 * @param size of the transform
 * @param sampleRateHz 8000 … 192000 Hz
 * @param step from one centre to the next, 2 for octaves
 * @param skirt half the width over which neighbours change places, of a step, up to 0.5
 * @param edges above each band, where they are not half way to its neighbour, or wider
 */
export function bandsOf(
  size: number,
  sampleRateHz: number,
  step: number,
  skirt: number,
  edges: readonly Edge[] = [],
): readonly Band[] {
  const key = `${size} ${sampleRateHz} ${step} ${skirt} ${JSON.stringify(edges)}`;
  const known = made.get(key);
  if (known) return known;
  const bands = makeBands(size, sampleRateHz, step, skirt, edges);
  if (made.size >= MOST_KEPT) made.clear();
  made.set(key, bands);
  return bands;
}

/** Few halls are heard at a time: their bands are made once. */
const made = new Map<string, readonly Band[]>();
const MOST_KEPT = 8;

/** Centres of bands from 62.5 Hz up to half a rate, Hz. */
export function centresOf(sampleRateHz: number, step: number): number[] {
  const centres: number[] = [];
  for (let hz = LOWEST_HZ; hz < sampleRateHz / 2; hz *= step) centres.push(hz);
  return centres;
}

function makeBands(
  size: number,
  sampleRateHz: number,
  step: number,
  skirt: number,
  edges: readonly Edge[],
): Band[] {
  const binHz = sampleRateHz / size;
  const centres = centresOf(sampleRateHz, step);
  return centres.map((hz, i) => {
    const [lowest, highest] = [i === 0, i === centres.length - 1];
    const from = lowest ? 0 : Math.ceil(hz / step / binHz);
    const to = highest ? size / 2 : Math.min(size / 2, Math.floor((hz * step) / binHz));
    const weights = new Float32Array(Math.max(0, to - from + 1)).fill(1);
    for (let k = 0; k < weights.length; k++) {
      const at = (from + k) * binHz;
      if ((lowest && at <= hz) || (highest && at >= hz)) continue;
      const off = Math.log(at / hz) / Math.log(step);
      const edge = off < 0 ? edges[i - 1] : edges[i];
      weights[k] = bandWeight(Math.abs(off - (edge?.shift ?? 0)), edge?.skirt ?? skirt);
    }
    return { hz, from, weights };
  });
}
