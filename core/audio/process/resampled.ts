import { inRange } from '../../units/guard';
import { Between } from '../signal/between';
import type { Sound } from '../sound';
import { planesFor } from '../wav/decode';
import { blockFramesOf } from '../wav/reader';
import { Sliding } from './sliding';

function commonDivisor(a: number, b: number): number {
  return b === 0 ? a : commonDivisor(b, a % b);
}

/**
 * A recording at another rate: what it held up to 0.92 of half the lower rate, within 0.01 dB; whatever
 * would be folded into that is below −100 dB.
 * @param sampleRateHz 1000 … 1000000 Hz
 * @throws RangeError where sampleRateHz is outside 1000 … 1000000 Hz
 */
export function resampledSound(sound: Sound, sampleRateHz: number): Sound {
  inRange('sampleRateHz', sampleRateHz, 1000, 1_000_000, 'Hz');
  const { format, frames } = sound.info;
  const old = format.sampleRateHz;
  if (old === sampleRateHz) return sound;
  const divisor = commonDivisor(old, sampleRateHz);
  // Of the new rate every up-th frame lies on every down-th of the old one.
  const [up, down] = [sampleRateHz / divisor, old / divisor];
  const length = Math.ceil((frames * up) / down);
  const { broadcast, cues } = sound.info;
  return {
    info: {
      ...sound.info,
      format: { ...format, kind: 'float', bits: 32, sampleRateHz },
      validBits: 32,
      frames: length,
      broadcast: broadcast && {
        ...broadcast,
        timeReference: Math.round((broadcast.timeReference * up) / down),
      },
      cues: cues.map((cue) => ({ ...cue, position: Math.round((cue.position * up) / down) })),
    },
    async *blocks({ from = 0, to = length, blockFrames = blockFramesOf(format.channels) } = {}) {
      const between = new Between(up / down);
      const { reach } = between;
      const first = (frame: number): number => Math.floor((frame * down) / up);
      const planes = planesFor(format.channels, Math.min(blockFrames, Math.max(1, to - from)));
      const source = new Sliding(sound, first(from) - reach, first(to) + reach + 1);
      try {
        for (let position = from; position < to; position += blockFrames) {
          const count = Math.min(blockFrames, to - position);
          const begin = first(position) - reach;
          const held = await source.window(begin, first(position + count) + reach + 2 - begin);
          for (let i = 0; i < count; i++) {
            const exact = (position + i) * down;
            const at = Math.floor(exact / up);
            const fraction = (exact - at * up) / up;
            planes.forEach((plane, c) => {
              plane[i] = between.read(held[c] as Float32Array, at - begin, fraction);
            });
          }
          yield { position, frames: count, planes };
        }
      } finally {
        await source.close();
      }
    },
  };
}
