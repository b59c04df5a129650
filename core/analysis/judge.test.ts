import { describe, expect, it } from 'vitest';
import { demoSession } from '../demo';
import { sessionFrom, type MicArray, type SessionTechnique } from '../session';
import { partScores, roomMissDb, scoreOf, wantedOf, type Measures } from './criteria';
import { byJudgement, judgeArray } from './judge';
import { recommend } from './recommend';

const demo = demoSession('2026-11-23T12:00:00.000Z');
const [main] = demo.arrays;
if (!main) throw new Error('the demo has a main pair');
const withTechnique = (technique: SessionTechnique): MicArray => ({
  ...main,
  technique,
  mix: { ...main.mix, capsules: [] },
});

describe('judging an array', () => {
  it('gives what is recommended the figures that it was recommended with', () => {
    const points = { ...demo, sources: demo.sources.map((source) => ({ ...source, widthM: 0 })) };
    for (const entry of recommend(points).recommendations) {
      const { technique, x, y, z, tiltDeg, measures, score } = entry;
      const judged = judgeArray(points, { ...withTechnique(technique), x, y, z, tiltDeg });
      // A recommendation leads with the session's model; so does the judgement.
      expect(judged.measures.broken).toBe(measures.broken);
      expect(judged.measures.imageWidthPct).toBeCloseTo(measures.imageWidthPct, 6);
      expect(judged.measures.largestGapPct).toBeCloseTo(measures.largestGapPct, 6);
      expect(judged.measures.atSpeakersPct).toBeCloseTo(measures.atSpeakersPct, 6);
      expect(judged.measures.monoComb).toBeCloseTo(measures.monoComb, 6);
      expect(judged.measures.unevennessDb).toBeCloseTo(measures.unevennessDb, 6);
      expect(judged.measures.lowCorrelation).toBeCloseTo(measures.lowCorrelation, 6);
      expect(judged.score).toBeCloseTo(score, 3);
    }
  });

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
    expect(empty.measures).toMatchObject({ broken: 0, imageWidthPct: 0, monoComb: 0 });
    expect(Number.isFinite(empty.score)).toBe(true);
  });
});

describe('the criteria', () => {
  const perfect: Measures = {
    imageWidthPct: 85,
    largestGapPct: 5,
    atSpeakersPct: 0,
    bandsHeld: null,
    directToReverberantDb: 3,
    monoComb: 0,
    unevennessDb: 2,
    lowCorrelation: 0.1,
    broken: 0,
  };
  const wanted = wantedOf(sessionFrom({ brief: { intent: { room: 'balanced' } } }));
  const scored = (change: Partial<Measures>) => {
    const measures = { ...perfect, ...change };
    return scoreOf(partScores(measures, wanted, 9), wanted, measures.broken);
  };

  it('give a hundred where all is as wanted, and less for every miss by its weight', () => {
    expect(scored({})).toBe(100);
    // Weights 3, 1, 2, 0, 2, 0.5, 1, 0.5: ten in all.
    expect(scored({ imageWidthPct: 55 })).toBeCloseTo(100 - (3 * 50) / 10, 9);
    expect(scored({ atSpeakersPct: 25 })).toBeCloseTo(100 - (2 * 50) / 10, 9);
    expect(scored({ directToReverberantDb: 8 })).toBeCloseTo(100 - (2 * 50) / 10, 9);
    expect(scored({ monoComb: 0.5 })).toBeCloseTo(100 - (0.5 * 50) / 10, 9);
    expect(scored({ unevennessDb: 9 })).toBeCloseTo(100 - 50 / 10, 9);
    expect(scored({ lowCorrelation: 0.6 })).toBeCloseTo(100 - (0.5 * 50) / 10, 9);
    expect(scored({ broken: 1 })).toBeCloseTo(0, 9);
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
    expect(roomMissDb(99, null)).toBe(0);
  });
});
