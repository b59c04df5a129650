import { useEffect } from 'react';
import { withEngine } from '../audio/actions';
import { listeningStore, type RecordingSide } from '../audio/listening';
import type { HeardFile } from '../audio/recording-source';
import type { OpenRecording } from './recordings';

export const sideOf = ({ key }: OpenRecording): RecordingSide => `recording ${key}`;

/** What is heard: all that the recording has, one of its channels, or the plan in its place. */
export type Hear = 'all' | 'plan' | number;

/** Two channels left and right, one in the middle, more of them evenly across. */
function gainsOf(channels: number, channel: number, hear: Hear): { left: number; right: number } {
  if (typeof hear === 'number')
    return channel === hear ? { left: 1, right: 1 } : { left: 0, right: 0 };
  if (channels === 1) return { left: 1, right: 1 };
  const pan = channel / (channels - 1);
  const angle = (pan * Math.PI) / 2;
  return { left: Math.cos(angle), right: Math.sin(angle) };
}

function heardFile(recording: OpenRecording, hear: Hear): HeardFile {
  const { file, info, figures, reference } = recording;
  const { channels, sampleRateHz } = info.format;
  return {
    side: sideOf(recording),
    name: reference.name,
    file,
    rateHz: sampleRateHz,
    frames: info.frames,
    fromS: 0,
    processing: {},
    channels: Array.from({ length: channels }, (_, channel) => ({
      id: `${recording.key} ${channel}`,
      channel,
      ...gainsOf(channels, channel, hear),
    })),
    loudness:
      typeof hear !== 'number' && channels <= 2 ? (figures?.loudness?.integrated ?? null) : null,
  };
}

/** What is looked at is what is heard, for as long as one is here. */
export function useHeardRecording(recording: OpenRecording | null, hear: Hear): void {
  useEffect(() => {
    if (!recording) return;
    void withEngine((engine) => {
      engine.setRecordings([heardFile(recording, hear)]);
      engine.choose(hear === 'plan' ? 'plan' : sideOf(recording));
    });
  }, [recording, hear]);
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
