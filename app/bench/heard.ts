import { useEffect, useMemo } from 'react';
import type { ChannelGains } from '../../core/audio/listen';
import { planMix } from '../../core/recorded';
import type { Plan } from '../../core/session';
import { withEngine } from '../audio/actions';
import { listeningStore, type RecordingSide } from '../audio/listening';
import type { HeardFile } from '../audio/recording-source';
import { usePlan } from '../document/use-session';
import { useTask } from '../workers/use-task';
import type { OpenRecording } from './recordings';

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

/** How each channel is heard, and by how much later. */
interface Heard {
  gains: readonly ChannelGains[];
  shiftMs: readonly number[];
}

function heardOf({ info, binding }: OpenRecording, hear: Hear, plan: Plan): Heard {
  const { channels } = info.format;
  const all = Array.from({ length: channels }, (_, channel) => channel);
  if (hear !== 'mix')
    return { gains: all.map((channel) => gainsOf(channels, channel, hear)), shiftMs: [] };
  const mix = planMix(plan, binding);
  const late = mix.some(({ delayMs }) => delayMs !== 0);
  return {
    gains: all.map((channel) => ({
      left: mix[channel]?.left ?? 0,
      right: mix[channel]?.right ?? 0,
    })),
    shiftMs: late ? mix.map(({ delayMs }) => delayMs) : [],
  };
}

function heardFile(
  recording: OpenRecording,
  { gains, shiftMs }: Heard,
  loudness: number | null,
): HeardFile {
  const { source, info, title } = recording;
  return {
    side: sideOf(recording),
    name: title,
    file: source,
    rateHz: info.format.sampleRateHz,
    frames: info.frames,
    fromS: 0,
    processing: shiftMs.length > 0 ? { shiftMs } : {},
    channels: gains.map((gain, channel) => ({
      id: `${recording.key} ${channel}`,
      channel,
      ...gain,
    })),
    loudness,
  };
}

/** Two channels left and right are as loud as they were measured; of all else it is asked. */
const asMeasured = ({ info }: OpenRecording, hear: Hear): boolean =>
  hear === 'all' && info.format.channels === 2;

/** What is looked at is what is heard, for as long as one is here. */
export function useHeardRecording(recording: OpenRecording | null, hear: Hear): void {
  const plan = usePlan();
  const source = recording?.source ?? null;
  const key = recording?.key ?? null;
  const heard = useMemo(
    () => (recording ? heardOf(recording, hear, plan) : null),
    // What becomes known of a recording changes nothing of how it is heard.
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [key, recording?.binding, hear, plan],
  );
  const measured = recording !== null && asMeasured(recording, hear);
  const ask = useMemo(
    () => (source && heard && !measured ? { file: source, ...heard } : null),
    [source, heard, measured],
  );
  const asked = useTask('heard', ask);
  const figure = measured
    ? recording.figures?.loudness?.integrated
    : asked.busy
      ? null
      : asked.value;
  const loudness = figure ?? null;
  useEffect(() => {
    if (!recording || !heard) return;
    void withEngine((engine) => {
      engine.setRecordings([heardFile(recording, heard, loudness)]);
    });
  }, [recording, heard, loudness]);
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
