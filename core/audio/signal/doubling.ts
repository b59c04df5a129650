import { kaiser, sinc } from './kaiser';

/** Taps on one side of a place half way between two samples, falling to −100 dB beside. */
function half(taps: number): Float64Array {
  const places = Float64Array.from({ length: taps }, (_, k) => k + 0.5);
  const found = places.map((x) => sinc(x) * kaiser(x / taps, 10));
  const sum = 2 * found.reduce((total, tap) => total + tap, 0);
  return found.map((tap) => tap / sum);
}

/** For what reaches to 0.4 of the old rate, and for what reaches to 0.2 of it. */
const STEEP = half(20);
const SHORT = half(8);

/** At twice the rate: from the sample at `from` on; what is missing on either side is silence. */
function doubled(samples: Float32Array, from: number, frames: number, taps: Float64Array) {
  const out = new Float32Array(frames);
  const count = taps.length;
  // Inside, every tap finds a sample.
  const plain = Math.min(frames, 2 * Math.max(0, samples.length - count - from));
  for (let j = 0, i = from; j < frames; j += 2, i++) {
    out[j] = samples[i] ?? 0;
    if (j + 1 >= frames) break;
    let sum = 0;
    if (j < plain && i >= count) {
      for (let k = 0; k < count; k++) {
        sum += (taps[k] as number) * ((samples[i - k] as number) + (samples[i + 1 + k] as number));
      }
    } else {
      taps.forEach((tap, k) => {
        sum += tap * ((samples[i - k] ?? 0) + (samples[i + 1 + k] ?? 0));
      });
    }
    out[j + 1] = sum;
  }
  return out;
}

/** Samples at a quarter of a rate that are wanted before the first and behind the last one, so that both are whole. */
export const BESIDE_QUARTER = STEEP.length + Math.ceil(SHORT.length / 2);

/**
 * A wave from a quarter of a rate at the whole of it, within −94 dB.
 * @param quarter its samples, BESIDE_QUARTER of them before the first; holds nothing above 0.4 of its rate
 * @param frames that are wanted, 0 and more
 * Source: half-band filters in two steps (R. E. Crochiere, L. R. Rabiner, "Multirate Digital Signal Processing", 1983, ch. 4).
 */
export function fourfold(quarter: Float32Array, frames: number): Float32Array {
  const ahead = SHORT.length + (SHORT.length % 2);
  const twice = doubled(
    quarter,
    BESIDE_QUARTER - ahead / 2,
    Math.ceil(frames / 2) + 2 * ahead,
    STEEP,
  );
  return doubled(twice, ahead, frames, SHORT);
}
