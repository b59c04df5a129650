import {
  exactLength,
  exactNumber,
  formatLength,
  formatNumber,
  formatTemperature,
  lengthText,
  parseLength,
  panText,
  parseNumber,
  parsePan,
  parseTemperature,
  speedOfSound,
  type FormattedQuantity,
  type LengthPrecision,
  type Outcome,
  type UnitSystem,
} from '../../core/units';
import { sessionStore } from '../document/session-store';
import { BOUNDS, boundsText, type Bounds, type BoundsName } from '../../core/session';

/** How one kind of quantity is shown, typed, limited and stepped. */
export interface QuantityKind {
  bounds: Bounds;
  boundsText: string;
  /** one press of an arrow key */
  step: number;
  /** as it is read, with one digit more than usual where it was typed so */
  format: (value: number) => FormattedQuantity;
  /** as it is edited: exactly what is stored, so that nothing rounded is ever read back */
  editText: (value: number) => string;
  parse: (text: string) => Outcome<number>;
  /** tooltip: how to type it, and the same value in the other system */
  hint: (value: number | null) => string;
}

/** The open session's own units of length, by name. */
function ownUnits(): Record<string, number> {
  const own = sessionStore.getState().session?.settings.ownLengths ?? [];
  return Object.fromEntries(own.map(({ name, lengthM }) => [name, lengthM]));
}

const joined = ({ number, unit }: FormattedQuantity): string =>
  unit === '' ? number : `${number} ${unit}`;

/** In the tape's precision, or with one decimal more where that tells it without loss. */
function lengthShown(
  value: number,
  system: UnitSystem,
  precision: LengthPrecision,
): FormattedQuantity {
  if (system === 'imperial') return formatLength(value, system, precision);
  const exact = exactLength(value, system, precision, 1);
  const shown = Number(exact.number.replace('−', '-')) * (precision === 'bar' ? 0.01 : 1);
  return Math.abs(shown - value) < 1e-7 ? exact : formatLength(value, system, precision);
}

/** From where on a number without a unit is rather one of the next smaller unit, m. */
const MOST_BARE_M: Partial<Record<BoundsName, number>> = { roomM: 120, widthM: 20, spacingM: 20 };

/** How long sound takes for a length, at the session's temperature. */
function travelText(metres: number): string {
  const temperatureC = sessionStore.getState().session?.venue.temperatureC ?? 20;
  return `${formatNumber((Math.abs(metres) / speedOfSound(temperatureC)) * 1000, 2)} ms of sound`;
}

export function lengthKind(
  boundsName: BoundsName,
  system: UnitSystem,
  precision: LengthPrecision = 'floor',
): QuantityKind {
  const bounds = BOUNDS[boundsName];
  const bar = precision === 'bar';
  const other: UnitSystem = system === 'metric' ? 'imperial' : 'metric';
  const bareUnit = system === 'metric' ? (bar ? 'cm' : 'm') : bar ? 'in' : 'ft';
  const smallIsMetres = system === 'metric' && bar;
  const bare = smallIsMetres ? 'cm, under 1 as m' : bareUnit;
  return {
    bounds,
    boundsText:
      system === 'metric'
        ? boundsText(bounds)
        : `${lengthText(bounds.min, system)} to ${lengthText(bounds.max, system)}`,
    step: bar ? 0.001 : 0.01,
    format: (value) => lengthShown(value, system, precision),
    editText: (value) => joined(exactLength(value, system, precision)),
    parse: (text) =>
      parseLength(text, {
        bareUnit,
        smallIsMetres,
        own: ownUnits(),
        ...(bar ? {} : { bareUpTo: MOST_BARE_M[boundsName] ?? 50 }),
      }),
    hint: (value) =>
      `${value === null ? '' : `${lengthText(value, other, precision)}, ${travelText(value)}. `}` +
      `Any unit: 17 cm, 2.5 m, 6' 8". A bare number is read as ${bare}.`,
  };
}

const plainKind = (boundsName: BoundsName, ...rest: PlainRest): QuantityKind =>
  plainKindOf(BOUNDS[boundsName], ...rest);

type PlainRest = Parameters<typeof plainKindOf> extends [Bounds, ...infer Rest] ? Rest : never;

