import { crossedEquivalent } from '../core/arrays';
import { patternAOf } from '../core/acoustics';
import { tapeTolerances } from '../core/analysis';
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
import { channelMap, type Input } from '../core/channels';
import { mountsOf } from '../core/mechanics';
import { standsOnM } from '../core/hall';
import { faceWords } from '../core/ensembles';
import type { MicArray, Session } from '../core/session';
import { angleText, capitalised, formatNumber } from '../core/units';
import { DETAIL_HEIGHT, detailDrawing } from './detail-drawing';
import { playersTable } from './players-table';
import { DRAWN_WIDTH, type Drawing } from './sheet-drawing';
import {
  depthText,
  lengths,
  NOT_KNOWN,
  sideways,
  turnText,
  UPSTAGE,
  type LengthWords,
} from './sheet-words';

/** The position sheet in words, the same for the page, the printer and the PDF. */
export interface SheetTable {
  head: string[];
  rows: string[][];
}

export interface SheetPart {
  title: string;
  lines: string[];
  /** the array at its own scale */
  detail: Drawing;
  positions: SheetTable;
  bar: SheetTable;
}

export interface SheetModel {
  title: string;
  facts: string;
  datum: string;
  /** who has to hear and agree before a set-up is kept; empty where nobody */
  heard: string;
  players: SheetTable;
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

/** So steep that no direction on the floor is meant by its aim. */
const isUpright = (tiltDeg: number | null): boolean =>
  tiltDeg !== null && Math.abs(tiltDeg) > 89.95;

function tiltText(deg: number | null): string {
  if (deg === null) return NOT_KNOWN;
  if (isUpright(deg)) return `straight ${deg < 0 ? 'down' : 'up'}`;
  if (Math.abs(deg) < 0.05) return 'level';
  return `${angleText(Math.abs(deg))} ${deg < 0 ? 'down' : 'up'}`;
}

/** Where the whole looks: of one that looks straight down only how its bar is turned. */
function aimText({ aimDeg, tiltDeg }: Pick<ArraySheet, 'aimDeg' | 'tiltDeg'>): string {
  if (!isUpright(tiltDeg)) return `aimed ${turnText(aimDeg, UPSTAGE)}, ${tiltText(tiltDeg)}`;
  const turned = turnText(aimDeg, '');
  return `aimed ${tiltText(tiltDeg)}${turned === '' ? '' : `, its front turned ${turned} from straight upstage`}`;
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
    isUpright(capsule.tiltDeg) ? '—' : turnText(capsule.aimDeg, UPSTAGE),
    tiltText(capsule.tiltDeg),
  ];
}

/** To the side of the bar's centre, ahead of it and above it. */
function barText({ barOffsetM, barAheadM, barUpM }: CapsuleRow, text: LengthWords): string {
  const off = (metres: number, more: string, less: string): string[] =>
    Math.abs(metres) < 0.0005
      ? []
      : [`${text(Math.abs(metres), 'bar')} ${metres > 0 ? more : less}`];
  const rest = [...off(barAheadM, 'ahead', 'behind'), ...off(barUpM, 'above', 'below')];
  const side = sideways(barOffsetM, text, 'bar');
  return (side === 'centre' && rest.length > 0 ? rest : [side, ...rest]).join(', ');
}

