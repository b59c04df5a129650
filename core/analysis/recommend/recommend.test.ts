import { describe, expect, it } from 'vitest';
import { missingForKit } from '../../kit/needs';
import {
  readSession,
  sessionFrom,
  type MicArray,
  type Session,
  type SessionTechnique,
} from '../../session';
import { demoSession } from '../../demo';
import { analyseSession } from '..';
import { judgeArray } from '../judge';
import { allTechniques, familyOf, placesFor } from './candidates';
import { recommend, recommendInSteps } from './recommend';

const demo = demoSession('2026-11-23T12:00:00.000Z');

function mainOf(session: Session): MicArray {
  const [array] = session.arrays;
  if (!array) throw new Error('an array is expected');
  return array;
}

describe('recommendation', () => {
  const small = { ...demo, sources: demo.sources.filter((_, i) => i % 2 === 0) };

  it('ranks, gives reasons, and the same again for the same session', () => {
    const result = recommend(small);
    expect(result).toEqual(recommend(small));
    expect(result.measured).toBeGreaterThan(5000);
    const scores = result.recommendations.map(({ score }) => score);
    expect([...scores].sort((a, b) => b - a)).toEqual(scores);
    expect(new Set(result.recommendations.map(({ name }) => name)).size).toBeGreaterThanOrEqual(4);
    for (const { reasonsFor, reasonsAgainst } of result.recommendations) {
      expect(reasonsFor.length + reasonsAgainst.length).toBeGreaterThan(2);
    }
  });

  it('the best is an array that the analysis confirms', () => {
    const [best] = recommend(small).recommendations;
    if (!best) throw new Error('one is expected');
    const { technique, x, y, z, aimDeg, tiltDeg, measures } = best;
    const built = { ...small, arrays: [{ ...mainOf(small), technique, x, y, z, aimDeg, tiltDeg }] };
    const figures = analyseSession(built).arrays[0];
    expect(figures?.stage.consensus?.imageWidthPct).toBeCloseTo(measures.imageWidthPct, 9);
    expect(figures?.sources.some(({ antiphase }) => antiphase)).toBe(false);
  });

  it('mono that must survive puts coincident arrays first; the kit rules techniques out by name', () => {
    const mono = {
      ...small,
      brief: { ...small.brief, intent: { ...small.brief.intent, mono: 'must-survive' as const } },
    };
    expect(['coincident', 'mid-side', 'figure-eights']).toContain(
      recommend(mono).recommendations[0]?.name,
    );
    const omnis = readSession({
      ...small,
      kit: { microphones: [{ id: 'o', name: 'Small omni', patterns: ['omni'], count: 2 }] },
    });
    if (!omnis.ok) throw new Error('valid');
    const result = recommend(omnis.session);
    expect(new Set(result.recommendations.map(({ name }) => name))).toEqual(new Set(['spaced']));
    expect(result.notBuildable).toContainEqual({
      technique: 'figure-eights',
      needs: 'two figure-eights',
    });
  });

  it('knows no walls without the datum’s place, and keeps to them with it', () => {
    const open = { ...small, venue: { ...small.venue, origin: null } };
    expect(recommend(open).measured).toBeGreaterThan(5000);
    const tight = { ...small, venue: { ...small.venue, origin: { x: 7, y: 0.5 } } };
    const found = recommend(tight);
    expect(found.measured).toBeLessThan(recommend(open).measured);
    for (const { y } of found.recommendations) expect(y).toBeGreaterThan(-0.2);
  });

  it('reports progress and can be left at any step', () => {
    const steps = recommendInSteps(small);
    const first = steps.next();
    expect(first.done).toBe(false);
    expect(first.value as number).toBeGreaterThan(0);
    expect(recommend({ ...small, sources: [] }).recommendations).toEqual([]);
  });
});

describe('a large ensemble', () => {
  it('is measured by a part of it, the outermost among them, and says so', () => {
    const sources = Array.from({ length: 60 }, (_, i) => ({
      ...(demo.sources[0] as Session['sources'][number]),
      id: `v${i}`,
      x: -3 + i * 0.1,
      y: 3 + (i % 3),
      widthM: 0,
    }));
    const { players, recommendations } = recommend({ ...demo, sources });
    expect(players).toBe(24);
    expect(recommendations.length).toBeGreaterThan(0);
    expect(recommend(demo).players).toBe(demo.sources.length);
  });
});

describe('two stages', () => {
  it('find what a close look at everything would find, to within a point', () => {
    // Few players and one stand keep a close look at every candidate bearable.
    const session = {
      ...demo,
      sources: demo.sources.slice(0, 4),
      kit: sessionFrom({
        kit: {
          microphones: [{ id: 'c', name: 'C', patterns: ['cardioid'], count: 2 }],
          stands: [{ id: 's', name: 'S', minHeightM: 2.3, maxHeightM: 2.6, reachM: 2, count: 1 }],
        },
      }).kit,
    };
    const main = mainOf(session);
    const places = placesFor(session, session.sources).filter(({ z }) => z > 2 && z < 2.7);
    const techniques = allTechniques().filter(
      (technique) => missingForKit(session.kit, technique) === null,
    );
    const sample = techniques.flatMap((technique, i) =>
      places.filter((_, j) => (i + j) % 7 === 0).map((place) => ({ technique, place })),
    );
    expect(sample.length).toBeGreaterThan(60);
    const { recommendations } = recommend(session);
    const best = new Map(recommendations.map(({ family, score }) => [family, score]));
    for (const { technique, place } of sample) {
      const { x, y, z, aimDeg, tiltDeg } = place;
      const array = { ...main, technique: technique as SessionTechnique, x, y, z, aimDeg, tiltDeg };
      const { score } = judgeArray(session, array, 100);
      expect(score).toBeLessThan((best.get(familyOf(technique)) ?? NaN) + 1);
    }
  });
});
