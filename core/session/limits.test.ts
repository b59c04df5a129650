import { describe, expect, it } from 'vitest';
import { newSession, readSessionText } from '.';
import { checkSize } from './size';

describe('a new session', () => {
  it('has one main pair before an empty stage, 2.7 m up', () => {
    const session = newSession('id', 'Evensong', '2026-11-23T12:00:00.000Z');
    expect(session).toMatchObject({ id: 'id', title: 'Evensong', sources: [] });
    const [main, more] = session.arrays;
    expect(more).toBeUndefined();
    expect(main).toMatchObject({ id: 'main', role: 'main', x: 0, y: -0.5, z: 2.7, aimDeg: 0 });
  });
});

describe('the size of a file', () => {
  it('is counted in values, the outermost one included', () => {
    expect(checkSize(7)).toEqual({ ok: true, value: 1 });
    expect(checkSize(null)).toEqual({ ok: true, value: 1 });
    expect(checkSize([1, 2, 3])).toEqual({ ok: true, value: 4 });
    expect(checkSize({ a: 1, b: [1, 2] })).toEqual({ ok: true, value: 5 });
  });

  it('is refused in megabytes, with what is allowed', () => {
    const text = ' '.repeat(64_000_000);
    const read = readSessionText(text.repeat(2));
    if (read.ok) throw new Error('must be refused');
    const [problem] = read.problems;
    expect(problem?.message).toMatch(/^128 MB; allowed: a file of up to \d{1,3} MB$/);
  });
});
