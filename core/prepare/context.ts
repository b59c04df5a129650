import { mean } from 'd3-array';
import { criticalDistance } from '../acoustics/reverberant-field';
import { hallMeasures } from '../hall';
import type { OwnShape } from '../localisation/models/own';
import type { Session, Venue } from '../session/schema';
import { speedOfSound } from '../units/sound';

/** What every figure of a session depends on besides arrays and sources. */
export interface Context {
  /** speed of sound, m/s */
  speed: number;
  /** critical distance for Q = 1, m; null while size or reverberation time is unknown */
  criticalDistanceM: number | null;
  /** a listener's own localisation model, beside the others; null where the session carries none */
  own: OwnShape | null;
}

/** Whether figures computed in one hold in the other. */
export const sameContext = (a: Context, b: Context): boolean =>
  a.speed === b.speed && a.criticalDistanceM === b.criticalDistanceM && a.own === b.own;

/**
 * One figure for a reverberation time by octave bands: the mean of 500 Hz and 1 kHz, s.
 * @returns null where neither is known
 */
export function midReverberationTime(rt60S: Venue['rt60S']): number | null {
  if (rt60S === null || typeof rt60S === 'number') return rt60S;
  const mid = [rt60S['500'], rt60S['1000']].filter((value) => value !== undefined);
  return mean(mid) ?? null;
}

/** Speed of sound and critical distance of a session's hall; what is not known is null. */
export function contextOf({ venue, settings }: Pick<Session, 'venue' | 'settings'>): Context {
  const rt60S = midReverberationTime(venue.rt60S);
  const measures = rt60S === null ? null : hallMeasures(venue);
  return {
    speed: speedOfSound(venue.temperatureC),
    criticalDistanceM:
      measures && rt60S !== null ? criticalDistance(1, measures.volumeM3, rt60S) : null,
    own: settings.own,
  };
}
