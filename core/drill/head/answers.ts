import { formatNumber } from '../../units/format';
import { parseLength, parseNumber } from '../../units/parse';
import { done, refused, type Outcome } from '../../units/outcome';

/** What an answer is: it may be typed in any unit of its kind. */
export type Quantity =
  'time' | 'duration' | 'length' | 'level' | 'angle' | 'ratio' | 'data' | 'count';

/** The unit in which a quantity is kept, and others with their size in it. */
export const QUANTITIES: Readonly<
  Record<Exclude<Quantity, 'length'>, { unit: string; units: Readonly<Record<string, number>> }>
> = {
  time: {
    unit: 'ms',
    units: {
      ms: 1,
      s: 1000,
      sec: 1000,
      seconds: 1000,
      µs: 1e-3,
      us: 1e-3,
      μs: 1e-3,
      min: 60_000,
      h: 3.6e6,
    },
  },
  duration: { unit: 'min', units: { min: 1, minutes: 1, h: 60, hours: 60, s: 1 / 60 } },
  level: { unit: 'dB', units: { db: 1 } },
  angle: { unit: '°', units: { '°': 1, deg: 1, degrees: 1, rad: 180 / Math.PI } },
  ratio: { unit: '', units: { '%': 0.01 } },
  data: {
    unit: 'GB',
    units: {
      ...{ b: 1e-9, kb: 1e-6, mb: 1e-3, gb: 1, tb: 1000 },
      ...{ kib: 1024e-9, mib: 1024 ** 2 / 1e9, gib: 1024 ** 3 / 1e9, tib: 1024 ** 4 / 1e9 },
    },
  },
  count: { unit: 'samples', units: { samples: 1, sample: 1 } },
};

/** A number with letters after it; what is between them does not matter. */
const ANSWER = /^([-+−–]?[\d.,]+)\s*([a-zµμ%°]*)$/i;

/**
 * An answer as it was typed.
 * @param text "4.2 ms", "0.0042 s", "17 cm", "−6", "6' 8\""; a bare number is in the unit that is asked for
 * @returns in ms, m, dB, °, GB, samples or none; or what is allowed
 */
export function readAnswer(quantity: Quantity, text: string): Outcome<number> {
  const typed = text.trim();
  if (typed === '') return refused('answer: empty; allowed: a number with or without its unit');
  if (quantity === 'length') return parseLength(typed, { bareUnit: 'm' });
  const { unit, units } = QUANTITIES[quantity];
  const [, digits, word = ''] = ANSWER.exec(typed) ?? [];
  const size = word === '' ? 1 : units[word.toLowerCase()];
  const number = digits === undefined ? null : parseNumber(digits, [], '4.2');
  if (size === undefined || !number?.ok) {
    const alone = unit === '' ? 'a number alone' : `a number alone (${unit})`;
    return refused(
      `answer: “${typed}” is not understood; allowed: ${alone}, or one with ${Object.keys(units).join(', ')}`,
    );
  }
  return done(number.value * size);
}

/** An answer with its unit: "6.06 m", "17.2 cm", "−9.5 dB". */
export function answerText(quantity: Quantity, value: number): string {
  if (quantity === 'length') {
    return Math.abs(value) < 1 ? `${exact(100 * value)} cm` : `${exact(value)} m`;
  }
  const { unit } = QUANTITIES[quantity];
  if (quantity === 'level') return `${formatNumber(value, 1)} dB`;
  if (quantity === 'ratio') return formatNumber(value, 2);
  return unit === '°' ? `${exact(value)}°` : `${exact(value)} ${unit}`.trim();
}

/** Three figures that count. */
const exact = (value: number): string => {
  const size = Math.abs(value);
  return formatNumber(value, size >= 100 ? 0 : size >= 10 ? 1 : size >= 0.1 ? 2 : 3);
};
