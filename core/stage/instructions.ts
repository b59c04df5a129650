import { microphoneName } from '../arrays/capsules';
import { BOUNDS, boundsText, BUILT_BOUNDS } from '../session/bounds';
import type { AsBuilt, LogEntry, MicArray, Session } from '../session/schema';
import { matters } from '../session/journals';
import { referenceOf } from '../ensembles/surfaces';
import { angleText, formatNumber, lengthText, type UnitSystem } from '../units/format';
import { parseLength, parseNumber } from '../units/parse';
import { clamp } from '../units/numbers';
import { done, refused, type Outcome } from '../units/outcome';

/** What the booth asks the hall to do, and what comes of it: words with figures in both systems of units. */

export type BuiltField = AsBuilt['field'];
export type InstructionEntry = Extract<LogEntry, { kind: 'instruction' }>;
export type AnswerEntry = Extract<LogEntry, { kind: 'answer' }>;
/** What an instruction is to set. */
export type Setting = NonNullable<InstructionEntry['set']>;

/** Words for more and for less of a figure, and for what it is then. */
const WAYS: Readonly<Record<BuiltField, readonly [more: string, less: string, then: string]>> = {
  x: ['to the right', 'to the left', 'from the centre line'],
  y: ['upstage', 'downstage', 'from the stage edge'],
  z: ['up', 'down', 'high'],
  aimDeg: ['turned to the right', 'turned to the left', 'off straight upstage'],
  tiltDeg: ['tilted up', 'tilted down', 'from level'],
  spacingM: ['wider', 'narrower', 'capsule to capsule'],
  includedAngleDeg: ['wider', 'narrower', 'between the axes'],
  rightDb: ['more on the right microphone', 'less on the right microphone', 'right against left'],
};
/** Words for more and for less of a figure: "up" and "down". */
export const waysOf = (field: BuiltField): readonly [more: string, less: string] => [
  WAYS[field][0],
  WAYS[field][1],
];
const SIDES: Partial<Record<BuiltField, readonly [more: string, less: string]>> = {
  x: ['right', 'left'],
  y: ['upstage', 'downstage'],
  aimDeg: ['right', 'left'],
  tiltDeg: ['up', 'down'],
};

/** Whether a figure is a length, so that it has a second system of units. */
export const isLengthField = (field: BuiltField): boolean =>
  field === 'x' || field === 'y' || field === 'z' || field === 'spacingM';

/**
 * How much a figure is, without its side: "2.50 m", "17.0 cm", "1.5°".
 * @param value m, degrees or dB
 * @param move whether it is by how much something moves: as fine as the tape has it
 */
export function amountText(
  field: BuiltField,
  value: number,
  units: UnitSystem,
  move = false,
): string {
  const size = Math.abs(value);
  if (field === 'rightDb') return `${formatNumber(size, 1)} dB`;
  if (!isLengthField(field)) return angleText(size);
  return lengthText(size, units, size < 1 && (move || field === 'spacingM') ? 'bar' : 'floor');
}

/** A figure of an array with its side: "1.20 m left", "level", "12° down". */
export function figureText(field: BuiltField, value: number, units: UnitSystem): string {
  const amount = amountText(field, value, units);
  const sides = SIDES[field];
  if (Math.abs(value) < 5e-4) {
    const none: Partial<Record<BuiltField, string>> = {
      x: 'centre',
      y: 'on the edge',
      aimDeg: 'straight upstage',
      tiltDeg: 'level',
    };
    return none[field] ?? amount;
  }
  if (sides) return `${amount} ${value > 0 ? sides[0] : sides[1]}`;
  return value < 0 ? `−${amount}` : amount;
}

/**
 * A figure as somebody in the hall types it, within what such a figure may be.
 * @param move whether it is by how much something moves: a bare number is then of the smaller unit
 * @returns m, degrees or dB; where it is none, what is allowed
 */
export function readFigure(
  field: BuiltField,
  text: string,
  units: UnitSystem,
  move = false,
): Outcome<number> {
  const bounds = BOUNDS[BUILT_BOUNDS[field]];
  const fine = move || field === 'spacingM';
  const read = isLengthField(field)
    ? parseLength(text, {
        bareUnit: units === 'metric' ? (fine ? 'cm' : 'm') : fine ? 'in' : 'ft',
        ...(fine && units === 'metric' && { smallIsMetres: true }),
        bareUpTo: 20,
      })
    : field === 'rightDb'
      ? parseNumber(text, ['db'], '-1.5')
      : parseNumber(text, ['°', 'deg', 'degrees'], '12');
  if (!read.ok) return read;
  if (read.value >= bounds.min && read.value <= bounds.max) return read;
  return refused(`allowed: ${boundsText(bounds)}`);
}

/** What a figure of an array is by now: as noted in the hall, else as planned; null where it has none. */
export function figureNow(
  session: Pick<Session, 'rig'>,
  array: MicArray,
  field: BuiltField,
): number | null {
  const noted = session.rig.asBuilt.find(
    (one) => one.arrayId === array.id && one.field === field,
  )?.value;
  if (noted !== undefined) return noted;
  if (field === 'rightDb') return 0;
  if (field !== 'spacingM' && field !== 'includedAngleDeg') return array[field];
  return array.technique.kind === 'pair' ? array.technique[field] : null;
}

/** An instruction in parts: big on the stage, one sentence in the log. */
export interface InstructionWords {
  /** what is to be moved */
  lead: string;
  /** by how much and where to, in the units of the session */
  figure: string;
  /** the same in the other system; empty where there is none */
  other: string;
  /** what it is then, in both systems; empty where that is not known */
  then: string;
}

const otherUnits = (units: UnitSystem): UnitSystem => (units === 'metric' ? 'imperial' : 'metric');

