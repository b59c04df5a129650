import { bestEngine } from '../signal/fast-spectra';
import type { SpectraEngine } from '../signal/spectra';
import type { Sound } from '../sound';
import { partOf, stepDone, walked, type Work } from '../work';
import type { BandFigures } from './bands';
import { decaySteps, DecayTrack, type OctaveDecay } from './decay';
import type { ChannelDelay } from './delay';
import type { Hum } from './hum';
import type { GramMeter, SameSignal } from './identity';
import { MOST_CLIPS, type LevelFigures } from './levels';
import {
  joinedResults,
  LOOKED_AT_S,
  MEASURABLE,
  Meters,
  passesOf,
  type Measurable,
  type MeterResults,
} from './meters';
import { onsetDelays, type OnsetDelay } from './onsets';
import type { Resonance } from './resonance';

/** How one channel stands against the one that others are measured against. */
export interface DelayFigures {
  channel: number;
  /** over the whole stretch; null where one is silent */
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
  /** floats that were no numbers or no sound, and were read as silence */
  faults: { samples: number; firstAtS: number | null };
  /** tracks that are one and the same signal, and silent ones */
  identity: {
    same: SameSignal[];
    silent: number[];
    /** likeness of every two channels, −1 … 1; null where one is silent */
    correlations: ReturnType<GramMeter['correlations']>;
  } | null;
  /** of each channel */
  resonances: Resonance[][] | null;
}

/** How a take is measured. */
export interface MeasureOptions extends Work {
  what: readonly Measurable[];
  /** stretch of the take, s; to its end where toS is left out */
  fromS: number;
  toS: number;
  /** the channel that the others are measured against, from 0 */
  against: number;
  /** the largest delay that is looked for, 1 … 2000 ms */
  mostMs: number;
  /** which of several decays, from 0; null: the mean of all */
  decay: number | null;
  /** clips that are listed, Infinity for all; 100 where it is left out */
  mostClips: number;
  /** told what is known so far of levels, now and then */
  partial(figures: Pick<TakeFigures, 'seconds' | 'channels' | 'loudness'>): void;
}

/** The largest delay that is looked for where nothing else is asked for, ms. */
export const USUAL_DELAY_MS = 200;
/** Samples that are held at once for decays, of as many channels as go in. */
const MOST_HELD = 2 ** 21;
/** So often what is known so far is told, of the whole. */
const PARTIAL = 1 / 20;
/** Of the whole work, the first pass over a take. */
const FIRST_PASS = 0.8;

/**
 * Measures a take in one pass over its samples, in several where it has many channels, and in one more
 * over what decays and sets in: in bounded memory.
 * @param options all parts of the whole take against its first channel, where it is left out
 * @throws Cancelled where it was given up
 */
export async function measureTake(
  sound: Sound,
  options: Partial<MeasureOptions> = {},
): Promise<TakeFigures> {
  const { what = MEASURABLE, fromS = 0, toS = Infinity, against = 0, decay = null } = options;
  const { mostMs = USUAL_DELAY_MS, mostClips = MOST_CLIPS, partial } = options;
  const { format, frames } = sound.info;
  const { sampleRateHz } = format;
  const from = Math.min(frames, Math.round(fromS * sampleRateHz));
  const to = Math.max(from, Math.min(frames, Math.round(toS * sampleRateHz)));
  const looked = Math.min(to, from + Math.round(LOOKED_AT_S * sampleRateHz));
  const engine = await bestEngine();
  const faults: TakeFigures['faults'] = { samples: 0, firstAtS: null };
  let found: MeterResults = {};
  const passes = passesOf(what, format.channels, against);
  let read = from;
  for (const [index, pass] of passes.entries()) {
    const meters = new Meters(sound.info, pass, { mostMs, mostClips, engine });
    const share = (done: number): number => (FIRST_PASS * (index + done)) / passes.length;
    const work = partOf(options, share(0), share(1));
    const stretch = { from, to: pass.whole ? to : looked, ...(pass.only && { only: pass.only }) };
    let told = from;
    for await (const block of walked(sound, stretch, work)) {
      const { position, frames: count } = block;
      meters.add(block, Math.min(count, looked - position));
      if (index === 0 && block.faults) {
        faults.samples += block.faults;
        faults.firstAtS ??= position / sampleRateHz;
      }
      if (index === 0) read = position + count;
      if (!partial || !meters.levels || read - told < (to - from) * PARTIAL) continue;
      told = read;
      const { channels: each, loudness } = meters.levels.soFar();
      partial({ seconds: (read - from) / sampleRateHz, channels: each, loudness });
    }
    found = joinedResults(found, await meters.results(options));
  }
  const { steps } = found;
  const onsets = steps
    ? await onsetDelays(sound, { from, steps, against, mostMs, engine }, options)
    : null;
  const rest = partOf(options, FIRST_PASS, 1);
  const decays = what.includes('decay')
    ? await decaysOf(sound, { from, to: Math.min(looked, read) }, { event: decay, engine }, rest)
    : null;
  options.progress?.(1);
  return {
    seconds: (read - from) / sampleRateHz,
    frames: read - from,
    lookedAt: { fromS: from / sampleRateHz, toS: Math.min(looked, read) / sampleRateHz },
    channels: found.levels?.channels ?? null,
    clips: found.levels?.clips ?? null,
    loudness: found.levels?.loudness ?? null,
    correlation: found.levels?.correlation ?? null,
    bands: found.bands ?? null,
    hum: found.hum ?? null,
    delays: what.includes('delays')
      ? (onsets ?? []).flatMap((onset, channel) =>
          onset ? [{ channel, whole: found.delays?.get(channel) ?? null, onsets: onset }] : [],
        )
      : null,
    decay: decays,
    faults,
    identity: found.identity ?? null,
    resonances: found.resonances ?? null,
  };
}

/** Decays of all channels, as many of them at once as may be held. */
async function decaysOf(
  sound: Sound,
  { from, to }: { from: number; to: number },
  options: { event: number | null; engine: SpectraEngine },
  work: Partial<Work>,
): Promise<OctaveDecay[][]> {
  const { channels, sampleRateHz } = sound.info.format;
  const seconds = (to - from) / sampleRateHz;
  const { rate } = new DecayTrack(sampleRateHz, 0);
  const together = Math.max(1, Math.floor(MOST_HELD / Math.max(1, seconds * rate)));
  const all = Array.from(
    { length: Math.min(together, channels) },
    () => new DecayTrack(sampleRateHz, seconds, options.engine),
  );
  const decays: OctaveDecay[][] = [];
  for (let first = 0; first < channels; first += together) {
    const count = Math.min(together, channels - first);
    const tracks = all.slice(0, count);
    for (const track of tracks) track.restart();
    const group = partOf(work, first / channels, (first + count) / channels);
    const only = tracks.map((_, i) => first + i);
    const part = partOf(group, 0, 0.5);
    for await (const { planes, frames } of walked(sound, { from, to, only }, part)) {
      tracks.forEach((track, i) => {
        const plane = planes[first + i];
        if (plane) track.add(plane, frames);
      });
    }
    for (const track of tracks) {
      const steps = decaySteps(track.end(), track.rate, options);
      for (let step = steps.next(); ; step = steps.next()) {
        if (step.done) {
          decays.push(step.value);
          break;
        }
        await stepDone(work);
      }
      group.progress?.(0.5 + (0.5 * (decays.length - first)) / count);
    }
  }
  return decays;
}
