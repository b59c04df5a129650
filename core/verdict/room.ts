import { deviation, mean } from 'd3-array';
import { diffuseFieldCorrelation } from '../acoustics/diffuse-field';
import { chosenChannels } from '../audio/chosen';
import { measureTake } from '../audio/measure/take';
import type { Sound } from '../audio/sound';
import { partOf, type Work } from '../audio/work';
import { prepareArray } from '../localisation/prepared-array';
import { midReverberationTime } from '../prepare/context';
import type { Session } from '../session/schema';
import { speedOfSound } from '../units/sound';
import { agreementOf, type Figure } from './figures';
import type { Channel } from './stand';

/** After this the direct sound and the first reflections of a clap are over, s. */
const ROOM_FROM_S = 0.14;
/** Octaves whose correlation is looked at, Hz. */
const OCTAVES_HZ = [125, 250, 500, 1000, 2000, 4000] as const;
/** A difference of correlation that matters. */
const MATTERS = 0.2;
/** The energy of a decay lasts this part of its reverberation time. */
const LASTS = 1 / 6.9;
const FEWEST_PASSAGES = 2;
/** A room is not quite diffuse, and is the same one for every clap: a deviation. */
const ONE_ROOM = 0.08;

/**
 * How alike the two channels of the first array hear the room, octave by octave: as planned for a diffuse
 * field, and as measured in what rings after claps.
 * @param channels the first two of one array, else nothing is read
 * @param passages with a clap at the beginning of each, s
 * @throws Cancelled where it was given up
 */
export async function correlationFigures(
  sound: Sound,
  session: Session,
  channels: readonly Channel[],
  passages: readonly { fromS: number; toS: number }[],
  work: Partial<Work> = {},
): Promise<Figure[]> {
  const [first, second] = channels;
  const array = session.arrays.find(({ id }) => id === first?.arrayId);
  if (!first || !second || !array || second.arrayId !== first.arrayId) return [];
  const ready = prepareArray(array, array.mix.capsules);
  const [one, other] = [ready.capsules[first.capsule], ready.capsules[second.capsule]];
  if (!one || !other || passages.length < FEWEST_PASSAGES) return [];
  const both = chosenChannels(sound, [first.channel, second.channel]);
  const found: (readonly { hz: number; value: number | null }[])[] = [];
  for (const [i, { fromS, toS }] of passages.entries()) {
    const share = partOf(work, i / passages.length, (i + 1) / passages.length);
    const stretch = { fromS: Math.min(toS, fromS + ROOM_FROM_S), toS };
    const { bands } = await measureTake(both, { ...share, ...stretch, what: ['bands'] });
    found.push(bands?.correlation ?? []);
  }
  const speed = speedOfSound(session.venue.temperatureC);
  const lastsS = LASTS * (midReverberationTime(session.venue.rt60S) ?? 1);
  return OCTAVES_HZ.flatMap((hz): Figure[] => {
    const values = found.flatMap((list) => list.find((band) => band.hz === hz)?.value ?? []);
    const measured = mean(values);
    if (measured === undefined || values.length < FEWEST_PASSAGES) return [];
    const planned = diffuseFieldCorrelation(one, other, hz, speed).real;
    // So many independent moments there are in a decay of an octave.
    const moments = Math.max(1, hz * Math.SQRT1_2 * lastsS);
    const chance = (1 - measured ** 2) / Math.sqrt(moments * values.length);
    const spread = (deviation(values) ?? 0) / Math.sqrt(values.length);
    const within = Math.hypot(Math.max(chance, spread), ONE_ROOM);
    return [
      {
        what: 'correlation',
        placeId: '',
        placeName: '',
        of: `${hz} Hz`,
        planned,
        measured,
        within,
        agreement: agreementOf(measured - planned, within, MATTERS),
        usual: false,
      },
    ];
  });
}
