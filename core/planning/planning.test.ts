import { channelMap } from '../channels';
import { describe, expect, it } from 'vitest';
import { sessionFrom } from '../session';
import { coverageAdvice, planDay, shortages, storage, timeText, usualDay, withBreaks } from '.';

const ids = () => {
  let next = 0;
  return () => `e${(next += 1)}`;
};
const timetable = (change: object) => sessionFrom({ brief: { timetable: change } }).brief.timetable;

describe('counts', () => {
  const session = sessionFrom({
    brief: { channelLimit: 3, storage: { tracks: 6 } },
    kit: { recorderTracks: 4 },
    arrays: [
      { id: 'm', name: 'Main' },
      { id: 'o', name: 'Out', technique: { kind: 'mid-side', midPattern: 'cardioid' } },
      { id: 'x', name: 'Off', enabled: false },
    ],
  });

  it('numbers the microphones of what is enabled', () => {
    expect(
      channelMap(session).inputs.map(({ number, arrayName, label }) => [number, arrayName, label]),
    ).toEqual([
      [1, 'Main', 'L'],
      [2, 'Main', 'R'],
      [3, 'Out', 'M'],
      [4, 'Out', 'S'],
    ]);
  });

  it('says how many are short, and nothing where the limit is not known', () => {
    expect(shortages(session)).toEqual([
      { what: 'channels', needed: 4, limit: 3, short: 1 },
      { what: 'preamplifiers', needed: 4, limit: null, short: 0 },
      { what: 'recorder tracks', needed: 6, limit: 4, short: 2 },
    ]);
  });

  it('works out bytes and when a file passes 4 GiB', () => {
    // 8 × 96 000 × 3 bytes = 2.304 MB/s.
    const room = storage(8, 96000, 24, 3);
    expect(room.bytes).toBe(8 * 96000 * 3 * 3 * 3600);
    expect(room.passes4GiBAfterMin).toBeCloseTo(4294967296 / 2304000 / 60, 9);
    expect(room.singlePasses4GiBAfterMin).toBeNull();
    expect(storage(1, 96000, 24, 5).singlePasses4GiBAfterMin).toBeCloseTo(248.55, 2);
    expect(() => storage(0, 96000, 24, 1)).toThrow(/tracks is 0; allowed/);
  });
});

describe('the day', () => {
  it('adds up, in order', () => {
    const day = planDay(timetable({ start: '09:30', entries: usualDay(3, ids()) }));
    // 45 + 60 + 20 + 3 × 22 + 75 + 45
    expect(day.totalMin).toBe(311);
    expect(timeText(day.endMin)).toBe('14:41');
    expect(day.playingMin).toBe(93);
    expect(day.slots[3]?.fromMin).toBe(9.5 * 60 + 125);
  });

  it('finds missing breaks, a take before the line check, and a late end', () => {
    const entries = [
      { id: 't1', title: 'First take', kind: 'take', minutes: 50, playing: true },
      { id: 't2', title: 'Second take', kind: 'take', minutes: 40, playing: true },
    ];
    const table = timetable({ start: '10:00', end: '11:00', entries });
    const day = planDay(table);
    expect(day.conflicts.map(({ entryId }) => entryId)).toEqual(['t1', 't2', null]);
    expect(day.conflicts[1]?.message).toContain('90 min without a break');
    expect(day.conflicts[2]?.message).toContain('30 min after');
    const mended = withBreaks(table, ids());
    expect(mended.map(({ kind }) => kind)).toEqual(['take', 'break', 'take']);
    expect(
      planDay({ ...table, end: null, entries: mended }).conflicts.map(({ entryId }) => entryId),
    ).toEqual(['t1']);
  });

  it('shows times after midnight as the next day', () => {
    expect(timeText(24 * 60 + 30)).toBe('00:30 (+1 day)');
  });
});

describe('one microphone or a pair', () => {
  it('follows the width in the picture, and keeps a decision', () => {
    const session = sessionFrom({
      sources: [
        { id: 'harp', widthM: 0.9, y: 3 },
        { id: 'flute', widthM: 0, y: 3, coverage: 'stereo' },
        { id: 'near', widthM: 0.5, y: 0.4, z: 2.5 },
      ],
      arrays: [{ id: 'm' }],
    });
    expect(coverageAdvice(session).map(({ advice, override }) => [advice, override])).toEqual([
      ['stereo', null],
      ['mono', 'stereo'],
      ['stereo', null],
    ]);
    const alone = sessionFrom({ sources: [{ id: 'solo' }] });
    expect(coverageAdvice(alone)[0]?.reason).toMatch(/Alone/);
    // What is decided stays decided, however dense the music.
    const music = (density: string | null, widthM: number, coverage: string | null = null) =>
      coverageAdvice(
        sessionFrom({
          brief: { intent: { density } },
          sources: [
            { id: 'a', y: 6, widthM, coverage },
            { id: 'b', x: 3, y: 6 },
          ],
        }),
      )[0];
    expect(music(null, 1.2)?.advice).toBe('stereo');
    expect(music('dense', 1.2)?.reason).toMatch(/^1\.20 m wide, \d+°.*dense music a single/);
    expect(music('dense', 2.2)?.advice).toBe('stereo');
    expect(music(null, 0.6)?.advice).toBe('mono');
    expect(music('sparse', 0.6)?.reason).toMatch(/in sparse music its width is heard/);
    expect(music('dense', 1.2, 'stereo')?.override).toBe('stereo');
  });
});
