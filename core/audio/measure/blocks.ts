import type { Spectra, SpectraEngine } from '../signal/spectra';
import type { Planes } from '../wav/decode';

/**
 * Four cosines: what it lets through beside four bins is below −92 dB.
 * Source: F. J. Harris, Proc. IEEE 66 (1978), table 1 (Blackman–Harris, four terms).
 * @param length 2 and more
 */
export const steep = (length: number): Float32Array =>
  Float32Array.from({ length }, (_, i) => {
    const turn = (2 * Math.PI * i) / length;
    return (
      0.35875 -
      0.48829 * Math.cos(turn) +
      0.14128 * Math.cos(2 * turn) -
      0.01168 * Math.cos(3 * turn)
    );
  });

/** Spectra of windows after one another, block by block, of all channels at once. */
export class Windows {
  readonly spectra: Spectra;
  /** sum of the window's squares, times half the size: what a spectrum's power is divided by */
  gain: number;
  /** windows so far */
  count = 0;
  private readonly window: Float32Array;
  private readonly buffers: Float32Array[];
  private readonly piece: Float32Array;
  private readonly found: Float32Array[];
  private filled = 0;

  /**
   * @param channels 1 … 64
   * @param size of a window, a power of two, 32 … 2^20
   * @param hop from one to the next, 1 … the size
   * @param shape window of a length, 1 in its middle
   * @param take is given the spectrum of each channel, until the next window: real and imaginary parts from 0 to half the rate
   */
  constructor(
    channels: number,
    readonly size: number,
    readonly hop: number,
    private readonly shape: (length: number) => ArrayLike<number>,
    engine: SpectraEngine,
    private readonly take: (spectra: readonly Float32Array[]) => void,
  ) {
    this.spectra = engine.of(size);
    this.window = Float32Array.from(shape(size));
    this.buffers = Array.from({ length: channels }, () => new Float32Array(size));
    this.piece = new Float32Array(size);
    this.found = this.buffers.map(() => new Float32Array(size + 2));
    this.gain = this.powerOf(this.window);
  }

  private powerOf(window: Float32Array): number {
    return window.reduce((total, value) => total + value * value, 0) * (this.size / 2);
  }

  add(planes: Planes, frames: number): void {
    const { size, hop } = this;
    for (let from = 0; from < frames;) {
      const to = Math.min(frames, from + size - this.filled);
      this.buffers.forEach((buffer, c) => {
        const plane = planes[c];
        if (plane) buffer.set(plane.subarray(from, to), this.filled);
      });
      this.filled += to - from;
      from = to;
      if (this.filled < size) continue;
      this.give(this.window, size);
      for (const buffer of this.buffers) buffer.copyWithin(0, hop);
      this.filled = size - hop;
    }
  }

  private give(window: Float32Array, length: number): void {
    this.count += 1;
    const { piece } = this;
    this.take(
      this.buffers.map((buffer, c) => {
        for (let i = 0; i < length; i++) piece[i] = (buffer[i] as number) * (window[i] as number);
        if (length < piece.length) piece.fill(0, length);
        return this.spectra.forward(piece, this.found[c]);
      }),
    );
  }

  /**
   * Of a take shorter than one window: what there is of it as one.
   * @param least of what there must be, 0 … 1 of a window
   */
  end(least: number): void {
    if (this.count > 0 || this.filled < least * this.size) return;
    const window = Float32Array.from(this.shape(this.filled));
    this.gain = this.powerOf(window);
    this.give(window, this.filled);
  }
}

/** Levels are told apart to a tenth of a decibel between these, dB. */
const [LEAST_DB, MOST_DB, PER_DB] = [-160, 40, 10];

/** How many values lie at each level, for levels that many do not fall under: bounded, however long. */
export class LevelCount {
  private readonly counts = new Uint32Array((MOST_DB - LEAST_DB) * PER_DB);
  count = 0;

  /** @param power of full scale */
  add(power: number): void {
    this.count += 1;
    const at = Math.round((10 * Math.log10(Math.max(power, 1e-30)) - LEAST_DB) * PER_DB);
    const kept = Math.min(this.counts.length - 1, Math.max(0, at));
    this.counts[kept] = (this.counts[kept] ?? 0) + 1;
  }

  /** @param share 0 … 1 of the values that lie below it; @returns dB, to a tenth; null where nothing is there */
  below(share: number): number | null {
    if (this.count === 0) return null;
    let left = share * (this.count - 1);
    for (let at = 0; at < this.counts.length; at++) {
      left -= this.counts[at] ?? 0;
      if (left < 0) return at === 0 ? null : at / PER_DB + LEAST_DB;
    }
    return MOST_DB;
  }
}
