import { done, refused, type Outcome } from './outcome';

/** Is this word a unit of length already, so that it cannot be one of the user's own? */
export function isLengthUnit(word: string): boolean {
  return word in LENGTH_UNITS || word in UNIT_ALIASES;
}

/** Units a length can be typed in, and their size in metres. */
const LENGTH_UNITS: Readonly<Record<string, number>> = {
  m: 1,
  cm: 0.01,
  mm: 0.001,
  km: 1000,
  ft: 0.3048,
  in: 0.0254,
};

const UNIT_ALIASES: Readonly<Record<string, string>> = {
  metre: 'm',
  metres: 'm',
  meter: 'm',
  meters: 'm',
  foot: 'ft',
  feet: 'ft',
  inch: 'in',
  inches: 'in',
  "'": 'ft',
  '"': 'in',
};

const NUMBER = String.raw`(\d+(?:[.,]\d+)?|[.,]\d+)`;
const FRACTION = String.raw`(?:(?:\s+|-)?(\d+)\s*\/\s*(\d+))?`;
const TERM = new RegExp(
  String.raw`^\s*(?:(\d+)\s*\/\s*(\d+)|${NUMBER}${FRACTION})\s*([a-z'"]*)\s*`,
);

/** Folds the many typed forms of minus, primes and spaces into one. */
function plainText(text: string): string {
  return text
    .trim()
    .toLowerCase()
    .replace(/[−–]/g, '-')
    .replace(/[′’‘´`]/g, "'")
    .replace(/[″”“]|''/g, '"')
    .replace(/[\u00a0\u202f\u2009]/g, ' ')
    .replace(/½/g, ' 1/2')
    .replace(/¼/g, ' 1/4')
    .replace(/¾/g, ' 3/4');
}

/** Counts as they are spoken: "two sticks", "half a shoe". */
const NUMBER_WORDS: Readonly<Record<string, string>> = {
  'half a': '0.5',
  'half an': '0.5',
  half: '0.5',
  a: '1',
  an: '1',
  one: '1',
  two: '2',
  three: '3',
  four: '4',
  five: '5',
  six: '6',
  seven: '7',
  eight: '8',
  nine: '9',
  ten: '10',
  eleven: '11',
  twelve: '12',
};
const SPOKEN = new RegExp(
  String.raw`(^|\s)(${Object.keys(NUMBER_WORDS).join('|')})(?=\s+[a-z])`,
  'g',
);
/** "One and a half metres" is 1.5 of them. */
function countsAsDigits(text: string): string {
  const halves = text.replace(/\band a half\b/g, 'and-half');
  const digits = halves.replace(
    SPOKEN,
    (_all, before: string, word: string) => `${before}${NUMBER_WORDS[word] ?? word}`,
  );
  return digits.replace(/(\d+)\s+and-half/g, (_all, whole: string) => `${Number(whole) + 0.5}`);
}

const toNumber = (digits: string): number => Number(digits.replace(',', '.'));

interface Term {
  amount: number;
  unit: string;
  rest: string;
}

function readTerm(text: string): Term | null {
  const match = TERM.exec(text);
  if (!match) return null;
  const [whole, top, bottom, main, fracTop, fracBottom, word = ''] = match;
  let amount: number;
  if (top !== undefined) amount = Number(top) / Number(bottom);
  else amount = toNumber(main ?? '') + (fracTop ? Number(fracTop) / Number(fracBottom) : 0);
  if (!Number.isFinite(amount)) return null;
  return { amount, unit: UNIT_ALIASES[word] ?? word, rest: text.slice(whole.length) };
}

export interface LengthOptions {
  /** Unit of a number typed without one. */
  bareUnit: 'm' | 'cm' | 'ft' | 'in';
  /** In a field shown in centimetres, a bare number below 1 is taken as metres ("0.17"). */
  smallIsMetres?: boolean;
  /** a bare number of more than this, m, is asked about; without it none is */
  bareUpTo?: number;
  /** the user's own units by name (small letters), m; known units cannot be redefined */
  own?: Readonly<Record<string, number>>;
}

/** A unit's size, m; the user's own also in the plural. */
function sizeOf(unit: string, { own = {} }: LengthOptions): number | undefined {
  return LENGTH_UNITS[unit] ?? own[unit] ?? own[unit.replace(/s$/, '')];
}

const HELP = `Type a length such as 2.5 m, 17 cm or 6' 8"`;

/** One length without a sum: `6' 8"`, `1 m 20`, `-30 mm`. */
function parseTerms(text: string, plain: string, options: LengthOptions): Outcome<number> {
  const negative = plain.startsWith('-');
  let rest = plain.replace(/^[-+]\s*/, '');
  let metres = 0;
  let lastUnit = '';
  while (rest !== '') {
    const term = readTerm(rest);
    if (!term) return refused(`“${text.trim()}” is not a length. ${HELP}`);
    const unit = impliedUnit(term, lastUnit, options);
    const size = sizeOf(unit, options);
    if (size === undefined) return refused(`“${term.unit}” is not a unit of length. ${HELP}`);
    if (lastUnit !== '' && size >= (sizeOf(lastUnit, options) ?? 0)) {
      return refused(`“${text.trim()}” is not a length. ${HELP}`);
    }
    metres += term.amount * size;
    lastUnit = unit;
    rest = term.rest;
  }
  return done(negative && metres !== 0 ? -metres : metres);
}

/** What is added or taken off: a sign with space before it; `6'-8"` is one length. */
const SUM = /\s+(?=[-+]\s*[\d.,])|\s*(?=\+)/;

/**
 * Reads a length as people type it: `17 cm`, `0.17`, `1,5 m`, `6' 8"`, `6 ft 8 1/2 in`, `-30mm`,
 * `two sticks`, `half a metre`, and sums of them in any units: `1.2 m - 10 in`.
 * @returns metres, exactly as typed, or a message that says what is accepted; where a number has no
 *   unit and makes no sense in the field's, a question
 */
export function parseLength(text: string, options: LengthOptions): Outcome<number> {
  const plain = countsAsDigits(plainText(text)).replace(/'-(?=\d)/g, "' ");
  if (plain === '') return refused(`Empty. ${HELP}`);
  const parts = plain.split(SUM).filter((part) => part.trim() !== '');
  let metres = 0;
  for (const part of parts) {
    const read = parseTerms(text, part.trim(), options);
    if (!read.ok) return read;
    metres += read.value;
  }
  const { bareUpTo } = options;
  if (bareUpTo !== undefined && BARE.test(plain) && Math.abs(metres) > bareUpTo) {
    return refused(unitQuestion(plain, options));
  }
  // Sums of decimal parts: to a nanometre, so that 1.2 and 0.1 are 1.3.
  return done(parts.length > 1 ? Math.round(metres * 1e9) / 1e9 || 0 : metres);
}

const BARE = /^[-+]?\s*[\d.,]+$/;

/** "185 m? Type 185 cm, or 185 m if it is meant." */
function unitQuestion(plain: string, { bareUnit }: LengthOptions): string {
  const smaller = { m: 'cm', cm: 'mm', ft: 'in', in: 'mm' }[bareUnit];
  return `${plain} ${bareUnit}? Type ${plain} ${smaller}, or ${plain} ${bareUnit} if it is meant.`;
}

function impliedUnit(term: Term, lastUnit: string, options: LengthOptions): string {
  if (term.unit !== '') return term.unit;
  if (lastUnit === 'ft') return 'in';
  if (lastUnit === 'm') return 'cm';
  if (options.smallIsMetres && options.bareUnit === 'cm' && term.amount < 1) return 'm';
  return options.bareUnit;
}

/**
 * Reads a plain number with an optional unit after it (`-6 dB`, `54,3°`, `19`).
 * @param units accepted unit words, lower case, without which the number also stands
 * @returns the number, or a message
 */
export function parseNumber(
  text: string,
  units: readonly string[],
  example: string,
): Outcome<number> {
  const plain = plainText(text);
  if (plain === '') return refused(`Empty. Type a number such as ${example}`);
  const match = /^([-+]?)\s*(\d+(?:[.,]\d*)?|[.,]\d+)\s*(.*)$/.exec(plain);
  const word = match?.[3]?.trim() ?? '';
  if (!match || (word !== '' && !units.includes(word))) {
    return refused(`“${text.trim()}” is not understood. Type a number such as ${example}`);
  }
  const size = toNumber(match[2] ?? '');
  return done(match[1] === '-' && size !== 0 ? -size : size);
}

const PAN_EXAMPLE = '30 L, 30 R or centre';

/**
 * Reads a pan: "30 % L", "R 40", "centre"; a bare number is percent, positive to the right.
 * @returns −1 … +1 as a rule; what is beyond is left to the caller's bounds
 */
export function parsePan(text: string): Outcome<number> {
  const plain = plainText(text).replace('%', ' ').trim();
  if (/^(c|centre|center|mid|middle)$/.test(plain)) return done(0);
  const side = /^(left|right|l|r)(?![a-z])|(left|right|l|r)$/.exec(plain);
  const rest = side ? plain.replace(side[0], '').trim() : plain;
  const read = parseNumber(rest === '' && side ? '100' : rest, [], PAN_EXAMPLE);
  if (!read.ok)
    return refused(`“${text.trim()}” is not understood. Type a pan such as ${PAN_EXAMPLE}`);
  if (side && read.value < 0) return refused(`Either a sign or a side, such as ${PAN_EXAMPLE}`);
  return done((side?.[0].startsWith('l') ? -read.value : read.value) / 100);
}

/** Reads a temperature in °C, or in °F when it says so (or when `bareUnit` is F). */
export function parseTemperature(text: string, bareUnit: 'C' | 'F'): Outcome<number> {
  const plain = plainText(text).replace('°', ' ').trim();
  const fahrenheit = /f$/.test(plain) || (bareUnit === 'F' && !/c$/.test(plain));
  const read = parseNumber(plain.replace(/[cf]$/, ''), [], '19 °C or 66 °F');
  if (!read.ok) return read;
  return done(fahrenheit ? ((read.value - 32) * 5) / 9 : read.value);
}
