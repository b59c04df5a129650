import { encodeFrames, wavEnd, wavHeader, type WrittenFormat } from '../../audio/wav/writer';
import { RATE_HZ, type Stereo } from './sound';

const FORMAT: WrittenFormat = { kind: 'integer', bits: 24, channels: 2, sampleRateHz: RATE_HZ };

/** A sound as the parts of a WAV file that says nothing of what it is: 24 bits, 48 kHz. */
export function clipFile([left, right]: Stereo): Uint8Array[] {
  const frames = left.length;
  return [
    wavHeader(FORMAT, frames),
    encodeFrames([left, right], frames, FORMAT),
    wavEnd(FORMAT, frames),
  ];
}
