import type { Biquad } from '../signal/biquad';

/** The two filters of the K weighting as analogue prototypes: exact at 48 kHz, the same elsewhere. */
const SHELF = { hz: 1681.974450955533, gainDb: 3.999843853973347, q: 0.7071752369554196 };
const HIGH_PASS = { hz: 38.13547087602444, q: 0.5003270373238773 };
const SHELF_SLOPE = 0.4996667741545416;

/**
 * The K weighting at a sample rate: a shelf for the head, then a high-pass.
 * @param sampleRateHz 8000 Hz and more
 * Source: ITU-R BS.1770-4 annex 1, tables 1 and 2 (48 kHz), by the bilinear transform elsewhere.
 */
export function kWeighting(sampleRateHz: number): [Biquad, Biquad] {
  const k = Math.tan((Math.PI * SHELF.hz) / sampleRateHz);
  const vh = 10 ** (SHELF.gainDb / 20);
  const vb = vh ** SHELF_SLOPE;
  const a0 = 1 + k / SHELF.q + k * k;
  const shelf: Biquad = {
    b0: (vh + (vb * k) / SHELF.q + k * k) / a0,
    b1: (2 * (k * k - vh)) / a0,
    b2: (vh - (vb * k) / SHELF.q + k * k) / a0,
    a1: (2 * (k * k - 1)) / a0,
    a2: (1 - k / SHELF.q + k * k) / a0,
  };
  const h = Math.tan((Math.PI * HIGH_PASS.hz) / sampleRateHz);
  const c0 = 1 + h / HIGH_PASS.q + h * h;
  const highPass: Biquad = {
    b0: 1,
    b1: -2,
    b2: 1,
    a1: (2 * (h * h - 1)) / c0,
    a2: (1 - h / HIGH_PASS.q + h * h) / c0,
  };
  return [shelf, highPass];
}

/** Both filters over one channel, their memory kept from block to block. */
export class KWeighted {
  private readonly shelf: Biquad;
  private readonly pass: Biquad;
  private s1 = 0;
  private s2 = 0;
  private p1 = 0;
  private p2 = 0;

  constructor(sampleRateHz: number) {
    [this.shelf, this.pass] = kWeighting(sampleRateHz);
  }

  /**
   * Energy of two channels of one rate in one loop: neither waits for the other's memory.
   * @param other the filter of the second channel
   * @returns sums of squares of the first and the second
   */
  energies(
    other: KWeighted,
    first: Float32Array,
    second: Float32Array,
    from: number,
    to: number,
  ): [number, number] {
    const { b0, b1, b2, a1, a2 } = this.shelf;
    const { a1: c1, a2: c2 } = this.pass;
    let { s1, s2, p1, p2 } = this;
    let { s1: t1, s2: t2, p1: q1, p2: q2 } = other;
    let sum = 0;
    let total = 0;
    for (let i = from; i < to; i++) {
      const x = first[i] as number;
      const u = second[i] as number;
      const y = b0 * x + s1;
      const v = b0 * u + t1;
      s1 = b1 * x - a1 * y + s2;
      t1 = b1 * u - a1 * v + t2;
      s2 = b2 * x - a2 * y;
      t2 = b2 * u - a2 * v;
      const z = y + p1;
      const w = v + q1;
      p1 = p2 - 2 * y - c1 * z;
      q1 = q2 - 2 * v - c1 * w;
      p2 = y - c2 * z;
      q2 = v - c2 * w;
      sum += z * z;
      total += w * w;
    }
    this.keep(s1, s2, p1, p2);
    other.keep(t1, t2, q1, q2);
    return [sum, total];
  }

  /** Its memory for the next block; what is below every figure would only slow that down. */
  private keep(s1: number, s2: number, p1: number, p2: number): void {
    const quiet = (value: number): number => (Math.abs(value) < 1e-30 ? 0 : value);
    this.s1 = quiet(s1);
    this.s2 = quiet(s2);
    this.p1 = quiet(p1);
    this.p2 = quiet(p2);
  }

  /**
   * Energy of a stretch of samples after the weighting.
   * @param from, to which of them
   * @returns sum of squares
   */
  energy(samples: Float32Array, from: number, to: number): number {
    const { b0, b1, b2, a1, a2 } = this.shelf;
    const { a1: c1, a2: c2 } = this.pass;
    let { s1, s2, p1, p2 } = this;
    let sum = 0;
    for (let i = from; i < to; i++) {
      const x = samples[i] as number;
      const y = b0 * x + s1;
      s1 = b1 * x - a1 * y + s2;
      s2 = b2 * x - a2 * y;
      const z = y + p1;
      p1 = p2 - 2 * y - c1 * z;
      p2 = y - c2 * z;
      sum += z * z;
    }
    this.keep(s1, s2, p1, p2);
    return sum;
  }
}
