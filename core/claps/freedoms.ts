import { capsulesInFrame } from '../arrays/capsules';
import type { CustomCapsule } from '../arrays/technique';
import { patternAOf } from '../acoustics/patterns';
import { BOUNDS } from '../session/bounds';
import type { MicArray } from '../session/schema';
import { clamp } from '../units/numbers';
import type { Freedom } from '../verdict/fit';
import { hot, seat, shift, turn, warmth } from '../verdict/freedoms';
import type { Channel, Stand } from '../verdict/stand';

/** What of a rig claps are asked about. */
export type ClapField =
  | 'x'
  | 'y'
  | 'z'
  | 'aimDeg'
  | 'tiltDeg'
  | 'spacingM'
  | 'includedAngleDeg'
  | 'skewDeg'
  | 'rightDb'
  | 'patternA'
  | 'patternDifference'
  | 'temperatureC';

/** One thing that is asked: of which array, and what is expected of it without any clap. */
export interface Unknown {
  /** empty: of all */
  arrayId: string;
  field: ClapField;
  freedom: Freedom;
}

/** Wider than what can be wrong, standard deviations: narrow ones make the intervals lie. */
const WIDE = {
  m: 0.15,
  heightM: 0.1,
  aimDeg: 10,
  tiltDeg: 4,
  spacing: { least: 0.02, share: 0.15 },
  angleDeg: 15,
  skewDeg: 6,
  db: 3,
  a: 0.08,
  aDifference: 0.04,
  c: 5,
} as const;
/** Places of claps as tapes have them, m: a standard deviation each way; of their height. */
const HEIGHT_TIMES = 1.5;

/** An array with its capsules written out, so that each can be other than its technique says. */
export const writtenOut = (array: MicArray): MicArray => ({
  ...array,
  technique: { kind: 'custom', capsules: [...capsulesInFrame(array.technique)] },
});

function withCapsules(
  stand: Stand,
  arrayId: string,
  change: (capsule: CustomCapsule, index: number) => Partial<CustomCapsule>,
): Stand {
  return {
    ...stand,
    arrays: stand.arrays.map((array) =>
      array.id === arrayId
        ? {
            ...array,
            technique: {
              kind: 'custom' as const,
              capsules: capsulesInFrame(array.technique).map((capsule, i) => ({
                ...capsule,
                ...change(capsule, i),
              })),
            },
          }
        : array,
    ),
  };
}

/** To the left of its array's middle, or to the right. */
const sideOf = (index: number): -1 | 1 => (index === 0 ? -1 : 1);

const ofArray = (
  arrayId: string,
  field: ClapField,
  usual: number,
  step: number,
  apply: Freedom['apply'],
): Unknown => ({ arrayId, field, freedom: { usual, step, apply } });

function raised(arrayId: string, field: 'z' | 'tiltDeg', usual: number, step: number): Unknown {
  const { min, max } = field === 'z' ? BOUNDS.positionM : BOUNDS.elevationDeg;
  return ofArray(arrayId, field, usual, step, (stand, by) => ({
    ...stand,
    arrays: stand.arrays.map((array) =>
      array.id === arrayId ? { ...array, [field]: clamp(array[field] + by, min, max) } : array,
    ),
  }));
}

/** What can be other of a pair than its bar says. */
function ofPair(array: MicArray, channels: readonly Channel[]): Unknown[] {
  const { id, technique } = array;
  if (technique.kind !== 'pair') return [];
  const second = channels.findIndex((one) => one.arrayId === id && one.capsule === 1);
  const half = (part: number) => (index: number) => (sideOf(index) * part) / 2;
  const pattern = (of: (by: number, index: number) => number, usual: number, field: ClapField) =>
    ofArray(id, field, usual, 0.01, (stand, by) =>
      withCapsules(stand, id, (capsule, i) => ({
        pattern: clamp(patternAOf(capsule.pattern) + of(by, i), 0, 1),
      })),
    );
  const { least, share } = WIDE.spacing;
  const omni = patternAOf(technique.pattern) > 1 - 1e-6;
  return [
    ...(technique.spacingM > 0
      ? [
          ofArray(
            ...([id, 'spacingM', Math.max(least, share * technique.spacingM), 0.001] as const),
            (stand, by) => withCapsules(stand, id, ({ dx }, i) => ({ dx: dx + half(by)(i) })),
          ),
        ]
      : []),
    ...(omni
      ? []
      : [
          ofArray(id, 'includedAngleDeg', WIDE.angleDeg, 0.5, (stand, by) =>
            withCapsules(stand, id, ({ azimuthDeg }, i) => ({
              azimuthDeg: azimuthDeg + half(by)(i),
            })),
          ),
          ofArray(id, 'skewDeg', WIDE.skewDeg, 0.5, (stand, by) =>
            withCapsules(stand, id, ({ azimuthDeg }) => ({ azimuthDeg: azimuthDeg + by })),
          ),
          pattern((by) => by, WIDE.a, 'patternA'),
          pattern((by, i) => (sideOf(i) * by) / 2, WIDE.aDifference, 'patternDifference'),
        ]),
    ...(second < 0
      ? []
      : [{ arrayId: id, field: 'rightDb' as const, freedom: hot([second], WIDE.db) }]),
  ];
}

/** Everything that claps are asked about, of every array that is heard. */
export function unknownsOf(arrays: readonly MicArray[], channels: readonly Channel[]): Unknown[] {
  const heard = arrays.filter(({ id }) => channels.some(({ arrayId }) => arrayId === id));
  return [
    ...heard.flatMap((array): Unknown[] => [
      { arrayId: array.id, field: 'x', freedom: shift(array.id, 'x', WIDE.m) },
      { arrayId: array.id, field: 'y', freedom: shift(array.id, 'y', WIDE.m) },
      raised(array.id, 'z', WIDE.heightM, 0.005),
      { arrayId: array.id, field: 'aimDeg', freedom: turn(array.id, WIDE.aimDeg) },
      raised(array.id, 'tiltDeg', WIDE.tiltDeg, 0.5),
      ...ofPair(array, channels),
    ]),
    { arrayId: '', field: 'temperatureC', freedom: warmth(WIDE.c) },
  ];
}

/** That every clap is a little off its place. @param tapeM deviation of a taped place, 0.001 … 1 m */
export const tapesOf = (places: number, tapeM: number): Freedom[] =>
  Array.from({ length: places }, (_, place) => [
    seat(place, 'x', tapeM),
    seat(place, 'y', tapeM),
    raisedSeat(place, HEIGHT_TIMES * tapeM),
  ]).flat();

const raisedSeat = (place: number, usual: number): Freedom => ({
  place,
  usual,
  step: 0.01,
  apply: (stand, m) => ({
    ...stand,
    places: stand.places.map((one, i) => (i === place ? { ...one, z: one.z + m } : one)),
  }),
});
