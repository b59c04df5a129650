import type { Spectra, SpectraEngine, Spectrum } from './spectra';

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

const REAL = 0;
const [FORWARD, BACKWARD] = [0, 1];

interface FastSpectrum extends Spectrum {
  at: number;
}

function fastSpectra(compiled: Compiled, size: number): Spectra {
  const bytes = 4 * size;
  const setup = compiled._pffft_new_setup(size, REAL);
  const room = (): number => {
    const at = compiled._pffft_aligned_malloc(bytes);
    if (at === 0) throw new Error('no memory is left for the spectra of a take');
    return at;
  };
  const [input, output, work] = [room(), room(), room()];
  const view = (at: number): Float32Array => compiled.HEAPF32.subarray(at / 4, at / 4 + size);
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
    forward(samples) {
      view(input).set(samples);
      compiled._pffft_transform_ordered(setup, input, output, work, FORWARD);
      const out = new Float32Array(size + 2);
      out.set(view(output));
      // Half the rate stands beside zero, as both are real.
      out[size] = out[1] as number;
      out[1] = 0;
      return out;
    },
    backward: (first, second) => [one(first), one(second)],
    keep(samples) {
      const to = room();
      view(input).set(samples);
      compiled._pffft_transform(setup, input, to, work, FORWARD);
      return { at: to };
    },
    silence() {
      const to = room();
      view(to).fill(0);
      return { at: to };
    },
    multiplyAdd: (sum, a, b) =>
      compiled._pffft_zconvolve_accumulate(setup, at(a), at(b), at(sum), 1 / size),
    samplesOf: (spectra) =>
      spectra.map((spectrum) => {
        compiled._pffft_transform(setup, at(spectrum), output, work, BACKWARD);
        return view(output).slice();
      }),
    release(spectra) {
      for (const spectrum of spectra) compiled._pffft_aligned_free(at(spectrum));
    },
  };
}

/**
 * Transforms by compiled code with vector instructions.
 * @returns null where the engine cannot run it: the plain transforms serve, slower
 */
export async function fastEngine(): Promise<SpectraEngine | null> {
  try {
    const { default: load } = (await import('@echogarden/pffft-wasm/simd')) as {
      default: () => Promise<Compiled>;
    };
    const compiled = await load();
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
