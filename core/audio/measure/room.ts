import type { DecayTime, OctaveDecay } from './decay';

/** Times that a venue may have, s. */
const [LEAST_S, MOST_S] = [0.1, 12];

/** What a decay says of a hall in one octave. */
export interface OctaveTime {
  hz: number;
  /** T30, or T20 where there is none; EDT says how it is heard, and is no time of the hall */
  time: DecayTime | null;
  of: 'T30' | 'T20' | null;
  edt: DecayTime | null;
  rangeDb: number;
  /** why there is none; empty where there is one */
  refused: string;
}

/**
 * The times of a hall by octave, from the decay at one microphone.
 * Source: ISO 3382-1 (T20 and T30 from −5 dB on; the one over the larger range is the surer one).
 */
export const octaveTimes = (decay: readonly OctaveDecay[]): OctaveTime[] =>
  decay.map(({ hz, t20, t30, edt, rangeDb, refused }) => ({
    hz,
    time: t30 ?? t20,
    of: t30 ? 'T30' : t20 ? 'T20' : null,
    edt,
    rangeDb,
    refused,
  }));

/**
 * Octaves that a venue can take, s to two places by their frequency.
 * @returns null where no octave has a time
 */
export function venueTimes(times: readonly OctaveTime[]): Record<string, number> | null {
  const usable = times.flatMap(({ hz, time }): [string, number][] =>
    time && time.seconds >= LEAST_S && time.seconds <= MOST_S
      ? [[`${hz}`, Math.round(time.seconds * 100) / 100]]
      : [],
  );
  return usable.length === 0 ? null : Object.fromEntries(usable);
}
