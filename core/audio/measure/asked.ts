import { done, refused, type Outcome } from '../../units/outcome';
import { bestEngine } from '../signal/fast-spectra';
import type { Sound } from '../sound';
import type { Planes } from '../wav/decode';
import { partOf, walked, type Work } from '../work';
import { sideHeard, TapMeter, type SideHeard, type TapTest } from './identity';
import { MidSideMeter, type MidSideAudit } from './mid-side';
import { OnsetMeter, onsetDelays } from './onsets';
import { matchOfThirds, symmetryOfThirds, ThirdMeter, type PairMatch, type Symmetry } from './pair';

/** A stretch of a recording, s from its beginning. */
export interface Stretch {
  fromS: number;
  toS: number;
}

/** The longest stretch that a single question is asked of, s. */
export const LONGEST_STRETCH_S = 60;

const cut = ({ fromS, toS }: Stretch): Stretch => ({
  fromS,
  toS: Math.min(fromS + LONGEST_STRETCH_S, toS),
});

/** Gives a stretch of some channels to a meter. */
async function fed<Meter extends { add(planes: Planes, frames: number): void }>(
  meter: Meter,
  sound: Sound,
  channels: readonly number[],
  stretch: Stretch,
  work: Partial<Work>,
): Promise<Meter> {
  for await (const { planes, frames } of walked(sound, framesOf(stretch, sound), work)) {
    meter.add(
      channels.flatMap((c) => planes[c] ?? []),
      frames,
    );
  }
  return meter;
}

function framesOf({ fromS, toS }: Stretch, { info }: Sound): { from: number; to: number } {
  const at = (s: number): number => Math.min(info.frames, Math.round(s * info.format.sampleRateHz));
  return { from: at(fromS), to: at(toS) };
}

/**
 * The audit of a mid-side recording, over all of a stretch.
 * @param tracks channels from 0: mid, side, and its copy where there is one
 */
export async function auditMidSide(
  sound: Sound,
  tracks: readonly number[],
  stretch: Stretch,
  work: Partial<Work> = {},
): Promise<MidSideAudit> {
  const { sampleRateHz } = sound.info.format;
  const meter = new MidSideMeter(sampleRateHz, tracks.length > 2, await bestEngine());
  return (await fed(meter, sound, tracks, stretch, work)).result();
}

/**
 * How well two microphones match in a stretch of noise.
 * @param first, second channels, 0 … 63
 * @returns why it cannot be told, where it cannot
 */
export async function matchOf(
  sound: Sound,
  first: number,
  second: number,
  stretch: Stretch,
  work: Partial<Work> = {},
): Promise<Outcome<PairMatch>> {
  const meter = new ThirdMeter(2, sound.info.format.sampleRateHz, await bestEngine());
  const found = matchOfThirds(await fed(meter, sound, [first, second], cut(stretch), work));
  return found ? done(found) : refused('a channel is silent there, or there is less than a second');
}

/**
 * How alike a figure-eight is from both sides, from stretches of noise.
 * @param channel 0 … 63
 * @param stretches from the front, from behind, and perhaps from the side
 * @returns why it cannot be told, where it cannot
 */
export async function symmetryOf(
  sound: Sound,
  channel: number,
  stretches: { front: Stretch; rear: Stretch; side: Stretch | null },
  work: Partial<Work> = {},
): Promise<Outcome<Symmetry>> {
  const engine = await bestEngine();
  const read = (stretch: Stretch, third: number): Promise<ThirdMeter> => {
    const meter = new ThirdMeter(1, sound.info.format.sampleRateHz, engine);
    return fed(meter, sound, [channel], cut(stretch), partOf(work, third / 3, (third + 1) / 3));
  };
  const { front, rear, side } = stretches;
  const [before, behind] = [await read(front, 0), await read(rear, 1)];
  const found = symmetryOfThirds(before, behind, side && (await read(side, 2)));
  return found ? done(found) : refused('a stretch is silent, or shorter than a second');
}

/**
 * The tap test in a stretch.
 * @param announced channels from 0, in the order in which they were announced
 */
export async function tapsOf(
  sound: Sound,
  announced: readonly number[],
  stretch: Stretch,
  work: Partial<Work> = {},
): Promise<TapTest> {
  const { channels, sampleRateHz } = sound.info.format;
  const meter = new TapMeter(channels, sampleRateHz);
  const found = (await fed(meter, sound, all(channels), stretch, work)).result(announced);
  return {
    ...found,
    taps: found.taps.map((tap) => ({ ...tap, atS: tap.atS + stretch.fromS })),
  };
}

/** Which of two channels a sound of known side came to first. @param first, second channels, 0 … 63 */
export async function sideOf(
  sound: Sound,
  first: number,
  second: number,
  stretch: Stretch,
  work: Partial<Work> = {},
): Promise<SideHeard> {
  const { channels, sampleRateHz } = sound.info.format;
  if (first >= channels || second >= channels) {
    return { nearer: null, uncertain: 'a channel is missing' };
  }
  const onsets = new OnsetMeter(channels, sampleRateHz);
  const meter = await fed(onsets, sound, all(channels), cut(stretch), work);
  const steps = meter.result().map((list, c) => (c === first || c === second ? list : []));
  const found = await onsetDelays(sound, {
    from: framesOf(stretch, sound).from,
    steps,
    against: first,
    mostMs: MOST_PAIR_MS,
    engine: await bestEngine(),
  });
  const of = found[second];
  if (!of) return { nearer: null, uncertain: 'the two channels are one' };
  const { delayMs, levelDb, uncertain } = of;
  return uncertain === null ? sideHeard(delayMs, levelDb) : { nearer: null, uncertain };
}

/** Two microphones of a pair are nearer than this for any sound, ms. */
const MOST_PAIR_MS = 50;

const all = (channels: number): number[] => Array.from({ length: channels }, (_, c) => c);
