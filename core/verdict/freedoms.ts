import { BOUNDS, type BoundsName } from '../session/bounds';
import type { MicArray } from '../session/schema';
import { wrapDeg } from '../units/guard';
import { clamp } from '../units/numbers';
import type { Freedom } from './fit';
import type { Stand } from './stand';

/** What can be other than planned, one number each. */

const within = (name: BoundsName, value: number): number =>
  clamp(value, BOUNDS[name].min, BOUNDS[name].max);

function changed(
  stand: Stand,
  arrayId: string,
  change: (array: MicArray) => Partial<MicArray>,
): Stand {
  return {
    ...stand,
    arrays: stand.arrays.map((array) =>
      array.id === arrayId ? { ...array, ...change(array) } : array,
    ),
  };
}

/** An array turned to the right, degrees. */
export const turn = (arrayId: string, usual: number): Freedom => ({
  usual,
  step: 0.2,
  apply: (stand, deg) =>
    changed(stand, arrayId, ({ aimDeg }) => ({ aimDeg: wrapDeg(aimDeg + deg) })),
});

/** An array moved to the right or upstage, m. */
export const shift = (arrayId: string, axis: 'x' | 'y', usual: number): Freedom => ({
  usual,
  step: 0.002,
  apply: (stand, m) =>
    changed(stand, arrayId, (array) => ({ [axis]: within('positionM', array[axis] + m) })),
});

/** The capsules of a pair farther apart, m. */
export const spread = (arrayId: string, usual: number): Freedom => ({
  usual,
  step: 0.001,
  apply: (stand, m) =>
    changed(stand, arrayId, ({ technique }) =>
      technique.kind === 'pair'
        ? { technique: { ...technique, spacingM: within('spacingM', technique.spacingM + m) } }
        : {},
    ),
});

/** The capsules of a pair turned farther apart, degrees. */
export const open = (arrayId: string, usual: number): Freedom => ({
  usual,
  step: 0.5,
  apply: (stand, deg) =>
    changed(stand, arrayId, ({ technique }) =>
      technique.kind === 'pair'
        ? {
            technique: {
              ...technique,
              includedAngleDeg: within('includedAngleDeg', technique.includedAngleDeg + deg),
            },
          }
        : {},
    ),
});

/** Channels louder, dB. @param these places in the list of channels */
export const hot = (these: readonly number[], usual: number): Freedom => ({
  usual,
  step: 0.1,
  apply: (stand, db) => ({
    ...stand,
    hotDb: stand.hotDb.map((now, i) => (these.includes(i) ? now + db : now)),
  }),
});

/** A channel later, ms. @param at its place in the list of channels */
export const late = (at: number, usual: number): Freedom => ({
  usual,
  step: 0.01,
  apply: (stand, ms) => ({
    ...stand,
    lateMs: stand.lateMs.map((now, i) => (i === at ? now + ms : now)),
  }),
});

/** Who is alone moved to the right or upstage, m. @param place its number */
export const seat = (place: number, axis: 'x' | 'y', usual: number): Freedom => ({
  place,
  usual,
  step: 0.01,
  apply: (stand, m) => ({
    ...stand,
    places: stand.places.map((one, i) =>
      i === place ? { ...one, [axis]: within('positionM', one[axis] + m) } : one,
    ),
  }),
});

/** The air warmer, °C. */
export const warmth = (usual: number): Freedom => ({
  usual,
  step: 0.5,
  apply: (stand, deg) => ({
    ...stand,
    temperatureC: within('temperatureC', stand.temperatureC + deg),
  }),
});
