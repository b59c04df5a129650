import { ledOf, type LedStretch } from '../audio/measure/led';
import type { Sound } from '../audio/sound';
import type { Work } from '../audio/work';
import type { Binding } from '../recorded/bound';
import { builtSession } from '../rig/as-built';
import type { Session } from '../session/schema';
import { placesOf } from './figures';
import { channelsOf, cuesAt, plannedStand, type Place } from './stand';

/** A stretch in which one leads, perhaps alone, and who it may be. */
export interface Lead extends LedStretch {
  /** null: it fits nobody, or two as well */
  place: Place | null;
}

/** Nobody sits farther from the plan than this in delay, ms; and the next one fits so many times worse. */
const [FITS_MS, TIMES] = [0.08, 2];

/** Who of the plan has a delay nearest to one that was read. @returns null of two that are nearly as near */
function whoOf(
  delays: readonly { place: Place; delayMs: number }[],
  delayMs: number,
): Place | null {
  const [one, next] = delays
    .map(({ place, delayMs: planned }) => ({ place, off: Math.abs(planned - delayMs) }))
    .sort((a, b) => a.off - b.off);
  if (!one || one.off > FITS_MS) return null;
  return next && next.off < TIMES * one.off ? null : one.place;
}

/**
 * Stretches of a take in which one leads, by the first two microphones of its first array, and who of
 * the plan it may be. Whether they are alone only a listener tells.
 * @returns none where no two channels are of one array
 * @throws Cancelled where it was given up
 */
export async function leadsOf(
  sound: Sound,
  plan: Session,
  binding: Binding,
  work: Partial<Work> = {},
): Promise<Lead[]> {
  const session = builtSession(plan);
  const channels = channelsOf(session, binding);
  const [first, second] = channels;
  if (!first || !second || first.arrayId !== second.arrayId) return [];
  const places = placesOf(session, false);
  const stand = plannedStand(session, channels, places);
  const delays = places.flatMap((place) => {
    const cue = cuesAt(stand, place)[0];
    return cue ? [{ place, delayMs: cue.delayMs }] : [];
  });
  const led = await ledOf(sound, [first.channel, second.channel], work);
  return led.map((stretch) => ({ ...stretch, place: whoOf(delays, stretch.delayMs) }));
}
