import { Halved, halvings } from '../signal/halving';
import { plainEngine, type SpectraEngine } from '../signal/spectra';
import type { Planes } from '../wav/decode';
import { LevelCount, steep, Windows } from './blocks';

/** Centres of the octaves, Hz. */
export const MEASURED_OCTAVES_HZ = [
  31.5, 63, 125, 250, 500, 1000, 2000, 4000, 8000, 16_000,
] as const;
/** Centres of the third octaves 20 Hz … 20 kHz, Hz. */
export const THIRDS_HZ: readonly number[] = Array.from(
  { length: 31 },
  (_, i) => 1000 * 2 ** ((i - 17) / 3),
);

/** Preferred numbers of a decade of third octaves. */
const PREFERRED = [1, 1.25, 1.6, 2, 2.5, 3.15, 4, 5, 6.3, 8] as const;

/**
 * What a band is called: its nominal centre, as it is printed on filters.
 * Source: ISO 266.
 * @param hz exact centre of an octave or a third of one, 1 … 100000 Hz
 */
export function nominalHz(hz: number): number {
  const step = Math.round(10 * Math.log10(hz));
  const decade = Math.floor(step / 10);
  return Number(((PREFERRED[step - 10 * decade] ?? 1) * 10 ** decade).toPrecision(3));
}

/** What a pair of channels is, band by band. */
export interface BandFigures {
  /** likeness of the first two channels by octave, −1 … 1; null where one has nothing there */
  correlation: { hz: number; value: number | null }[];
  /** mono sum of the first two against the power of both by third octave, dB; null without sound */
  monoLoss: { hz: number; db: number | null }[];
  /** level that a channel does not fall under for more than a twentieth of the time, by octave, dB; null below eight windows, 1.4 s, of the four lowest 5.8 s */
  noiseFloor: { hz: number; db: number | null }[][];
}

/** A window is about so long at every rate, s: what is quiet in one is as quiet in another. */
export const WINDOW_S = 8192 / 48_000;
/** What is beyond the highest octave is left out before; at most this rate, Hz. */
const MOST_RATE_HZ = 100_000;
/** Low bands are narrow: their windows are longer, at a lower rate, Hz. */
const LOW_RATE_HZ = 2400;
/** Windows at the lower rate: of octaves, and of thirds. */
const [LOW_SIZE, LOWEST_SIZE] = [1024, 4096];
const [LOWEST_OCTAVE_HZ, LOWEST_THIRD_HZ] = [300, 450];
/** A floor is what many windows do not fall under: of fewer that share nothing it cannot be told. */
const LEAST_WINDOWS = 8;
/** Of a take shorter than a window so much must be there. */
const LEAST_PART = 0.25;
/** Below this a band holds nothing, against full scale. */
const NOTHING = 1e-16;

/** Powers and product of the first two channels in bands. */
class BandSums {
  private readonly ends: readonly (readonly [number, number])[];
  private readonly sums: { x: number; y: number; xy: number }[];

  /** @param ratio from a centre to the edge of its band */
  constructor(
    readonly centresHz: readonly number[],
    ratio: number,
    size: number,
    sampleRateHz: number,
  ) {
    const bin = (hz: number): number => Math.round((hz / sampleRateHz) * size);
    this.ends = centresHz.map((hz) => {
      const low = Math.max(1, bin(hz / ratio));
      return [low, Math.min(size / 2, Math.max(low + 1, bin(hz * ratio)))];
    });
    this.sums = centresHz.map(() => ({ x: 0, y: 0, xy: 0 }));
  }

  add([first, second]: readonly Float32Array[]): void {
    if (!first) return;
    this.ends.forEach(([low, high], band) => {
      const sum = this.sums[band];
      if (!sum) return;
      let [x, y, xy] = [0, 0, 0];
      for (let k = 2 * low; k < 2 * high; k += 2) {
        const a = first[k] as number;
        const b = first[k + 1] as number;
        x += a * a + b * b;
        if (!second) continue;
        const c = second[k] as number;
        const d = second[k + 1] as number;
        y += c * c + d * d;
        xy += a * c + b * d;
      }
      sum.x += x;
      sum.y += y;
      sum.xy += xy;
    });
  }

  /** Power of a spectrum in a band. */
  power(spectrum: Float32Array, band: number): number {
    const [low = 0, high = 0] = this.ends[band] ?? [];
    let sum = 0;
    for (let k = 2 * low; k < 2 * high; k++) sum += (spectrum[k] as number) ** 2;
    return sum;
  }

  /** @param gain what a power is divided by; @param figure of powers and product in each band */
  each(
    gain: number,
    count: number,
    figure: (x: number, y: number, xy: number) => number | null,
  ): { hz: number; value: number | null }[] {
    const one = 1 / (gain * Math.max(1, count));
    return this.centresHz.map((hz, band) => {
      const { x = 0, y = 0, xy = 0 } = this.sums[band] ?? {};
      return { hz, value: figure(x * one, y * one, xy * one) };
    });
  }
}

/** A row of windows, and what is read from them. */
interface Reading {
  windows: Windows;
  octaves: BandSums | null;
  thirds: BandSums | null;
  /** by channel and octave */
  floors: LevelCount[][];
}

