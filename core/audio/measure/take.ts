import type { Sound } from '../sound';
import type { Planes } from '../wav/decode';
import { BandMeter, type BandFigures } from './bands';
import { decayTimes, type OctaveDecay } from './decay';
import { DelayMeter, onsetDelay, type ChannelDelay, type OnsetDelay } from './delay';
import { mainsHum, type Hum } from './hum';
import { GramMeter, type SameSignal } from './identity';
import { LevelMeter, type LevelFigures } from './levels';
import { resonancesOf, type Resonance } from './resonance';

/** What parts of a take can be measured. */
export const MEASURABLE = [
  'levels',
  'bands',
  'hum',
  'delays',
  'decay',
  'identity',
  'resonances',
] as const;
export type Measurable = (typeof MEASURABLE)[number];

/** How one channel stands against the one that others are measured against. */
export interface DelayFigures {
  channel: number;
  /** over the whole stretch */
  whole: ChannelDelay | null;
  /** at its onsets, before the room answers */
  onsets: OnsetDelay;
}

/** All that was measured of a take; null where it was not asked for. */
export interface TakeFigures {
  seconds: number;
  frames: number;
  /** the stretch that hum, onsets, decays and resonances were read from, s */
  lookedAt: { fromS: number; toS: number };
  channels: LevelFigures['channels'] | null;
  clips: LevelFigures['clips'] | null;
  loudness: LevelFigures['loudness'] | null;
  correlation: LevelFigures['correlation'];
  bands: BandFigures | null;
  /** of each channel, for 50 and 60 Hz */
  hum: Hum[][] | null;
  /** every other channel against one of them */
  delays: DelayFigures[] | null;
  /** of each channel */
  decay: OctaveDecay[][] | null;
  /** tracks that are one and the same signal, and silent ones */
  identity: { same: SameSignal[]; silent: number[] } | null;
  /** of each channel */
  resonances: Resonance[][] | null;
}

/** How a take is measured. */
export interface MeasureOptions {
  what: readonly Measurable[];
  /** stretch of the take, s; to its end where toS is left out */
  fromS: number;
  toS: number;
  /** the channel that the others are measured against, from 0 */
  against: number;
  /** told 0 … 1 now and then */
  progress(fraction: number): void;
}

/** Hum, onsets, decays and resonances are read from the first so many seconds, and samples in all. */
const LOOKED_AT_S = 30;
const MOST_HELD = 2 ** 24;

/**
 * Measures a take in one pass over its samples, in bounded memory.
 * @param options all parts of the whole take against its first channel, where it is left out
 */
export async function measureTake(
  sound: Sound,
  options: Partial<MeasureOptions> = {},
): Promise<TakeFigures> {
  const { what = MEASURABLE, fromS = 0, toS = Infinity, against = 0, progress } = options;
  const { format, frames } = sound.info;
  const { channels, sampleRateHz } = format;
  const wants = (part: Measurable): boolean => what.includes(part);
  const from = Math.min(frames, Math.round(fromS * sampleRateHz));
  const to = Math.max(from, Math.min(frames, Math.round(toS * sampleRateHz)));
  const levels = wants('levels') ? new LevelMeter(sound.info) : null;
  const bands = wants('bands') ? new BandMeter(channels, sampleRateHz) : null;
  const delays =
    wants('delays') && channels > 1 ? new DelayMeter(channels, against, sampleRateHz) : null;
  const gram = wants('identity') ? new GramMeter(channels) : null;
  const heldFor = (['hum', 'delays', 'decay', 'resonances'] as const).some(wants);
  const most = Math.min(LOOKED_AT_S * sampleRateHz, Math.floor(MOST_HELD / channels));
  const kept = heldFor ? Math.min(to - from, most) : 0;
  const room = Array.from({ length: channels }, () => new Float32Array(kept));
  let read = from;
  for await (const { position, frames: count, planes } of sound.blocks({ from, to })) {
    levels?.add(planes, count, position);
    bands?.add(planes, count);
    delays?.add(planes, count);
    gram?.add(planes, count);
    if (position - from < kept) hold(room, planes, position - from, count);
    read = position + count;
    progress?.(to > from ? (read - from) / (to - from) : 1);
  }
  const held = room.map((plane) => plane.subarray(0, read - from));
  const found = levels?.result();
  const eachOf = <T>(part: Measurable, figure: (plane: Float32Array, rate: number) => T) =>
    wants(part) ? held.map((plane) => figure(plane, sampleRateHz)) : null;
  return {
    seconds: (read - from) / sampleRateHz,
    frames: read - from,
    lookedAt: {
      fromS: from / sampleRateHz,
      toS: (from + (held[0]?.length ?? 0)) / sampleRateHz,
    },
    channels: found?.channels ?? null,
    clips: found?.clips ?? null,
    loudness: found?.loudness ?? null,
    correlation: found?.correlation ?? null,
    bands: bands?.result() ?? null,
    hum: eachOf('hum', mainsHum),
    delays: wants('delays') ? againstOne(held, against, sampleRateHz, delays?.result()) : null,
    decay: eachOf('decay', decayTimes),
    identity: gram?.result() ?? null,
    resonances: eachOf('resonances', resonancesOf),
  };
}

/** Keeps the beginning of a stretch. */
function hold(room: Planes, planes: Planes, at: number, count: number): void {
  room.forEach((plane, c) => {
    const block = planes[c]?.subarray(0, Math.min(count, plane.length - at));
    if (block) plane.set(block, at);
  });
}

function againstOne(
  held: Planes,
  against: number,
  sampleRateHz: number,
  whole: (ChannelDelay | null)[] = [],
): DelayFigures[] {
  const reference = held[against];
  if (!reference) return [];
  return held.flatMap((plane, channel) =>
    channel === against
      ? []
      : [
          {
            channel,
            whole: whole[channel] ?? null,
            onsets: onsetDelay(reference, plane, sampleRateHz),
          },
        ],
  );
}
