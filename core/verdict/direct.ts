import { directOverDiffuseDb } from '../acoustics/reverberant-field';
import { realGain } from '../acoustics/patterns';
import { directToRoomDb } from '../audio/measure/cues';
import type { Sound } from '../audio/sound';
import { partOf, type Work } from '../audio/work';
import { nearArrivals } from '../localisation/cues';
import { prepareArray } from '../localisation/prepared-array';
import { contextOf, midReverberationTime } from '../prepare/context';
import type { Session } from '../session/schema';
import { powerDb } from '../units/guard';
import { agreementOf, type Figure } from './figures';
import type { Channel, Place } from './stand';

/** A difference that is heard as nearer or farther, dB. */
const MATTERS_DB = 2;
/** How a clap radiates, its spectrum against the octaves of the hall, and the hall's own way: a deviation, dB. */
const OPEN_DB = 1.5;
/** An energy falls by a factor e in a 13.8th of the reverberation time. */
const NEPERS = 13.8;

/** What a diffuse hall would make of a clap at a place: softer at a distance, as sound takes time. */
function plannedDb(session: Session, { arrayId, capsule }: Channel, place: Place): number | null {
  const array = session.arrays.find(({ id }) => id === arrayId);
  const { speed, criticalDistanceM } = contextOf(session);
  const decayS = midReverberationTime(session.venue.rt60S);
  if (!array || criticalDistanceM === null || decayS === null) return null;
  const ready = prepareArray(array, array.mix.capsules);
  const arrival = nearArrivals(ready, place, speed)?.[capsule];
  const diffuse = ready.diffuse[capsule] ?? 0;
  if (!arrival || diffuse <= 0) return null;
  const gain = realGain(arrival.gain, arrival.timeS * speed);
  const ratio = directOverDiffuseDb(gain * gain, diffuse, 1, criticalDistanceM);
  return ratio + powerDb(Math.exp((NEPERS * arrival.timeS) / decayS));
}

/**
 * Direct sound against the room at the first microphone, clap by clap.
 * Source: the revised theory of Barron & Lee (1988) for what is planned.
 * @param passages with claps at a place each, s
 * @returns none where the size or the reverberation of the hall is not known
 * @throws Cancelled where it was given up
 */
export async function directFigures(
  sound: Sound,
  session: Session,
  channel: Channel,
  passages: readonly { fromS: number; toS: number; place: Place }[],
  work: Partial<Work> = {},
): Promise<Figure[]> {
  const found: Figure[] = [];
  for (const [i, { place, ...stretch }] of passages.entries()) {
    const planned = plannedDb(session, channel, place);
    if (planned === null) continue;
    const share = partOf(work, i / passages.length, (i + 1) / passages.length);
    const measured = await directToRoomDb(sound, stretch, channel.channel, share);
    if (measured === null) continue;
    found.push({
      what: 'direct',
      placeId: place.id,
      placeName: place.name,
      of: channel.name,
      planned,
      measured,
      within: OPEN_DB,
      agreement: agreementOf(measured - planned, OPEN_DB, MATTERS_DB),
      usual: true,
    });
  }
  return found;
}
