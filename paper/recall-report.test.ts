import { describe, expect, it } from 'vitest';
import { demoSessions } from '../core/demo';
import { markOf } from '../core/recall';
import { sessionFrom, type Session } from '../core/session';
import { recallReport } from './recall-report';

const NOW = '2026-12-01T12:00:00.000Z';

describe('what worked, on paper', () => {
  it('has marks as they were measured, the best spot, and what is missing', () => {
    const [session] = demoSessions(NOW) as [Session];
    const [array] = session.arrays;
    if (!array) throw new Error('no array');
    const head = { id: 'm', at: '2025-12-01T12:00:00.000Z', strikes: '', amends: '' };
    const spot = markOf(session, {
      ...{ at: { x: 0, y: -4, z: 1.2 }, source: null, made: 'hand', use: 'ears' },
      ...{ name: 'Row 3', by: 'Ada', rating: 5 },
    });
    const mark = markOf(session, {
      ...{ at: array, array, made: 'plan', name: 'Warm', by: 'Ada', rating: 4, text: 'wide' },
    });
    const marks = [
      { ...mark, ...head },
      { ...spot, ...head, id: 'e' },
    ] as Session['marks'];
    const { sentences, tables } = recallReport({ ...session, marks }, NOW);
    expect(sentences[0]).toBe('Best: Row 3, 5 of 5; Ada alone says so.');
    expect(sentences[1]).toMatch(/^It can be put up again/);
    expect(tables.map(({ title }) => title)).toEqual([
      ...['Marks', 'Listening spots', 'What is missing'],
    ]);
    expect(tables[0]?.rows).toEqual([
      [
        'Warm',
        'the whole',
        '4 of 5, Ada, 12 months ago',
        '5.25 m from A, 5.25 m from B, 2.70 m up',
        'wide',
      ],
    ]);
    for (const { head: columns, rows } of tables) {
      expect(rows.every((row) => row.length === columns.length)).toBe(true);
    }
  });

  it('of nothing is short', () => {
    const { sentences, tables } = recallReport(sessionFrom({ title: 'New' }), NOW);
    expect(sentences).toHaveLength(1);
    expect(tables.map(({ title }) => title)).toEqual(['What is missing']);
  });
});
