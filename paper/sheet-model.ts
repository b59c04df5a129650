import { crossedEquivalent } from '../core/arrays';
import { patternAOf } from '../core/acoustics';
import { USUAL_TOLERANCES } from '../core/analysis';
import {
  DEFERENCE,
  positionSheet,
  cautionsRead,
  safetyCautions,
  type ArraySheet,
  type CapsuleRow,
  type TwoTapes,
} from '../core/rig';
import { fronts as frontsOf, type Address } from '../core/kit';
import type { Session } from '../core/session';
import { angleText, formatNumber, lengthText, type LengthPrecision } from '../core/units';

/** The position sheet in words, the same for the page, the printer and the PDF. */
export interface SheetTable {
  head: string[];
  rows: string[][];
}

export interface SheetPart {
  title: string;
  lines: string[];
  positions: SheetTable;
  bar: SheetTable;
}

export interface SheetModel {
  title: string;
  facts: string;
  datum: string;
  parts: SheetPart[];
  cautions: string[];
  deference: string;
}

/** Each caution that the set-up raises, with who has read it. */
function cautionLines(session: Session): string[] {
  const reads = cautionsRead(session);
  return safetyCautions(session).map(({ code, what, todo }) => {
    const read = reads.get(code);
    const by = read ? ` Read by ${read.name}, ${read.at.slice(0, 16).replace('T', ' ')}.` : '';
    return `${what} ${todo}${by}`;
  });
}

const SHALLOW_DEG = 25;

function lengths(session: Session, both: boolean) {
  const { units } = session.settings;
  const other = units === 'metric' ? 'imperial' : 'metric';
  return (metres: number, precision: LengthPrecision = 'floor') => {
    const main = lengthText(metres, units, precision);
    return both ? `${main} (${lengthText(metres, other, precision)})` : main;
  };
}

type LengthWords = ReturnType<typeof lengths>;

function sideways(metres: number, text: LengthWords, precision: LengthPrecision = 'floor'): string {
  if (Math.abs(metres) < 0.0005) return 'centre';
  return `${text(Math.abs(metres), precision)} ${metres < 0 ? 'left' : 'right'}`;
}

function depthText(metres: number, text: LengthWords): string {
  if (Math.abs(metres) < 0.0005) return 'on the edge';
  return `${text(Math.abs(metres))} ${metres < 0 ? 'downstage' : 'upstage'}`;
}

const UPSTAGE = 'straight upstage';

/** @param zero the words for no turn at all; those of the floor know the other way as well */
function turnText(deg: number, zero: string): string {
  if (Math.abs(deg) < 0.05) return zero;
  if (zero === UPSTAGE && Math.abs(deg) > 179.95) return 'straight downstage';
  return `${angleText(Math.abs(deg))} ${deg < 0 ? 'left' : 'right'}`;
}

function tiltText(deg: number): string {
  if (Math.abs(deg) < 0.05) return 'level';
  return `${angleText(Math.abs(deg))} ${deg < 0 ? 'down' : 'up'}`;
}

function tapesText(tapes: TwoTapes | null, text: LengthWords): [string, string, string] {
  if (!tapes) return ['—', '—', '—'];
  const warning = tapes.meetDeg < SHALLOW_DEG || tapes.meetDeg > 180 - SHALLOW_DEG;
  const error =
    tapes.errorPerCmM === null ? 'any amount' : `${formatNumber(tapes.errorPerCmM * 100, 0)} cm`;
  const side = warning
    ? `${tapes.side}; tapes meet at ${angleText(tapes.meetDeg, 0)}: 1 cm of tape is ${error} on the floor`
    : tapes.side;
  return [text(tapes.fromFirstM), text(tapes.fromSecondM), side];
}

function positionRow(label: string, capsule: CapsuleRow, text: LengthWords): string[] {
  return [
    label,
    sideways(capsule.x, text),
    depthText(capsule.y, text),
    ...tapesText(capsule.tapes, text),
    text(capsule.heightM),
    turnText(capsule.aimDeg, UPSTAGE),
    tiltText(capsule.tiltDeg),
  ];
}

