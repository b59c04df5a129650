import { inRange } from '../../units/guard';
import { powerOfTwo, transformOf } from './spectrum';

/** The grid on which a filter is designed, Hz. */
const GRID_HZ = 12;
/** No response is longer, s. */
export const LONGEST_FILTER_S = 0.02;
/** What comes after has so little of the energy. */
const TAIL = 1e-8;

/** Gain at a frequency: straight over octaves in dB, the ends held. */
function gainAt(octaves: readonly { hz: number; gain: number }[], hz: number): number {
  const above = octaves.findIndex((octave) => octave.hz >= hz);
  const high = octaves[above < 0 ? octaves.length - 1 : above];
  const low = octaves[above < 0 ? octaves.length - 1 : Math.max(0, above - 1)];
  if (!high || !low) return 1;
  if (high === low) return high.gain;
  const share = Math.log(hz / low.hz) / Math.log(high.hz / low.hz);
  return low.gain * (high.gain / low.gain) ** share;
}

/**
 * A filter with gains by octave that has nothing before its first sample and as little delay as can be:
 * of minimum phase, by the folded cepstrum (Oppenheim and Schafer 1975).
 * @param octaves centres in Hz, rising, and amplitudes above 0; at least one
 * @param sampleRateHz 8000 … 192000 Hz
 * @returns its response, as short as −80 dB of its energy allow, 20 ms at most
 * @throws RangeError where a gain is not above 0 (1e-6 … 1e6) or the rate is outside its range
 */
export function minimumPhase(
  octaves: readonly { hz: number; gain: number }[],
  sampleRateHz: number,
): Float32Array {
  inRange('sampleRateHz', sampleRateHz, 8000, 192_000, 'Hz');
  for (const { gain } of octaves) inRange('gain', gain, 1e-6, 1e6);
  const size = powerOfTwo(sampleRateHz / GRID_HZ);
  const fft = transformOf(size);
  const [one, other] = [new Float64Array(2 * size), new Float64Array(2 * size)];
  for (let k = 0; k < size; k++) {
    const hz = (Math.min(k, size - k) * sampleRateHz) / size;
    one[2 * k] = Math.log(gainAt(octaves, Math.max(hz, 1)));
  }
  fft.inverseTransform(other, one);
  // Twice what comes after, and nothing before.
  for (let i = 0; i < size; i++) {
    const factor = i === 0 || i === size / 2 ? 1 : i < size / 2 ? 2 : 0;
    other[2 * i] = (other[2 * i] as number) * factor;
    other[2 * i + 1] = 0;
  }
  fft.transform(one, other);
  for (let k = 0; k < size; k++) {
    const size2 = Math.exp(one[2 * k] as number);
    const phase = one[2 * k + 1] as number;
    one[2 * k] = size2 * Math.cos(phase);
    one[2 * k + 1] = size2 * Math.sin(phase);
  }
  fft.inverseTransform(other, one);
  const response = Float32Array.from({ length: size }, (_, i) => other[2 * i] as number);
  const most = Math.round(LONGEST_FILTER_S * sampleRateHz);
  const all = response.reduce((sum, value) => sum + value * value, 0);
  let [length, tail] = [size, 0];
  while (length > 1) {
    tail += (response[length - 1] as number) ** 2;
    if (tail > TAIL * all) break;
    length -= 1;
  }
  return response.slice(0, Math.min(length, most));
}
