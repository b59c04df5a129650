import { plainEngine, type Spectra, type SpectraEngine } from '../signal/spectra';
import { transformOf } from '../signal/spectrum';

/**
 * One performance parted among several places: narrow bands lie in turn at one of them, so that all
 * together are the performance again and no two of them share a frequency, at which they would comb.
 */

/** Eighteen bands an octave, so that every third octave has three places twice; never narrower than, Hz. */
const BANDS_AN_OCTAVE = 18;
const NARROWEST_HZ = 50;
const LOWEST_HZ = 20;
/** Long enough to part the narrowest bands, s. */
const FILTER_S = 0.085;

/** For each frequency of a grid the place whose band it is in, 0 … count − 1. */
function placesOfGrid(points: number, stepHz: number, count: number, first: number): Uint8Array {
  const places = new Uint8Array(points);
  let [edge, band] = [LOWEST_HZ, 0];
  for (let i = 0; i < points; i++) {
    const hz = i * stepHz;
    while (hz >= edge) {
      edge += Math.max(NARROWEST_HZ, edge * (2 ** (1 / BANDS_AN_OCTAVE) - 1));
      band += 1;
    }
    places[i] = (band + first) % count;
  }
  return places;
}

/** Gains of one place's bands, bin by bin of a block: a filter of `size` samples around zero, real as it is even. */
function gainsOf(places: Uint8Array, place: number, size: number, block: Spectra): Float32Array {
  const fft = transformOf(size);
  const half = size / 2;
  const spectrum = new Float64Array(2 * size);
  for (let i = 0; i <= half; i++) {
    if (places[i] !== place) continue;
    spectrum[2 * i] = 1;
    if (i > 0 && i < half) spectrum[2 * (size - i)] = 1;
  }
  const out = new Float64Array(2 * size);
  fft.inverseTransform(out, spectrum);
  const filter = new Float32Array(block.size);
  for (let i = -half; i < half; i++) {
    const window = 0.5 + 0.5 * Math.cos((2 * Math.PI * i) / size);
    filter[(i + block.size) % block.size] = (out[2 * ((i + size) % size)] as number) * window;
  }
  const turned = block.forward(filter);
  return Float32Array.from({ length: block.size / 2 + 1 }, (_, k) => turned[2 * k] as number);
}

function scaledBy(gains: Float32Array, spectrum: Float32Array, out: Float32Array): void {
  for (let k = 0; k < gains.length; k++) {
    const gain = gains[k] as number;
    out[2 * k] = gain * (spectrum[2 * k] as number);
    out[2 * k + 1] = gain * (spectrum[2 * k + 1] as number);
  }
}

/** As many samples of a loop as `out` has, from a place on, before its beginning or round its end as well. */
function readRound(loop: Float32Array, from: number, out: Float32Array): void {
  const { length } = loop;
  let at = ((from % length) + length) % length;
  for (let to = 0; to < out.length;) {
    const count = Math.min(out.length - to, length - at);
    out.set(loop.subarray(at, at + count), to);
    to += count;
    at = 0;
  }
}

/** Puts samples into a share, and takes them from what is left. */
function give(samples: Float32Array, gain: number, share: Float32Array, left: Float32Array): void {
  for (let i = 0; i < share.length; i++) {
    const value = gain * (samples[i] as number);
    share[i] = value;
    left[i] = (left[i] as number) - value;
  }
}

/**
 * A loop parted among places, each louder by √count so that all of them have the loop's own power
 * where it is spread evenly.
 * @param loop one round, goes on from its end at its beginning
 * @param count places, 2 … 8
 * @param first the place of the lowest band, 0 … count − 1
 * @param engine of the transforms
 */
export function bandShares(
  loop: Float32Array,
  sampleRateHz: number,
  count: number,
  first = 0,
  engine: SpectraEngine = plainEngine,
): Float32Array[] {
  const size = 2 ** Math.ceil(Math.log2(FILTER_S * sampleRateHz));
  const transform = engine.of(4 * size);
  const kept = 3 * size;
  const grid = placesOfGrid(size / 2 + 1, sampleRateHz / size, count, first);
  // The last one has what the others leave.
  const gains = Array.from({ length: count - 1 }, (_, place) =>
    gainsOf(grid, place, size, transform),
  );
  const { length } = loop;
  const louder = Math.sqrt(count);
  const shares = gains.map(() => new Float32Array(length));
  shares.push(loop.map((value) => louder * value));
  const input = new Float32Array(transform.size);
  const products = gains.map(() => new Float32Array(transform.size + 2));
  let spectrum: Float32Array | undefined;
  for (let begin = 0; begin < length; begin += kept) {
    // Overlap-save: what the filters wrap round falls on half a filter at either end.
    readRound(loop, begin - size / 2, input);
    spectrum = transform.forward(input, spectrum);
    for (const [s, own] of gains.entries()) scaledBy(own, spectrum, products[s] as Float32Array);
    const end = Math.min(begin + kept, length);
    const last = (shares[count - 1] as Float32Array).subarray(begin, end);
    for (let s = 0; s < products.length; s += 2) {
      const one = products[s] as Float32Array;
      const two = products[s + 1];
      const found = two ? transform.backward(one, two) : [transform.samples(one)];
      found.forEach((samples, n) => {
        const share = shares[s + n] as Float32Array;
        give(samples.subarray(size / 2), louder, share.subarray(begin, end), last);
      });
    }
  }
  return shares;
}
