import { nearArrivals, type Arrival } from '../localisation/cues';
import { readyArray } from '../prepare/arrays';
import { realGain } from '../acoustics/patterns';
import { BOUNDS } from '../session/bounds';
import type { MicArray, Session } from '../session/schema';
import { amplitudeDb } from '../units/guard';
import { clamp } from '../units/numbers';
import { remembered } from '../units/remember';
import { speedOfSound } from '../units/sound';
import { inputOf, type Binding } from '../recorded/bound';

/** Where sound came from while it was alone. */
export interface Place {
  id: string;
  name: string;
  x: number;
  y: number;
  z: number;
  /** a clap at a place that was taped, rather than a player on a chair */
  taped: boolean;
}

/** A channel of a recording that is a microphone of the plan. */
export interface Channel {
  /** of the recording, from 0 */
  channel: number;
  name: string;
  arrayId: string;
  /** place in the array's order */
  capsule: number;
}

/** One channel against the one that all are measured against. */
export interface Cue {
  /** later, ms */
  delayMs: number;
  /** dB */
  levelDb: number;
  /** as the other, or turned over */
  polarity: 1 | -1;
}

/** A rig as it may stand, and where sound came from: what cues follow from. */
export interface Stand {
  arrays: readonly MicArray[];
  places: readonly Place[];
  temperatureC: number;
  channels: readonly Channel[];
  /** by channel of the list: later, louder, turned over on its way to the recorder */
  lateMs: readonly number[];
  hotDb: readonly number[];
  inverted: readonly boolean[];
  /** which microphone is heard on each channel of the list, as a place in it */
  hears: readonly number[];
}

/** The channels that are bound to arrays in use, those of the first main array first. */
export function channelsOf(session: Session, binding: Binding): Channel[] {
  const found = binding.flatMap((_, channel) => {
    const input = inputOf(session, binding, channel);
    return input
      ? { channel, name: input.name, arrayId: input.arrayId, capsule: input.capsule }
      : [];
  });
  const rank = ({ arrayId }: Channel): number =>
    session.arrays.find(({ id }) => id === arrayId)?.role === 'main' ? 0 : 1;
  return found.sort((a, b) => rank(a) - rank(b) || a.channel - b.channel);
}

/** The rig as it was planned, with nothing between microphone and recorder. */
export function plannedStand(
  session: Session,
  channels: readonly Channel[],
  places: readonly Place[],
): Stand {
  return {
    arrays: session.arrays,
    places,
    temperatureC: session.venue.temperatureC,
    channels,
    lateMs: channels.map(() => 0),
    hotDb: channels.map(() => 0),
    inverted: channels.map(() => false),
    hears: channels.map((_, i) => i),
  };
}

interface Heard {
  timeMs: number;
  db: number;
  sign: 1 | -1;
}

interface Arrived {
  speed: number;
  arrivals: readonly Arrival[] | null;
}

const arrivedBy = remembered((_array: MicArray) => new WeakMap<Place, Arrived>());

/** A place at every capsule of an array; computed once for each two of them, as most stay where they are. */
function arrivedAt(array: MicArray, place: Place, speed: number): Arrived['arrivals'] {
  const known = arrivedBy(array);
  const before = known.get(place);
  if (before?.speed === speed) return before.arrivals;
  const arrivals = nearArrivals(readyArray(array), place, speed);
  known.set(place, { speed, arrivals });
  return arrivals;
}

/**
 * What every channel says against the first of the list, of one place.
 * @returns by channel of the list, the first left out; null where a place is at a capsule
 */
export function cuesAt(stand: Stand, place: Place): (Cue | null)[] {
  const { min, max } = BOUNDS.temperatureC;
  const speed = speedOfSound(clamp(stand.temperatureC, min, max));
  const byId = new Map(stand.arrays.map((array) => [array.id, array]));
  const heard = stand.channels.map(({ arrayId, capsule }): Heard | null => {
    const array = byId.get(arrayId);
    const arrival = array && arrivedAt(array, place, speed)?.[capsule];
    if (!arrival) return null;
    return {
      timeMs: 1000 * arrival.timeS,
      db: amplitudeDb(realGain(arrival.gain, arrival.timeS * speed)),
      sign: arrival.gain < 0 ? -1 : 1,
    };
  });
  const on = (i: number): Heard | null => {
    const one = heard[stand.hears[i] ?? i];
    if (!one) return null;
    return {
      timeMs: one.timeMs + (stand.lateMs[i] ?? 0),
      db: one.db + (stand.hotDb[i] ?? 0),
      sign: stand.inverted[i] ? (one.sign === 1 ? -1 : 1) : one.sign,
    };
  };
  const first = on(0);
  return stand.channels.slice(1).map((_, k) => {
    const other = on(k + 1);
    if (!first || !other) return null;
    return {
      delayMs: other.timeMs - first.timeMs,
      levelDb: other.db - first.db,
      polarity: other.sign === first.sign ? 1 : -1,
    };
  });
}
