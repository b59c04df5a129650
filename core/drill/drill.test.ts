import { describe, expect, it } from 'vitest';
import { demoSession } from '../demo';
import { newSession } from '../session';
import { expectedOf } from '../soundcheck';
import { seededRandom } from '../units/random';
import {
  answersTable,
  chanceRight,
  CLAIMS,
  dueOf,
  EXERCISES,
  gradeOf,
  gradeOfError,
  isRight,
  movedQuestion,
  nextSize,
  nextUp,
  progressOf,
  readAnswer,
  roundOf,
  standingOf,
  SUM_KINDS,
  sumOf,
  thresholdOf,
  wilson,
  type Round,
  type Trial,
} from '.';
import { answerText } from './head/answers';

const scale = { least: 0.2, most: 12, start: 6, unit: 'dB', decimals: 1 };
const middle = (values: readonly number[]): number =>
  [...values].sort((a, b) => a - b)[Math.floor(values.length / 2)] ?? 0;

describe('the staircase', () => {
  it.each([
    [2, 0.7, 0.35],
    [2, 1.5, 0.2],
    [2, 3, 0.5],
    [3, 1.5, 0.35],
  ])('of %i choices finds a threshold of %f dB (slope %f)', (choices, threshold, slope) => {
    const ends: number[] = [];
    let inside = 0;
    for (let run = 0; run < 200; run++) {
      const random = seededRandom(77 * run + 5);
      const trials: Trial[] = [];
      for (let i = 0; i < 40; i++) {
        const size = nextSize(trials, scale);
        trials.push({ size, right: random() < chanceRight(size, threshold, slope, choices) });
      }
      const found = thresholdOf(trials, scale, choices);
      if (!found) throw new Error('forty answers are enough');
      ends.push(found.size);
      if (found.low <= threshold && threshold <= found.high) inside += 1;
    }
    expect(middle(ends) / threshold).toBeGreaterThan(0.9);
    expect(middle(ends) / threshold).toBeLessThan(1.1);
    expect(inside / 200).toBeGreaterThanOrEqual(0.8);
  });

  it('leads up three times as far as down, and stays within its scale', () => {
    const right = { size: 6, right: true };
    const down = Math.log(6 / nextSize([right], scale));
    const small = { ...scale, start: 1 };
    const up = Math.log(nextSize([{ size: 1, right: false }], small));
    expect(up / down).toBeCloseTo(3, 9);
    expect(nextSize(Array<Trial>(80).fill(right), scale)).toBeCloseTo(scale.least, 9);
    expect(nextSize(Array<Trial>(80).fill({ size: 6, right: false }), scale)).toBeCloseTo(12, 9);
    expect(nextSize([], scale)).toBeCloseTo(6, 12);
    // Never by the last digit of a logarithm beyond either end.
    for (const most of [8, 12, 16, 30, 90, 100, 120, 180]) {
      const full = { least: most / 10, most, start: most };
      expect(nextSize([], { ...scale, ...full })).toBeLessThanOrEqual(most);
      const least = nextSize(Array<Trial>(90).fill(right), { ...scale, ...full });
      expect(least).toBeGreaterThanOrEqual(full.least);
    }
  });

  it('says nothing of fewer than twelve answers, and three of four at the threshold', () => {
    expect(thresholdOf(Array<Trial>(11).fill({ size: 2, right: true }), scale, 2)).toBeNull();
    for (const choices of [2, 3, 4]) expect(chanceRight(2, 2, 0.4, choices)).toBeCloseTo(0.75, 12);
  });
});

