import { describe, expect, it } from 'vitest';
import { demoSession } from '../demo';
import { sessionFrom, type MicArray, type SessionTechnique } from '../session';
import { partScores, roomMissDb, scoreOf, wantedOf, type Measures } from './criteria';
import { byJudgement, judgeArray } from './judge';

const demo = demoSession('2026-11-23T12:00:00.000Z');
const [main] = demo.arrays;
if (!main) throw new Error('the demo has a main pair');
const withTechnique = (technique: SessionTechnique): MicArray => ({
  ...main,
  technique,
  mix: { ...main.mix, capsules: [] },
});

describe('judging an array', () => {
  it('puts what the kit cannot build last, and a broken image below every taste', () => {
    const kit = { microphones: [{ name: 'C', patterns: ['cardioid'], count: 2 }] };
    const session = { ...demo, kit: sessionFrom({ kit }).kit };
    const pair = { kind: 'pair', spacingM: 0.17, includedAngleDeg: 110 } as const;
    const can = judgeArray(session, withTechnique({ ...pair, pattern: 'cardioid' }));
    const cannot = judgeArray(session, withTechnique({ ...pair, pattern: 'omni' }));
    expect([can.lacks, cannot.lacks]).toEqual([null, 'two omnis']);
    expect([cannot, can].sort(byJudgement)[0]).toBe(can);
    const eights = {
      ...pair,
      pattern: 'figure-eight',
      spacingM: 0,
      includedAngleDeg: 150,
    } as const;
    const broken = judgeArray(session, withTechnique(eights));
    expect(broken.measures.broken).toBeGreaterThan(0);
    expect(broken.score).toBeLessThan(0);
  });

  it('says nothing of tolerance, and is no error, without players', () => {
    const empty = judgeArray({ ...demo, sources: [] }, main);
    expect(empty.tolerancePct).toBeNull();
    expect(empty.measures).toMatchObject({ broken: 0, imageWidthPct: 0, worstMonoDb: 0 });
    expect(Number.isFinite(empty.score)).toBe(true);
  });
});

