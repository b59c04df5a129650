import { describe, expect, it } from 'vitest';
import { overDry, type LoudnessOverTime } from '../audio/measure/over-dry';
import { nearestNote } from '../audio/measure/notes';
import type { PairMatch } from '../audio/measure/pair';
import type { Resonance } from '../audio/measure/resonance';
import { sessionFrom } from '../session';
import { plannedRoomLostDb, roomLost } from './room-lost';
import { highPassWords, overDryWords, peakIs, peakWords, toneWords } from './tone';

const series = (values: (number | null)[], fromS = 0.4): LoudnessOverTime => ({
  stepS: 0.1,
  fromS,
  values,
});
const peak = (hz: number, sharePct: number): Resonance => ({
  hz,
  note: nearestNote(hz),
  aboveDb: 12,
  sharePct,
  underEveryNote: sharePct >= 85,
});

describe('a processed recording against its dry one', () => {
  const dry = series(Array.from({ length: 100 }, (_, i) => -30 + 5 * Math.sin(i / 7)));

  it('equal ones are never apart, a gain is the middle and no passage within it', () => {
    const same = overDry(dry, dry, 0, 0);
    expect([same.middleDb, same.beyond]).toEqual([0, []]);
    const louder = series(dry.values.map((value) => (value ?? 0) + 2));
    expect(overDry(dry, louder, 0, 2.01).beyond).toEqual([]);
    const [only] = overDry(dry, louder, 0, 1.99).beyond;
    expect(only?.fromS).toBe(0);
    expect(only?.toS).toBeCloseTo(10.3, 9);
    expect(only?.db).toBeCloseTo(2, 9);
  });

  it('passages are split at silence and where the sign turns, the farthest first', () => {
    const change = [0, 3, 4, 0, -5, 6, null, 7, 0];
    const flat = series(change.map(() => -30));
    const other = series(change.map((db) => (db === null ? null : -30 + db)));
    const { beyond } = overDry(flat, other, 0, 2);
    expect(beyond.map(({ db }) => db)).toEqual([7, 6, -5, 4]);
  });

  it('begins later where it does', () => {
    const later = series(dry.values.slice(23).map((value) => (value ?? 0) - 1));
    const { middleDb, spreadDb } = overDry(dry, later, 2.3, 3);
    expect(middleDb).toBeCloseTo(-1, 9);
    expect(spreadDb?.[1]).toBeCloseTo(-1, 9);
    expect(overDryWords(overDry(dry, later, 2.3, 3), 3)[0]).toBe('Never more than 3.0 dB apart.');
  });

  it('where both never sound together nothing is said of levels', () => {
    const { middleDb, beyond } = overDry(dry, series([-20, -20]), 99, 3);
    expect([middleDb, beyond]).toEqual([null, []]);
    expect(overDryWords(overDry(dry, series([]), 0, 3), 3)).toEqual([
      'Nothing to compare: at no moment do both sound. Do they overlap?',
    ]);
  });
});

describe('peaks and filters in words', () => {
  it('what stands under every note is no note, mains are perhaps hum', () => {
    expect(peakIs(peak(73.2, 99))).toBe('room or instrument');
    expect(peakIs(peak(100.1, 99))).toBe('perhaps hum');
    expect(peakIs(peak(440, 20))).toBe('a note');
    expect(peakIs(peak(440, 60))).toBe('a note, or the room');
    expect(peakWords([peak(73.4, 99), peak(220, 10)], 'Mid')).toBe(
      'Mid: 73.4 Hz (D2) stands 12 dB out under every note: the room, the floor or the instrument itself.',
    );
    expect(peakWords([peak(220, 10)], 'Mid')).toMatch(/comes and goes with the notes/);
    expect(peakWords([], 'Mid')).toMatch(/nothing stands out/);
  });

  it('names the keys whose fundamentals a high-pass takes', () => {
    expect(highPassWords(80)).toBe(
      'Takes fundamentals: of a piano those of 19 keys, A0 to D sharp 2.',
    );
    expect(highPassWords(28)).toBe('Takes fundamentals: of a piano that of one key, A0.');
    expect(highPassWords(27.5)).toBe('Below every fundamental of a piano.');
  });

  it('says of a layer what was noted, and nothing of what was not', () => {
    const nothing = { highPassHz: null, lowPassHz: null, filters: [], text: ' ' };
    expect(toneWords({ ...nothing, compressionDb: null, reverbSendDb: null })).toEqual([]);
    expect(
      toneWords({
        ...nothing,
        highPassHz: 80,
        compressionDb: 2.5,
        reverbSendDb: -14,
        text: 'dark',
      }),
    ).toEqual(['high-pass 80 Hz', 'compressed by up to 2.5 dB', 'reverb send −14.0 dB', 'dark']);
  });
});

describe('what of a room mono loses', () => {
  /** Side and mid that differ by so much in every third. */
  const flat = (db: number): Pick<PairMatch, 'trimDb' | 'bands'> => ({
    trimDb: -db,
    bands: [50, 100, 1000, 10_000, 16_000].map((hz) => ({ hz, db: 0, withinDb: 0.1 })),
  });

  it('half of it at equal levels, a tenth less than nothing with a soft side', () => {
    expect(roomLost(flat(0), 0, null).meanDb).toBeCloseTo(-3.0103, 4);
    expect(roomLost(flat(-10), 0, null).meanDb).toBeCloseTo(-0.4139, 4);
    expect(roomLost(flat(-10), 10, null).meanDb).toBeCloseTo(-3.0103, 4);
  });

  it('a high-pass of the side keeps the low room', () => {
    const { bands, worst } = roomLost(flat(0), 0, 1000);
    expect(bands[0]?.db).toBeGreaterThan(-0.01);
    expect(bands[2]?.db).toBeCloseTo(-10 * Math.log10(1.5), 6);
    expect(worst.hz).toBe(10_000);
  });

  it('of a diffuse room by the patterns: cardioid and figure-eight are equally strong in it', () => {
    const of = (midPattern: string) =>
      plannedRoomLostDb(
        sessionFrom({ arrays: [{ technique: { kind: 'mid-side', midPattern } }] }),
        [1, 2],
        0,
        0,
      );
    expect(of('cardioid')).toBeCloseTo(-3.0103, 4);
    expect(of('omni')).toBeCloseTo(-10 * Math.log10(4 / 3), 6);
    expect(plannedRoomLostDb(sessionFrom({}), [1, 2], 0, 0)).toBeNull();
  });
});
