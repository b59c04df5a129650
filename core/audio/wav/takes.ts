import type { SoundInfo } from '../sound';

/** A file as it was given, with what it says of itself. */
export interface TakeFile {
  /** without folders */
  name: string;
  info: SoundInfo;
}

/** One track of a take: a channel of a file, and of the files that go on where it ends. */
export interface TakeTrack {
  name: string;
  /** place of its channel in each of its files */
  channel: number;
  /** in the order in which they follow one another */
  files: readonly TakeFile[];
}

/** What was recorded at one time, from one file or several. */
export interface RecordedTake {
  name: string;
  sampleRateHz: number;
  /** of its longest track */
  frames: number;
  /** samples since midnight; null where nothing says it */
  timeReference: number | null;
  date: string;
  tracks: TakeTrack[];
  /** what does not fit: lengths, rates, gaps */
  warnings: string[];
}

const EXTENSION = /\.(wav|wave|bwf|rf64|w64|flac)$/i;
/** What tells the tracks of one take apart at the end of a name. */
const TRACK = /[ _.-]+(L|R|C|M|S|LFE|Ls|Rs|Lb|Rb|(?:ch|tr|track|channel|mic|a)?[ _.-]?\d{1,2})$/i;
/** What counts the pieces of one file. */
const PIECE = /[ _.-]+\(?(\d{1,4})\)?$/;
/** A recorder begins a new file about here, bytes. */
const SPLIT_FROM = 1.9 * 2 ** 30;

const stemOf = ({ name }: TakeFile): string => name.replace(EXTENSION, '');
const startOf = ({ info }: TakeFile): number | null =>
  info.broadcast && info.broadcast.date !== '' ? info.broadcast.timeReference : null;
/** s since midnight: files of one take may have rates of their own. */
const secondsOf = (file: TakeFile): number | null => {
  const start = startOf(file);
  return start === null ? null : start / file.info.format.sampleRateHz;
};
const dateOf = ({ info }: TakeFile): string => info.broadcast?.date ?? '';
const bytesOf = ({ info: { format, frames } }: TakeFile): number =>
  (frames * format.channels * format.bits) / 8;

const sameFormat = (a: TakeFile, b: TakeFile): boolean =>
  a.info.format.channels === b.info.format.channels &&
  a.info.format.sampleRateHz === b.info.format.sampleRateHz &&
  a.info.format.bits === b.info.format.bits;

/** Does one file begin where another ends? */
function goesOn(first: TakeFile, second: TakeFile): boolean {
  if (!sameFormat(first, second)) return false;
  const [from, to] = [startOf(first), startOf(second)];
  if (from !== null && to !== null) {
    return dateOf(first) === dateOf(second) && to === from + first.info.frames;
  }
  // Without time stamps: counted on, and the first as long as a file may be.
  const [a, b] = [PIECE.exec(stemOf(first)), PIECE.exec(stemOf(second))];
  const [one, two] = [stemOf(first).replace(PIECE, ''), stemOf(second).replace(PIECE, '')];
  const base = a ? one : stemOf(first);
  return (
    b !== null &&
    base === two &&
    Number(b[1]) === Number(a?.[1] ?? 1) + 1 &&
    bytesOf(first) >= SPLIT_FROM
  );
}

/** Files that go on in others, each row in its order. */
function rowsOf(files: readonly TakeFile[]): TakeFile[][] {
  const left = [...files].sort((a, b) => a.name.localeCompare(b.name, 'en', { numeric: true }));
  const rows: TakeFile[][] = [];
  while (left.length > 0) {
    const begin =
      left.findIndex((file) => !left.some((other) => other !== file && goesOn(other, file))) ?? 0;
    const row = left.splice(Math.max(0, begin), 1);
    for (;;) {
      const last = row[row.length - 1];
      const next = last ? left.findIndex((file) => goesOn(last, file)) : -1;
      if (next < 0) break;
      row.push(...left.splice(next, 1));
    }
    rows.push(row);
  }
  return rows;
}

const scaled = (value: number | null, factor: number): number | null =>
  value === null ? null : Math.round(value * factor);

/** What a name says: of which take, and which of its tracks; by microphones that are known, else by endings. */
interface Named {
  take: string;
  track: string;
}

/** Tracks of one take end within, s. */
const ENDS_TOGETHER_S = 0.5;
const lengthOf = (row: readonly TakeFile[]): number =>
  row.reduce((sum, { info }) => sum + info.frames / info.format.sampleRateHz, 0);

const EDGES = /^[ _.,-]+|[ _.,-]+$/g;