/** What a height of an array is set out from: the floor, or the surface that was chosen. */
export function heightFrom(session: Session, arrayId: string): { fromM: number; name: string } {
  const array = session.arrays.find(({ id }) => id === arrayId);
  const reference = array ? referenceOf(session, array) : null;
  return { fromM: reference?.heightM ?? 0, name: reference?.name ?? '' };
}

/** What a setting asks for, in words. */
export function settingWords(
  session: Session,
  { arrayId, microphone, field, by, value: floor }: Setting,
): InstructionWords {
  const { units } = session.settings;
  const other = otherUnits(units);
  const array = session.arrays.find(({ id }) => id === arrayId);
  const name = array?.name ?? 'an array that is no longer there';
  const [more, less, usual] = WAYS[field];
  const { fromM, name: surface } = heightFrom(session, arrayId);
  const value = field === 'z' && floor !== null ? floor - fromM : floor;
  const behind = field === 'z' && surface !== '' ? `above the ${surface}` : usual;
  const hasOther = isLengthField(field);
  const moved = (system: UnitSystem): string =>
    by === null ? '' : `${amountText(field, by, system, true)} ${by < 0 ? less : more}`;
  const is = (system: UnitSystem): string =>
    value === null ? '' : figureText(field, value, system);
  const then =
    value === null
      ? ''
      : [is(units), ...(hasOther ? [is(other)] : [])].join(' · ') +
        (/\d/.test(is(units)) && !SIDES[field] ? ` ${behind}` : '');
  return {
    lead: microphone === '' ? name : microphoneName(name, microphone),
    figure: by === null ? is(units) : moved(units),
    other: hasOther ? (by === null ? is(other) : moved(other)) : '',
    then: by === null ? '' : then,
  };
}

/** "Main pair: 2.0 cm (13/16 in) up, then 2.52 m · 8′ 3 1/4″ high." */
export function settingSentence(session: Session, setting: Setting): string {
  const { lead, figure, other, then } = settingWords(session, setting);
  const rest = then === '' ? '' : `, then ${then}`;
  return `${lead}: ${figure}${other === '' ? '' : ` (${other})`}${rest}.`;
}

/**
 * An instruction to move or turn something from where it is.
 * @param by m, degrees or dB; more is right, upstage, up, wider
 * @param microphone one microphone of the array; empty: the whole
 * @returns what is to be set; where that is beyond what such a figure may be, what is allowed
 */
export function settingBy(
  session: Pick<Session, 'rig'>,
  array: MicArray,
  field: BuiltField,
  by: number,
  microphone = '',
): Outcome<Setting> {
  const bounds = BOUNDS[BUILT_BOUNDS[field]];
  const { min, max } = bounds;
  if (!Number.isFinite(by) || by === 0) return refused('by how much? allowed: anything but 0');
  const now = microphone === '' ? figureNow(session, array, field) : null;
  const value = now === null ? null : Math.round((now + by) * 1e6) / 1e6;
  if (value !== null && (value < min || value > max)) {
    return refused(`it would be ${formatNumber(value, 2)}; allowed: ${boundsText(bounds)}`);
  }
  if (Math.abs(by) > clamp(max - min, 0, 1000)) {
    return refused(`by ${formatNumber(by, 2)}; allowed: ${boundsText(bounds)}`);
  }
  return done({ arrayId: array.id, microphone, field, by, value });
}

/**
 * An instruction to set a figure as it is planned.
 * @param planned m, degrees or dB, heights from the floor
 * @param built the same; null where nobody has looked
 */
export const settingAsPlanned = (
  arrayId: string,
  field: BuiltField,
  planned: number,
  built: number | null,
): Setting => ({
  ...{ arrayId, microphone: '', field, value: planned },
  by: built === null ? null : Math.round((planned - built) * 1e6) / 1e6,
});

/** An instruction with what came of it. */
export interface Asked {
  entry: InstructionEntry;
  /** open: nothing yet, or only words */
  state: 'open' | 'done' | 'cannot';
  /** of a tap: whether the booth heard it; null while that is not said */
  heard: boolean | null;
  /** oldest first */
  answers: readonly AnswerEntry[];
}

/** Every instruction that stands, oldest first, with its answers. */
export function askedOf(log: Session['log']): Asked[] {
  const asked = new Map<string, Asked & { answers: AnswerEntry[] }>();
  const order: string[] = [];
  for (const { standing, history } of matters(log)) {
    if (!standing) continue;
    if (standing.kind === 'instruction') {
      const entry = standing as InstructionEntry;
      const one = { entry, state: 'open' as const, heard: null, answers: [] };
      // Answers name whichever version was shown.
      for (const { id } of history) asked.set(id, one);
      order.push(entry.id);
    }
    if (standing.kind !== 'answer') continue;
    const answer = standing as AnswerEntry;
    const to = asked.get(answer.to);
    if (!to) continue;
    to.answers.push(answer);
    if (answer.came === 'done' || answer.came === 'cannot') to.state = answer.came;
    if (answer.came === 'heard' || answer.came === 'not heard') to.heard = answer.came === 'heard';
  }
  return order.flatMap((id) => asked.get(id) ?? []);
}

/** What As built gains by an answer; null where it has no such figure. */
export function builtByAnswer(
  session: Pick<Session, 'arrays'>,
  { set }: Pick<InstructionEntry, 'set'>,
  { came, value }: Pick<AnswerEntry, 'came' | 'value'>,
): AsBuilt | null {
  if (came !== 'done' || !set || set.microphone !== '') return null;
  const is = value ?? set.value;
  if (is === null || !session.arrays.some(({ id }) => id === set.arrayId)) return null;
  return { arrayId: set.arrayId, field: set.field, value: is };
}
