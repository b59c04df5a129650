import { inRange } from '../units/guard';
import type { Sound } from './sound';

/**
 * Some channels of a recording, as a recording: the others are not decoded.
 * @param channels from 0, 0 … 63, in the order in which they come out
 * @throws RangeError where the recording has no such channel
 */
export function chosenChannels(sound: Sound, channels: readonly number[]): Sound {
  const { info } = sound;
  for (const channel of channels) inRange('channel', channel, 0, info.format.channels - 1);
  const names = info.channelNames;
  return {
    info: {
      ...info,
      format: { ...info.format, channels: channels.length },
      channelMask: null,
      channelNames: channels.map((c) => names[c] ?? ''),
    },
    async *blocks(range = {}) {
      const only = [...new Set(channels)];
      for await (const block of sound.blocks({ ...range, only })) {
        yield { ...block, planes: channels.flatMap((c) => block.planes[c] ?? []) };
      }
    },
  };
}
