import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { panGains } from '../arrays';
import { nearCues, prepareArray, schoolById, SCHOOLS } from '../localisation';
import {
  demoSession,
  newArray,
  newSource,
  readSession,
  sessionFrom,
  type MicArray,
  type Session,
} from '../session';
import { speedOfSound } from '../units';
import {
  analyseSession,
  arrivalLadder,
  distanceSweep,
  heightSweep,
  leakMatrix,
  mixCues,
  movementSensitivity,
  ownedSource,
  panForShift,
  prepareMix,
  recommend,
  recommendInSteps,
  reflectionsAt,
  reverberationFromSurfaces,
  rippleDb,
  setUpTolerance,
  shoeboxOf,
  threeToOne,
} from '.';
import { applyFix, RULES, type Finding } from './findings';
import { seededRandom } from './random';

const NOW = '2026-11-23T12:00:00.000Z';
const demo = demoSession(NOW);
const c = speedOfSound(demo.venue.temperatureC);
const omni = { kind: 'single', pattern: 'omni' } as const;

const spot = (id: string, x: number, y: number, change: Partial<MicArray> = {}) =>
  newArray({ id, name: `Spot ${id}`, role: 'spot', x, y, z: 1.2, technique: omni, ...change });

function mainOf(session: Session): MicArray {
  const [array] = session.arrays;
  if (!array) throw new Error('an array is expected');
  return array;
}

const withArrays = (...arrays: MicArray[]): Session => ({
  ...demo,
  arrays: [...demo.arrays, ...arrays],
});

function found(session: Session, code: string): Finding[] {
  return analyseSession(session).findings.filter((finding) => finding.code === code);
}

describe('arrival ladder', () => {
  const [flute] = demo.sources;
  if (!flute) throw new Error('the demo has a flute');
  const session = withArrays(spot('f', flute.x, flute.y - 0.5, { z: flute.z }));

  it('puts the spot first, and proposes the delay that puts it with the main pair', () => {
    const { rungs, proposals } = arrivalLadder(session, flute);
    expect(rungs.map(({ arrayId }) => arrayId)).toEqual(['f', 'main', 'main']);
    expect(rungs[0]?.arrivalMs).toBeCloseTo((0.5 / c) * 1000, 9);
    expect(rungs[0]?.levelDb).toBeCloseTo(flute.levelDb + 20 * Math.log10(1 / 0.5), 9);
    const [proposal] = proposals;
    expect(proposal?.leadsByMs).toBeCloseTo(
      (rungs[1]?.arrivalMs ?? 0) - (rungs[0]?.arrivalMs ?? 0),
      9,
    );
    const mix = {
      ...mainOf(session).mix,
      capsules: [{ pan: 0, gainDb: 0, polarity: 1 as const, delayMs: proposal?.delayMs ?? 0 }],
    };
    const delayed = withArrays({ ...spot('f', flute.x, flute.y - 0.5, { z: flute.z }), mix });
    expect(arrivalLadder(delayed, flute).proposals[0]?.leadsByMs).toBeCloseTo(0, 9);
  });

  it('proposes the pan whose level difference gives the main pair’s image', () => {
    const school = schoolById('traded');
    for (const shift of [-0.9, -0.3, 0, 0.5]) {
      const { left, right } = panGains(panForShift(school, shift));
      expect(school.shift(20 * Math.log10(right / left), 0)).toBeCloseTo(shift, 5);
    }
    expect(arrivalLadder(session, flute).proposals[0]?.pan ?? 0).toBeLessThan(-0.5);
  });

  it('a fix delays the spot and the finding is gone', () => {
    const [finding] = found(session, 'spot-leads');
    expect(finding?.figures.leadsByMs).toBeGreaterThan(5);
    if (!finding?.fix) throw new Error('a fix is expected');
    expect(found(applyFix(session, finding.fix), 'spot-leads')).toEqual([]);
  });

  it('names a loud ambience far back as an echo', () => {
    const far = newArray({
      id: 'amb',
      name: 'Ambience',
      role: 'ambience',
      y: -12,
      z: 3,
      mix: { faderDb: 20, mute: false, capsules: [] },
    });
    const [finding] = found(withArrays(far), 'echo');
    expect(finding?.figures.afterFirstMs).toBeGreaterThan(30);
    const quiet = { ...far, mix: { ...far.mix, faderDb: -20 } };
    expect(found(withArrays(quiet), 'echo')).toEqual([]);
  });
});

