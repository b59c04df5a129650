import { useEffect, useMemo } from 'react';
import type { ChannelGains } from '../../core/audio/listen';
import { foldOf } from '../../core/audio/process/fold';
import type { Processing } from '../../core/audio/process/processed';
import { isBound, planMix, type Binding, type Treatment } from '../../core/recorded';
import type { Plan } from '../../core/session';
import { dbToAmplitude } from '../../core/units';
import { withEngine } from '../audio/actions';
import { listeningStore, type RecordingSide } from '../audio/listening';
import type { HeardFile } from '../audio/recording-source';
import { usePlan } from '../document/use-session';
import { useTask } from '../workers/use-task';
import type { OpenRecording } from './recordings';

export const sideOf = ({ key }: OpenRecording): RecordingSide => `recording ${key}`;

/** What is heard: all that the recording has, the plan's mix of it, it as it is treated, or one of its channels. */
export type Hear = 'all' | 'mix' | 'treated' | number;

/** Two channels left and right, one in the middle, more of them evenly across. */
function gainsOf(channels: number, channel: number, hear: Hear): { left: number; right: number } {
  if (typeof hear === 'number')
    return channel === hear ? { left: 1, right: 1 } : { left: 0, right: 0 };
  if (channels === 1) return { left: 1, right: 1 };
  const pan = channel / (channels - 1);
  const angle = (pan * Math.PI) / 2;
  return { left: Math.cos(angle), right: Math.sin(angle) };
}

/** How each channel is heard, and what is done to it before. */
export interface Heard {
  gains: readonly ChannelGains[];
  processing: Partial<Processing>;
}

/**
 * As it is treated: of a bound recording as the plan mixes it, without the plan's delays. The side's level is a gain at the end, so that it is heard while it moves; what takes
 * time is done before.
 */
function treated(
  channels: number,
  { decode, fold, ...treatment }: Treatment,
  mix: readonly ChannelGains[] | null,
): Heard {
  const all = Array.from({ length: channels }, (_, channel) => channel);
  const pass = decode?.sideHighPassHz ?? null;
  const filter = { kind: 'high-pass', gainDb: 0, q: Math.SQRT1_2 } as const;
  const processing = {
    ...treatment,
    filters:
      decode && pass !== null ? [{ channel: decode.side, filter: { ...filter, hz: pass } }] : [],
  };
  if (decode) {
    const side = dbToAmplitude(decode.sideDb);
    return {
      processing,
      gains: all.map((c) =>
        c === decode.mid
          ? { left: 1, right: 1 }
          : { left: c === decode.side ? side : 0, right: c === decode.side ? -side : 0 },
      ),
    };
  }
  const folded = fold === null ? null : foldOf(fold, channels);
  return {
    processing,
    gains: all.map((c) => {
      if (!folded) return mix ? (mix[c] ?? { left: 0, right: 0 }) : gainsOf(channels, c, 'all');
      const [left, right = left] = folded.map(({ gains }) => gains[c] ?? 0);
      return { left: left ?? 0, right: right ?? 0 };
    }),
  };
}

/** The plan's mix of channels that are bound: gains, and what makes its delays. */
export function mixHeard(plan: Plan, binding: Binding): Heard {
  const mix = planMix(plan, binding);
  const late = mix.some(({ delayMs }) => delayMs !== 0);
  return {
    gains: binding.map((_, channel) => ({
      left: mix[channel]?.left ?? 0,
      right: mix[channel]?.right ?? 0,
    })),
    processing: late ? { shiftMs: mix.map(({ delayMs }) => delayMs) } : {},
  };
}

/** All channels as they were recorded: two left and right, one in the middle, more of them across. */
export const allHeard = (channels: number): Heard => ({
  gains: Array.from({ length: channels }, (_, channel) => gainsOf(channels, channel, 'all')),
  processing: {},
});

function heardOf(
  { info, binding }: OpenRecording,
  hear: Hear,
  plan: Plan,
  treatment: Treatment,
): Heard {
  const { channels } = info.format;
  if (hear === 'treated') {
    const mix = planMix(plan, binding).map(({ left, right }) => ({ left, right }));
    return treated(channels, treatment, isBound(binding) ? mix : null);
  }
  if (hear === 'mix') return mixHeard(plan, binding);
  if (hear === 'all') return allHeard(channels);
  const all = Array.from({ length: channels }, (_, channel) => channel);
  return { gains: all.map((channel) => gainsOf(channels, channel, hear)), processing: {} };
}

function heardFile(
  recording: OpenRecording,
  { gains, processing }: Heard,
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
    processing,
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
export function useHeardRecording(
  recording: OpenRecording | null,
  hear: Hear,
  treatment: Treatment,
): void {
  const plan = usePlan();
  const source = recording?.source ?? null;
  const key = recording?.key ?? null;
  const heard = useMemo(
    () => (recording ? heardOf(recording, hear, plan, treatment) : null),
    // What becomes known of a recording changes nothing of how it is heard.
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [key, recording?.binding, hear, plan, hear === 'treated' ? treatment : null],
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
