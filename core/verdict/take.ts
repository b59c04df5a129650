import { cuesOf } from '../audio/measure/cues';
import { passagesOf } from '../audio/measure/passages';
import { measureTake } from '../audio/measure/take';
import type { Stretch } from '../audio/measure/asked';
import { SIMULATION } from '../audio/simulation';
import type { Sound } from '../audio/sound';
import { partOf, stepDone, type Work } from '../audio/work';
import { channelMap } from '../channels/map';
import type { Binding } from '../recorded/bound';
import { builtSession } from '../rig/as-built';
import type { Session } from '../session/schema';
import { formatNumber } from '../units/format';
import { done, refused, type Outcome } from '../units/outcome';
import { measuredAt } from './measured';
import { channelsOf, plannedStand, type Place } from './stand';
import { directFigures } from './direct';
import { playedFigures } from './played';
import { correlationFigures } from './room';
import { verdictOf, type TakeVerdict } from './verdict';

/** A passage in which one is alone, and who. */
export interface Alone extends Stretch {
  place: Place;
}

/** A take held against its plan. */
export interface TakeAgainstPlan extends TakeVerdict {
  alone: Alone[];
  /** microphones of the plan that are on no channel of the take */
  missing: string[];
  /** what else is other than planned, in words */
  notes: string[];
}

/** Nobody set gains for what nobody played. */
const isSimulation = ({ info }: Sound): boolean =>
  (info.broadcast?.description ?? '').startsWith(SIMULATION);

function notesOf({ info }: Sound, { settings }: Session): string[] {
  const { sampleRateHz } = info.format;
  if (sampleRateHz === settings.sampleRateHz) return [];
  const [rate, wanted] = [sampleRateHz, settings.sampleRateHz].map((hz) =>
    formatNumber(hz / 1000, hz % 1000 === 0 ? 0 : 1),
  ) as [string, string];
  return [
    `the recording has ${rate} kHz and the plan ${wanted} kHz: delays are compared in ms, samples are not the same`,
  ];
}

/** More passages than these nobody walks in one take. */
const MOST_PASSAGES = 60;
/** Decays are read from no more than this, s. */
const DECAYS_S = 600;

/**
 * Passages that stand apart, given to places in their order.
 * @param places as they were announced
 * @returns why not, where there are not as many
 */
export async function aloneInOrder(
  sound: Sound,
  channels: readonly number[],
  places: readonly Place[],
  work: Partial<Work> = {},
): Promise<Outcome<Alone[]>> {
  const passages = await passagesOf(sound, channels, work);
  if (passages.length !== places.length) {
    return refused(
      `${passages.length} passages stand apart by a second of silence, and ${places.length} places are announced: say which are meant, or mark the passages by hand`,
    );
  }
  return done(
    passages.flatMap((passage, i) => {
      const place = places[i];
      return place ? { ...passage, place } : [];
    }),
  );
}

/**
 * A take against the plan that it was made under, As built where that was noted.
 * @param alone who is alone when; null: everybody of the plan in turn, with a second of silence between
 * @param taped whether those were claps at places that were taped, where alone is null
 * @returns why it cannot be told, where it cannot
 * @throws Cancelled where it was given up
 */
export async function takeAgainstPlan(
  sound: Sound,
  plan: Session,
  { binding, alone, taped }: { binding: Binding; alone: readonly Alone[] | null; taped: boolean },
  work: Partial<Work> = {},
): Promise<Outcome<TakeAgainstPlan>> {
  const session = builtSession(plan);
  const channels = channelsOf(session, binding);
  const [first] = channels;
  if (!first || channels.length < 2) {
    return refused(
      'two channels at least must be microphones of the plan: bind them to the channel list',
    );
  }
  const heard = channels.map(({ channel }) => channel);
  const everybody = session.sources.map(({ id, name, x, y, z }) => ({ id, name, x, y, z, taped }));
  const found = alone
    ? done([...alone])
    : await aloneInOrder(sound, heard, everybody, partOf(work, 0, 0.2));
  if (!found.ok) return found;
  const passages = found.value;
  if (passages.length === 0 || passages.length > MOST_PASSAGES) {
    return refused(`${passages.length} passages; allowed: 1 to ${MOST_PASSAGES} at once`);
  }
  const near = channels.flatMap(({ arrayId, channel }) =>
    arrayId === first.arrayId ? [channel] : [],
  );
  const measured = [];
  for (const [i, { place, ...stretch }] of passages.entries()) {
    const share = (n: number): number => 0.2 + (0.5 * n) / passages.length;
    const cues = await cuesOf(
      sound,
      stretch,
      heard,
      first.channel,
      partOf(work, share(i), share(i + 1)),
      near,
    );
    measured.push(measuredAt(cues, channels, place));
    await stepDone(work);
  }
  // What rings on after a note is the instrument as well as the room.
  const claps = passages.every(({ place }) => place.taped);
  const { decay } = claps
    ? await measureTake(sound, { ...partOf(work, 0.7, 0.9), what: ['decay'], toS: DECAYS_S })
    : { decay: null };
  const room = claps
    ? [
        ...(await directFigures(sound, session, first, passages, partOf(work, 0.9, 0.95))),
        ...(await correlationFigures(sound, session, channels, passages, partOf(work, 0.95, 1))),
      ]
    : await playedFigures(sound, session, channels, isSimulation(sound), partOf(work, 0.7, 1));
  const stand = plannedStand(
    session,
    channels,
    passages.map(({ place }) => place),
  );
  const bound = new Set(binding);
  return done({
    ...verdictOf(session, stand, measured, decay ?? [], room),
    alone: passages,
    missing: channelMap(session)
      .inputs.filter(({ number }) => !bound.has(number))
      .map(({ name }) => name),
    notes: isSimulation(sound) ? [] : notesOf(sound, session),
  });
}