function techniqueLines(sheet: ArraySheet, text: LengthWords): string[] {
  const { technique } = sheet;
  if (technique.kind === 'pair') {
    const { spacingM, includedAngleDeg } = technique;
    return [
      `Capsule to capsule ${text(spacingM, 'bar')}, included angle ${angleText(includedAngleDeg)}; within ±${text(USUAL_TOLERANCES.spacingM, 'bar')} and ±${angleText(USUAL_TOLERANCES.angleDeg)}.`,
    ];
  }
  if (technique.kind === 'mid-side') {
    const crossed = crossedEquivalent(patternAOf(technique.midPattern), technique.sideGainDb);
    const swap = technique.sidePositive === 'right' ? ' This swaps left and right.' : '';
    return [
      `Side ${formatNumber(technique.sideGainDb, 1)} dB against mid, positive lobe to the ${technique.sidePositive}.${swap}`,
      `Patch: side on two channels, the second with inverted polarity, panned hard left and right, faders linked. Decodes to a crossed pair of A ${formatNumber(crossed.patternA, 3)} at ${angleText(crossed.includedAngleDeg)}.`,
    ];
  }
  return [];
}

const frontText = (front: Address | null): string =>
  front === null ? 'not said' : front === 'end' ? 'end-address' : 'side-address';

function section(
  sheet: ArraySheet,
  fronts: readonly (Address | null)[],
  datumNames: [string, string],
  text: LengthWords,
): SheetPart {
  const tapes = tapesText(sheet.centreTapes, text);
  const known = fronts.some((front) => front !== null);
  return {
    title: sheet.name,
    lines: [
      `For ${sheet.forWhom}.`,
      `Centre ${text(sheet.heightM)} above the datum, aimed ${turnText(sheet.aimDeg, UPSTAGE)}, ${tiltText(sheet.tiltDeg)}.`,
      `Floor point below the centre: ${tapes[0]} from tape ${datumNames[0]}, ${tapes[1]} from tape ${datumNames[1]}, ${tapes[2]}.`,
      ...techniqueLines(sheet, text),
    ],
    positions: {
      head: [
        'Capsule',
        'From centre line',
        'From stage edge',
        `From tape ${datumNames[0]}`,
        `From tape ${datumNames[1]}`,
        'Side of the tape line',
        'Height',
        'Aim',
        'Tilt',
      ],
      rows: sheet.capsules.map((capsule) =>
        positionRow(capsule.label || 'Microphone', capsule, text),
      ),
    },
    bar: {
      head: [
        'Capsule',
        'Pattern',
        'From the bar’s centre',
        'Turned off the aim',
        ...(known ? ['Front of the body'] : []),
      ],
      rows: sheet.capsules.map((capsule, i) => [
        capsule.label || 'Microphone',
        capsule.pattern,
        sideways(capsule.barOffsetM, text, 'bar'),
        turnText(capsule.barAngleDeg, 'straight'),
        ...(known ? [frontText(fronts[i] ?? null)] : []),
      ]),
    },
  };
}

export function sheetModel(session: Session, bothUnits: boolean): SheetModel {
  const sheet = positionSheet(session);
  const text = lengths(session, bothUnits);
  const names: [string, string] = sheet.datum
    ? [sheet.datum[0].name, sheet.datum[1].name]
    : ['A', 'B'];
  const { venue, brief } = session;
  const datum = sheet.datum
    ? sheet.datum
        .map((p) => `tape ${p.name}: ${sideways(p.x, text)}, ${depthText(p.y, text)}`)
        .join('; ')
    : 'two tape points at least 1 cm apart are missing: give them in Brief';
  return {
    title: session.title,
    facts: [venue.name, brief.date, `${formatNumber(venue.temperatureC, 0)} °C`]
      .filter(Boolean)
      .join(' · '),
    datum: `Datum: front edge of the stage on its centre line, on the floor. Left and right are the audience’s. ${datum.charAt(0).toUpperCase()}${datum.slice(1)}.`,
    parts: sheet.arrays.map((array) => section(array, frontsOf(session, array.id), names, text)),
    cautions: cautionLines(session),
    deference: DEFERENCE,
  };
}
