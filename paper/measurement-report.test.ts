import { describe, expect, it } from 'vitest';
import { LOG_KINDS } from '../core/session/schema-journals';
import { csvText } from './csv';
import { reportModel, reportRows } from './measurement-report';

const entry = (figures: object) =>
  LOG_KINDS.measurement.parse({
    kind: 'measurement',
    at: '2026-12-01T10:00:00.000Z',
    file: { name: 'Serenade 3.wav' },
    fromS: 6,
    toS: 9.5,
    figures,
    version: 'ab'.repeat(32),
  });

const FULL = {
  said: ['Right is late.'],
  names: ['Main pair L', ''],
  sampleRateHz: 48_000,
  speed: 343.2,
  loudness: { integrated: -25.62, shortTermMax: -24, momentaryMax: null, range: 3.2 },
  channels: [
    { peakDb: -12, truePeakDb: -11.5, headroomDb: 11.5, rmsDb: -30, offset: 0.0021, clips: 2 },
    { peakDb: null, truePeakDb: null, headroomDb: null, rmsDb: null, offset: 0, clips: 0 },
  ],
  delays: [
    {
      channel: 1,
      whole: { delayMs: 4, levelDb: -0.92, polarity: -1, certainty: 0.8, verdict: 'certain' },
    },
  ],
  bands: {
    correlation: [{ hz: 1000, value: 0.5 }],
    monoLoss: [{ hz: 793.7, db: -7.04 }],
    noiseFloor: [[{ hz: 31.5, db: -80 }], [{ hz: 31.5, db: null }]],
  },
};

describe('the report of a measurement', () => {
  it('says and tabulates what was kept, without the file', () => {
    const model = reportModel(entry(FULL), 'Nonet');
    expect(model.title).toBe('Serenade 3.wav');
    expect(model.facts).toMatch(
      /^Nonet · 0:06\.000 to 0:09\.500 · 1 Dec 2026, .* · plan abababab$/,
    );
    const table = (title: string) => model.tables.find((of) => of.title === title)?.rows;
    expect(table('Levels')).toEqual([
      ['Main pair L', '−12.0', '−11.5', '11.5', '−30.0', '+0.21', '2'],
      ['Channel 2', '—', '—', '—', '—', '0.00', '0'],
    ]);
    // 4 ms at 48 kHz are 192 samples, and 1.373 m at 343.2 m/s.
    expect(table('Delays against Main pair L')?.[0]?.slice(0, 4)).toEqual([
      'Channel 2',
      '+4.000',
      '+192.0',
      '1.37 m',
    ]);
    expect(table('Delays against Main pair L')?.[0]?.slice(-2)).toEqual(['turned over', 'sure']);
    expect(table('Mono by third octave')).toEqual([['800', '−7.0']]);
  });

  it('is a table of one width for other programs, with plain figures', () => {
    const { head, rows } = reportRows(reportModel(entry(FULL), 'Nonet'));
    expect(new Set(rows.map((row) => row.length))).toEqual(new Set([head.length]));
    const text = csvText(head, rows);
    expect(text).toContain('-11.5');
    expect(text).toContain('192.0');
    expect(text).not.toMatch(/[−—]/);
  });

  it('leaves out what it cannot read, and tells the rest', () => {
    for (const figures of [
      {},
      { said: 7, channels: 'none', bands: [], delays: [{ channel: 'x' }] },
    ]) {
      const model = reportModel(entry(figures), '');
      expect(model.sentences).toEqual([]);
      expect(model.tables).toEqual([]);
      expect(reportRows(model).rows).toEqual([]);
    }
    const some = reportModel(entry({ ...FULL, bands: 'lost' }), '');
    expect(some.tables.map(({ title }) => title)).toEqual([
      'Loudness',
      'Levels',
      'Delays against Main pair L',
    ]);
  });
});
