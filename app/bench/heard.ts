import { useEffect, useMemo } from 'react';
import { planMix, type MixedChannel } from '../../core/recorded';
import { withEngine } from '../audio/actions';
import { listeningStore, type RecordingSide } from '../audio/listening';
import type { HeardFile } from '../audio/recording-source';
import { usePlan } from '../document/use-session';
import type { OpenRecording } from './recordings';

const NO_MIX: readonly MixedChannel[] = [];

export const sideOf = ({ key }: OpenRecording): RecordingSide => `recording ${key}`;

/** What is heard: all that the recording has, the plan's mix of it, or one of its channels. */
export type Hear = 'all' | 'mix' | number;

/** Two channels left and right, one in the middle, more of them evenly across. */
function gainsOf(channels: number, channel: number, hear: Hear): { left: number; right: number } {
  if (typeof hear === 'number')
    return channel === hear ? { left: 1, right: 1 } : { left: 0, right: 0 };
  if (channels === 1) return { left: 1, right: 1 };
  const pan = channel / (channels - 1);
  const angle = (pan * Math.PI) / 2;
  return { left: Math.cos(angle), right: Math.sin(angle) };
}

function heardFile(recording: OpenRecording, hear: Hear, mix: readonly MixedChannel[]): HeardFile {
  const { source, info, figures, title } = recording;
  const { channels, sampleRateHz } = info.format;
  const mixed = hear === 'mix';
  const late = mixed && mix.some(({ delayMs }) => delayMs !== 0);
  return {
    side: sideOf(recording),
    name: title,
    file: source,
    rateHz: sampleRateHz,
    frames: info.frames,
    fromS: 0,
    processing: late ? { shiftMs: mix.map(({ delayMs }) => delayMs) } : {},
    channels: Array.from({ length: channels }, (_, channel) => ({
      id: `${recording.key} ${channel}`,
      channel,
      ...(mixed
        ? { left: mix[channel]?.left ?? 0, right: mix[channel]?.right ?? 0 }
        : gainsOf(channels, channel, hear)),
    })),
    loudness: hear === 'all' && channels <= 2 ? (figures?.loudness?.integrated ?? null) : null,
  };
}

/** What is looked at is what is heard, for as long as one is here. */
export function useHeardRecording(recording: OpenRecording | null, hear: Hear): void {
  const plan = usePlan();
  const mix = useMemo(
    () => (recording && hear === 'mix' ? planMix(plan, recording.binding) : NO_MIX),
    [recording, hear, plan],
  );
  useEffect(() => {
    if (!recording) return;
    void withEngine((engine) => {
      engine.setRecordings([heardFile(recording, hear, mix)]);
    });
  }, [recording, hear, mix]);
  const side = recording && sideOf(recording);
  // Whatever is chosen of it is heard; what becomes known of it changes nothing.
  useEffect(() => {
    if (side) void withEngine((engine) => engine.choose(side));
  }, [side, hear]);
  useEffect(
    () => () => {
      // Nothing was opened: the engine need not come for it.
      if (listeningStore.getState().recordings.length === 0) return;
      void withEngine((engine) => {
        engine.stop();
        engine.setRecordings([]);
      });
    },
    [],
  );
}
