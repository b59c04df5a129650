import * as z from 'zod';
import { MOST_CAPSULES, MOST_SOURCES } from './bounds';
import { bounded, flag, list, oneOf, pattern, record, text } from './fields';
import { identity, position } from './schema-equipment';

/** The part of the session schema about arrays of microphones; schema.ts puts it into the whole. */

const capsule = record({
  label: text(40).default(''),
  dx: bounded('positionM').default(0),
  dy: bounded('positionM').default(0),
  dz: bounded('positionM').default(0),
  azimuthDeg: bounded('azimuthDeg').default(0),
  elevationDeg: bounded('elevationDeg').default(0),
  pattern: pattern(),
});

const techniqueSchema = z.discriminatedUnion(
  'kind',
  [
    record({
      kind: z.literal('pair'),
      pattern: pattern(),
      spacingM: bounded('spacingM'),
      includedAngleDeg: bounded('includedAngleDeg'),
    }),
    record({
      kind: z.literal('mid-side'),
      midPattern: pattern(),
      sideGainDb: bounded('gainDb').default(0),
      sidePositive: oneOf(['left', 'right']).default('left'),
    }),
    record({ kind: z.literal('single'), pattern: pattern() }),
    record({ kind: z.literal('custom'), capsules: list(capsule, MOST_CAPSULES) }),
  ],
  { error: 'allowed: an object whose kind is pair, mid-side, single or custom' },
);

const strip = record({
  pan: bounded('pan').default(0),
  gainDb: bounded('gainDb').default(0),
  polarity: z.literal([1, -1], { error: 'allowed: 1 or -1' }).default(1),
  delayMs: bounded('delayMs').default(0),
});

export const mixSchema = record({
  faderDb: bounded('gainDb').default(0),
  mute: flag().default(false),
  /** in the technique's order; empty means the technique's usual pans */
  capsules: list(strip, MOST_CAPSULES).default([]),
});

const whom = z.discriminatedUnion(
  'kind',
  [
    record({ kind: z.literal('all') }),
    /** sections by name, players by id */
    record({
      kind: z.literal('some'),
      groups: list(text(200), MOST_SOURCES).default([]),
      sources: list(text(100), MOST_SOURCES).default([]),
    }),
  ],
  { error: 'allowed: null, or an object whose kind is all or some' },
);

export const array = record({
  ...identity,
  role: oneOf(['main', 'outrigger', 'ambience', 'spot', 'overhead', 'surround']).default('main'),
  enabled: flag().default(true),
  ...position,
  z: bounded('positionM').default(2.5),
  aimDeg: bounded('azimuthDeg').default(0),
  tiltDeg: bounded('elevationDeg').default(0),
  technique: techniqueSchema.default({
    kind: 'pair',
    pattern: 'cardioid',
    spacingM: 0.17,
    includedAngleDeg: 110,
  }),
  mix: mixSchema.prefault({}),
  /** whom it is for: judged for them, what it hears of others is spill; null: as its role says */
  for: whom.nullable().default(null),
  /** numbers of a pair that are not known: nothing is reckoned with what stands in their place */
  missing: list(oneOf(['spacingM', 'includedAngleDeg']), 2).default([]),
  /** named standard that a pair was set up as, also when its numbers are others by now; or empty */
  standard: text(20).default(''),
  /** its height is set out from a surface of an instrument; null: from the floor */
  measuredFrom: record({ sourceId: text(100), surface: text(40) })
    .nullable()
    .default(null),
  /** what its mono sum loses is accepted */
  monoLossAccepted: flag().default(false),
  /** it hangs from the venue's own points instead of standing on a stand */
  hung: flag().default(false),
  equipment: record({
    /** entry of the kit for each capsule in the technique's order; empty: as the kit is shared out */
    microphoneIds: list(text(100), MOST_CAPSULES).default([]),
    /** name of the measured pair that it is, of the entry of its microphones; empty: not said */
    pair: text(200).default(''),
    /** phantom power on its channels; by default as the microphone needs it */
    phantom: oneOf(['as needed', 'on', 'off']).default('as needed'),
    /** loudspeaker that each capsule feeds; empty: as its label and its pan say */
    loudspeakers: list(text(20), MOST_CAPSULES).default([]),
    /** what its stand carries, with mounts and bar; null: assumed */
    loadKg: bounded('kilograms').nullable().default(null),
  }).prefault({}),
});
