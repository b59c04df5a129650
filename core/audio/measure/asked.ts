import { done, refused, type Outcome } from '../../units/outcome';
import { heldSamples, type Sound } from '../sound';
import { onsetDelay } from './delay';
import { sideHeard, TapMeter, type SideHeard, type TapTest } from './identity';
import { MidSideMeter, type MidSideAudit } from './mid-side';
import { figureEightSymmetry, pairMatch, type PairMatch, type Symmetry } from './pair';

/** A stretch of a recording, s from its beginning. */
export interface Stretch {
  fromS: number;
  toS: number;
}

/** The longest stretch that is held at once, s. */
export const LONGEST_STRETCH_S = 60;

const held = ({ fromS, toS }: Stretch, sound: Sound): ReturnType<typeof heldSamples> =>
  heldSamples(sound, fromS, Math.min(LONGEST_STRETCH_S, toS - fromS));

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
): Promise<MidSideAudit> {
  const { sampleRateHz } = sound.info.format;
  const meter = new MidSideMeter(sampleRateHz, tracks.length > 2);
  for await (const { planes, frames } of sound.blocks(framesOf(stretch, sound))) {
    meter.add(
      tracks.flatMap((c) => planes[c] ?? []),
      frames,
    );
  }
  return meter.result();
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
): Promise<Outcome<PairMatch>> {
  const planes = await held(stretch, sound);
  const [a, b] = [planes[first], planes[second]];
  const found = a && b ? pairMatch(a, b, sound.info.format.sampleRateHz) : null;
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
): Promise<Outcome<Symmetry>> {
  const read = async (stretch: Stretch): Promise<Float32Array> =>
    (await held(stretch, sound))[channel] ?? new Float32Array(0);
  const { front, rear, side } = stretches;
  const found = figureEightSymmetry(
    await read(front),
    await read(rear),
    side && (await read(side)),
    sound.info.format.sampleRateHz,
  );
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
): Promise<TapTest> {
  const { format } = sound.info;
  const meter = new TapMeter(format.channels, format.sampleRateHz);
  for await (const { planes, frames } of sound.blocks(framesOf(stretch, sound))) {
    meter.add(planes, frames);
  }
  const found = meter.result(announced);
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
): Promise<SideHeard> {
  const planes = await held(stretch, sound);
  const [a, b] = [planes[first], planes[second]];
  if (!a || !b) return { nearer: null, uncertain: 'a channel is missing' };
  const { delayMs, levelDb, uncertain } = onsetDelay(a, b, sound.info.format.sampleRateHz);
  return uncertain === null ? sideHeard(delayMs, levelDb) : { nearer: null, uncertain };
}
