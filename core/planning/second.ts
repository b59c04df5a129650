import { stripsOf } from '../arrays/routing';
import { anatomyOf, floorUnder, onPlan, surfacesOf } from '../ensembles/anatomy';
import { contextOf } from '../prepare/context';
import { playersOf } from '../prepare/for-whom';
import type { MicArray, Session, Source } from '../session/schema';
import { cosDeg, sinDeg, wrapDeg } from '../units/guard';
import { planDistance } from '../units/vector';

/** What the second microphone of two keeps of the first, and what it gets of its own. */
type Second = Pick<MicArray, 'x' | 'y' | 'z' | 'aimDeg' | 'tiltDeg' | 'mix' | 'technique'>;

/** Nearer to the axis than this there is no other side: both stand beside it then, m. */
const ON_AXIS_M = 0.05;
const BESIDE_M = 0.3;

/** The one player that an array is for; null where it is for several or nobody. */
function onePlayer(session: Session, array: MicArray): Source | null {
  const { speed } = contextOf(session);
  const players = playersOf(array, session.sources, speed);
  return players.length === 1 ? (players[0] ?? null) : null;
}

const millimetres = (m: number): number => Math.round(m * 1000) / 1000 || 0;
const tenths = (deg: number): number => Math.round(wrapDeg(deg) * 10) / 10 || 0;

/**
 * The second of a pair to a microphone for one player: on the other side of the line along which the
 * player faces, for several players of the centre line; panned to the other side. One that stands on
 * that line gets its second beside it.
 */
export function secondOfPair(session: Session, array: MicArray): Second {
  const player = onePlayer(session, array);
  const { x: ox, y: oy } = player ?? { x: 0, y: 0 };
  const axisDeg = player?.facingDeg ?? 0;
  // Unit vector across the axis, and how far the array is along it.
  const [ax, ay] = [cosDeg(axisDeg), -sinDeg(axisDeg)];
  const across = (array.x - ox) * ax + (array.y - oy) * ay;
  const by = Math.abs(across) < ON_AXIS_M ? BESIDE_M : -2 * across;
  const strips = stripsOf(array.technique, array.mix.capsules);
  return {
    x: millimetres(array.x + ax * by),
    y: millimetres(array.y + ay * by),
    z: array.z,
    aimDeg: Math.abs(across) < ON_AXIS_M ? array.aimDeg : tenths(2 * axisDeg - array.aimDeg),
    tiltDeg: array.tiltDeg,
    technique: mirroredTechnique(array.technique),
    mix: {
      ...array.mix,
      capsules: [...strips].map((strip) => ({ ...strip, pan: -strip.pan || 0 })),
    },
  };
}

function mirroredTechnique(technique: MicArray['technique']): MicArray['technique'] {
  if (technique.kind !== 'custom') return technique;
  return {
    ...technique,
    capsules: technique.capsules.map((capsule) => ({
      ...capsule,
      dx: -capsule.dx || 0,
      azimuthDeg: tenths(-capsule.azimuthDeg),
    })),
  };
}

/** A drum’s head that a microphone looks at from above, m above the datum. */
export interface Head {
  /** "head of Snare drum" */
  name: string;
  heightM: number;
}

const IS_DRUM = /drum$|tom$|timpano/;
/** A microphone this near to the middle of a head on the plan is at it, m. */
const AT_HEAD_M = 0.6;

/** The head below a microphone, the nearest on the plan; null where there is none. */
export function headBelow(session: Session, { x, y, z }: MicArray): Head | null {
  const heads = session.sources.flatMap((source) => {
    const pieces = anatomyOf(source)?.pieces ?? [];
    const floorM = floorUnder(source);
    const own = surfacesOf(source)
      .filter(({ name }) => name === 'head')
      .map(({ heightM }) => ({ name: source.name, heightM, x: source.x, y: source.y }));
    const ofPieces = pieces
      .filter(({ kind }) => IS_DRUM.test(kind.replace(/ \d+$/, '')))
      .map(({ kind, right, ahead, up }) => ({
        name: `${kind} of ${source.name}`,
        heightM: millimetres(floorM + up),
        ...onPlan(source, [right, ahead]),
      }));
    return [...own, ...ofPieces];
  });
  const near = heads
    .filter((head) => head.heightM < z && planDistance(head, { x, y }) <= AT_HEAD_M)
    .sort((a, b) => planDistance(a, { x, y }) - planDistance(b, { x, y }));
  const [nearest] = near;
  return nearest ? { name: nearest.name, heightM: nearest.heightM } : null;
}

/** No microphone lies lower than this over the floor, m. */
const LEAST_M = 0.05;

/** The bottom microphone to one over a head: as far below it, looking up, polarity inverted. */
export function underneath(array: MicArray, head: Head): Second {
  const strips = stripsOf(array.technique, array.mix.capsules);
  return {
    x: array.x,
    y: array.y,
    z: Math.max(LEAST_M, millimetres(2 * head.heightM - array.z)),
    aimDeg: array.aimDeg,
    tiltDeg: -array.tiltDeg || 0,
    technique: array.technique,
    mix: {
      ...array.mix,
      capsules: strips.map((strip) => ({ ...strip, polarity: strip.polarity === 1 ? -1 : 1 })),
    },
  };
}
