import { channelMap } from '../core/channels';
import type { Sound } from '../core/audio';
import { bindingByNames, bindingInOrder, isBound, type Binding } from '../core/recorded';
import type { Session } from '../core/session';
import { done, refused, type Outcome } from '../core/units';
import {
  aloneInOrder,
  channelsOf,
  leadsOf,
  placesOf,
  takeAgainstPlan,
  type Alone,
  type Place,
  type TakeAgainstPlan,
} from '../core/verdict';
import type { Machine } from './session-file';

/** How a take is held against a session. */
export interface AgainstAsk {
  /** claps at places that were taped, rather than players who play in turn */
  claps: boolean;
  /** who is heard in which order; null: everybody as the session lists them */
  order: string | null;
  /** who leads when, by the delay that two channels keep to, rather than silences */
  leads: boolean;
}

/** Channels by their names, else in the order of the channel list. */
export function bindingFor(session: Session, sound: Sound): Binding {
  const { channelNames, format } = sound.info;
  const byNames = bindingByNames(session, channelNames);
  return isBound(byNames) ? byNames : bindingInOrder(session, format.channels);
}

/** Places by name or id, in the order that is typed. */
function orderOf(session: Session, order: string, taped: boolean): Place[] | string {
  const all = placesOf(session, taped);
  const found: Place[] = [];
  for (const wanted of order.split(',').map((text) => text.trim())) {
    const place = all.find(({ id, name }) => id === wanted || name === wanted);
    if (!place) {
      const names = all.map(({ name }) => name).join(', ');
      return `--order: nobody is called ${JSON.stringify(wanted)}; allowed: ${names}, joined by commas`;
    }
    found.push(place);
  }
  return found;
}

/** Whoever leads, and fits one of the plan alone. */
async function ledOnes(
  sound: Sound,
  session: Session,
  binding: Binding,
): Promise<Outcome<Alone[]>> {
  const leads = await leadsOf(sound, session, binding);
  const alone = leads.flatMap(({ fromS, toS, place }) => (place ? [{ fromS, toS, place }] : []));
  return alone.length > 0
    ? done(alone)
    : refused('nobody of the plan leads for two seconds by the delay of the first two microphones');
}

/**
 * A take held against the plan of a session.
 * @returns the verdict with channels counted from 1, or why there is none
 */
export async function againstSession(
  sound: Sound,
  session: Session,
  { claps, order, leads }: AgainstAsk,
  machine: Machine,
): Promise<{ errors: string[] } | { verdict: object; held: TakeAgainstPlan; against: string }> {
  const binding = bindingFor(session, sound);
  const work = { progress: (done: number) => machine.progress('Held against the plan', done) };
  const places = order === null ? null : orderOf(session, order, claps);
  if (typeof places === 'string') return { errors: [places] };
  const heard = channelsOf(session, binding).map(({ channel }) => channel);
  const alone = leads
    ? await ledOnes(sound, session, binding)
    : places
      ? await aloneInOrder(sound, heard, places)
      : null;
  if (alone && !alone.ok) return { errors: [alone.message] };
  const answer = await takeAgainstPlan(
    sound,
    session,
    { binding, alone: alone ? alone.value : null, taped: claps },
    work,
  );
  if (!answer.ok) return { errors: [answer.message] };
  const { sentence, why, causes, figures, missing, notes, alone: passages } = answer.value;
  const { inputs } = channelMap(session);
  const [first] = channelsOf(session, binding);
  return {
    held: answer.value,
    against: first?.name ?? 'the first channel',
    verdict: {
      sentence,
      why,
      causes: causes.found.map(({ channel, ...cause }) => ({
        ...cause,
        channel: channel === null ? null : channel + 1,
      })),
      figures,
      passages: passages.map(({ fromS, toS, place }) => ({ fromS, toS, name: place.name })),
      bound: binding.map((number) => (number === null ? null : (inputs[number - 1]?.name ?? null))),
      missing,
      notes,
    },
  };
}
