import { patternAOf, patternNameOf, type Pattern } from '../acoustics/patterns';
import {
  formatNumber,
  formatSigned,
  formatTemperature,
  lengthText,
  type UnitSystem,
} from '../units/format';

/** How fields of a plan and their values are called where two plans are held against each other. */

type Say = (value: unknown, units: UnitSystem) => string;

const isNumber = (value: unknown): value is number => typeof value === 'number';
const number =
  (unit: string, digits = 0): Say =>
  (value) =>
    isNumber(value) ? `${formatNumber(value, digits)}${unit}` : 'not known';
const decibels: Say = (value) => (isNumber(value) ? `${formatSigned(value, 1)} dB` : 'not known');
const floor: Say = (value, units) => (isNumber(value) ? lengthText(value, units) : 'not known');
const bar: Say = (value, units) =>
  isNumber(value) ? lengthText(value, units, 'bar') : 'not known';
const temperature: Say = (value, units) => {
  if (!isNumber(value)) return 'not known';
  const { number: figure, unit } = formatTemperature(value, units);
  return `${figure} ${unit}`;
};
const word: Say = (value) => (typeof value === 'string' && value !== '' ? value : 'none');
const lid: Say = (value) => word(value, 'metric').replace('-', ' ');
const pattern: Say = (value) => {
  const own = value as Pattern;
  return patternNameOf(patternAOf(own)) ?? `A ${formatNumber(patternAOf(own), 2)}`;
};
const onOff =
  (on: string, off: string): Say =>
  (value) =>
    value === true ? on : off;
const seconds: Say = (value) => {
  if (isNumber(value)) return `${formatNumber(value, 2)} s`;
  if (Array.isArray(value)) return 'by octave';
  return value === null ? 'not known' : 'by octave';
};

/** Name and way of saying; without one only that it changed is said. */
const FIELDS: Readonly<Record<string, { name: string; say?: Say }>> = {
  name: { name: 'name', say: word },
  kind: { name: 'instrument', say: word },
  z: { name: 'height', say: floor },
  facingDeg: { name: 'facing', say: number('°') },
  widthM: { name: 'width', say: floor },
  depthM: { name: 'depth', say: floor },
  heightM: { name: 'height', say: floor },
  levelDb: { name: 'level', say: number(' dB', 1) },
  lid: { name: 'lid', say: lid },
  openPanels: { name: 'panels' },
  felt: { name: 'felt', say: onOff('on', 'off') },
  q: { name: 'directivity', say: number('', 1) },
  role: { name: 'role', say: word },
  enabled: { name: 'in use', say: onOff('yes', 'no') },
  aimDeg: { name: 'aim', say: number('°') },
  tiltDeg: { name: 'tilt', say: number('°') },
  spacingM: { name: 'spacing', say: bar },
  includedAngleDeg: { name: 'included angle', say: number('°') },
  pattern: { name: 'pattern', say: pattern },
  midPattern: { name: 'middle pattern', say: pattern },
  sideGainDb: { name: 'side level', say: decibels },
  capsules: { name: 'microphones' },
  faderDb: { name: 'fader', say: decibels },
  mute: { name: 'mute', say: onOff('on', 'off') },
  standard: { name: 'named standard', say: word },
  equipment: { name: 'microphones and stand' },
  for: { name: 'for whom' },
  hung: { name: 'hung', say: onOff('yes', 'no') },
  monoLossAccepted: { name: 'mono loss accepted', say: onOff('yes', 'no') },
  missing: { name: 'what is not known' },
  constraints: { name: 'wishes' },
  coverage: { name: 'mono or stereo', say: word },
  group: { name: 'section', say: word },
  temperatureC: { name: 'temperature', say: temperature },
  rt60S: { name: 'reverberation time', say: seconds },
  origin: { name: 'place of the datum' },
  surfaces: { name: 'surfaces' },
  stage: { name: 'stage' },
  units: { name: 'units', say: word },
  model: { name: 'model', say: word },
  perspective: { name: 'perspective', say: word },
  sampleRateHz: { name: 'sample rate', say: number(' Hz') },
  intent: { name: 'the picture wanted' },
  timetable: { name: 'the day' },
  storage: { name: 'storage' },
  people: { name: 'people' },
  programme: { name: 'programme' },
  notes: { name: 'notes' },
  date: { name: 'date', say: word },
  channelLimit: { name: 'channel limit', say: number('') },
  preferencesOff: { name: 'preferences switched off' },
  ownLengths: { name: 'own units' },
  asBuilt: { name: 'as built' },
  packed: { name: 'pack list' },
  claps: { name: 'places for claps' },
  photographs: { name: 'photographs' },
  clearanceM: { name: 'clearance', say: floor },
  headroomDb: { name: 'headroom', say: number(' dB') },
  echoFromMs: { name: 'echo from', say: number(' ms') },
  title: { name: 'title', say: word },
};

/** What a field of a plan is called. */
export const fieldName = (field: string): string => FIELDS[field]?.name ?? field;

/** "spacing 17.0 cm → 30.0 cm"; "microphones changed" */
export function changeText(
  field: string,
  before: unknown,
  after: unknown,
  units: UnitSystem,
): string {
  const { name, say } = FIELDS[field] ?? { name: field };
  if (!say) return `${name} changed`;
  const [was, is] = [say(before, units), say(after, units)];
  return was === is ? `${name} changed a little` : `${name} ${was} → ${is}`;
}

/**
 * "0.50 m back and 0.20 m to the right": as one sees it from the audience.
 * @param dx, dy metres to the right and upstage, −400 … 400
 */
export function moveText(dx: number, dy: number, units: UnitSystem): string {
  const parts = [
    { by: dy, words: dy < 0 ? 'towards the audience' : 'upstage' },
    { by: dx, words: dx < 0 ? 'to the left' : 'to the right' },
  ]
    .filter(({ by }) => Math.abs(by) >= 0.0005)
    .sort((a, b) => Math.abs(b.by) - Math.abs(a.by))
    .map(({ by, words }) => `${lengthText(Math.abs(by), units)} ${words}`);
  return `moved ${parts.join(' and ')}`;
}
