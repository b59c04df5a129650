import { isOfRoom, type Figure, type TakeAgainstPlan } from '../core/verdict';
import { capitalised, formatNumber, formatSigned } from '../core/units';
import type { ReportModel } from './measurement-report';

/** How figures of a verdict are said: on the page, on paper, in files. */
const UNITS: Readonly<
  Record<Figure['what'], { words: string; digits: number; by: number; unit: string }>
> = {
  image: { words: 'image', digits: 0, by: 100, unit: '% right' },
  delay: { words: 'later by', digits: 3, by: 1, unit: 'ms' },
  level: { words: 'louder by', digits: 1, by: 1, unit: 'dB' },
  polarity: { words: 'polarity', digits: 0, by: 1, unit: '' },
  direct: { words: 'direct to room', digits: 1, by: 1, unit: 'dB' },
  headroom: { words: 'headroom', digits: 1, by: 1, unit: 'dB' },
  balance: { words: 'louder by', digits: 1, by: 1, unit: 'dB' },
  correlation: { words: 'likeness', digits: 2, by: 1, unit: '' },
  decay: { words: 'reverberation', digits: 2, by: 1, unit: 's' },
};
export const VERDICT_HEAD = [
  ...['Who', 'Of', 'What', 'Planned', 'Measured', 'Within', 'Unit', 'Verdict'],
] as const;

const ALL_TOGETHER: readonly Figure['what'][] = ['headroom', 'balance'];

const verdictWords = (figure: Figure): string =>
  figure.agreement === 'departs' && !isOfRoom(figure)
    ? `departs, ${figure.usual ? 'as is usual by tape' : 'look for a fault'}`
    : figure.agreement;

/** The cells of one figure, under the heads. */
export function verdictCells(figure: Figure): string[] {
  const { what, placeName, of, planned, measured, within } = figure;
  const { words, digits, by, unit } = UNITS[what];
  const text = (value: number): string =>
    what === 'decay' ? formatNumber(by * value, digits) : formatSigned(by * value, digits);
  return [
    placeName || (ALL_TOGETHER.includes(what) ? 'all together' : 'the room'),
    ...[of, words, text(planned), text(measured)],
    ...[`±${formatNumber(2 * by * within, digits)}`, unit, verdictWords(figure)],
  ];
}

/** The same as numbers, for other programs. */
export function verdictRow(figure: Figure): (string | number)[] {
  const { by } = UNITS[figure.what];
  const cells: (string | number)[] = verdictCells(figure);
  const numbers = [figure.planned, figure.measured, 2 * figure.within].map((value) => by * value);
  return [...cells.slice(0, 3), ...numbers, ...cells.slice(6)];
}

const RANK = { departs: 0, 'cannot be told': 1, agrees: 2 } as const;

/** Those that depart first. */
export const byVerdict = (figures: readonly Figure[]): Figure[] =>
  [...figures].sort((a, b) => RANK[a.agreement] - RANK[b.agreement]);

/** What figures are against, in words. @param against name of the channel */
export const withinWords = (against: string): string =>
  `Later and louder are against ${against}; within is two deviations of measuring and of places.`;

/**
 * The verdict as it is printed.
 * @param title the name of the recording
 * @param facts session and day
 * @param against name of the channel that the others are measured against
 */
export function verdictReport(
  { sentence, why, causes, figures, missing, notes }: TakeAgainstPlan,
  { title, facts, against }: { title: string; facts: string; against: string },
): ReportModel {
  const left =
    missing.length === 0
      ? []
      : [`Not on this recording, so nothing is said of them: ${missing.join(', ')}.`];
  return {
    title,
    facts,
    sentences: [
      ...[sentence, why].filter((text) => text !== ''),
      ...causes.found.map(({ words }) => `${capitalised(words)}.`),
      ...notes.map((note) => `${capitalised(note)}.`),
      ...left,
      withinWords(against),
    ],
    tables: [
      {
        title: 'Planned and measured',
        head: [...VERDICT_HEAD],
        rows: byVerdict(figures).map(verdictCells),
      },
    ],
  };
}
