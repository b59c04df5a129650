import { FIELD_WORDS } from '../rig/as-built';
import type { AsBuilt, Session } from '../session/schema';
import { clamp } from '../units/numbers';
import { angleText, lengthText } from '../units/format';
import { formatNumber, formatSigned } from '../units/format';
import { noted, type ClapEstimate, type ClapFigure } from './estimate';
import type { ClapField } from './freedoms';

/** What each figure is called. */
export const CLAP_WORDS: Readonly<Record<ClapField, string>> = {
  ...FIELD_WORDS,
  skewDeg: 'both microphones turned on their bar',
  patternA: 'pattern, omni part more',
  patternDifference: 'pattern, right more omni than left',
  temperatureC: 'temperature',
};

const METRES: readonly ClapField[] = ['x', 'y', 'z', 'spacingM'];
const PARTS: readonly ClapField[] = ['patternA', 'patternDifference'];

/**
 * A figure in its unit.
 * @param value m, °, dB, °C, or a part 0 … 1, as its field is
 * @param signed with + where it is more
 */
export function clapText(
  field: ClapField,
  value: number,
  units: Session['settings']['units'],
  signed = false,
): string {
  if (METRES.includes(field)) {
    const text = lengthText(Math.abs(value), units, field === 'spacingM' ? 'bar' : 'floor');
    return value < 0 ? `−${text}` : signed && value > 0 ? `+${text}` : text;
  }
  const number = signed ? formatSigned : formatNumber;
  if (PARTS.includes(field)) return number(value, 2);
  if (field === 'rightDb') return `${formatSigned(value, 1)} dB`;
  if (field === 'temperatureC') return `${number(value, 0)} °C`;
  return signed && value > 0 ? `+${angleText(value)}` : angleText(value);
}

/** From here on a difference is worth a word. */
const MATTERS: Readonly<Record<ClapField, number>> = {
  ...{ x: 0.03, y: 0.03, z: 0.05, aimDeg: 1, tiltDeg: 2, spacingM: 0.003, includedAngleDeg: 5 },
  ...{ skewDeg: 3, rightDb: 0.5, patternA: 0.1, patternDifference: 0.05, temperatureC: 5 },
};

/** Whether a figure is other than planned, beyond its interval and enough to matter. */
export const isOther = ({ field, planned, value, within, measurable }: ClapFigure): boolean =>
  measurable && Math.abs(value - planned) > Math.max(within, MATTERS[field]);

/** Those that a rig can be told by in one sentence: what is set on a stand or a bar. */
const SAID: readonly ClapField[] = ['x', 'y', 'aimDeg', 'spacingM', 'includedAngleDeg', 'rightDb'];

/** The whole of it in one sentence. */
export function clapSentence(
  { arrays, settings }: Pick<Session, 'arrays' | 'settings'>,
  { figures, refused }: ClapEstimate,
): string {
  if (refused !== '') return `Cannot be told: ${refused}`;
  const said = arrays.flatMap(({ id, name }) => {
    const own = figures.filter(({ arrayId, field }) => arrayId === id && SAID.includes(field));
    if (own.length === 0) return [];
    const other = own.filter(isOther);
    const parts = other.map(
      ({ field, value, planned, within }) =>
        `${CLAP_WORDS[field]} ${clapText(field, value, settings.units)} ± ${clapText(field, within, settings.units)} (planned ${clapText(field, planned, settings.units)})`,
    );
    const told = own.some(({ measurable }) => measurable);
    return parts.length > 0
      ? `${name}: ${parts.join(', ')}`
      : told
        ? `${name} stands as planned, as far as these claps tell`
        : `of ${name} these claps tell nothing`;
  });
  return `${said.join('; ')}.`;
}

/** What these claps do not tell, and what would: one line a figure. */
export function openWords(
  { arrays }: Pick<Session, 'arrays'>,
  { figures }: Pick<ClapEstimate, 'figures'>,
): string[] {
  return figures.flatMap(({ arrayId, field, measurable, mendedBy }) => {
    const name = arrays.find(({ id }) => id === arrayId)?.name;
    if (measurable || !name) return [];
    const what = `${name}, ${CLAP_WORDS[field]}: not measurable with these claps`;
    return [mendedBy === '' ? what : `${what}; a clap ${mendedBy} would mend it`];
  });
}

/** How many digits of each are noted. */
const DIGITS: Readonly<Partial<Record<ClapField, number>>> = {
  ...{ x: 3, y: 3, z: 3, aimDeg: 1, spacingM: 4, includedAngleDeg: 1, rightDb: 2 },
};

/** A figure as it is noted As built. @returns null of what is not noted, or was not measured */
export function builtByClaps({ arrayId, field, value, measurable }: ClapFigure): AsBuilt | null {
  const bounds = noted(field);
  if (!bounds || !measurable || arrayId === '') return null;
  const digits = DIGITS[field] ?? 1;
  const rounded = Number(clamp(value, bounds.min, bounds.max).toFixed(digits));
  return { arrayId, field: field as AsBuilt['field'], value: rounded };
}
