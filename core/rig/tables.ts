import type { Session } from '../session/schema';
import { timeText } from '../planning/timetable';
import { builtFigures, FIELD_WORDS } from './as-built';
import { buildOrder } from './build-order';
import { cablesAsked, cableUses } from './cable-method';
import { channelList } from './channel-list';
import { packList } from './pack-list';
import { positionSheet } from './position-sheet';

export type TableCell = string | number | null;

/** A table with raw figures in metres, degrees, decibels, for files. */
export interface RigTable {
  name: 'positions' | 'channels' | 'pack' | 'build' | 'cables' | 'as-built';
  head: string[];
  rows: TableCell[][];
}

const fixed = (value: number | null, digits: number): number | null =>
  value === null ? null : Number(value.toFixed(digits));

function positions(session: Session): RigTable {
  const { arrays } = positionSheet(session);
  return {
    name: 'positions',
    head: [
      'array',
      'capsule',
      'pattern',
      'right of centre m',
      'upstage m',
      'height m',
      'from tape 1 m',
      'from tape 2 m',
      'aim deg',
      'tilt deg',
      'from bar centre m',
      'ahead of it m',
      'above it m',
      'off the aim deg',
    ],
    rows: arrays.flatMap(({ name, capsules }) =>
      capsules.map((c) => [
        name,
        c.label,
        c.pattern,
        fixed(c.x, 3),
        fixed(c.y, 3),
        fixed(c.heightM, 3),
        fixed(c.tapes?.fromFirstM ?? null, 3),
        fixed(c.tapes?.fromSecondM ?? null, 3),
        fixed(c.aimDeg, 1),
        fixed(c.tiltDeg, 1),
        fixed(c.barOffsetM, 4),
        fixed(c.barAheadM, 4),
        fixed(c.barUpM, 4),
        fixed(c.barAngleDeg, 1),
      ]),
    ),
  };
}

function channels(session: Session): RigTable {
  return {
    name: 'channels',
    head: [
      'number',
      'name',
      'microphone',
      'phantom',
      'pad dB',
      'polarity',
      'pan',
      'delay ms',
      'delay samples',
      'level dB SPL',
      'peak dB SPL',
      'output mV',
      'gain dB',
      'track',
      'loudspeaker',
      'for',
      'perspective',
    ],
    rows: channelList(session).map((row) => [
      row.number,
      row.name,
      row.microphone?.name ?? null,
      row.phantom,
      row.padDb,
      row.polarity,
      row.pan,
      row.delayMs,
      row.delaySamples,
      fixed(row.levelDb, 1),
      fixed(row.peakDb, 1),
      fixed(row.outputMv, 1),
      fixed(row.gainDb, 0),
      row.track,
      row.loudspeaker,
      row.side === '' ? row.forWhom : `${row.forWhom}, ${row.side}`,
      row.perspective,
    ]),
  };
}

/**
 * Every table of the rig, in the order in which they are needed.
 * @param everyCable all distances that a cable finds, not only those that were asked for
 */
export function rigTables(session: Session, everyCable = false): RigTable[] {
  return [
    positions(session),
    channels(session),
    {
      name: 'pack',
      head: ['what', 'count', 'for'],
      rows: packList(session).map(({ what, count, note }) => [what, count, note]),
    },
    {
      name: 'build',
      head: ['from', 'minutes', 'what'],
      rows: buildOrder(session).map(({ what, minutes, fromMin }) => [
        timeText(fromMin),
        minutes,
        what,
      ]),
    },
    {
      name: 'cables',
      head: ['from to', 'cable m', 'folds', 'folded m', 'how'],
      rows: (everyCable ? cableUses(session) : cablesAsked(session)).map(
        ({ what, cableM, folds, foldedM, how }) => [
          what,
          fixed(cableM, 3),
          folds,
          fixed(foldedM, 3),
          how,
        ],
      ),
    },
    {
      name: 'as-built',
      head: ['array', 'figure', 'planned', 'as built', 'tolerance', 'outside'],
      rows: builtFigures(session).map(
        ({ arrayName, field, planned, built, tolerance, outside }) => [
          arrayName,
          FIELD_WORDS[field],
          planned,
          built,
          tolerance,
          outside ? 'yes' : 'no',
        ],
      ),
    },
  ];
}