function techniqueLines(sheet: ArraySheet, text: LengthWords): string[] {
  const { technique } = sheet;
  if (technique.kind === 'pair') {
    const { spacingM, includedAngleDeg } = technique;
    if (sheet.missing.length > 0) {
      const lacks = (name: 'spacingM' | 'includedAngleDeg', known: string): string =>
        sheet.missing.includes(name) ? NOT_KNOWN : known;
      return [
        `Capsule to capsule ${lacks('spacingM', text(spacingM, spacingM < 1 ? 'bar' : 'floor'))}; included angle ${lacks('includedAngleDeg', angleText(includedAngleDeg))}.`,
      ];
    }
    const within = tapeTolerances(sheet);
    return [
      `Capsule to capsule ${text(spacingM, spacingM < 1 ? 'bar' : 'floor')}, included angle ${angleText(includedAngleDeg)}; within ±${text(within.spacingM, 'bar')} and ±${angleText(within.angleDeg)}.`,
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

/** "Floor point below the centre …"; of an array on several stands each microphone has its own. */
function floorLine(
  sheet: ArraySheet,
  array: MicArray | undefined,
  datumNames: [string, string],
  text: LengthWords,
): string {
  const mounts = array ? mountsOf(array) : [];
  if (mounts.length > 1) {
    return `On ${mounts.length} stands: ${mounts.map(({ name }) => name).join(', ')}. The tapes of each are in the table.`;
  }
  const tapes = tapesText(sheet.centreTapes, text);
  return `Floor point below the centre: ${tapes[0]} from tape ${datumNames[0]}, ${tapes[1]} from tape ${datumNames[1]}, ${tapes[2]}.`;
}

/** Where its channels go, where that is more than left and right; else nothing. */
function routeLines(inputs: readonly Input[]): string[] {
  const routes = inputs.flatMap(({ label, name, loudspeaker }) =>
    loudspeaker === null ? [] : `${label || name} → ${loudspeaker}`,
  );
  return routes.length === 0 ? [] : [`Loudspeakers: ${routes.join(', ')}.`];
}

/** What else is set out from an instrument: faces near by, and capsules at heights of their own. */
function surfaceLines(
  session: Session,
  { reference, heightM, capsules }: ArraySheet,
  array: MicArray | undefined,
  text: LengthWords,
): string[] {
  const faces = array ? faceWords(session, array, session.settings.units) : null;
  const uneven = capsules.some((capsule) => Math.abs(capsule.heightM - heightM) > 0.005);
  const fromM = heightM - (reference?.aboveM ?? 0);
  const heights = capsules.map(
    (capsule) => `${capsule.label} ${text(capsule.heightM - fromM, 'bar')}`,
  );
  return [
    ...(faces ? [`On the plan ${faces}.`] : []),
    ...(reference && uneven ? [`Above the ${reference.name}: ${heights.join(', ')}.`] : []),
  ];
}

function section(
  session: Session,
  sheet: ArraySheet,
  fronts: readonly (Address | null)[],
  datumNames: [string, string],
  text: LengthWords,
): SheetPart {
  const array = session.arrays.find(({ id }) => id === sheet.id);
  const inputs = channelMap(session).inputs.filter(({ arrayId }) => arrayId === sheet.id);
  const separate = array !== undefined && mountsOf(array).length > 1;
  const { reference } = sheet;
  const known = fronts.some((front) => front !== null);
  return {
    title: sheet.name,
    lines: [
      `For ${sheet.forWhom}.`,
      `Centre ${text(sheet.heightM)} above the datum${onStageWords(session, sheet, array, text)}${reference ? ` (${text(Math.abs(reference.aboveM), Math.abs(reference.aboveM) < 1 ? 'bar' : 'floor')} ${reference.aboveM < 0 ? 'below' : 'above'} the ${reference.name})` : ''}, ${aimText(sheet)}.`,
      floorLine(sheet, array, datumNames, text),
      ...surfaceLines(session, sheet, array, text),
      ...techniqueLines(sheet, text),
      ...routeLines(inputs),
    ],
    detail: array
      ? detailDrawing(array, DRAWN_WIDTH, DETAIL_HEIGHT, (metres) =>
          text(metres, metres < 1 ? 'bar' : 'floor'),
        )
      : { width: DRAWN_WIDTH, height: 0, title: sheet.name, shapes: [] },
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
        separate ? 'From the array’s centre' : 'From the bar’s centre',
        'Turned off the aim',
        ...(known ? ['Front of the body'] : []),
      ],
      rows: sheet.capsules.map((capsule, i) => [
        capsule.label || 'Microphone',
        capsule.pattern,
        barText(capsule, text),
        turnText(capsule.barAngleDeg, 'straight'),
        ...(known ? [frontText(fronts[i] ?? null)] : []),
      ]),
    },
  };
}

/** "To be heard before a set-up is kept: …" */
function heardText(people: Session['brief']['people']): string {
  const named = people.filter(({ name, role, mustHear }) => mustHear && (name || role));
  if (named.length === 0) return '';
  const words = named.map(({ name, role }) => (name && role ? `${name} (${role})` : name || role));
  return `To be heard before a set-up is kept: ${words.join(', ')}.`;
}

/** Which floor heights are measured from: the hall's, where the stage is a platform. */
const floorWords = ({ stage }: Session['venue'], text: LengthWords): string =>
  stage.heightM > 0 ? `hall’s floor, ${text(stage.heightM)} below the stage’s` : 'floor';

/** ", 2.00 m above the stage" for what stands on a platform. */
function onStageWords(
  { venue }: Session,
  sheet: ArraySheet,
  array: MicArray | undefined,
  text: LengthWords,
): string {
  const stage = array ? standsOnM(venue, array) : 0;
  return stage > 0 ? `, ${text(sheet.heightM - stage)} above the stage floor` : '';
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
    datum: `Datum: front edge of the stage on its centre line, on the ${floorWords(venue, text)}. Left and right are the audience’s. ${capitalised(datum)}.`,
    heard: heardText(brief.people),
    players: playersTable(session, text),
    parts: sheet.arrays.map((array) =>
      section(session, array, frontsOf(session, array.id), names, text),
    ),
    cautions: cautionLines(session),
    deference: DEFERENCE,
  };
}
