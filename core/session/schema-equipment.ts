import { bounded, flag, list, oneOf, pattern, record, text } from './fields';

/** What of an array is set by hand and noted as built; rightDb: by what the right microphone is louder. */
export const BUILT_FIELDS = [
  ...(['x', 'y', 'z', 'aimDeg', 'tiltDeg'] as const),
  ...(['spacingM', 'includedAngleDeg', 'rightDb'] as const),
] as const;

/** The part of the session schema about kit and rig; schema.ts puts it into the whole. */

export const position = {
  x: bounded('positionM').default(0),
  y: bounded('positionM').default(0),
};
export const identity = { id: text(100).default(''), name: text(200).default('') };

/** One filter of an equaliser. */
export const filterSchema = record({
  kind: oneOf(['peak', 'low shelf', 'high shelf']).default('peak'),
  hz: bounded('filterHz'),
  gainDb: bounded('gainDb').default(0),
  q: bounded('q').default(0.7),
});

/** How the second microphone of a pair was found against its first. */
const match = record({
  /** what the pair is called: "pair 2" */
  name: text(200).default(''),
  /** the day on which it was measured, YYYY-MM-DD */
  on: text(40).default(''),
  /** what the second is to be raised by */
  trimDb: bounded('gainDb').default(0),
  /** what is left after the trim, root mean square from 100 Hz to 10 kHz */
  leftDb: bounded('headroomDb').default(0),
  /** a short equaliser for the second */
  filters: list(filterSchema, 8).default([]),
});

export const microphoneSchema = record({
  ...identity,
  kind: oneOf(['small condenser', 'large condenser', 'ribbon', 'dynamic', 'boundary']).default(
    'small condenser',
  ),
  /** patterns that it can be switched to */
  patterns: list(pattern(), 20).default([]),
  count: bounded('channels').default(1),
  /** measured or sold as a matched pair */
  matched: flag().default(false),
  sensitivityMvPa: bounded('sensitivityMvPa').nullable().default(null),
  /** sound pressure level that it takes without clipping */
  maxSplDb: bounded('levelDb').nullable().default(null),
  phantom: oneOf(['needs', 'tolerates', 'must not']).default('needs'),
  /** where its front is: at the end of the body or on its side; null: not said */
  address: oneOf(['end', 'side']).nullable().default(null),
  /** pairs among them that were measured against each other */
  matches: list(match, 100).default([]),
});

const stand = record({
  ...identity,
  count: bounded('count').default(1),
  minHeightM: bounded('widthM').default(1),
  maxHeightM: bounded('widthM').default(2.5),
  /** how far its boom reaches sideways */
  reachM: bounded('widthM').default(0.8),
  /** radius of the base */
  baseM: bounded('baseM').default(0.35),
  massKg: bounded('kilograms').default(4),
});

const bar = record({
  ...identity,
  count: bounded('count').default(1),
  mostSpacingM: bounded('widthM').default(0.3),
});

export const kit = record({
  /** empty means: not said, so nothing is ruled out */
  microphones: list(microphoneSchema, 500).default([]),
  stands: list(stand, 200).default([]),
  bars: list(bar, 200).default([]),
  /** inputs with a microphone preamplifier; null: not said */
  preampChannels: bounded('channels').nullable().default(null),
  recorderTracks: bounded('channels').nullable().default(null),
});

export const rig = record({
  /** level kept free above the expected peak */
  headroomDb: bounded('headroomDb').default(9),
  /** how far peaks rise above the players' levels as typed */
  peakAboveDb: bounded('headroomDb').default(18),
  /** analogue level at digital full scale */
  fullScaleDbu: bounded('dbu').default(18),
  /** what a microphone keeps from players and things, m */
  clearanceM: bounded('widthM').default(0.25),
  /** lines of the pack list that are in the van */
  packed: list(text(200), 2000).default([]),
  /** distances with a cable that are wanted on the sheet */
  cablesAsked: list(text(250), 200).default([]),
  /** places where somebody claps, in their order, so that the rig can be read from it */
  claps: list(
    record({ name: text(200).default(''), ...position, z: bounded('positionM').default(1.3) }),
    60,
  ).default([]),
  /** pictures of bars, and what is marked on them */
  photographs: list(
    record({
      id: text(100).default(''),
      arrayId: text(100).default(''),
      /** id of a blob */
      picture: text(100),
      widthPx: bounded('pixels'),
      heightPx: bounded('pixels'),
      view: oneOf(['above', 'front']).default('above'),
      /** what gives it its scale: a rectangle of known size, or a known length */
      scale: oneOf(['sheet', 'length']).default('sheet'),
      sheetWidthM: bounded('sheetM').default(0.297),
      sheetHeightM: bounded('sheetM').default(0.21),
      lengthM: bounded('sheetM').default(0.3),
      /** how far off plumb, or level, the camera was held */
      tiltDeg: bounded('cameraTiltDeg').default(5),
      /** of the capsules above the scale, and what that is good to */
      leftHeightM: bounded('offPlaneM').default(0),
      rightHeightM: bounded('offPlaneM').default(0),
      heightWithinM: bounded('offWithinM').default(0.01),
      marks: list(
        record({
          name: oneOf([
            ...(['corner 1', 'corner 2', 'corner 3', 'corner 4', 'end 1', 'end 2'] as const),
            ...(['left capsule', 'left rear', 'right capsule', 'right rear'] as const),
          ]),
          u: bounded('pixelAt'),
          v: bounded('pixelAt'),
        }),
        10,
      ).default([]),
    }),
    50,
  ).default([]),
  /** what was really set, figure by figure */
  asBuilt: list(
    record({
      arrayId: text(100),
      /** rightDb: what the right microphone is louder by than the left one */
      field: oneOf(BUILT_FIELDS),
      value: bounded('anyFigure'),
    }),
    2000,
  ).default([]),
});
