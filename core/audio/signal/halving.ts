import { plainEngine, type Spectra, type SpectraEngine } from './spectra';

/** What of the new rate is untouched by halving: from there to half the rate it falls away. */
export const UNTOUCHED = 0.4;

/** Samples at the new rate that a block loses on either side, where its filter would wrap around. */
const EDGE = 48;
/** A block at the new rate has so many samples, at the old one at least as many as the second. */
const [LEAST_NEW, LEAST_OLD] = [512, 8192];

/** How often a rate is halved until it is at most another. @param most 1 Hz and more */
export const halvings = (sampleRateHz: number, most: number): number =>
  Math.max(0, Math.ceil(Math.log2(sampleRateHz / most)));

/** Blocks of one channel at a lower rate, by transforms: what lies above is left out of their spectra. */
class Lowered {
  private readonly from: Spectra;
  private readonly to: Spectra;
  private readonly gains: Float32Array;
  private readonly spectrum: Float32Array;
  private readonly kept: Float32Array;
  private readonly held: Float32Array;
  /** frames that a block goes on by, and that it looks back */
  private readonly hop: number;
  private readonly edge: number;
  private filled: number;
  private out = new Float32Array(0);

  constructor(
    private readonly times: number,
    engine: SpectraEngine,
  ) {
    const factor = 2 ** times;
    const size = Math.max(LEAST_OLD, LEAST_NEW * factor);
    this.from = engine.of(size);
    this.to = engine.of(size / factor);
    this.edge = EDGE * factor;
    this.hop = size - 2 * this.edge;
    this.held = new Float32Array(size);
    this.spectrum = new Float32Array(size + 2);
    this.kept = new Float32Array(size / factor + 2);
    this.filled = this.edge;
    const half = size / factor / 2;
    this.gains = Float32Array.from({ length: half + 1 }, (_, k) => {
      const beyond = (k / half / 2 - UNTOUCHED) / (0.5 - UNTOUCHED);
      const gain = beyond <= 0 ? 1 : 0.5 + 0.5 * Math.cos(Math.PI * beyond);
      return gain / factor;
    });
  }

  add(samples: Float32Array, frames: number): Float32Array {
    const { held, edge, hop } = this;
    const blocks = Math.floor((this.filled + frames - 2 * edge) / hop);
    const each = hop >> this.times;
    const length = Math.max(0, blocks) * each;
    if (this.out.length < length) this.out = new Float32Array(length);
    let [at, done] = [0, 0];
    while (at < frames) {
      const count = Math.min(frames - at, held.length - this.filled);
      held.set(samples.subarray(at, at + count), this.filled);
      this.filled += count;
      at += count;
      if (this.filled < held.length) break;
      this.out.set(this.lowered(), done);
      done += each;
      held.copyWithin(0, hop);
      this.filled = held.length - hop;
    }
    return this.out.subarray(0, done);
  }

  /** The block that is held, without its edges. */
  private lowered(): Float32Array {
    const spectrum = this.from.forward(this.held, this.spectrum);
    const { gains, kept } = this;
    for (let k = 0; k < gains.length; k++) {
      kept[2 * k] = (spectrum[2 * k] as number) * (gains[k] as number);
      kept[2 * k + 1] = (spectrum[2 * k + 1] as number) * (gains[k] as number);
    }
    kept[kept.length - 1] = 0;
    const samples = this.to.samples(kept);
    return samples.subarray(EDGE, samples.length - EDGE);
  }

  /** What was held back for want of what follows: silence. */
  rest(): Float32Array {
    const left = this.filled - this.edge;
    if (left <= 0) return this.out.subarray(0, 0);
    this.held.fill(0, this.filled);
    this.filled = this.edge;
    return this.lowered().subarray(0, Math.ceil(left / 2 ** this.times));
  }
}

/** One channel at a lower rate, block by block: halved as often as wanted, nothing shifted. */
export class Halved {
  private readonly lowered: Lowered | null;

  /** @param times 0 … 12 */
  constructor(times: number, engine: SpectraEngine = plainEngine) {
    this.lowered = times === 0 ? null : new Lowered(times, engine);
  }

  /**
   * @param frames of the samples that count
   * @returns as many samples as can be told by now, perhaps none; to be read before the next block
   */
  add(samples: Float32Array, frames: number): Float32Array {
    return this.lowered?.add(samples, frames) ?? samples.subarray(0, frames);
  }

  /** @returns the samples that nothing follows; nothing may be added behind them */
  rest(): Float32Array {
    return this.lowered?.rest() ?? new Float32Array(0);
  }
}
