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

/** Linear-phase filters of all places, which add up to a single impulse in their middle. */
function filtersOf(
  size: number,
  sampleRateHz: number,
  count: number,
  first: number,
): Float64Array[] {
  const fft = transformOf(size);
  const half = size / 2;
  const places = placesOfGrid(half + 1, sampleRateHz / size, count, first);
  return Array.from({ length: count }, (_, place) => {
    const spectrum = new Float64Array(2 * size);
    for (let i = 0; i <= half; i++) {
      if (places[i] !== place) continue;
      // Turned by half the length: the impulse is in the middle.
      const sign = i % 2 === 0 ? 1 : -1;
      spectrum[2 * i] = sign;
      if (i > 0 && i < half) spectrum[2 * (size - i)] = sign;
    }
    const out = new Float64Array(2 * size);
    fft.inverseTransform(out, spectrum);
    const filter = new Float64Array(size);
    for (let i = 0; i < size; i++) {
      const window = 0.5 - 0.5 * Math.cos((2 * Math.PI * i) / size);
      filter[i] = (out[2 * i] as number) * window;
    }
    return filter;
  });
}

/**
 * A loop parted among places, each louder by √count so that all of them have the loop's own power
 * where it is spread evenly.
 * @param loop one round, goes on from its end at its beginning
 * @param count places, 2 … 8
 * @param first the place of the lowest band, 0 … count − 1
 */
export function bandShares(
  loop: Float32Array,
  sampleRateHz: number,
  count: number,
  first = 0,
): Float32Array[] {
  const size = 2 ** Math.ceil(Math.log2(FILTER_S * sampleRateHz));
  const block = 4 * size;
  const fft = transformOf(block);
  const kept = block - size;
  const spectra = filtersOf(size, sampleRateHz, count, first).map((filter) => {
    const input = new Float64Array(2 * block);
    for (let i = 0; i < size; i++) input[2 * i] = filter[i] as number;
    const out = new Float64Array(2 * block);
    fft.transform(out, input);
    return out;
  });
  const { length } = loop;
  const shares = spectra.map(() => new Float32Array(length));
  const gain = Math.sqrt(count);
  const [input, middle, product, output] = Array.from(
    { length: 4 },
    () => new Float64Array(2 * block),
  ) as [Float64Array, Float64Array, Float64Array, Float64Array];
  const at = (i: number): number => loop[((i % length) + length) % length] as number;
  for (let begin = 0; begin < length; begin += kept) {
    // Overlap-save: what the filter wraps round falls on the first `size` samples.
    for (let i = 0; i < block; i++) {
      input[2 * i] = at(begin - size + i);
      input[2 * i + 1] = 0;
    }
    fft.transform(middle, input);
    spectra.forEach((filter, s) => {
      for (let i = 0; i < 2 * block; i += 2) {
        const [a, b] = [middle[i] as number, middle[i + 1] as number];
        const [c, d] = [filter[i] as number, filter[i + 1] as number];
        product[i] = a * c - b * d;
        product[i + 1] = a * d + b * c;
      }
      fft.inverseTransform(output, product);
      const share = shares[s] as Float32Array;
      const most = Math.min(kept, length - begin);
      for (let i = 0; i < most; i++) {
        // The filter is half its length late.
        const place = (begin + i - size / 2 + length) % length;
        share[place] = gain * (output[2 * (size + i)] as number);
      }
    });
  }
  return shares;
}
