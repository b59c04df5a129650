import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { panGains, threeMicTree } from '../arrays';
import { nearCues, prepareArray, modelById, MODELS } from '../localisation';
import { newArray, newSource, sessionFrom, type MicArray, type Session } from '../session';
import { demoSession } from '../demo';
import { speedOfSound } from '../units';
import {
  analyseSession,
  arrivalsOf,
  capsuleFigures,
  bestCentreFill,
  centreFillSweep,
  contextOf,
  distanceSweep,
  heightSweep,
  spillMatrix,
  mixCues,
  movementSensitivity,
  ownedSource,
  panForShift,
  prepareMix,
  reflectionsAt,
  reverberationFromSurfaces,
  rippleDb,
  setUpTolerance,
  roomOf,
  threeToOne,
} from '.';
import { applyFix, mendable, type Finding } from './findings';
import { seededRandom } from '../units/random';

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

describe('arrivals', () => {
  const [flute] = demo.sources;
  if (!flute) throw new Error('the demo has a flute');
  const session = withArrays(spot('f', flute.x, flute.y - 0.5, { z: flute.z }));

  it('puts the spot first, and proposes the delay that puts it with the main pair', () => {
    const { arrivals, proposals } = arrivalsOf(session, flute);
    expect(arrivals.map(({ arrayId }) => arrayId)).toEqual(['f', 'main', 'main']);
    expect(arrivals[0]?.arrivalMs).toBeCloseTo((0.5 / c) * 1000, 9);
    expect(arrivals[0]?.levelDb).toBeCloseTo(flute.levelDb + 20 * Math.log10(1 / 0.5), 9);
    const [proposal] = proposals;
    expect(proposal?.leadsByMs).toBeCloseTo(
      (arrivals[1]?.arrivalMs ?? 0) - (arrivals[0]?.arrivalMs ?? 0),
      9,
    );
    const mix = {
      ...mainOf(session).mix,
      capsules: [{ pan: 0, gainDb: 0, polarity: 1 as const, delayMs: proposal?.delayMs ?? 0 }],
    };
    const delayed = withArrays({ ...spot('f', flute.x, flute.y - 0.5, { z: flute.z }), mix });
    expect(arrivalsOf(delayed, flute).proposals[0]?.leadsByMs).toBeCloseTo(0, 9);
  });

  it('proposes the pan whose level difference gives the main pair’s image', () => {
    const model = modelById('traded');
    for (const shift of [-0.9, -0.3, 0, 0.5]) {
      const { left, right } = panGains(panForShift(model, shift));
      expect(model.shift(20 * Math.log10(right / left), 0)).toBeCloseTo(shift, 5);
    }
    expect(arrivalsOf(session, flute).proposals[0]?.pan ?? 0).toBeLessThan(-0.5);
  });

  it('a fix delays the spot and the finding is gone', () => {
    const [finding] = found(session, 'spot-leads');
    expect(finding?.figures.leadsByMs).toBeGreaterThan(5);
    const fix = finding && mendable(session, finding).fix;
    if (!fix) throw new Error('a fix is expected');
    expect(found(applyFix(session, fix), 'spot-leads')).toEqual([]);
  });

  it('names a loud ambience far back as an echo', () => {
    const far = newArray({
      id: 'amb',
      name: 'Ambience',
      role: 'ambience',
      y: -30,
      z: 3,
      mix: { faderDb: 26, mute: false, capsules: [] },
    });
    const [finding] = found(withArrays(far), 'echo');
    // Wind players: what follows within 80 ms is room to them.
    expect(finding?.figures.afterFirstMs).toBeGreaterThan(80);
    const quiet = { ...far, mix: { ...far.mix, faderDb: -20 } };
    expect(found(withArrays(quiet), 'echo')).toEqual([]);
  });
});

