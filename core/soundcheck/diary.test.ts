import { describe, expect, it } from 'vitest';
import { HALL, MAIN, PLAYERS } from '../fixtures/calm';
import { readSession, sessionFrom, type Session } from '../session';
import { soundcheckReport, soundcheckRows } from '../../paper/soundcheck-report';
import { heldAgainst, nextLetter, optionOfTake, optionsOf, takesOf } from './diary';
import { expectedOf } from './expected';
import { layerFigures } from './layers';
import { roundSentences, roundsOf } from './results';

type Plain = Record<string, unknown>;
const at = (minute: number): string => `2026-01-01T10:${String(minute).padStart(2, '0')}:00.000Z`;

const plan = (rest: Plain = {}): Plain => ({
  title: 'Own',
  sources: PLAYERS,
  arrays: [MAIN],
  venue: HALL,
  ...rest,
});

const option = (id: string, minute: number, rest: Plain = {}): Plain => ({
  ...{ kind: 'option', id, at: at(minute), name: id, expected: expectedOf(sessionFrom(plan())) },
  ...rest,
});
const vote = (id: string, by: string, said: readonly string[], rest: Plain = {}): Plain => ({
  ...{ kind: 'vote', id, at: at(9), by, round: 'c', among: ['a', 'b'], blind: true },
  letters: said.map(() => 'A'),
  answers: said.map((one) => ({ among: ['a', 'b'], hidden: '', said: one })),
  ...rest,
});
const comparison = (rest: Plain = {}): Plain => ({
  ...{ kind: 'comparison', id: 'c', at: at(8), test: 'preference', among: ['a', 'b'] },
  ...{ names: ['Option A', 'Option B'], trials: 3, alike: true },
  ...rest,
});

function session(log: readonly Plain[], takes: readonly Plain[] = []): Session {
  const read = readSession({ format: 'rotunda-session', version: 2, ...plan(), log, takes });
  if (!read.ok) throw new Error(JSON.stringify(read.problems));
  return read.session;
}

