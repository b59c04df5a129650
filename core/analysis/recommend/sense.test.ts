import { describe, expect, it } from 'vitest';
import { SENSE } from '../../fixtures/sense';
import type { Session } from '../../session';
import { judgeArray } from '../judge';
import { familyOf } from './candidates';
import { recommend, type Recommendation, type RecommendationResult } from './recommend';

/** Would an engineer of thirty years nod? */

const found = new Map<string, RecommendationResult>();
function adviceFor(name: keyof typeof SENSE): RecommendationResult {
  const known = found.get(name) ?? recommend(SENSE[name]);
  found.set(name, known);
  return known;
}
const families = ({ recommendations }: RecommendationResult) =>
  new Set(recommendations.map(({ family }) => family));
const of = (advice: RecommendationResult, family: string): Recommendation => {
  const entry = advice.recommendations.find((one) => one.family === family);
  if (!entry) throw new Error(`no ${family}`);
  return entry;
};
const merged = ({ recommendations }: RecommendationResult) =>
  recommendations.flatMap(({ equal }) => (equal ? familyOf(equal) : []));
const everything = (advice: RecommendationResult): Recommendation[] =>
  advice.recommendations.flatMap((entry) => [entry, ...entry.more]);
const PAIRS = ['coincident', 'near-coincident', 'spaced', 'figure-eights', 'mid-side'];

describe.each(Object.keys(SENSE) as (keyof typeof SENSE)[])('%s', (name) => {
  const advice = adviceFor(name);

  it('has every family, the better first, and no silly number', () => {
    // A mid-side and its crossed equal are one offer.
    const there = new Set([...families(advice), ...merged(advice)]);
    for (const family of PAIRS) expect(there).toContain(family);
    const scores = advice.recommendations.map(({ score }) => score);
    expect(scores).toEqual([...scores].sort((a, b) => b - a));
    expect(Math.min(...scores)).toBeGreaterThan(60);
    for (const { measures, beforeM, z } of everything(advice)) {
      expect(measures.broken).toBe(0);
      expect(beforeM).toBeGreaterThanOrEqual(0.5);
      expect(z).toBeLessThanOrEqual(name.includes('organ') ? 4.6 : 3.5);
    }
  });

  it('says what it means: no sentence twice, none about nobody, none that contradicts itself', () => {
    for (const { reasonsFor, reasonsAgainst, differs, wins } of everything(advice)) {
      const said = [...reasonsFor, ...reasonsAgainst, ...differs];
      expect(new Set(said).size).toBe(said.length);
      for (const sentence of [...said, wins ?? '']) {
        expect(sentence).not.toMatch(/NaN|undefined|Infinity|within 0\.\d dB|is −?0\.[0-4] dB|-\d/);
        if (SENSE[name].sources.length < 2)
          expect(sentence).not.toMatch(/players are|between players/);
      }
    }
    expect(advice.recommendations[0]?.reasonsFor.length).toBeGreaterThan(2);
    expect(advice.recommendations[0]?.differs).toEqual([]);
    const told = advice.recommendations.filter(({ differs }) => differs.length > 0);
    expect(told.length).toBeGreaterThan(2);
  });

  it('calls coincident ways exact and spaced ones placed by time', () => {
    for (const family of ['coincident', 'figure-eights', 'mid-side']) {
      if (merged(advice).some((one) => one === family)) continue;
      expect(of(advice, family).measures.timeShare).toBeLessThan(0.05);
      expect(of(advice, family).measures.worstMonoDb).toBeGreaterThan(-1.5);
    }
    const { near, spaced } = {
      near: of(advice, 'near-coincident').measures.timeShare,
      spaced: of(advice, 'spaced').measures.timeShare,
    };
    expect(near).toBeGreaterThan(0.1);
    expect(near).toBeLessThan(spaced);
  });
});

