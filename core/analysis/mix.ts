import { readyArray } from '../prepare/arrays';
import { enabledArrays } from '../session/lists';
import { mixedCues, nearArrivals, type Cues, type PreparedArray } from '../localisation/cues';
import type { MicArray, Session } from '../session/schema';
import { dbToAmplitude } from '../units/guard';
import type { Vec3 } from '../units/vector';

/** The arrays that are heard: enabled, and not muted in the mix. */
export function heardArrays(session: Pick<Session, 'arrays'>): MicArray[] {
  return enabledArrays(session).filter(({ mix }) => !mix.mute);
}

/**
 * All heard microphones as one array: every capsule with its pan, gain, polarity and delay, and
 * its array's fader.
 * @returns null where nothing is heard
 */
export function prepareMix(session: Pick<Session, 'arrays'>): PreparedArray | null {
  const heard = heardArrays(session);
  const prepared = heard.map((array) => ({
    array,
    ready: readyArray(array),
  }));
  const main = prepared.find(({ array }) => array.role === 'main') ?? prepared[0];
  if (!main) return null;
  const routes = prepared.flatMap(({ array, ready }) => {
    const fader = dbToAmplitude(array.mix.faderDb);
    return ready.routes.map(({ left, right, delayMs }) => ({
      left: left * fader,
      right: right * fader,
      delayMs,
    }));
  });
  const alone = prepared.length === 1;
  return {
    ...main.ready,
    capsules: prepared.flatMap(({ ready }) => [...ready.capsules]),
    plane: prepared.flatMap(({ ready }) => [...ready.plane]),
    routes,
    weights: routes.map(({ left, right }) => left * left + right * right),
    diffuse: prepared.flatMap(({ ready }) => [...ready.diffuse]),
    coincident: alone && main.ready.coincident,
    symmetric: false,
    plainPair: false,
  };
}

/**
 * What the whole mix makes of one point: an estimate from the first few milliseconds.
 * @param speed speed of sound, m/s
 * @returns null where the point is within 1 cm of a capsule
 */
export function mixCues(mix: PreparedArray, source: Vec3, speed: number): Cues | null {
  const arrivals = nearArrivals(mix, source, speed);
  return arrivals && mixedCues(mix, arrivals);
}