/** Spectra of windows after one another, added up by band; narrow bands from longer windows. */
export class BandMeter {
  /** from the lowest bands up */
  private readonly readings: Reading[];
  private readonly highRate: Halved[];
  private readonly lowRate: Halved[];

  /**
   * @param channels 1 … 64
   * @param sampleRateHz 8000 Hz and more
   */
  constructor(
    private readonly channels: number,
    sampleRateHz: number,
    engine: SpectraEngine = plainEngine,
  ) {
    const high = halvings(sampleRateHz, MOST_RATE_HZ);
    const low = halvings(sampleRateHz, LOW_RATE_HZ) - high;
    const [rate, lowRate] = [sampleRateHz / 2 ** high, sampleRateHz / 2 ** (high + low)];
    const chains = (times: number) =>
      Array.from({ length: channels }, () => new Halved(times, engine));
    [this.highRate, this.lowRate] = [chains(high), chains(low)];
    const size = 2 ** Math.max(5, Math.round(Math.log2(WINDOW_S * rate)));
    const octaves = MEASURED_OCTAVES_HZ.filter((hz) => hz * Math.SQRT2 <= rate * 0.55);
    const thirds = THIRDS_HZ.filter((hz) => hz < rate / 2);
    const reading = (
      of: { rate: number; size: number; hop: number; count: number },
      shape: (length: number) => ArrayLike<number>,
      octave: readonly number[],
      third: readonly number[],
    ): Reading => {
      const sums = (centres: readonly number[], ratio: number): BandSums | null =>
        centres.length > 0 ? new BandSums(centres, ratio, of.size, of.rate) : null;
      const made: Reading = {
        octaves: sums(octave, Math.SQRT2),
        thirds: sums(third, 2 ** (1 / 6)),
        floors: Array.from({ length: of.count }, () => octave.map(() => new LevelCount())),
        windows: new Windows(of.count, of.size, of.hop, shape, engine, (spectra) => {
          made.octaves?.add(spectra);
          made.thirds?.add(spectra);
          made.floors.forEach((bands, c) => {
            const spectrum = spectra[c];
            if (!spectrum) return;
            bands.forEach((floor, band) =>
              floor.add((made.octaves?.power(spectrum, band) ?? 0) / made.windows.gain),
            );
          });
        }),
      };
      return made;
    };
    const both = Math.min(2, channels);
    this.readings = [
      reading(
        { rate: lowRate, size: LOWEST_SIZE, hop: LOWEST_SIZE / 2, count: both },
        steep,
        [],
        thirds.filter((hz) => hz < LOWEST_THIRD_HZ),
      ),
      reading(
        { rate: lowRate, size: LOW_SIZE, hop: LOW_SIZE / 2, count: channels },
        steep,
        octaves.filter((hz) => hz < LOWEST_OCTAVE_HZ),
        [],
      ),
      reading(
        { rate, size, hop: (size * 3) / 4, count: channels },
        steep,
        octaves.filter((hz) => hz > LOWEST_OCTAVE_HZ),
        thirds.filter((hz) => hz > LOWEST_THIRD_HZ),
      ),
    ];
  }

  add(planes: Planes, frames: number): void {
    const high = this.highRate.flatMap((chain, c) => {
      const plane = planes[c];
      return plane ? [chain.add(plane, frames)] : [];
    });
    this.read(high);
  }

  /** @param high of all channels, at the rate of the high bands */
  private read(high: Planes): void {
    const [lowest, lower, upper] = this.readings;
    const low = high.map((plane, c) => this.lowRate[c]?.add(plane, plane.length) ?? plane);
    lowest?.windows.add(low, low[0]?.length ?? 0);
    lower?.windows.add(low, low[0]?.length ?? 0);
    upper?.windows.add(high, high[0]?.length ?? 0);
  }

  result(): BandFigures {
    for (const { windows } of this.readings) windows.end(LEAST_PART);
    const stereo = this.channels > 1;
    const each = (
      which: 'octaves' | 'thirds',
      figure: (x: number, y: number, xy: number) => number | null,
    ) =>
      this.readings.flatMap((reading) => {
        const { gain, count } = reading.windows;
        return reading[which]?.each(gain, count, figure) ?? [];
      });
    return {
      correlation: each('octaves', (x, y, xy) =>
        stereo && Math.sqrt(x * y) > NOTHING ? xy / Math.sqrt(x * y) : null,
      ),
      monoLoss: each('thirds', (x, y, xy) =>
        stereo && x + y > NOTHING
          ? 10 * Math.log10(Math.max(1e-12, (x + y + 2 * xy) / (x + y)))
          : null,
      ).map(({ hz, value }) => ({ hz, db: value })),
      noiseFloor: Array.from({ length: this.channels }, (_, c) =>
        this.readings.flatMap(({ octaves, floors, windows }) =>
          (octaves?.centresHz ?? []).map((hz, band) => {
            const floor = floors[c]?.[band];
            const enough = windows.count * windows.hop >= LEAST_WINDOWS * windows.size;
            return { hz, db: enough ? (floor?.below(0.05) ?? null) : null };
          }),
        ),
      ),
    };
  }
}
