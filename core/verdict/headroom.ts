import { chosenChannels } from '../audio/chosen';
import { measureTake } from '../audio/measure/take';
import type { Sound } from '../audio/sound';
import type { Work } from '../audio/work';
import type { Session } from '../session/schema';
import type { Figure } from './figures';
import type { Channel } from './stand';

/** Peaks of one performance and another, and of players who play alone or together, dB. */
const OF_PLAYING_DB = 3;

/**
 * Headroom that was left, against what the gains were planned for. Less than planned departs; more is
 * no news where they did not play as loud as they will.
 * @throws Cancelled where it was given up
 */
export async function headroomFigures(
  sound: Sound,
  { rig }: Pick<Session, 'rig'>,
  channels: readonly Channel[],
  work: Partial<Work> = {},
): Promise<Figure[]> {
  const heard = chosenChannels(
    sound,
    channels.map(({ channel }) => channel),
  );
  const levels = await measureTake(heard, { ...work, what: ['levels'] });
  return channels.flatMap(({ name }, i): Figure[] => {
    const measured = levels.channels?.[i]?.headroomDb ?? null;
    if (measured === null) return [];
    const more = measured - rig.headroomDb;
    return [
      {
        what: 'headroom',
        placeId: '',
        placeName: '',
        of: name,
        planned: rig.headroomDb,
        measured,
        within: OF_PLAYING_DB,
        agreement:
          more < -OF_PLAYING_DB ? 'departs' : more > OF_PLAYING_DB ? 'cannot be told' : 'agrees',
        usual: false,
      },
    ];
  });
}
