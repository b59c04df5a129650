import * as z from 'zod';
import { nominalHz } from '../core/audio/measure/bands';
import { placeText, readingsOf, type Recorded } from '../core/audio/measure/readings';
import type { TakeFigures } from '../core/audio/measure/take';
import type { LogEntry } from '../core/session';
import { formatNumber, formatSigned, lengthText } from '../core/units';
import type { SheetTable } from './sheet-model';

/** What a recording held, in words and tables: the same for the page, the printer, the PDF and the CSV. */
export interface ReportModel {
  title: string;
  facts: string;
  sentences: string[];
  tables: (SheetTable & { title: string })[];
}

type Measurement = Extract<LogEntry, { kind: 'measurement' }>;

const figure = z.number().nullable().catch(null);
/** Figures as they were kept: whatever cannot be read is left out, and the rest is told. */
const kept = z.object({
  said: z.array(z.string()).catch([]),
  names: z.array(z.string()).catch([]),
  sampleRateHz: figure,
  speed: figure,
  loudness: z
    .object({ integrated: figure, shortTermMax: figure, momentaryMax: figure, range: figure })
    .nullable()
    .catch(null),
  channels: z
    .array(
      z.object({
        peakDb: figure,
        truePeakDb: figure,
        headroomDb: figure,
        rmsDb: figure,
        offset: figure,
        clips: figure,
      }),
    )
    .nullable()
    .catch(null),
  delays: z
    .array(
      z.object({
        channel: z.number(),
        whole: z
          .object({
            delayMs: figure,
            levelDb: figure,
            polarity: figure,
            certainty: figure,
            verdict: z.string().catch(''),
          })
          .nullable()
          .catch(null),
      }),
    )
    .nullable()
    .catch(null),
  bands: z
    .object({
      correlation: z.array(z.object({ hz: z.number(), value: figure })).catch([]),
      monoLoss: z.array(z.object({ hz: z.number(), db: figure })).catch([]),
      noiseFloor: z.array(z.array(z.object({ hz: z.number(), db: figure }))).catch([]),
    })
    .nullable()
    .catch(null),
});
type Kept = z.output<typeof kept>;

const NONE = '—';
const number = (value: number | null, decimals: number): string =>
  value === null ? NONE : formatNumber(value, decimals);
const signed = (value: number | null, decimals: number): string =>
  value === null ? NONE : formatSigned(value, decimals);

const SURE: Readonly<Record<string, string>> = { certain: 'sure' };

/** Two channels have a stereo of their own. */
const PAIR = 2;

function tablesOf(figures: Kept): ReportModel['tables'] {
  const { channels, delays, bands, loudness, names, sampleRateHz, speed } = figures;
  const name = (channel: number): string => names[channel]?.trim() || `Channel ${channel + 1}`;
  const tables: ReportModel['tables'] = [];
  if (loudness) {
    tables.push({
      title: 'Loudness',
      head: ['Integrated LUFS', 'Loudest 3 s LUFS', 'Loudest 0.4 s LUFS', 'Range LU'],
      rows: [
        [loudness.integrated, loudness.shortTermMax, loudness.momentaryMax, loudness.range].map(
          (value) => number(value, 1),
        ),
      ],
    });
  }
  if (channels && channels.length > 0) {
    tables.push({
      title: 'Levels',
      head: [
        'Channel',
        'Peak dBFS',
        'True peak dBTP',
        'Headroom dB',
        'RMS dBFS',
        'Offset %',
        'Clips',
      ],
      rows: channels.map((of, c) => [
        name(c),
        number(of.peakDb, 1),
        number(of.truePeakDb, 1),
        number(of.headroomDb, 1),
        number(of.rmsDb, 1),
        signed(of.offset === null ? null : 100 * of.offset, 2),
        number(of.clips, 0),
      ]),
    });
  }
  if (delays && delays.length > 0) {
    const against = Array.from({ length: delays.length + 1 }, (_, c) => c).find(
      (c) => !delays.some(({ channel }) => channel === c),
    );
    tables.push({
      title: `Delays against ${name(against ?? 0)}`,
      head: [
        'Channel',
        'Later by ms',
        'Samples',
        'Metres',
        'Feet',
        'Level dB',
        'Polarity',
        'How sure',
      ],
      rows: delays.map(({ channel, whole }) => {
        const ms = whole?.delayMs ?? null;
        const way = ms === null || speed === null ? null : (Math.abs(ms) / 1000) * speed;
        return [
          name(channel),
          signed(ms, 3),
          signed(ms === null || sampleRateHz === null ? null : (ms / 1000) * sampleRateHz, 1),
          way === null ? NONE : lengthText(way, 'metric'),
          way === null ? NONE : lengthText(way, 'imperial'),
          signed(whole?.levelDb ?? null, 1),
          whole?.polarity === -1 ? 'turned over' : whole?.polarity === 1 ? 'as it' : NONE,
          whole ? (SURE[whole.verdict] ?? whole.verdict) : 'silent',
        ];
      }),
    });
  }
  if (bands && channels?.length === PAIR) {
    tables.push({
      title: 'Correlation by octave',
      head: bands.correlation.map(({ hz }) => `${formatNumber(hz, hz < 63 ? 1 : 0)} Hz`),
      rows: [bands.correlation.map(({ value }) => signed(value, 2))],
    });
    const lost = bands.monoLoss.filter(({ db }) => db !== null);
    if (lost.length > 0) {
      tables.push({
        title: 'Mono by third octave',
        head: ['Third octave Hz', 'Mono against both, dB'],
        rows: lost.map(({ hz, db }) => [
          formatNumber(nominalHz(hz), hz === 31.5 ? 1 : 0),
          signed(db, 1),
        ]),
      });
    }
  }
  const octaves = bands?.noiseFloor[0]?.map(({ hz }) => hz) ?? [];
  if (bands && octaves.length > 0) {
    tables.push({
      title: 'Softest it gets, by octave, dBFS',
      head: ['Channel', ...octaves.map((hz) => `${formatNumber(hz, hz < 63 ? 1 : 0)} Hz`)],
      rows: bands.noiseFloor.map((list, c) => [name(c), ...list.map(({ db }) => number(db, 0))]),
    });
  }
  return tables;
}

