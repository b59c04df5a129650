import { spherePressure } from '../../localisation/listener';
import { inRange } from '../../units/guard';
import { plainEngine } from '../signal/spectra';

const FFT_SIZE = 1024;

/** Taps of each way, and by how much all of it is later so that nothing comes before its beginning. */
const TAPS = 160;
const LATER = 48;
const BASE_DEG = 30;
const EAR_DEG = 100;

/**
 * The ways from a loudspeaker at 30° to the ear on its side and to the other one, over a rigid sphere:
 * half of each, so that what is alike in both channels stays about as loud.
 * Source: R. O. Duda & W. L. Martens, JASA 104 (1998).
 * @param sampleRateHz 8000 … 192000 Hz
 * @throws RangeError where sampleRateHz is outside 8000 … 192000 Hz
 */
export function headFilters(sampleRateHz: number): [near: Float32Array, far: Float32Array] {
  inRange('sampleRateHz', sampleRateHz, 8000, 192_000, 'Hz');
  const way = (fromEarDeg: number): Float32Array => {
    const cosine = Math.cos((fromEarDeg * Math.PI) / 180);
    const spectrum = new Float32Array(FFT_SIZE + 2);
    for (let k = 0; k <= FFT_SIZE / 2; k++) {
      const hz = (k * sampleRateHz) / FFT_SIZE;
      const { re, im } = spherePressure(cosine, Math.min(20_000, Math.max(20, hz)));
      // Below and above what is computed the size is held; all of it some samples later.
      const turn = (-2 * Math.PI * k * LATER) / FFT_SIZE;
      const [c, s] = [Math.cos(turn), Math.sin(turn)];
      spectrum[2 * k] = (re * c - im * s) / 2;
      spectrum[2 * k + 1] = (re * s + im * c) / 2;
    }
    const [samples] = plainEngine.of(FFT_SIZE).backward(spectrum, new Float32Array(FFT_SIZE + 2));
    return Float32Array.from({ length: TAPS }, (_, i) => {
      const fade = i < TAPS - 32 ? 1 : 0.5 + 0.5 * Math.cos((Math.PI * (i - TAPS + 32)) / 32);
      return (samples[i] as number) * fade;
    });
  };
  return [way(EAR_DEG - BASE_DEG), way(EAR_DEG + BASE_DEG)];
}
