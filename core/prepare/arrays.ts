import { realGain } from '../acoustics/patterns';
import { nearArrivals, type Arrival } from '../localisation/cues';
import { prepareArray, type PreparedArray } from '../localisation/prepared-array';
import type { MicArray, Source } from '../session/schema';
import { remembered } from '../units/remember';

/** An array of a session with its strips, placed and routed once, whoever asks for it. */
export const readyArray: (array: MicArray) => PreparedArray = remembered((array) =>
  prepareArray(array, array.mix.capsules),
);

/** An arrival's amplitude as a real microphone has it, whose nulls are not bare; 0 and more. */
export const realGainOf = ({ gain, timeS }: Arrival, speed: number): number =>
  realGain(gain, timeS * speed);

interface Arrived {
  speed: number;
  arrivals: Arrival[] | null;
}

const heardBy = remembered((_array: MicArray) => new WeakMap<Source, Arrived>());

/**
 * A source at every capsule of an array, as nearArrivals; computed once for each two of them.
 * @param speed speed of sound, m/s
 * @returns null where the source is within 1 cm of a capsule
 */
export function arrivalsAt(
  array: MicArray,
  source: Source,
  speed: number,
): readonly Arrival[] | null {
  const heard = heardBy(array);
  const known = heard.get(source);
  if (known?.speed === speed) return known.arrivals;
  const arrivals = nearArrivals(readyArray(array), source, speed);
  heard.set(source, { speed, arrivals });
  return arrivals;
}