/** A number with a unit within bounds of its own. */
function plainKindOf(
  bounds: Bounds,
  unit: string,
  words: readonly string[],
  decimals: number,
  step: number,
  example: string,
): QuantityKind {
  const bare = (text: string) => text.replace(/(\.\d*?)0+$/, '$1').replace(/\.$/, '');
  const number = (value: number) => bare(formatNumber(value, decimals));
  const exact = (value: number) => bare(exactNumber(value, decimals, decimals + 5));
  const shown = (value: number) =>
    Math.abs(value - Number(value.toFixed(decimals + 1))) < 1e-9 ? exact(value) : number(value);
  return {
    bounds,
    boundsText: boundsText(bounds),
    step,
    format: (value) => ({ number: shown(value), unit }),
    editText: (value) => `${exact(value)}${unit === '°' ? unit : unit && ` ${unit}`}`,
    parse: (text) => parseNumber(text, words, example),
    hint: () => `Allowed: ${boundsText(bounds)}.`,
  };
}

const DEGREES = ['°', 'deg', 'degrees'];

export const angleKind = (boundsName: BoundsName): QuantityKind =>
  plainKind(boundsName, '°', DEGREES, 1, 1, '110 or 54.5°');

/** Half a wanted recording angle: what a search can be asked for. */
export const halfAngleKind: QuantityKind = {
  ...plainKind('includedAngleDeg', '°', DEGREES, 1, 1, '48°'),
  bounds: { min: 5, max: 175, unit: '°' },
  boundsText: '5 to 175°',
};

export const levelKind = (boundsName: BoundsName): QuantityKind =>
  plainKind(boundsName, 'dB', ['db'], 1, 0.5, '-6 or 86 dB');

export const plainNumberKind = (boundsName: BoundsName, step = 0.1): QuantityKind =>
  plainKind(boundsName, '', [], 3, step, '0.5');

export const delayKind: QuantityKind = plainKind('delayMs', 'ms', ['ms'], 2, 0.1, '8.5 ms');

/** Where a strip goes: percent to the left or right. */
export const panKind: QuantityKind = {
  bounds: BOUNDS.pan,
  boundsText: '100 % L to 100 % R',
  step: 0.01,
  format: (value) => ({ number: panText(value), unit: '' }),
  editText: panText,
  parse: parsePan,
  hint: () => 'Percent to a side: 30 L, 30 R, centre. Minus is left.',
};

export const percentKind: QuantityKind = plainKind('percent', '%', ['%'], 0, 1, '90 %');

export const signedPercentKind: QuantityKind = plainKind(
  'signedPercent',
  '%',
  ['%'],
  0,
  1,
  '-40 %',
);

export const sensitivityKind: QuantityKind = plainKind(
  'sensitivityMvPa',
  'mV/Pa',
  ['mv/pa', 'mv'],
  1,
  0.5,
  '12 mV/Pa',
);

export const headroomKind: QuantityKind = plainKind('headroomDb', 'dB', ['db'], 0, 1, '12 dB');

export const dbuKind: QuantityKind = plainKind('dbu', 'dBu', ['dbu'], 0, 1, '18 dBu');

export const kilogramsKind: QuantityKind = plainKind('kilograms', 'kg', ['kg'], 1, 0.5, '3.5 kg');

export const countKind: QuantityKind = plainKind('count', '', [], 0, 1, '12');

export const hoursKind: QuantityKind = plainKind('hours', 'h', ['h'], 2, 0.5, '3.5 h');

export const minutesKind: QuantityKind = plainKind('minutes', 'min', ['min', 'm'], 0, 5, '45 min');

export const secondsKind: QuantityKind = plainKind('rt60S', 's', ['s', 'sec'], 2, 0.1, '1.6 s');

export const channelsKind: QuantityKind = plainKind('channels', '', [], 0, 1, '8');

export function temperatureKind(system: UnitSystem): QuantityKind {
  const bounds = BOUNDS.temperatureC;
  const imperial = system === 'imperial';
  return {
    bounds,
    boundsText: imperial ? '−4 to 122 °F' : boundsText(bounds),
    step: 1,
    format: (value) => formatTemperature(value, system),
    editText: (value) => {
      const { number, unit } = formatTemperature(value, system);
      return `${number} ${unit}`;
    },
    parse: (text) => parseTemperature(text, imperial ? 'F' : 'C'),
    hint: () => 'Type °C or °F: 19, 19 °C, 66 °F.',
  };
}

/** How much later or earlier a recorded channel is made. */
export const shiftKind: QuantityKind = plainKindOf(
  { min: -2000, max: 2000, unit: 'ms' },
  'ms',
  ['ms'],
  3,
  0.01,
  '-4.1 ms',
);

/** Corner of a filter. */
export const filterKind: QuantityKind = plainKind('filterHz', 'Hz', ['hz'], 0, 5, '80 Hz');

export const highPassKind: QuantityKind = plainKindOf(
  { min: 10, max: 2000, unit: 'Hz' },
  'Hz',
  ['hz'],
  0,
  5,
  '120 Hz',
);
