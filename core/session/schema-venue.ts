import * as z from 'zod';
import { MOST_CORNERS } from '../units/polygon';
import { MOST_BLOB_TEXT } from './bounds';
import { bounded, flag, list, oneOf, perBand, record, text } from './fields';
import { hallProblems } from './hall-problems';
import { identity, position } from './schema-equipment';

/** The hall in the session file. */

const datumPoint = record({ ...identity, ...position, z: bounded('positionM').default(0) });

const stage = record({
  widthM: bounded('roomM').default(10),
  depthM: bounded('roomM').default(7),
  /** how high its floor lies above the hall's; heights of players and microphones are above the hall's */
  heightM: bounded('riseM').default(0),
});

const SURFACE =
  'allowed: floor, ceiling, left, right, front, back, stage, seats, balcony, organ case, wall, or wall 1 to wall 40';
const SURFACES: [string, ...string[]] = [
  ...(['floor', 'ceiling', 'left', 'right', 'front', 'back'] as const),
  ...['stage', 'seats', 'balcony', 'organ case', 'wall'],
  ...Array.from({ length: MOST_CORNERS }, (_, i) => `wall ${i + 1}`),
];
const surfaceName = z.enum(SURFACES, { error: SURFACE });

const surface = record({
  /** a wall of the hall by its number: from that corner to the next; else by the side that it is nearest to */
  surface: surfaceName,
  name: text(200).default(''),
  absorption: perBand('absorption'),
});

/** What is hung, laid or seated on a surface and may be away. */
const area = record({
  ...identity,
  kind: oneOf(['curtain', 'people', 'panel', 'other']).default('curtain'),
  surface: surfaceName,
  areaM2: bounded('areaM2').default(10),
  absorption: perBand('absorption').default(0.5),
  /** it is there */
  on: flag().default(true),
});

const corner = record({ x: bounded('farM'), y: bounded('farM') });

/** The floor where it is no rectangle. */
const shape = record({
  /** from the left front corner of the box around them; the first wall goes from the first to the second */
  corners: list(corner, MOST_CORNERS),
});

const ceiling = z.discriminatedUnion(
  'kind',
  [
    record({ kind: z.literal('flat') }),
    record({
      kind: z.literal('pitched'),
      /** how high the ceiling is at the lower edges; the ridge is as high as the hall */
      eavesM: bounded('roomM'),
      /** along the hall from front to back, or across it */
      ridge: oneOf(['along', 'across']).default('along'),
      /** from the left wall, or the one behind the audience; null: the middle */
      ridgeAtM: bounded('farM').nullable().default(null),
    }),
    record({
      kind: z.literal('stepped'),
      /** from so far behind the wall behind the audience it is so high; before the first as high as the hall */
      steps: list(record({ fromM: bounded('farM'), heightM: bounded('roomM') }), 10),
    }),
  ],
  { error: 'allowed: an object whose kind is flat, pitched or stepped' },
);

const obstacle = record({
  ...identity,
  ...position,
  kind: oneOf(['column', 'riser', 'furniture', 'wall', 'balcony', 'organ case']).default(
    'furniture',
  ),
  widthM: bounded('widthM').default(1),
  depthM: bounded('widthM').default(1),
  heightM: bounded('widthM').default(1),
  /** its underside above the hall's floor: of a balcony */
  baseM: bounded('widthM').default(0),
  /** turn on the plan, positive to the right */
  turnDeg: bounded('azimuthDeg').default(0),
});

/** A block of seats: rows away from the stage. */
const seatBlock = record({
  ...identity,
  /** middle of the first row */
  ...position,
  columns: bounded('count').default(10),
  rows: bounded('count').default(4),
  pitchM: bounded('widthM').default(0.55),
  rowPitchM: bounded('widthM').default(0.9),
  /** every row is so much higher than the one before it */
  riseM: bounded('riseM').default(0),
});

/** A picture of the floor plan under the drawing. */
const PICTURE = 'allowed: a PNG or JPEG data URL, or the id of a blob';
const underlay = record({
  /** id of a blob; in a file also the picture itself, as the data URL of a PNG or JPEG */
  picture: z
    .string({ error: PICTURE })
    .regex(/^(data:image\/(png|jpeg);base64,|(?!data:)[^/\\%?#]{1,100}$)/, { error: PICTURE })
    .max(MOST_BLOB_TEXT, { error: 'allowed: up to 12 MB' }),
  widthPx: bounded('pixels'),
  heightPx: bounded('pixels'),
  /** left upper corner of the picture in the plan frame */
  ...position,
  metresPerPixel: bounded('metresPerPixel').default(0.02),
  opacityPct: bounded('percent').default(45),
});

const venueFields = record({
  name: text(200).default(''),
  widthM: bounded('roomM').nullable().default(null),
  depthM: bounded('roomM').nullable().default(null),
  /** of a ceiling that is not flat its highest part */
  heightM: bounded('roomM').nullable().default(null),
  /** null: a rectangle; else width and depth are of the box around it */
  shape: shape.nullable().default(null),
  ceiling: ceiling.prefault({ kind: 'flat' }),
  /** the datum, measured from the left front corner of the rectangle */
  origin: record(position).nullable().default(null),
  /** stage, its front edge centred on the datum */
  stage: stage.prefault({}),
  /** fixed points that tapes are held to; by default the back corners of the stage */
  datumPoints: list(datumPoint, 20).prefault([
    { id: 'a', name: 'A', x: -5, y: 7 },
    { id: 'b', name: 'B', x: 5, y: 7 },
  ]),
  temperatureC: bounded('temperatureC').default(20),
  rt60S: perBand('rt60S').nullable().default(null),
  /** how its reverberation time is known, in words */
  rt60From: text(500).default(''),
  surfaces: list(surface, 60).default([]),
  areas: list(area, 60).default([]),
  obstacles: list(obstacle, 200).default([]),
  seats: list(seatBlock, 100).default([]),
  underlay: underlay.nullable().default(null),
});

export const venue = venueFields.superRefine((value, context) => {
  for (const { path, message } of hallProblems(value)) {
    context.addIssue({ code: 'custom', path, message });
  }
});