describe('order of distances', () => {
  it('small things are recorded nearer than ensembles', () => {
    const before = (name: keyof typeof SENSE) => adviceFor(name).recommendations[0]?.beforeM ?? NaN;
    for (const small of ['a harp', 'a solo piano', 'a wide instrument'] as const) {
      expect(before(small)).toBeLessThanOrEqual(3);
      expect(before(small)).toBeGreaterThanOrEqual(0.7);
    }
    expect(before('a choir with an organ behind')).toBeGreaterThan(before('a harp'));
    expect(before('a chamber orchestra 9 m wide')).toBeLessThanOrEqual(6.2);
  });

  it('a tree is for what is wide', () => {
    expect(families(adviceFor('a harp'))).not.toContain('tree');
    expect(families(adviceFor('a solo piano'))).not.toContain('tree');
    expect(families(adviceFor('a chamber orchestra 9 m wide'))).toContain('tree');
  });
});

describe('the advice', () => {
  const choir = SENSE['a choir with an organ behind'];
  const [main] = choir.arrays;
  if (!main) throw new Error('a main pair');

  it('is the same wherever the main array stands, and however it looks', () => {
    const elsewhere: Session = {
      ...choir,
      arrays: [
        {
          ...main,
          x: 3,
          y: -7,
          z: 1.2,
          aimDeg: 40,
          tiltDeg: -30,
          technique: { kind: 'pair', pattern: 'omni', spacingM: 1, includedAngleDeg: 0 },
        },
      ],
    };
    expect(recommend(elsewhere)).toEqual(adviceFor('a choir with an organ behind'));
  });

  it('gives each array the figures that it is compared with', () => {
    for (const entry of adviceFor('a choir with an organ behind').recommendations) {
      const { technique, x, y, z, aimDeg, tiltDeg, measures, score } = entry;
      const judged = judgeArray(choir, { ...main, technique, x, y, z, aimDeg, tiltDeg }, 200);
      expect(judged.measures).toEqual(measures);
      expect(judged.score).toBe(score);
    }
  });

  it('follows the taste and the practice', () => {
    const wished = (intent: object): Session => ({
      ...choir,
      brief: { ...choir.brief, intent: { ...choir.brief.intent, ...intent } },
    });
    const lead = (intent: object) => recommend(wished(intent)).recommendations[0];
    expect(lead({ tastePct: -100 })?.measures.timeShare).toBeLessThan(0.05);
    const spacious = lead({ tastePct: 100 })?.measures.lowCorrelation ?? NaN;
    expect(spacious).toBeLessThan(0.45);
    expect(lead({ practice: 'level-first' })?.measures.timeShare).toBeLessThan(0.05);
    expect(lead({ practice: 'time-first' })?.measures.timeShare).toBeGreaterThan(0.8);
    expect(lead({ practice: 'both' })?.family).toBe('near-coincident');
    const close = lead({ room: 'close' })?.measures.directToReverberantDb ?? NaN;
    const roomy = lead({ room: 'roomy' })?.measures.directToReverberantDb ?? NaN;
    expect(close).toBeGreaterThan(roomy);
  });

  it('a spot of its own takes a player out of the evenness of the main array', () => {
    const organ = choir.sources[choir.sources.length - 1];
    if (!organ) throw new Error('an organ');
    const quiet = { ...choir, sources: choir.sources.filter((source) => source !== organ) };
    const spot = {
      ...main,
      id: 'spot',
      name: 'Organ spot',
      role: 'spot' as const,
      x: organ.x,
      y: organ.y - 1,
      z: organ.z,
      technique: { kind: 'single' as const, pattern: 'cardioid' as const },
      for: { kind: 'some' as const, groups: [], sources: [organ.id] },
    };
    const judged = (session: Session) => judgeArray(session, main, 100).measures.unevennessDb;
    expect(judged({ ...choir, arrays: [main, spot] })).toBeCloseTo(judged(quiet), 6);
    expect(judged(choir)).toBeGreaterThan(judged(quiet));
  });
});