describe('leak and 3 : 1', () => {
  const players = [newSource({ id: 'a', x: -1, y: 2 }), newSource({ id: 'b', x: 1, y: 2 })];
  const session = { ...demo, sources: players, arrays: [spot('1', -1, 1.5), spot('2', 1, 1.5)] };

  it('omnis 0.5 m from players 2 m apart: ratio 4, leak by distance', () => {
    const [pair] = threeToOne(session);
    expect(pair?.ratio).toBeCloseTo(4, 9);
    const leak = 20 * Math.log10(0.5 / Math.hypot(2, 0.5));
    expect(pair?.leakDb).toBeCloseTo(leak, 9);
    expect(pair?.rippleDb).toBeCloseTo(rippleDb(leak), 9);
    const [first] = leakMatrix(session);
    expect(first?.ownSourceId).toBe('a');
    expect(first?.leakDb).toMatchObject({ a: 0 });
    expect(ownedSource(session, '2')?.id).toBe('b');
  });

  it('9.54 dB down ripples by 6 dB, equal levels without limit', () => {
    expect(rippleDb(-20 * Math.log10(3))).toBeCloseTo(20 * Math.log10(2), 9);
    expect(rippleDb(0)).toBe(60);
  });

  it('is a finding only for separate microphones that are too close, never for a pair', () => {
    expect(found(session, 'three-to-one')).toEqual([]);
    const close = { ...session, arrays: [spot('1', -0.4, 1), spot('2', 0.4, 1)] };
    expect(found(close, 'three-to-one')[0]?.figures.ratio).toBeLessThan(3);
    expect(found(demo, 'three-to-one')).toEqual([]);
  });
});

describe('mix estimate', () => {
  it('of one plain pair is that pair', () => {
    const mix = prepareMix(demo);
    const alone = prepareArray(mainOf(demo));
    for (const source of demo.sources) {
      const [a, b] = [mix && mixCues(mix, source, c), nearCues(alone, source, c)];
      expect(a?.icldDb).toBeCloseTo(b?.icldDb ?? NaN, 9);
      expect(a?.ictdMs).toBeCloseTo(b?.ictdMs ?? NaN, 9);
    }
  });

  it('a spot panned right pulls its player right; muted it does nothing', () => {
    const [flute] = demo.sources;
    if (!flute) throw new Error('flute');
    const strip = { pan: 1, gainDb: 6, polarity: 1 as const, delayMs: 8 };
    const loud = spot('f', flute.x, flute.y - 0.5, {
      z: 1.4,
      mix: { faderDb: 0, mute: false, capsules: [strip] },
    });
    const icld = (session: Session) => {
      const mix = prepareMix(session);
      return (mix && mixCues(mix, flute, c)?.icldDb) ?? NaN;
    };
    expect(icld(withArrays(loud))).toBeGreaterThan(icld(demo) + 6);
    expect(icld(withArrays({ ...loud, mix: { ...loud.mix, mute: true } }))).toBeCloseTo(
      icld(demo),
      9,
    );
    expect(prepareMix({ arrays: [] })).toBeNull();
  });
});

