import { cuesOf } from '../audio/measure/cues';
import type { Stretch } from '../audio/measure/asked';
import type { Sound } from '../audio/sound';
import { partOf, stepDone, type Work } from '../audio/work';
import type { Binding } from '../recorded/bound';
import type { Session } from '../session/schema';
import { done, refused, type Outcome } from '../units/outcome';
import { measuredAt, type MeasuredAt } from '../verdict/measured';
import { channelsOf, type Place } from '../verdict/stand';
import { placesOf } from '../verdict/figures';
import { aloneInOrder, type Alone } from '../verdict/take';
import { clapEstimate, USUAL_CLAPS, type ClapEstimate, type ClapOptions } from './estimate';

/** A take of claps: which passage is of which place. */
export interface ClapsAsk extends Partial<ClapOptions> {
  binding: Binding;
  /** places in the order in which they were clapped, as they were taped */
  claps: readonly Place[];
  /** passages and their places, mended by hand; null: those that stand apart, in order */
  alone: readonly Alone[] | null;
}

/** The rig as a take of claps has it, and the passages that it is of. */
export interface ClapsTake extends ClapEstimate {
  passages: (Stretch & { place: Place })[];
}

/** More places than these nobody claps at. */
const MOST_PLACES = 60;

/**
 * How the rig of a plan really stands, from a take of claps at places that were taped.
 * @param plan as it was planned: what was noted as built is what is asked for
 * @returns why it cannot be told, where it cannot
 * @throws Cancelled where it was given up
 */
export async function clapsOf(
  sound: Sound,
  plan: Session,
  { binding, claps, alone, tapeM, plumbM }: ClapsAsk,
  work: Partial<Work> = {},
): Promise<Outcome<ClapsTake>> {
  const channels = channelsOf(plan, binding);
  const [first] = channels;
  if (!first || channels.length < 2) {
    return refused(
      'two channels at least must be microphones of the plan: bind them to the channel list',
    );
  }
  const heard = channels.map(({ channel }) => channel);
  const found = alone
    ? done([...alone])
    : await aloneInOrder(sound, heard, claps, partOf(work, 0, 0.2));
  if (!found.ok) return found;
  const passages = found.value;
  if (passages.length < 2 || passages.length > MOST_PLACES) {
    return refused(`${passages.length} places with claps; allowed: 2 to ${MOST_PLACES}`);
  }
  const measured: MeasuredAt[] = [];
  for (const [i, { place, ...stretch }] of passages.entries()) {
    const share = (n: number): number => 0.2 + (0.7 * n) / passages.length;
    const part = partOf(work, share(i), share(i + 1));
    const cues = await cuesOf(sound, stretch, heard, first.channel, part);
    measured.push(measuredAt(cues, channels, { ...place, taped: true }));
    await stepDone(work);
  }
  const places = passages.map(({ place }) => place);
  const players = placesOf(plan, false);
  const estimate = clapEstimate(plan, channels, places, measured, players, {
    tapeM: tapeM ?? USUAL_CLAPS.tapeM,
    plumbM: plumbM === undefined ? USUAL_CLAPS.plumbM : plumbM,
  });
  work.progress?.(1);
  return done({ ...estimate, passages });
}
