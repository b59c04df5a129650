import { checkSpeed } from '../units/guard';
import { farCues } from './cues';
import type { PreparedArray } from './prepared-array';

/** Stretch of the circle around an array in which distant sources have no ordinary image. */
export interface Zone {
  kind: 'antiphase' | 'reversed';
  /** off the aim, degrees, positive right, 0 … 360; a zone may pass 360 */
  fromDeg: number;
  toDeg: number;
}

const STEPS = 720;

/**
 * Where sources around an array are antiphase, and where both channels are inverted so that the
 * image is the mirror of the place (behind crossed figure-eights). To half a degree.
 * @param speed speed of sound, m/s
 * @throws RangeError where speed is outside 250 … 450 m/s
 */
export function imageZones(array: PreparedArray, speed: number): Zone[] {
  checkSpeed(speed);
  const step = 360 / STEPS;
  const kinds = Array.from({ length: STEPS }, (_, i) => {
    // In the middle of each step, so that the edges themselves decide nothing.
    const deg = (i + 0.5) * step;
    const cues = farCues(array, deg > 180 ? deg - 360 : deg, speed);
    if (cues.antiphase) return 'antiphase' as const;
    return cues.inverted ? ('reversed' as const) : null;
  });
  const first = kinds.findIndex((kind, i) => kind !== kinds[(i + STEPS - 1) % STEPS]);
  if (first < 0) {
    const [kind] = kinds;
    return kind ? [{ kind, fromDeg: 0, toDeg: 360 }] : [];
  }
  const zones: Zone[] = [];
  for (let i = 0; i < STEPS; i++) {
    const index = (first + i) % STEPS;
    const kind = kinds[index];
    const last = zones[zones.length - 1];
    const at = (first + i) * step;
    if (!kind) continue;
    if (last?.kind === kind && Math.abs(last.toDeg - at) < 1e-9) last.toDeg = at + step;
    else zones.push({ kind, fromDeg: at, toDeg: at + step });
  }
  return zones;
}