describe('the criteria', () => {
  const perfect: Measures = {
    imageWidthPct: 85,
    narrowestPct: 85,
    widestPct: 85,
    spacingOffPct: 0,
    largestGapPct: 5,
    atSpeakersPct: 0,
    bandsHeld: null,
    directToReverberantDb: 3,
    worstMonoDb: 0,
    worstMonoBandDb: 0,
    unevennessDb: 2,
    frontToBackDb: 1,
    lowCorrelation: 0.1,
    timeShare: 0,
    tolerancePct: 1,
    heightM: 2.5,
    overPeople: false,
    microphones: 2,
    broken: 0,
  };
  const wanted = wantedOf(sessionFrom({ brief: { intent: { room: 'balanced' } } }));
  const scored = (change: Partial<Measures>) => {
    const measures = { ...perfect, ...change };
    return scoreOf(partScores(measures, wanted, 9), wanted, measures.broken);
  };
  // Weights 3, 1.5, 1, 2, 0, 2, 0.5, 1, 0.5, 1, 0.5, 0, 0.5, 0.5, 0.25.
  const ALL = 14.25;

  it('give a hundred where all is as wanted, and less for every miss by its weight', () => {
    // Exact places and the air of time differences exclude each other: half of the space is missing.
    expect(scored({})).toBeCloseTo(100 * (1 - 0.5 / ALL), 9);
    const less = (change: Partial<Measures>): number => (scored({}) - scored(change)) * (ALL / 100);
    expect(less({ narrowestPct: 30 })).toBeCloseTo(3 * 0.5, 9);
    expect(less({ widestPct: 120 })).toBeCloseTo(3 * 0.25, 9);
    expect(less({ spacingOffPct: 12.5 })).toBeCloseTo(1.5 * 0.5, 9);
    expect(less({ atSpeakersPct: 25 })).toBeCloseTo(2 * 0.5, 9);
    expect(less({ directToReverberantDb: 8 })).toBeCloseTo(2 * 0.5, 9);
    expect(less({ worstMonoDb: -3.25 })).toBeCloseTo(0.5 * 0.5, 9);
    // A comb counts where somebody said that mono matters.
    expect(less({ worstMonoBandDb: -5.5 })).toBeCloseTo(0, 9);
    const mono = wantedOf(sessionFrom({ brief: { intent: { mono: 'should-survive' } } }));
    expect(partScores({ ...perfect, worstMonoBandDb: -5.5 }, mono, 9).mono).toBeCloseTo(0.5, 9);
    expect(less({ unevennessDb: 9 })).toBeCloseTo(0.5, 9);
    expect(less({ frontToBackDb: 7.5 })).toBeCloseTo(0.5 * 0.5, 9);
    expect(less({ lowCorrelation: 0.6 })).toBeCloseTo(0.5 * 0.5, 9);
    expect(less({ lowCorrelation: -0.3 })).toBeCloseTo(0.5 * 0.25, 9);
    // Exactness goes with time, and all the air is there at 35 % of it.
    expect(less({ timeShare: 0.35 })).toBeCloseTo(0.5 * 0.35 - 0.5, 9);
    expect(less({ timeShare: 1 })).toBeCloseTo(0, 9);
    expect(less({ tolerancePct: 9.5 })).toBeCloseTo(0.5 * 0.5, 9);
    expect(less({ tolerancePct: null })).toBeCloseTo(0, 9);
    expect(less({ heightM: 4 })).toBeCloseTo(0.5 * 0.5, 9);
    expect(less({ heightM: 1.2 })).toBeCloseTo(0.5 * 0.5, 9);
    expect(less({ overPeople: true })).toBeCloseTo(0.5 * 0.6, 9);
    expect(less({ microphones: 5 })).toBeCloseTo(0.25 * 0.5, 9);
    expect(scored({}) - scored({ broken: 1 })).toBeCloseTo(100, 9);
  });

  it('weigh what is wished for: taste, practice, wishes for players', () => {
    const weights = (intent: object) => wantedOf(sessionFrom({ brief: { intent } })).weights;
    expect(weights({ tastePct: 100 })).toMatchObject({ space: 3, exact: 0.5 });
    expect(weights({ tastePct: -50 })).toMatchObject({ space: 1, exact: 1.5 });
    expect(weights({})).toMatchObject({ practice: 0, bands: 0, fill: 3, room: 1.5, mono: 0.5 });
    expect(weights({ mono: 'must-survive', room: 'close' })).toMatchObject({ mono: 3, room: 2 });
    const bands = [{ sourceId: 'a', fromPct: 0, toPct: 20 }];
    expect(weights({ bands })).toMatchObject({ bands: 6, fill: 1, spacing: 0.5 });
    const practised = (practice: string, timeShare: number) =>
      partScores(
        { ...perfect, timeShare },
        wantedOf(sessionFrom({ brief: { intent: { practice } } })),
        9,
      ).practice;
    expect(practised('level-first', 0.2)).toBeCloseTo(0.8, 12);
    expect(practised('time-first', 0.2)).toBeCloseTo(0.2, 12);
    expect(practised('both', 0.5)).toBe(1);
    expect(practised('both', 0.9)).toBeCloseTo(0.2, 12);
    // What nobody wants is customary, and not called wanted.
    const widths = [1, 2, 4, 5].map((n) => wantedOf(sessionFrom({}), n).widthPct);
    expect(widths).toEqual([
      { min: 25, max: 75 },
      { min: 50, max: 90 },
      { min: 50, max: 90 },
      { min: 70, max: 100 },
    ]);
    expect(wantedOf(sessionFrom({}), 5).said).toEqual({ width: false, room: false, mono: false });
  });

  it('call a gap large only beyond what few players make of necessity', () => {
    const even = { imageWidthPct: 80, largestGapPct: 80 };
    expect(partScores({ ...perfect, ...even }, wanted, 2).gap).toBe(1);
    expect(partScores({ ...perfect, ...even }, wanted, 9).gap).toBe(0);
    expect(partScores({ ...perfect, ...even, largestGapPct: 40 }, wanted, 9).gap).toBeCloseTo(
      0.5,
      9,
    );
  });

  it('miss a room by its distance from the range, and not where it is not known', () => {
    expect(roomMissDb(6, { min: -3, max: 4 })).toBe(2);
    expect(roomMissDb(-5, { min: -3, max: 4 })).toBe(2);
    expect(roomMissDb(4, { min: -3, max: 4 })).toBe(0);
    expect(roomMissDb(null, { min: -3, max: 4 })).toBe(0);
  });
});
