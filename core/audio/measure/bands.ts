import { quantile } from 'd3-array';
import { hann, spectrumOf } from '../signal/spectrum';
import type { Planes } from '../wav/decode';

/** Centres of the octaves, Hz. */
export const OCTAVES_HZ = [31.5, 63, 125, 250, 500, 1000, 2000, 4000, 8000, 16_000] as const;
/** Centres of the third octaves 20 Hz … 20 kHz, Hz. */
export const THIRDS_HZ: readonly number[] = Array.from(
  { length: 31 },
  (_, i) => 1000 * 2 ** ((i - 17) / 3),
);

/** What a pair of channels is, band by band. */
export interface BandFigures {
  /** likeness of the first two channels by octave, −1 … 1; null where one has nothing there */
  correlation: { hz: number; value: number | null }[];
  /** mono sum of the first two against the power of both by third octave, dB; null without sound */
  monoLoss: { hz: number; db: number | null }[];
  /** level that a channel does not fall under for more than a twentieth of the time, by octave, dB */
  noiseFloor: { hz: number; db: number | null }[][];
}

const SIZE = 8192;
/** Below this a band holds nothing, against full scale. */
const NOTHING = 1e-16;

/** Spectra of blocks after one another, added up by band. */
export class BandMeter {
  private readonly window = hann(SIZE);
  private readonly gain: number;
  private readonly buffers: Float32Array[];
  private filled = 0;
  private readonly auto: [Float64Array, Float64Array];
  private readonly cross = new Float64Array(SIZE / 2);
  /** octave levels of each channel, one list a band, one entry a block */
  private readonly levels: number[][][];

  /**
   * @param channels 1 … 64
   * @param sampleRateHz 8000 Hz and more
   */
  constructor(
    private readonly channels: number,
    private readonly sampleRateHz: number,
  ) {
    this.gain = this.window.reduce((total, value) => total + value * value, 0) * (SIZE / 2);
    this.buffers = Array.from({ length: channels }, () => new Float32Array(SIZE));
    this.auto = [new Float64Array(SIZE / 2), new Float64Array(SIZE / 2)];
    this.levels = this.buffers.map(() => OCTAVES_HZ.map(() => []));
  }

  add(planes: Planes, frames: number): void {
    for (let from = 0; from < frames;) {
      const to = Math.min(frames, from + SIZE - this.filled);
      this.buffers.forEach((buffer, c) => {
        const plane = planes[c];
        if (plane) buffer.set(plane.subarray(from, to), this.filled);
      });
      this.filled += to - from;
      from = to;
      if (this.filled < SIZE) continue;
      this.take();
      this.filled = 0;
    }
  }

  private bins(low: number, high: number): [number, number] {
    const bin = (hz: number) => Math.round((hz / this.sampleRateHz) * SIZE);
    return [Math.max(1, bin(low)), Math.min(SIZE / 2, Math.max(bin(low) + 1, bin(high)))];
  }

  private take(): void {
    const spectra = this.buffers.map((buffer) =>
      spectrumOf(
        buffer.map((value, i) => value * (this.window[i] ?? 0)),
        SIZE,
      ),
    );
    const [first, second] = spectra;
    for (let k = 1; k < SIZE / 2; k++) {
      const [a = 0, b = 0] = [first?.[2 * k], first?.[2 * k + 1]];
      this.auto[0][k] = (this.auto[0][k] ?? 0) + a * a + b * b;
      if (!second) continue;
      const [c = 0, d = 0] = [second[2 * k], second[2 * k + 1]];
      this.auto[1][k] = (this.auto[1][k] ?? 0) + c * c + d * d;
      this.cross[k] = (this.cross[k] ?? 0) + a * c + b * d;
    }
    spectra.forEach((spectrum, channel) => {
      OCTAVES_HZ.forEach((hz, band) => {
        const [low, high] = this.bins(hz / Math.SQRT2, hz * Math.SQRT2);
        let sum = 0;
        for (let k = low; k < high; k++) {
          sum += (spectrum[2 * k] ?? 0) ** 2 + (spectrum[2 * k + 1] ?? 0) ** 2;
        }
        this.levels[channel]?.[band]?.push(sum / this.gain);
      });
    });
  }

  private sums(low: number, high: number): { x: number; y: number; xy: number } {
    const [from, to] = this.bins(low, high);
    const total = (values: Float64Array) =>
      values.subarray(from, to).reduce((sum, value) => sum + value, 0);
    return { x: total(this.auto[0]), y: total(this.auto[1]), xy: total(this.cross) };
  }

  result(): BandFigures {
    const top = this.sampleRateHz / 2;
    const octaves = OCTAVES_HZ.filter((hz) => hz * Math.SQRT2 <= top * 1.1);
    const stereo = this.channels > 1;
    return {
      correlation: octaves.map((hz) => {
        const { x, y, xy } = this.sums(hz / Math.SQRT2, hz * Math.SQRT2);
        const size = Math.sqrt(x * y);
        return { hz, value: stereo && size > NOTHING ? xy / size : null };
      }),
      monoLoss: THIRDS_HZ.filter((hz) => hz < top).map((hz) => {
        const { x, y, xy } = this.sums(hz / 2 ** (1 / 6), hz * 2 ** (1 / 6));
        const both = x + y;
        const db =
          stereo && both > NOTHING
            ? 10 * Math.log10(Math.max(1e-12, (both + 2 * xy) / both))
            : null;
        return { hz, db };
      }),
      noiseFloor: this.levels.map((bands) =>
        octaves.map((hz, band) => {
          const low = quantile(bands[band] ?? [], 0.05) ?? 0;
          return { hz, db: low > NOTHING ? 10 * Math.log10(low) : null };
        }),
      ),
    };
  }
}