describe('the hall', () => {
  const hall = (surfaces: unknown[]) =>
    sessionFrom({
      venue: { widthM: 10, depthM: 20, heightM: 8, origin: { x: 5, y: 12 }, surfaces },
    });
  const names = ['floor', 'ceiling', 'left', 'right', 'front', 'back'];

  it('lies around the datum', () => {
    expect(shoeboxOf(hall([]))).toMatchObject({
      min: { x: -5, y: -12, z: 0 },
      max: { x: 5, y: 8, z: 8 },
    });
    expect(shoeboxOf(sessionFrom({}))).toBeNull();
  });

  it('gives a reverberation time, or says which surfaces are missing', () => {
    expect(reverberationFromSurfaces(hall([{ surface: 'floor', absorption: 0.1 }]))).toEqual({
      kind: 'missing',
      what: ['left', 'right', 'front', 'back', 'ceiling'],
    });
    const all = reverberationFromSurfaces(
      hall(names.map((surface) => ({ surface, absorption: { '500': 0.2, '1000': 0.1 } }))),
    );
    if (all.kind !== 'times') throw new Error('times are expected');
    const at = (f: number) => all.bands.find(({ frequencyHz }) => frequencyHz === f)?.sabineS ?? 0;
    expect(at(1000)).toBeGreaterThan(1.8 * at(500));
  });

  it('names the wall that answers a player close to it', () => {
    const near = {
      ...demo,
      sources: [newSource({ id: 'w', name: 'Wall player', x: 6.8, y: 2, z: 1.2 })],
    };
    const reflections = reflectionsAt(near, mainOf(near), 0, near.sources[0] ?? newSource({}));
    expect(reflections?.find(({ surfaces }) => surfaces.join() === 'right')?.delayMs).toBeLessThan(
      2,
    );
    expect(found(near, 'strong-reflection')[0]?.message).toContain(
      'the right wall answers with up to',
    );
  });
});

describe('sweeps', () => {
  it('coincident and near pairs lose width with distance, while coverage evens out', () => {
    const points = distanceSweep(demo, mainOf(demo), [2.5, 4, 8]);
    const [near, , far] = points;
    expect(points.map(({ valueM }) => valueM)).toEqual([2.5, 4, 8]);
    expect(far?.widthPct ?? 0).toBeLessThan(near?.widthPct ?? 0);
    expect(far?.unevennessDb ?? 0).toBeLessThan(near?.unevennessDb ?? 0);
    expect(heightSweep(demo, mainOf(demo), [2, 6])[1]?.widthPct ?? 100).toBeLessThan(100);
    expect(distanceSweep({ ...demo, sources: [] }, mainOf(demo), [3])).toEqual([]);
  });

  it('a sway on the axis moves the image both ways alike, by the steepness', () => {
    const session = { ...demo, sources: [newSource({ id: 'm', x: 0, y: 4, z: 2.7 })] };
    const [sway] = movementSensitivity(session, { ...mainOf(demo), tiltDeg: 0 }, 0.1);
    expect(sway?.from).toBeCloseTo(-(sway?.to ?? 0), 6);
    expect(sway?.to).toBeGreaterThan(0.02);
    const [wider] = movementSensitivity(session, { ...mainOf(demo), tiltDeg: 0 }, 0.2);
    expect(wider?.to ?? 0).toBeGreaterThan(sway?.to ?? 1);
  });
});

