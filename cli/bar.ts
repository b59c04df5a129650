import type { Sound } from '../core/audio';
import { clapSentence, clapsOf, openWords } from '../core/claps';
import type { Session } from '../core/session';
import type { Place } from '../core/verdict';
import { bindingFor } from './against';
import { Checker } from './checker';
import { placesFrom } from './places';
import type { Machine } from './session-file';

/** How a take of claps is read. */
export interface BarAsk {
  /** places as they were typed; undefined: those of the session */
  at: string | undefined;
  /** what tapes are good to, cm, as it was typed */
  tape: string | undefined;
  /** the first array was plumbed to 1 cm */
  plumb: boolean;
}

const MOST_PLACES = 60;
const [USUAL_TAPE_CM, PLUMB_M] = [2, 0.01];

/**
 * How the rig of a session really stands, by claps at known places.
 * @returns figures with their intervals, or why there are none
 */
export async function barBySession(
  sound: Sound,
  session: Session,
  { at, tape, plumb }: BarAsk,
  machine: Machine,
): Promise<{ errors: string[] } | { bar: object }> {
  const check = new Checker();
  const typed = at === undefined ? null : placesFrom('at', at, MOST_PLACES, check);
  const tapeCm =
    tape === undefined
      ? USUAL_TAPE_CM
      : check.number('tape', tape, { min: 0.1, max: 50, unit: 'cm' });
  if (check.errors.length > 0) return { errors: check.errors };
  const known = typed ?? session.rig.claps;
  if (known.length < 2) {
    return {
      errors: ['--bar: the session has no places for claps; say them by --at X,Y,Z;X,Y,Z;…'],
    };
  }
  const claps = known.map((place, i): Place => {
    const name = 'name' in place ? String(place.name) : `place ${i + 1}`;
    return { x: place.x, y: place.y, z: place.z, id: `${i + 1}`, name, taped: true };
  });
  const binding = bindingFor(session, sound);
  const ask = { binding, claps, alone: null, tapeM: tapeCm / 100, plumbM: plumb ? PLUMB_M : null };
  const progress = (done: number): void => machine.progress('The claps', done);
  const answer = await clapsOf(sound, session, ask, { progress });
  if (!answer.ok) return { errors: [answer.message] };
  const { figures, stage, left, refused, passages } = answer.value;
  return {
    bar: {
      sentence: clapSentence(session, answer.value),
      open: openWords(session, answer.value),
      refused,
      left,
      stage,
      figures,
      passages: passages.map(({ fromS, toS, place }) => ({ fromS, toS, name: place.name })),
    },
  };
}