describe('the scheduler', () => {
  const at = (day: number): string => new Date(Date.UTC(2026, 11, day)).toISOString();

  it('brings back at once what was never practised, later what went well, soon what did not', () => {
    expect(dueOf([], at(1))).toEqual({ at: null, inDays: 0 });
    const days = (['again', 'hard', 'good', 'easy'] as const).map(
      (grade) => dueOf([{ at: at(1), grade }], at(1)).inDays,
    );
    days.forEach((inDays, i) => expect(inDays).toBeGreaterThanOrEqual(days[i - 1] ?? 0.5));
    expect(days[3]).toBeGreaterThan(days[0] ?? 0);
    const twice = [
      { at: at(5), grade: 'good' as const },
      { at: at(1), grade: 'good' as const },
    ];
    // The order in which rounds are kept does not matter, nor does one without a time.
    expect(dueOf(twice, at(6))).toEqual(dueOf([...twice].reverse(), at(6)));
    expect(dueOf([...twice, { at: '', grade: 'again' }], at(6))).toEqual(dueOf(twice, at(6)));
    expect(dueOf(twice, at(6)).inDays).toBeGreaterThan(days[2] ?? 0);
    expect(dueOf(twice, at(31)).inDays).toBeLessThan(0);
  });

  it('grades rounds by what a staircase aims at, and places by their miss', () => {
    expect([4, 5, 6, 8].map((right) => gradeOf(right, 8))).toEqual([
      'again',
      'hard',
      'good',
      'easy',
    ]);
    expect([5, 12, 20, 40].map(gradeOfError)).toEqual(['easy', 'good', 'hard', 'again']);
  });
});

describe('results', () => {
  const round = (id: string, exercise: string, rights: readonly boolean[], size = 2): Round => ({
    ...{ id, at: `2026-12-0${id}T10:00:00Z`, exercise },
    answers: rights.map((right, i) => ({
      ...{ seed: i, size, right, said: 'A', truth: right ? 'A' : 'B', errorPct: null },
    })),
  });
  const rounds = [
    round('1', 'ear: level', [true, true, false, true, true, true, false, true]),
    round('2', 'ear: level', [true, true, true, true, false, true, true, true]),
    round('3', 'head: claims', [true, false, true, true, true]),
  ];
  const now = '2026-12-04T10:00:00Z';
  const standings = EXERCISES.map((exercise) => standingOf(exercise, rounds, now));

  it('carry intervals, and know a threshold from twelve answers on', () => {
    const level = standings.find(({ id }) => id === 'ear: level');
    expect(level).toMatchObject({ rounds: 2, answers: 16, error: null });
    expect(level?.threshold?.trials).toBe(16);
    const claims = standings.find(({ id }) => id === 'head: claims');
    expect(claims?.threshold).toBeNull();
    expect(claims?.right).toEqual(wilson(4, 5));
    // Wilson's interval for 8 of 10 at 90 %, from its formula.
    expect(wilson(8, 10).low).toBeCloseTo(0.5408, 3);
    expect(wilson(8, 10).high).toBeCloseTo(0.9314, 3);
    expect(wilson(0, 3).low).toBe(0);
    expect(wilson(3, 3).high).toBeCloseTo(1, 12);
  });

  it('say what comes next: what is overdue, what is new, what comes back soonest', () => {
    const later = EXERCISES.map((exercise) => standingOf(exercise, rounds, '2027-12-04T10:00:00Z'));
    expect(nextUp(later)[0]?.rounds).toBeGreaterThan(0);
    expect(nextUp(standings)[0]?.rounds).toBe(0);
    expect(nextUp(standings).at(-1)?.rounds).toBeGreaterThan(0);
  });

  it('go into a table a row an answer, and into points a round', () => {
    const { header, rows } = answersTable(rounds);
    expect(rows).toHaveLength(21);
    expect(rows[0]).toHaveLength(header.length);
    const level = EXERCISES.find(({ id }) => id === 'ear: level');
    if (!level) throw new Error('there is one of level');
    const { points, unit } = progressOf(level, rounds);
    expect([points.length, unit]).toEqual([1, 'dB']);
  });

  it('are read from pieces of the library, whatever else is in it', () => {
    const from = { session: '', title: '', version: '' };
    const piece = { ...{ id: 'a', kind: 'drill' as const, at: '2026-12-01', name: '' }, from };
    expect(roundOf({ ...piece, results: {} })).toBeNull();
    expect(roundOf({ ...piece, results: { exercise: 'ear: level', answers: [7, {}] } })).toEqual({
      ...{ id: 'a', at: '2026-12-01', exercise: 'ear: level', answers: [] },
    });
    const kept = { exercise: 'plan', answers: [{ right: true, size: '7' }] };
    expect(roundOf({ ...piece, results: kept })?.answers[0]).toMatchObject({
      right: true,
      size: 0,
    });
  });
});

