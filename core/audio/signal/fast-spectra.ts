import { plainEngine, type Spectra, type SpectraEngine, type Spectrum } from './spectra';

/** What the compiled transforms give. */
interface Compiled {
  /** read anew after every allocation: the memory moves as it grows */
  HEAPF32: Float32Array;
  _pffft_new_setup(size: number, kind: number): number;
  _pffft_aligned_malloc(bytes: number): number;
  _pffft_aligned_free(at: number): void;
  _pffft_transform(setup: number, from: number, to: number, work: number, direction: number): void;
  _pffft_transform_ordered(
    setup: number,
    from: number,
    to: number,
    work: number,
    direction: number,
  ): void;
  _pffft_zconvolve_accumulate(setup: number, a: number, b: number, sum: number, gain: number): void;
}

const [REAL, COMPLEX] = [0, 1];
const [FORWARD, BACKWARD] = [0, 1];

/** Pairs of numbers of a spectrum that are worked on at a time: so many of all stay near the processor. */
const TILE = 512;
/** Bytes between spectra, so that the same place of many of them does not share one line of the cache. */
const APART = 4096 + 64;

interface FastSpectrum extends Spectrum {
  at: number;
}

/** A band of a spectrum alone, in the order of the compiled transforms. */
function orderBand(
  ordered: Float32Array,
  spectrum: Float32Array,
  from: number,
  weights: ArrayLike<number>,
  size: number,
): void {
  ordered.fill(0);
  for (let k = 0, at = 2 * from; k < weights.length; k++, at += 2) {
    const weight = weights[k] as number;
    // Half the rate stands beside zero.
    const to = at === size ? 1 : at;
    ordered[to] = weight * (spectrum[at] as number);
    if (at > 0 && at < size) ordered[at + 1] = weight * (spectrum[at + 1] as number);
  }
}

function fastSpectra(compiled: Compiled, size: number): Spectra {
  const bytes = 4 * size;
  const setup = compiled._pffft_new_setup(size, REAL);
  // A transform's products lie in vectors one after the other: tiles of them are multiplied like complex
  // spectra of their own. Only the first holds the two real ends.
  const tile = Math.min(TILE, size / 2);
  const first = compiled._pffft_new_setup(2 * tile, REAL);
  const later = compiled._pffft_new_setup(tile, COMPLEX);
  const room = (): number => {
    const at = compiled._pffft_aligned_malloc(bytes + APART);
    if (at === 0) throw new Error('no memory is left for the spectra of a take');
    return at;
  };
  const [input, output, work] = [room(), room(), room()];
  const view = (at: number): Float32Array => compiled.HEAPF32.subarray(at / 4, at / 4 + size);
  const fillWith = (samples: Float32Array): void => {
    const all = view(input);
    all.set(samples);
    if (samples.length < size) all.fill(0, samples.length);
  };
  const at = (spectrum: Spectrum): number => (spectrum as FastSpectrum).at;
  const one = (spectrum: Float32Array): Float32Array => {
    const ordered = view(input);
    ordered.set(spectrum.subarray(0, size));
    ordered[1] = spectrum[size] as number;
    compiled._pffft_transform_ordered(setup, input, output, work, BACKWARD);
    const found = view(output);
    const out = new Float32Array(size);
    const gain = 1 / size;
    for (let i = 0; i < size; i++) out[i] = (found[i] as number) * gain;
    return out;
  };
  return {
    size,
    forward(samples, out = new Float32Array(size + 2)) {
      fillWith(samples);
      compiled._pffft_transform_ordered(setup, input, output, work, FORWARD);
      out.set(view(output));
      // Half the rate stands beside zero, as both are real.
      out[size] = out[1] as number;
      out[1] = 0;
      return out;
    },
    samples: one,
    backward: (first, second) => [one(first), one(second)],
    addBand(samples, { from, weights }, sum) {
      fillWith(samples);
      compiled._pffft_transform_ordered(setup, input, output, work, FORWARD);
      const found = view(output);
      for (let k = 0, at = 2 * from; k < weights.length; k++, at += 2) {
        const weight = weights[k] as number;
        // Half the rate stands beside zero, as both are real.
        if (at === 0 || at === size) {
          sum[at] = (sum[at] as number) + weight * (found[at === 0 ? 0 : 1] as number);
          continue;
        }
        sum[at] = (sum[at] as number) + weight * (found[at] as number);
        sum[at + 1] = (sum[at + 1] as number) + weight * (found[at + 1] as number);
      }
    },
    keep(samples) {
      const to = room();
      fillWith(samples);
      compiled._pffft_transform(setup, input, to, work, FORWARD);
      return { at: to };
    },
    silence() {
      const to = room();
      view(to).fill(0);
      return { at: to };
    },
    multiplyAdd(products) {
      const gain = 1 / size;
      const places = Int32Array.from(products.flatMap(({ sum, a, b }) => [at(sum), at(a), at(b)]));
      for (let offset = 0; offset < bytes; offset += 8 * tile) {
        const part = offset === 0 ? first : later;
        for (let i = 0; i < places.length; i += 3) {
          compiled._pffft_zconvolve_accumulate(
            part,
            (places[i + 1] as number) + offset,
            (places[i + 2] as number) + offset,
            (places[i] as number) + offset,
            gain,
          );
        }
      }
    },
    addUnder(pair, { from, weights }, envelope, sums) {
      pair.forEach((spectrum, n) => {
        orderBand(view(input), spectrum, from, weights, size);
        compiled._pffft_transform_ordered(setup, input, output, work, BACKWARD);
        const samples = view(output);
        const gain = 1 / size;
        for (let i = 0; i < envelope.length; i++) {
          samples[i] = (samples[i] as number) * (envelope[i] as number) * gain;
        }
        samples.fill(0, envelope.length);
        compiled._pffft_transform_ordered(setup, output, input, work, FORWARD);
        const found = view(input);
        const sum = sums[n] as Float32Array;
        for (let i = 2; i < size; i++) sum[i] = (sum[i] as number) + (found[i] as number);
        sum[0] = (sum[0] as number) + (found[0] as number);
        sum[size] = (sum[size] as number) + (found[1] as number);
      });
    },
    samplesOf: (spectra, from = 0) =>
      spectra.map((spectrum) => {
        compiled._pffft_transform(setup, at(spectrum), output, work, BACKWARD);
        return view(output).slice(from);
      }),
    release(spectra) {
      for (const spectrum of spectra) compiled._pffft_aligned_free(at(spectrum));
    },
  };
}

let loading: Promise<SpectraEngine | null> | null = null;

/**
 * Transforms by compiled code with vector instructions, loaded once.
 * @returns null where the engine cannot run it: the plain transforms serve, slower
 */
export const fastEngine = (): Promise<SpectraEngine | null> => (loading ??= load());

/** The fast transforms where the engine can run them, else the plain ones. */
export const bestEngine = async (): Promise<SpectraEngine> => (await fastEngine()) ?? plainEngine;

async function load(): Promise<SpectraEngine | null> {
  try {
    const { default: compile } = (await import('@echogarden/pffft-wasm/simd')) as {
      default: () => Promise<Compiled>;
    };
    const compiled = await compile();
    const known = new Map<number, Spectra>();
    return {
      kind: 'fast',
      of(size) {
        const made = known.get(size) ?? fastSpectra(compiled, size);
        known.set(size, made);
        return made;
      },
    };
  } catch {
    return null;
  }
}
