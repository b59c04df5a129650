import type { Room } from '../../acoustics/reflections';
import { eyringTime, OCTAVES_HZ, transitionFrequency } from '../../acoustics/reverberation-time';
import { hallMeasures, roomAt } from '../../hall';
import type { Session } from '../../session/schema';
import { timeAt, type Hall } from './hall';
import type { OctaveSurfaces } from './image-filters';

function hallOf({ venue }: Pick<Session, 'venue'>, speed: number): Hall | null {
  const { rt60S } = venue;
  const measures = hallMeasures(venue);
  if (rt60S === null || !measures) return null;
  const times: [number, number][] =
    typeof rt60S === 'number'
      ? [[1000, rt60S]]
      : Object.entries(rt60S)
          .map(([hz, seconds]): [number, number] => [Number(hz), seconds ?? 0])
          .filter(([, seconds]) => seconds > 0)
          .sort(([a], [b]) => a - b);
  if (times.length === 0) return null;
  return { ...measures, rt60S: times, speed };
}

/** The mean absorption with which Eyring's time is a hall's, 0.001 … 0.999. */
function meanAbsorption({ volumeM3, surfaceM2 }: Hall, seconds: number): number {
  let [low, high] = [0.001, 0.999];
  for (let i = 0; i < 40; i++) {
    const absorption = (low + high) / 2;
    const found = eyringTime(volumeM3, [{ areaM2: surfaceM2, absorption }], 0);
    if (found !== null && found > seconds) low = absorption;
    else high = absorption;
  }
  return (low + high) / 2;
}

type Absorption = Readonly<Record<string, number | null>>;

/** Surfaces of which nothing is known absorb as much as the reverberation time says of all. */
const filled = <A extends Absorption>(known: A, usual: number | null): A =>
  Object.fromEntries(
    Object.entries(known).map(([surface, absorption]) => [surface, absorption ?? usual]),
  ) as A;

/** The room that is heard, as far as the session says what it is. */
export interface SoundingRoom {
  /** with the absorption at 1 kHz */
  room: Room | null;
  /** what the surfaces absorb by octave; null where that is the same in all of them */
  surfaces: OctaveSurfaces | null;
  hall: Hall | null;
  /** what is left out, and why */
  notes: string[];
}

const MIDDLE_HZ = 1000;
/** Below this nobody hears single resonances of a room. */
const HEARD_HZ = 60;

function octavesOf(session: Pick<Session, 'venue'>, hall: Hall | null): OctaveSurfaces | null {
  const octaves = OCTAVES_HZ.map((hz) => ({
    hz,
    absorption: filled(
      roomAt(session, hz)?.absorption ?? {},
      hall && meanAbsorption(hall, timeAt(hall, hz)),
    ),
  }));
  const first: Absorption = octaves[0]?.absorption ?? {};
  const alike = octaves.every(({ absorption }) =>
    Object.entries(absorption).every(([name, value]) => value === first[name]),
  );
  return alike ? null : octaves;
}

/**
 * The room that is heard.
 * @param dry direct sound alone is wanted
 * @param speed of sound, 250 … 450 m/s
 */
export function soundingRoom(
  session: Pick<Session, 'venue'>,
  dry: boolean,
  speed: number,
): SoundingRoom {
  const box = dry ? null : roomAt(session, MIDDLE_HZ);
  const hall = box && hallOf(session, speed);
  const notes: string[] = [];
  if (!dry && !box)
    notes.push(
      'without the size of the hall and the place of the stage in it there is no room in the sound',
    );
  else if (!dry && !hall)
    notes.push('without a reverberation time there are early reflections only');
  if (!box) return { room: null, surfaces: null, hall, notes };
  const middleS = hall && timeAt(hall, MIDDLE_HZ);
  if (hall && middleS !== null) {
    const transition = transitionFrequency(hall.volumeM3, middleS);
    if (transition > HEARD_HZ)
      notes.push(
        `below about ${Math.round(transition / 10) * 10} Hz a room of this size has single resonances; the simulation has their average`,
      );
  }
  const usual = hall && middleS !== null ? meanAbsorption(hall, middleS) : null;
  const room: Room =
    'faces' in box
      ? { ...box, absorption: filled(box.absorption, usual) }
      : { ...box, absorption: filled(box.absorption, usual) };
  return { room, surfaces: octavesOf(session, hall), hall, notes };
}