describe('arithmetic of the trade', () => {
  it('has fresh numbers, and its own answer is right in its own words', () => {
    for (const kind of SUM_KINDS) {
      const texts = new Set<string>();
      for (let seed = 1; seed <= 60; seed++) {
        const sum = sumOf(kind, 17 * seed);
        texts.add(sum.text);
        expect(Number.isFinite(sum.answer)).toBe(true);
        expect(sum.worked.length).toBeGreaterThan(0);
        const said = readAnswer(sum.quantity, answerText(sum.quantity, sum.answer));
        expect(said).toMatchObject({ ok: true });
        if (said.ok) expect(isRight(sum, said.value), sum.text).toBe(true);
        expect(isRight(sum, sum.answer + 1.01 * sum.within + 1e-9)).toBe(false);
      }
      expect(texts.size).toBeGreaterThan(20);
    }
  });

  it('takes answers in any unit, and says what is allowed', () => {
    const value = (...of: Parameters<typeof readAnswer>) => {
      const read = readAnswer(...of);
      return read.ok ? read.value : read.message;
    };
    expect(value('time', '4.2')).toBeCloseTo(4.2, 12);
    expect(value('time', '0,0042 s')).toBeCloseTo(4.2, 12);
    expect(value('time', '4200 µs')).toBeCloseTo(4.2, 9);
    expect(value('duration', '1.5 h')).toBe(90);
    expect(value('length', '17 cm')).toBeCloseTo(0.17, 12);
    expect(value('length', `6' 8"`)).toBeCloseTo(2.032, 12);
    expect(value('level', '−9.5 dB')).toBe(-9.5);
    expect(value('data', '500 MB')).toBeCloseTo(0.5, 12);
    expect(value('data', '1 GiB')).toBeCloseTo(1.073741824, 9);
    expect(value('ratio', '43 %')).toBeCloseTo(0.43, 12);
    for (const text of ['', 'ells', '3 ells', '1e999', '--3', '3..4']) {
      expect(value('time', text)).toMatch(/answer: .*allowed/);
    }
  });
});

describe('claims of the trade', () => {
  it('are at least forty, each once, with a figure and a reason', () => {
    expect(CLAIMS.length).toBeGreaterThanOrEqual(40);
    expect(new Set(CLAIMS.map(({ id }) => id)).size).toBe(CLAIMS.length);
    for (const { figure, why, id } of CLAIMS) {
      expect(figure(), id).toMatch(/\d/);
      expect(figure(), id).not.toMatch(/NaN|undefined|Infinity/);
      expect(why.length, id).toBeGreaterThan(30);
    }
    for (const verdict of ['true', 'false', 'depends']) {
      expect(CLAIMS.filter((claim) => claim.verdict === verdict).length).toBeGreaterThan(7);
    }
  });
});

describe('what will this do?', () => {
  const session = demoSession('2026-11-30T12:00:00Z');

  it('moves a copy, and its answer is what the figures of both say', () => {
    const truths = new Set<string>();
    for (let seed = 1; seed <= 40; seed++) {
      const before = JSON.stringify(session);
      const question = movedQuestion(session, 13 * seed);
      if (!question) throw new Error('the demo can be moved');
      expect(JSON.stringify(session)).toBe(before);
      expect(question).toEqual(movedQuestion(session, 13 * seed));
      expect(question.plan).not.toEqual(session);
      truths.add(question.truth);
      if (question.ask !== 'width') continue;
      const [was, is] = [session, question.plan].map((one) => expectedOf(one).widthPct ?? 0);
      const change = (is ?? 0) - (was ?? 0);
      expect(question.truth).toBe(Math.abs(change) < 2 ? 'same' : change > 0 ? 'more' : 'less');
    }
    expect([...truths].sort()).toEqual(['less', 'more', 'same']);
  });

  it('has no question of a plan without players or without an array in use', () => {
    expect(movedQuestion(newSession('a', 'Empty', '2026-11-30T12:00:00Z'), 3)).toBeNull();
    const arrays = session.arrays.map((array) => ({ ...array, enabled: false }));
    const none = { ...session, arrays };
    expect(movedQuestion(none, 3)).toBeNull();
  });
});
