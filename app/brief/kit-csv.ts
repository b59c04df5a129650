import Papa from 'papaparse';
import { csvText, plainCell } from '../../paper/csv';
import { PATTERN_NAMES, type Pattern } from '../../core/acoustics';
import { microphoneSchema, type Microphone } from '../../core/session';

/** Columns of the microphone list, in the order in which they are written. */
const COLUMNS = [
  'name',
  'kind',
  'patterns',
  'count',
  'matched',
  'sensitivity mV/Pa',
  'maximum dB SPL',
  'phantom',
  'front',
] as const;

export function kitToCsv(microphones: readonly Microphone[]): string {
  return `${csvText(
    COLUMNS,
    microphones.map((mic) => [
      mic.name,
      mic.kind,
      mic.patterns.join(' / '),
      mic.count,
      mic.matched ? 'yes' : 'no',
      mic.sensitivityMvPa ?? '',
      mic.maxSplDb ?? '',
      mic.phantom,
      mic.address ?? '',
    ]),
  )}\r\n`;
}

export interface BadLine {
  /** number of the line in the file, the heading being line 1 */
  line: number;
  message: string;
}

export interface ReadKit {
  good: Microphone[];
  bad: BadLine[];
}

function patternFrom(text: string): Pattern | null {
  const name = PATTERN_NAMES.find((known) => known === text.toLowerCase());
  if (name) return name;
  const patternA = Number(text);
  return text !== '' && patternA >= 0 && patternA <= 1 ? patternA : null;
}

const numberOrNull = (text: string): number | null =>
  text === '' ? null : Number(text.replace(',', '.'));

function readLine(row: Readonly<Record<string, string>>): Microphone | string {
  const text = (name: (typeof COLUMNS)[number]) => plainCell((row[name] ?? '').trim());
  if (text('name') === '') return 'name: empty; allowed: text of up to 200 characters';
  const patterns = text('patterns')
    .split('/')
    .map((part) => part.trim());
  const unknown = patterns.find((part) => patternFrom(part) === null);
  if (unknown !== undefined) {
    return `patterns: "${unknown}"; allowed: ${PATTERN_NAMES.join(', ')}, or numbers from 0 to 1, parted by /`;
  }
  if (!/^(yes|no|)$/i.test(text('matched'))) {
    return `matched: "${text('matched')}"; allowed: yes or no`;
  }
  const parsed = microphoneSchema.safeParse({
    id: '-',
    name: text('name'),
    patterns: patterns.map(patternFrom),
    matched: /^yes$/i.test(text('matched')),
    count: text('count') === '' ? 1 : Number(text('count')),
    sensitivityMvPa: numberOrNull(text('sensitivity mV/Pa')),
    maxSplDb: numberOrNull(text('maximum dB SPL')),
    ...(text('kind') === '' ? {} : { kind: text('kind') }),
    ...(text('phantom') === '' ? {} : { phantom: text('phantom') }),
    ...(text('front') === '' ? {} : { address: text('front') }),
  });
  if (parsed.success) return parsed.data;
  const [issue] = parsed.error.issues;
  const field = String(issue?.path[0] ?? '');
  const column =
    { sensitivityMvPa: 'sensitivity mV/Pa', maxSplDb: 'maximum dB SPL', address: 'front' }[field] ??
    field;
  const given = row[column] ?? '';
  return `${column}: "${given}"; ${issue?.message ?? 'not valid'}`;
}

/** Reads a microphone list; a line that does not fit is reported by its number, the others stand. */
export function kitFromCsv(text: string, idOf: () => string): ReadKit {
  const parsed = Papa.parse<Record<string, string>>(text.replace(/^\ufeff/, ''), {
    header: true,
    skipEmptyLines: 'greedy',
    transformHeader: (name) => name.trim(),
  });
  const missing = ['name', 'patterns'].filter((name) => !parsed.meta.fields?.includes(name));
  if (missing.length > 0) {
    const message = `no column ${missing.join(', ')}; allowed: a heading with ${COLUMNS.join(', ')}`;
    return { good: [], bad: [{ line: 1, message }] };
  }
  const good: Microphone[] = [];
  const bad: BadLine[] = [];
  parsed.data.forEach((row, index) => {
    const broken = parsed.errors.find((error) => error.row === index);
    const read = broken ? `${broken.message}; allowed: ${COLUMNS.length} fields` : readLine(row);
    if (typeof read === 'string') bad.push({ line: index + 2, message: read });
    else good.push({ ...read, id: idOf() });
  });
  return { good, bad };
}