/** "2 Dec 2026, 14:05" @param at ISO 8601 */
const whenText = (at: string): string => {
  const when = new Date(at);
  return Number.isNaN(when.getTime())
    ? ''
    : when.toLocaleString('en-GB', { dateStyle: 'medium', timeStyle: 'short' });
};

/** What is kept of a measurement, so that its report needs no file. */
export function keptFigures(
  figures: TakeFigures,
  { names, sampleRateHz, speed, units }: Recorded,
): { said: string[]; names: string[]; sampleRateHz: number; speed: number } & Partial<TakeFigures> {
  const { channels, clips, loudness, correlation, bands, hum, delays, identity } = figures;
  return {
    said: readingsOf(figures, { names, sampleRateHz, speed, units }).map(({ text }) => text),
    names: names.map((name, c) => name.trim() || `Channel ${c + 1}`),
    sampleRateHz,
    speed,
    ...{ channels, clips, loudness, correlation, bands, hum, delays, identity },
  };
}

/** The report of a measurement, without its file: whatever was kept of it. */
export function reportModel(entry: Measurement, sessionTitle: string): ReportModel {
  const read = kept.safeParse(entry.figures);
  const figures = read.success ? read.data : null;
  const stretch =
    entry.toS === null ? 'the whole' : `${placeText(entry.fromS)} to ${placeText(entry.toS)}`;
  const version = entry.version === '' ? '' : `plan ${entry.version.slice(0, 8)}`;
  const facts = [sessionTitle, stretch, whenText(entry.at), version].filter((text) => text !== '');
  return {
    title: entry.file?.name || 'A recording',
    facts: facts.join(' · '),
    sentences: figures?.said ?? [],
    tables: figures ? tablesOf(figures) : [],
  };
}

/** Figures as other programs read them: without signs of print. */
const plain = (cell: string): string =>
  cell === NONE ? '' : /^[−+]\d/.test(cell) ? cell.replace('−', '-').replace('+', '') : cell;

/** All tables of a report after one another, as rows of one file of one width: each begins with its title. */
export function reportRows({ sentences, tables }: ReportModel): {
  head: string[];
  rows: string[][];
} {
  const rows = [
    ...sentences.map((text) => ['says', text]),
    ...tables.flatMap(({ title, head, rows: of }) => [
      [title, ...head],
      ...of.map((row) => ['', ...row.map(plain)]),
    ]),
  ];
  const width = Math.max(2, ...rows.map((row) => row.length));
  const padded = (row: readonly string[]): string[] =>
    Array.from({ length: width }, (_, i) => row[i] ?? '');
  const head = ['part', ...Array.from({ length: width - 1 }, (_, i) => `${i + 1}`)];
  return { head, rows: rows.map(padded) };
}
