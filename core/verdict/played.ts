import { gainPlan } from '../analysis/gain';
import { chosenChannels } from '../audio/chosen';
import type { ChannelLevels } from '../audio/measure/levels';
import { measureTake } from '../audio/measure/take';
import type { Sound } from '../audio/sound';
import type { Work } from '../audio/work';
import type { Session } from '../session/schema';
import { agreementOf, type Figure } from './figures';
import type { Channel } from './stand';

/** Peaks of one performance and another, and of players who play alone or together, dB. */
const OF_PLAYING_DB = 3;
/** How loud each plays against the others, and for how long, in one take: a deviation; and what matters, dB. */
const [OF_BALANCE_DB, BALANCE_DB] = [1.2, 0.5];

const OF_ALL = { placeId: '', placeName: '', usual: false } as const;

/** Headroom that was left, against what the gains were planned for. */
function headroomFigure({ rig }: Pick<Session, 'rig'>, name: string, measured: number): Figure {
  const more = measured - rig.headroomDb;
  return {
    ...OF_ALL,
    what: 'headroom',
    of: name,
    planned: rig.headroomDb,
    measured,
    within: OF_PLAYING_DB / 2,
    agreement:
      more < -OF_PLAYING_DB ? 'departs' : more > OF_PLAYING_DB ? 'cannot be told' : 'agrees',
  };
}

/** The second microphone of the first array against its first, all players and the room together. */
function balanceFigure(
  session: Session,
  [first, second]: readonly Channel[],
  [one, other]: readonly ChannelLevels[],
): Figure | null {
  if (!first || !second || first.arrayId !== second.arrayId) return null;
  const rows = gainPlan(session);
  const [from, to] = [first, second].map(
    ({ arrayId, capsule }) =>
      rows.find((row) => row.arrayId === arrayId && row.capsule === capsule)?.levelDb ?? null,
  );
  if (from == null || to == null || one?.rmsDb == null || other?.rmsDb == null) return null;
  const [planned, measured] = [to - from, other.rmsDb - one.rmsDb];
  return {
    ...OF_ALL,
    what: 'balance',
    of: second.name,
    planned,
    measured,
    within: OF_BALANCE_DB,
    agreement: agreementOf(measured - planned, OF_BALANCE_DB, BALANCE_DB),
  };
}

/**
 * What all of a take in which players play is against the plan: the balance of its first pair, and the
 * headroom that was left. Less headroom than planned departs; more is no news where they did not play
 * as loud as they will.
 * @param simulated nobody set gains for what nobody played: no headroom then
 * @throws Cancelled where it was given up
 */
export async function playedFigures(
  sound: Sound,
  session: Session,
  channels: readonly Channel[],
  simulated: boolean,
  work: Partial<Work> = {},
): Promise<Figure[]> {
  const heard = chosenChannels(
    sound,
    channels.map(({ channel }) => channel),
  );
  const { channels: levels } = await measureTake(heard, { ...work, what: ['levels'] });
  if (!levels) return [];
  const headroom = channels.flatMap(({ name }, i) => {
    const measured = levels[i]?.headroomDb ?? null;
    return measured === null ? [] : headroomFigure(session, name, measured);
  });
  return [balanceFigure(session, channels, levels) ?? [], simulated ? [] : headroom].flat();
}