/** @param known names of microphones, the longest first */
function namedBy(stem: string, known: readonly string[]): Named | null {
  const lower = stem.toLowerCase();
  for (const name of known) {
    const end = name.toLowerCase();
    const rest = lower.endsWith(end)
      ? stem.slice(0, -end.length)
      : lower.startsWith(end)
        ? stem.slice(end.length)
        : null;
    // "Second oboe" is not the oboe's.
    if (rest === null || (rest !== '' && rest.replace(EDGES, '') === rest)) continue;
    return { take: rest.replace(EDGES, ''), track: name };
  }
  const [ending, track] = TRACK.exec(stem) ?? [];
  return ending && track ? { take: stem.slice(0, -ending.length), track } : null;
}

/** Two rows of single channels belong together: one name, one beginning. */
function belongTogether(
  first: readonly TakeFile[],
  second: readonly TakeFile[],
  known: readonly string[],
): boolean {
  const [a, b] = [first[0], second[0]];
  if (!a || !b || a.info.format.channels > 1 || b.info.format.channels > 1) return false;
  const [one, two] = [namedBy(stemOf(a), known), namedBy(stemOf(b), known)];
  if (!one || !two || one.take !== two.take || one.track === two.track) return false;
  const [from, to] = [secondsOf(a), secondsOf(b)];
  const together = Math.abs((from ?? 0) - (to ?? 0)) < 1e-4;
  // "Clap 1" and "Clap 2" may be takes as well as tracks: tracks end together.
  const counted = [one, two].every(({ track }) => /^\d+$/.test(track));
  const [long, other] = [lengthOf(first), lengthOf(second)];
  if (counted && (from === null || to === null) && Math.abs(long - other) > ENDS_TOGETHER_S) {
    return false;
  }
  return from === null || to === null || (together && dateOf(a) === dateOf(b));
}

function trackName(
  file: TakeFile,
  channel: number,
  alone: boolean,
  known: readonly string[],
): string {
  const by = file.info.format.channels === 1 ? namedBy(stemOf(file), known) : null;
  // What a file is called was said last, and by hand.
  if (by && known.includes(by.track)) return by.track;
  const named = file.info.channelNames[channel];
  if (named) return named;
  if (by && !alone) return by.track;
  return file.info.format.channels === 1 ? stemOf(file) : `${channel + 1}`;
}

function takeOf(
  rows: readonly (readonly TakeFile[])[],
  known: readonly string[],
): RecordedTake | null {
  const first = rows[0]?.[0];
  if (!first) return null;
  const warnings: string[] = [];
  const rates = new Set(rows.flatMap((row) => row.map(({ info }) => info.format.sampleRateHz)));
  const rate = Math.max(...rates);
  if (rates.size > 1) {
    warnings.push(
      `its files have different sample rates: ${[...rates].join(', ')} Hz; all are read at ${rate} Hz`,
    );
  }
  const lengths = rows.map((row) =>
    row.reduce(
      (sum, { info }) => sum + Math.ceil((info.frames * rate) / info.format.sampleRateHz),
      0,
    ),
  );
  const [least, most] = [Math.min(...lengths), Math.max(...lengths)];
  if (least !== most) {
    const apartS = (most - least) / rate;
    warnings.push(
      `its files differ in length by ${apartS.toFixed(2)} s: the shorter end in silence`,
    );
  }
  const alone = rows.length === 1;
  const together = namedBy(stemOf(first), known)?.take ?? '';
  return {
    name: alone ? stemOf(first) : together,
    sampleRateHz: rate,
    frames: most,
    timeReference: scaled(startOf(first), rate / first.info.format.sampleRateHz),
    date: dateOf(first),
    tracks: rows.flatMap((row) =>
      Array.from({ length: row[0]?.info.format.channels ?? 0 }, (_, channel) => ({
        name: row[0] ? trackName(row[0], channel, alone, known) : '',
        channel,
        files: row,
      })),
    ),
    warnings,
  };
}

/**
 * Takes from a heap of files: single channels of one name and one beginning are joined, files that go
 * on where others end are put behind them, and the time stamps order them all; those without one come
 * last, by name.
 * @param names of the microphones as they are called: files that are called by them are one take's as well
 */
export function takesOf(files: readonly TakeFile[], names: readonly string[] = []): RecordedTake[] {
  const known = [...names].sort((a, b) => b.length - a.length);
  const groups: (readonly TakeFile[])[][] = [];
  for (const row of rowsOf(files)) {
    // A take has each track once.
    const group = groups.find((rows) => rows.every((other) => belongTogether(other, row, known)));
    if (group) group.push(row);
    else groups.push([row]);
  }
  const when = ({ date, timeReference, sampleRateHz }: RecordedTake): number =>
    timeReference === null
      ? Infinity
      : Date.parse(date.replaceAll(':', '-')) / 1000 + timeReference / sampleRateHz;
  return groups
    .flatMap((rows) => takeOf(rows, known) ?? [])
    .sort((a, b) => {
      const [first, second] = [when(a), when(b)];
      if (first === second) return a.name.localeCompare(b.name, 'en', { numeric: true });
      return first < second ? -1 : 1;
    });
}