describe('tolerance', () => {
  it('is the same for the same seed, contains the plan, and grows with the limits', () => {
    const [a, b] = [
      setUpTolerance(demo, mainOf(demo), undefined, 800, 7),
      setUpTolerance(demo, mainOf(demo), undefined, 800, 7),
    ];
    expect(a).toEqual(b);
    const exact = analyseSession(demo).arrays[0];
    for (const source of exact?.sources ?? []) {
      const range = a.images[source.id];
      const shift = source.image?.traded?.shift ?? NaN;
      expect(range?.low).toBeLessThanOrEqual(shift);
      expect(range?.high).toBeGreaterThanOrEqual(shift);
    }
    const half = { spacingM: 0.005, angleDeg: 1, sensitivityDb: 0.5, temperatureC: 2 };
    const narrow = setUpTolerance(demo, mainOf(demo), half, 800, 7);
    const width = (r: typeof a, id: string) => (r.images[id]?.high ?? 0) - (r.images[id]?.low ?? 0);
    expect(width(narrow, 'p8')).toBeLessThan(0.6 * width(a, 'p8'));
    expect(exact?.farField.traded?.halfDeg).toBeGreaterThan(a.halfDeg?.low ?? 999);
  });

  it('matched microphones matter most for a coincident pair, nothing moves without limits', () => {
    const none = { spacingM: 0, angleDeg: 0, sensitivityDb: 0, temperatureC: 0 };
    const still = setUpTolerance(demo, mainOf(demo), none, 200);
    for (const range of Object.values(still.images))
      expect(range?.high).toBeCloseTo(range?.low ?? NaN, 12);
    const result = setUpTolerance(demo, mainOf(demo), undefined, 200);
    expect(result.decisive).toBe('sensitivityDb');
    expect(result.effectPct.temperatureC).toBeLessThan(result.effectPct.spacingM);
  });

  it('draws evenly: mean ½, variance 1/12', () => {
    const random = seededRandom(3);
    const values = Array.from({ length: 20000 }, random);
    const mean = values.reduce((s, v) => s + v, 0) / values.length;
    expect(mean).toBeCloseTo(0.5, 2);
    expect(values.reduce((s, v) => s + (v - mean) ** 2, 0) / values.length).toBeCloseTo(1 / 12, 2);
  });
});

