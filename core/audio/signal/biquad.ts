import { inRange } from '../../units/guard';

/** A second-order section in direct form, a0 = 1. */
export interface Biquad {
  b0: number;
  b1: number;
  b2: number;
  a1: number;
  a2: number;
}

/** A filter of one channel. */
export interface FilterSetting {
  kind: 'high-pass' | 'low-pass' | 'peak' | 'low shelf' | 'high shelf';
  hz: number;
  /** of peaks and shelves, −24 … 24 dB */
  gainDb: number;
  /** 0.1 … 20; 0.7071 for the flattest pass */
  q: number;
}

/**
 * A second-order section for a filter.
 * @throws RangeError where hz is outside 1 Hz … just below half the rate, gainDb outside −24 … 24 dB, q
 * outside 0.1 … 20
 * Source: R. Bristow-Johnson, "Cookbook formulae for audio equalizer biquad filter coefficients".
 */
export function biquadFor({ kind, hz, gainDb, q }: FilterSetting, sampleRateHz: number): Biquad {
  inRange('hz', hz, 1, sampleRateHz * 0.499, 'Hz');
  inRange('gainDb', gainDb, -24, 24, 'dB');
  inRange('q', q, 0.1, 20);
  const w = (2 * Math.PI * hz) / sampleRateHz;
  const [cos, alpha] = [Math.cos(w), Math.sin(w) / (2 * q)];
  const a = 10 ** (gainDb / 40);
  const over = (b: [number, number, number], c: [number, number, number]): Biquad => ({
    b0: b[0] / c[0],
    b1: b[1] / c[0],
    b2: b[2] / c[0],
    a1: c[1] / c[0],
    a2: c[2] / c[0],
  });
  const plain: [number, number, number] = [1 + alpha, -2 * cos, 1 - alpha];
  if (kind === 'high-pass') return over([(1 + cos) / 2, -(1 + cos), (1 + cos) / 2], plain);
  if (kind === 'low-pass') return over([(1 - cos) / 2, 1 - cos, (1 - cos) / 2], plain);
  if (kind === 'peak') {
    return over([1 + alpha * a, -2 * cos, 1 - alpha * a], [1 + alpha / a, -2 * cos, 1 - alpha / a]);
  }
  const slope = 2 * Math.sqrt(a) * alpha;
  // A shelf from below is that from above with the other sign of the cosine.
  const side = kind === 'low shelf' ? 1 : -1;
  return over(
    [
      a * (a + 1 - side * (a - 1) * cos + slope),
      2 * a * side * (a - 1 - side * (a + 1) * cos),
      a * (a + 1 - side * (a - 1) * cos - slope),
    ],
    [
      a + 1 + side * (a - 1) * cos + slope,
      -2 * side * (a - 1 + side * (a + 1) * cos),
      a + 1 + side * (a - 1) * cos - slope,
    ],
  );
}

/** One section over one channel, its memory kept from block to block. */
export class Filtered {
  private s1 = 0;
  private s2 = 0;

  constructor(private readonly section: Biquad) {}

  /** Filters in place. @param frames that count */
  apply(samples: Float32Array, frames: number): void {
    const { b0, b1, b2, a1, a2 } = this.section;
    let { s1, s2 } = this;
    for (let i = 0; i < frames; i++) {
      const x = samples[i] as number;
      const y = b0 * x + s1;
      s1 = b1 * x - a1 * y + s2;
      s2 = b2 * x - a2 * y;
      samples[i] = y;
    }
    // What is below every figure would only slow it down.
    this.s1 = Math.abs(s1) < 1e-30 ? 0 : s1;
    this.s2 = Math.abs(s2) < 1e-30 ? 0 : s2;
  }
}