describe('the diary', () => {
  it('keeps letters, whatever is said anew or struck', () => {
    const own = session([
      option('a', 1),
      option('b', 2),
      option('b2', 3, { amends: 'b', name: 'closer', state: 'kept' }),
      option('c', 4),
      option('c2', 5, { strikes: 'c' }),
    ]);
    const found = optionsOf(own);
    expect(found.map(({ key, letter, entry }) => [key, letter, entry.name])).toEqual([
      ['a', 'A', 'a'],
      ['b', 'B', 'closer'],
    ]);
    expect(nextLetter(own)).toBe('D');
  });

  it('holds an option against the one that it was made from, else the one before', () => {
    const own = session([
      option('a', 1),
      option('b', 2),
      option('c', 3, { from: 'a' }),
      option('d', 4, { from: 'gone' }),
      option('e', 5, { from: 'e' }),
    ]);
    const options = optionsOf(own);
    const held = options.map((_, i) => heldAgainst(options, i)?.key ?? null);
    expect(held).toEqual([null, 'a', 'a', 'c', 'd']);
  });

  it('knows the option of a take in whatever version it names it', () => {
    const own = session(
      [option('a', 1), option('a2', 2, { amends: 'a' })],
      [
        { id: 't1', at: at(3), number: 1, option: 'a' },
        { id: 't2', at: at(4), number: 2, option: 'a2' },
        { id: 't3', at: at(5), number: 3, option: 'gone' },
      ],
    );
    const options = optionsOf(own);
    const keys = takesOf(own).map(({ take }) => optionOfTake(options, take)?.key ?? null);
    expect(keys).toEqual(['a', 'a', null]);
  });

  it('says nothing of a comparison before it is closed, and never what was broken off', () => {
    const entries = [
      option('a', 1),
      option('b', 2),
      vote('v1', 'Ada', ['b', 'b', 'b']),
      vote('v2', 'Bo', ['b', 'b', '']),
      vote('v3', 'Cy', [], { finished: false, letters: ['A', 'B'] }),
    ];
    const open = session([comparison(), ...entries]);
    const [going] = roundsOf(open);
    expect(going && roundSentences(going)).toEqual([]);
    const rows = JSON.stringify(soundcheckRows(open)) + JSON.stringify(soundcheckReport(open));
    expect(rows).not.toMatch(/Ada|Bo|rather|p =/);
    expect(rows).toContain('under way (2 listened)');

    const closed = session([comparison({ closed: true }), ...entries]);
    const [round] = roundsOf(closed);
    const said = round ? roundSentences(round) : [];
    expect(said[0]).toBe(
      '2 listeners, a voice each: Option B rather than Option A cannot be told: 2 to 0, p = 0.50; no number of 2 would tell: take more.',
    );
    expect(said.join(' ')).toContain('Broken off, and not counted: Cy after 2 of 3.');
    expect(said.join(' ')).not.toContain('Another performance');
    const answers = soundcheckReport(closed).tables.find(({ title }) => /by listener$/.test(title));
    expect(answers?.rows).toEqual([
      ['Ada', 'Option A and Option B', '0 to 3', 'p = 0.25'],
      ['Bo', 'Option A and Option B', '0 to 2, 1 without a difference', 'p = 0.50'],
      ['all, a voice each', 'Option A and Option B', '0 to 2', 'p = 0.50'],
    ]);
    const votes = soundcheckRows(closed).filter(([, what]) => what === 'vote');
    expect(votes.map((row) => row[3])).toEqual(['Ada', 'Bo']);
    expect(JSON.stringify(votes)).not.toContain('Cy');
  });

  it('says that another performance is one', () => {
    const own = session([
      comparison({ closed: true, alike: false }),
      vote('v1', 'Ada', ['a', 'b', 'a']),
    ]);
    const [round] = roundsOf(own);
    expect(round && roundSentences(round)).toContain(
      'Another performance: what was heard may be the playing, not the microphones.',
    );
  });

  it('reports who said what of whom, and where nothing was said nothing', () => {
    expect(soundcheckRows(session([]))).toEqual([]);
    expect(soundcheckReport(session([])).tables).toEqual([]);
    const own = session([
      option('a', 1, { state: 'kept', reason: 'more air' }),
      {
        ...{ kind: 'note', id: 'n', at: at(2), by: 'Ada', about: ['a'], players: ['c'] },
        judged: [{ word: 'width', degree: 2 }],
        text: 'like a barn',
      },
    ]);
    const report = soundcheckReport(own);
    expect(report.sentences).toEqual(['Kept: Option A: a, because more air.']);
    const heard = report.tables.find(({ title }) => title.startsWith('What was heard'));
    expect(heard?.rows).toEqual([
      ['Ada', 'Player c', 'Option A: a', 'width far too much', 'like a barn'],
    ]);
  });

  it('refuses what no file may hold', () => {
    const bad = (entry: Plain): string[] => {
      const read = readSession({ format: 'rotunda-session', version: 2, log: [entry] });
      return read.ok ? [] : read.problems.map(({ path }) => path);
    };
    expect(bad({ kind: 'note', judged: [{ word: 'taste', degree: 0 }] })).toEqual([
      'log[0].judged[0].word',
    ]);
    expect(bad({ kind: 'note', judged: [{ word: 'width', degree: 3 }] })).toEqual([
      'log[0].judged[0].degree',
    ]);
    expect(bad({ kind: 'comparison', among: Array<string>(27).fill('a') })).toEqual([
      'log[0].among',
    ]);
    expect(bad({ kind: 'moment', atS: -1, rating: 6 })).toEqual(['log[0].atS', 'log[0].rating']);
  });
});

describe('layers of a blend', () => {
  const two = (faderDb: number, mute = false): Session =>
    sessionFrom(
      plan({
        arrays: [
          MAIN,
          { ...MAIN, id: 'second', name: 'Second', role: 'outrigger', mix: { faderDb, mute } },
        ],
      }),
    );

  it('share by power: one in the same place at −20 dB has a hundredth', () => {
    const [main, second] = layerFigures(two(-20));
    expect(main?.sharePct).toBeCloseTo(100 / 1.01, 6);
    expect(second?.sharePct).toBeCloseTo(1 / 1.01, 6);
    const [a, b] = layerFigures(two(0));
    expect(a?.sharePct).toBeCloseTo(50, 6);
    expect(b?.directDb).toBeCloseTo(a?.directDb ?? NaN, 9);
  });

  it('muted has no share; pulls of all are everything', () => {
    const [main, second] = layerFigures(two(0, true));
    expect(main?.sharePct).toBeCloseTo(100, 9);
    expect(second?.sharePct).toBe(0);
    const pulls = layerFigures(two(-6)).reduce((sum, { pullPct }) => sum + (pullPct ?? 0), 0);
    expect(pulls).toBeCloseTo(100, 3);
    expect(layerFigures(sessionFrom({}))).toEqual([]);
  });
});
