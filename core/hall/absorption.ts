import { mean } from 'd3-array';
import type { Face } from '../acoustics/faced-room';
import type { BoxSurface } from '../acoustics/reflections';
import type { Venue } from '../session/schema';

type Absorption = Venue['surfaces'][number]['absorption'];

/** A surface as what it absorbs is looked for. */
export interface Absorbing {
  id: string;
  /** the names that its absorption is kept under, its own first */
  keys: readonly string[];
  /** the names that it goes by where nothing is kept under its own */
  instead?: readonly string[];
  areaM2: number;
}

/** The surfaces of a plain box, each kept under its own name. */
export const BOX_KEYS: Readonly<Record<BoxSurface, readonly string[]>> = {
  left: ['left'],
  right: ['right'],
  front: ['front'],
  back: ['back'],
  floor: ['floor'],
  ceiling: ['ceiling'],
};

/** Which side of a hall a wall is nearest to, by where it looks: front is behind the audience. */
export function sideOf({ normal }: Pick<Face, 'normal'>): 'left' | 'right' | 'front' | 'back' {
  const [x, y] = [-normal.x, -normal.y];
  // A wall at half a right angle is one at the side.
  if (Math.abs(x) >= Math.abs(y) - 1e-9) return x < 0 ? 'left' : 'right';
  return y < 0 ? 'front' : 'back';
}

/** Under which names what a face absorbs is kept, its own first: a wall of a shape is also one of its side. */
export function faceKeys(
  faces: readonly Face[],
  { obstacles }: Pick<Venue, 'obstacles'>,
): Map<string, readonly string[]> {
  const kinds = obstacles.map(({ name, kind }) => [name.trim() || kind, kind] as const);
  const keysOf = (face: Face): readonly string[] => {
    const { id } = face;
    if (/^wall \d+$/.test(id)) return [id, sideOf(face)];
    if (id.startsWith('ceiling')) return ['ceiling'];
    if (id === 'floor') return ['floor'];
    if (/^stage(,|$)/.test(id)) return ['stage', 'floor'];
    if (/^seats( \d+)?(,|$)/.test(id)) return ['seats', 'floor'];
    const kind = kinds.find(([name]) => id.startsWith(name))?.[1];
    return kind ? [kind === 'column' ? 'wall' : kind] : [id];
  };
  return new Map(faces.map((face) => [face.id, keysOf(face)]));
}

/** What stands in a hall is as its walls are where nothing else is said of it. */
export const AS_WALLS: readonly string[] = ['wall', 'left', 'right', 'front', 'back'];

function atFrequency(absorption: Absorption, frequencyHz: number): number | null {
  return typeof absorption === 'number' ? absorption : (absorption[`${frequencyHz}`] ?? null);
}

function bare({ surfaces }: Venue, keys: readonly string[], hz: number): number | null {
  for (const key of keys) {
    const entries = surfaces.filter((entry) => entry.surface === key);
    const found = mean(entries.flatMap((entry) => atFrequency(entry.absorption, hz) ?? []));
    if (found !== undefined) return found;
  }
  return null;
}

/**
 * What surfaces absorb at an octave, curtains, people and whatever else is there included: each has
 * its part of the surface that it is on, and no more than all of it.
 * @param hz centre of the octave
 * @returns 0 … 1 by surface; null where nobody knows
 */
export function absorptionOf(
  venue: Venue,
  surfaces: readonly Absorbing[],
  hz: number,
): Map<string, number | null> {
  const there = venue.areas.filter(({ on }) => on);
  const found = new Map<string, number | null>();
  const ofKey = new Map<string, number>();
  for (const { keys, areaM2 } of surfaces) {
    for (const key of keys) ofKey.set(key, (ofKey.get(key) ?? 0) + areaM2);
  }
  for (const { id, keys, instead = [] } of surfaces) {
    const plain = bare(venue, [...keys, ...instead], hz);
    if (plain === null || there.length === 0) {
      found.set(id, plain);
      continue;
    }
    let [covered, absorbing] = [0, 0];
    for (const { surface, areaM2, absorption } of there) {
      const total = keys.includes(surface) ? (ofKey.get(surface) ?? 0) : 0;
      if (total <= 0) continue;
      const share = areaM2 / total;
      covered += share;
      absorbing += share * (atFrequency(absorption, hz) ?? atFrequency(absorption, 1000) ?? plain);
    }
    found.set(
      id,
      covered <= 1 ? plain * (1 - covered) + absorbing : covered > 0 ? absorbing / covered : plain,
    );
  }
  return found;
}