describe('findings', () => {
  const change = (array: Partial<MicArray>): Session => ({
    ...demo,
    arrays: [{ ...mainOf(demo), ...array }],
  });

  it('a wider ensemble: the fix makes the recording angle hold it', () => {
    const wide = { ...demo, sources: demo.sources.map((s) => ({ ...s, x: s.x * 1.6 })) };
    const [finding] = found(wide, 'outside-recording-angle');
    if (!finding?.fix) throw new Error('a fix is expected');
    expect(finding.figures.overDeg).toBeGreaterThan(1);
    const mended = applyFix(wide, finding.fix);
    expect(found(mended, 'outside-recording-angle')).toEqual([]);
    expect(wide.arrays[0]?.technique).toMatchObject({ spacingM: 0.17 });
  });

  it('a named standard with another number: said with both angles, mended by its numbers', () => {
    const technique = {
      kind: 'pair',
      pattern: 'cardioid',
      spacingM: 0.25,
      includedAngleDeg: 110,
    } as const;
    const session = change({ name: 'ORTF main', technique });
    const [finding] = found(session, 'standard-mismatch');
    expect(finding?.message).toMatch(
      /another spacing\. The recording angle is ±\d\d\.\d° instead of ±47\.8°/,
    );
    if (!finding?.fix) throw new Error('a fix is expected');
    expect(found(applyFix(session, finding.fix), 'standard-mismatch')).toEqual([]);
  });

  it.each([
    [
      'same-signal',
      change({ technique: { kind: 'pair', pattern: 0.5, spacingM: 0, includedAngleDeg: 0 } }),
    ],
    [
      'mirrored',
      change({
        technique: {
          kind: 'mid-side',
          midPattern: 'cardioid',
          sideGainDb: 0,
          sidePositive: 'right',
        },
      }),
    ],
    ['name-twice', { ...demo, sources: demo.sources.map((s) => ({ ...s, name: 'Player' })) }],
    [
      'pan-contradicts',
      change({
        mix: {
          faderDb: 0,
          mute: false,
          capsules: [
            { pan: 1, gainDb: 0, polarity: 1, delayMs: 0 },
            { pan: -1, gainDb: 0, polarity: 1, delayMs: 0 },
          ],
        },
      }),
    ],
  ] as const)('%s is mended by its fix', (code, session) => {
    const [finding] = found(session, code);
    if (!finding?.fix) throw new Error('a fix is expected');
    expect(found(applyFix(session, finding.fix), code)).toEqual([]);
  });

  it.each([
    ['channels-short', { ...demo, brief: { ...demo.brief, channelLimit: 1 } }],
    ['hall-unknown', { ...demo, venue: { ...demo.venue, rt60S: null } }],
    ['high-stand', change({ z: 4.2 })],
    ['above-people', change({ x: -2.1, y: 1.2, z: 2.7 })],
    ['lopsided', change({ x: 3, aimDeg: 0 })],
    ['narrow-picture', change({ y: -9 })],
    ['clash', change({ x: -2.1, y: 1.4, z: 1.4 })],
    ['proximity', change({ x: -2.1, y: 1.3, z: 1.4 })],
    [
      'mono-loss',
      change({
        z: 1.2,
        x: 0,
        y: 3.2,
        technique: { kind: 'pair', pattern: 0, spacingM: 0, includedAngleDeg: 90 },
      }),
    ],
    [
      'room-balance',
      {
        ...change({ y: -10 }),
        brief: { ...demo.brief, intent: { ...demo.brief.intent, room: 'close' as const } },
      },
    ],
    [
      'mono-comb',
      {
        ...change({
          technique: { kind: 'pair', pattern: 'omni', spacingM: 0.6, includedAngleDeg: 0 },
        }),
        brief: { ...demo.brief, intent: { ...demo.brief.intent, mono: 'must-survive' as const } },
      },
    ],
  ] as const)('%s is found where it was planted, and not in the demo', (code, session) => {
    expect(found(session, code).length).toBeGreaterThan(0);
    if (code !== 'room-balance') expect(found(demo, code)).toEqual([]);
  });

  it('a hole is found between two far groups', () => {
    const sources = [-2, -1.9, 2, 1.9].map((x, i) =>
      newSource({ id: `s${i}`, name: `S${i}`, x, y: 2, z: 1.2 }),
    );
    expect(found({ ...demo, sources }, 'hole')[0]?.figures.largestHolePct).toBeGreaterThan(40);
  });

  it('preferences can be switched off, physics cannot', () => {
    const off = (code: string, session: Session): Session => ({
      ...session,
      settings: { ...session.settings, preferencesOff: [{ code, reason: 'wanted so' }] },
    });
    const narrow = change({ y: -9 });
    expect(found(off('narrow-picture', narrow), 'narrow-picture')).toEqual([]);
    const same = change({
      technique: { kind: 'pair', pattern: 0.5, spacingM: 0, includedAngleDeg: 0 },
    });
    expect(found(off('same-signal', same), 'same-signal')).toHaveLength(1);
  });

  it('every rule has a code of its own and a reason', () => {
    expect(new Set(RULES.map(({ code }) => code)).size).toBe(RULES.length);
    for (const { reason } of RULES) expect(reason.length).toBeGreaterThan(20);
  });
});

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
    const { technique, x, y, z, tiltDeg, measures } = best;
    const built = { ...small, arrays: [{ ...mainOf(small), technique, x, y, z, tiltDeg }] };
    const figures = analyseSession(built).arrays[0];
    const shifts = figures?.sources.map(({ image }) => image?.traded?.shift ?? NaN) ?? [];
    expect(((Math.max(...shifts) - Math.min(...shifts)) / 2) * 100).toBeCloseTo(
      measures.fillPct,
      4,
    );
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

  it('reports progress and can be left at any step', () => {
    const steps = recommendInSteps(small);
    const first = steps.next();
    expect(first.done).toBe(false);
    expect(first.value as number).toBeGreaterThan(0);
    expect(recommend({ ...small, sources: [] }).recommendations).toEqual([]);
  });
});

describe('schools agree on the centre', () => {
  it('whatever the session holds', () => {
    fc.assert(
      fc.property(fc.double({ min: 1, max: 20, noNaN: true }), (y) => {
        const session = { ...demo, sources: [newSource({ id: 'c', x: 0, y })] };
        const [source] = analyseSession(session).arrays[0]?.sources ?? [];
        for (const { id, levelOnly } of SCHOOLS) {
          if (!levelOnly) expect(source?.image?.[id]?.shift).toBeCloseTo(0, 9);
        }
      }),
      { numRuns: 30 },
    );
  });
});