describe('spill and 3 : 1', () => {
  const players = [newSource({ id: 'a', x: -1, y: 2 }), newSource({ id: 'b', x: 1, y: 2 })];
  const session = { ...demo, sources: players, arrays: [spot('1', -1, 1.5), spot('2', 1, 1.5)] };

  it('omnis 0.5 m from players 2 m apart: ratio 4, spill by distance', () => {
    const [pair] = threeToOne(session);
    expect(pair?.ratio).toBeCloseTo(4, 9);
    const spill = 20 * Math.log10(0.5 / Math.hypot(2, 0.5));
    expect(pair?.spillDb).toBeCloseTo(spill, 9);
    expect(pair?.rippleDb).toBeCloseTo(rippleDb(spill), 9);
    const [first] = spillMatrix(session);
    expect(first?.ownSourceId).toBe('a');
    expect(first?.spillDb).toMatchObject({ a: 0 });
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
    expect(roomOf(hall([]))).toMatchObject({
      min: { x: -5, y: -12, z: 0 },
      max: { x: 5, y: 8, z: 8 },
    });
    expect(roomOf(sessionFrom({}))).toBeNull();
    const placeless = sessionFrom({ venue: { widthM: 10, depthM: 20, heightM: 8 } });
    expect(roomOf(placeless)).toBeNull();
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

describe('every capsule and the centre', () => {
  it('a source at each capsule: level, time and room by distance alone for omnis', () => {
    const technique = { kind: 'pair', pattern: 'omni', spacingM: 1, includedAngleDeg: 0 } as const;
    const array = { ...mainOf(demo), technique };
    const [flute] = demo.sources;
    if (!flute) throw new Error('flute');
    const [left, right] = capsuleFigures(prepareArray(array), flute, contextOf(demo)) ?? [];
    const fall = 20 * Math.log10((right?.distanceM ?? 1) / (left?.distanceM ?? 1));
    expect((left?.levelDb ?? 0) - (right?.levelDb ?? 0)).toBeCloseTo(fall, 9);
    expect((left?.directToReverberantDb ?? 0) - (right?.directToReverberantDb ?? 0)).toBeCloseTo(
      fall,
      9,
    );
    expect(left?.arrivalMs).toBeCloseTo(((left?.distanceM ?? 0) / c) * 1000, 9);
  });

  it('a louder centre microphone narrows the picture', () => {
    const { capsules } = threeMicTree(2, 0.8, 'omni');
    const array = { ...mainOf(demo), technique: { kind: 'custom' as const, capsules } };
    const points = centreFillSweep(demo, array, 'C', [-40, -12, -6, 0, 6]);
    const [soft] = points;
    const loud = points[4];
    // What is proposed keeps most of the width, and no other that does has a smaller gap.
    const best = bestCentreFill(points);
    const fullest = Math.max(...points.map(({ imageWidthPct }) => imageWidthPct));
    expect(best?.imageWidthPct).toBeGreaterThanOrEqual(0.75 * fullest);
    for (const point of points.filter(({ imageWidthPct }) => imageWidthPct >= 0.75 * fullest)) {
      expect(point.largestGapPct).toBeGreaterThanOrEqual((best?.largestGapPct ?? 0) - 0.05);
    }
    expect(bestCentreFill([])).toBeNull();
    expect(loud?.imageWidthPct ?? 100).toBeLessThan((soft?.imageWidthPct ?? 0) - 8);
    expect(centreFillSweep(demo, array, 'X', [0])).toEqual([]);
  });

  it('names what is out of range', () => {
    expect(() => movementSensitivity(demo, mainOf(demo), 11)).toThrow(
      'swayM is 11; allowed: 0 to 10 m',
    );
    expect(() => distanceSweep(demo, mainOf(demo), [NaN])).toThrow('distanceM is NaN');
    expect(() => setUpTolerance(demo, mainOf(demo), undefined, 5)).toThrow(
      'draws is 5; allowed: 100 to 100000',
    );
    expect(() => panForShift(modelById('added'), 1.5)).toThrow('shift is 1.5; allowed: -1 to 1');
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
      const shift = source.image?.consensus?.shift ?? NaN;
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

describe('models agree on the centre', () => {
  it('whatever the session holds', () => {
    fc.assert(
      fc.property(fc.double({ min: 1, max: 20, noNaN: true }), (y) => {
        const session = { ...demo, sources: [newSource({ id: 'c', x: 0, y })] };
        const [source] = analyseSession(session).arrays[0]?.sources ?? [];
        for (const { id, levelOnly } of MODELS) {
          if (!levelOnly) expect(source?.image?.[id]?.shift).toBeCloseTo(0, 9);
        }
      }),
      { numRuns: 30 },
    );
  });
});
