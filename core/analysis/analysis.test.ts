import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { newArray, newSource, sessionFrom, type Session } from '../session';
import { demoSession } from '../demo';
import { analyseSession, arrayFigures, contextOf, createAnalyser, midReverberationTime } from '.';

const NOW = '2026-11-23T12:00:00.000Z';

function sessionWith(change: Partial<Session>): Session {
  return {
    ...sessionFrom({ arrays: [{ id: 'main', name: 'Main pair', x: 0, y: 0, z: 2 }] }),
    ...change,
  };
}

const main = (session: Session) => {
  const [figures] = analyseSession(session).arrays;
  if (!figures) throw new Error('one array expected');
  return figures;
};

const blumlein = { kind: 'pair', pattern: 0, spacingM: 0, includedAngleDeg: 90 } as const;

describe('figures of a source', () => {
  it('measures distance, plan distance, azimuth and elevation from the array’s centre', () => {
    const session = sessionWith({ sources: [newSource({ id: 'a', x: 3, y: 4, z: 2 })] });
    const [source] = main(session).sources;
    expect(source?.distanceM).toBeCloseTo(5, 12);
    expect(source?.azimuthDeg).toBeCloseTo(36.8699, 4);
    expect(source?.elevationDeg).toBeCloseTo(0, 12);
  });

  it('takes the azimuth from the aim', () => {
    const session = sessionWith({
      sources: [newSource({ id: 'a', x: 3, y: 0, z: 0 })],
      arrays: [newArray({ id: 'm', aimDeg: 60, z: 4 })],
    });
    const [source] = main(session).sources;
    expect(source?.azimuthDeg).toBeCloseTo(30, 12);
    expect(source?.elevationDeg).toBeCloseTo(-53.1301, 4);
  });

  it('images both edges of a wide source, left before right whichever way it faces', () => {
    for (const facingDeg of [180, 0]) {
      const session = sessionWith({
        sources: [newSource({ id: 'a', x: 1, y: 5, z: 2, widthM: 2, facingDeg })],
      });
      const place = main(session).sources[0]?.image?.traded;
      if (!place) throw new Error('an image is expected');
      expect(place.left).toBeCloseTo(0, 3);
      expect(place.shift).toBeGreaterThan(place.left);
      expect(place.right).toBeGreaterThan(place.shift);
    }
  });

  it('gives no image in antiphase, and says reversed behind crossed figure-eights', () => {
    const session = sessionWith({
      arrays: [newArray({ id: 'm', z: 1.2, technique: blumlein })],
      sources: [
        newSource({ id: 'front', x: 1, y: 4 }),
        newSource({ id: 'side', x: 4, y: 0.5 }),
        newSource({ id: 'behind', x: 1, y: -4, facingDeg: 0 }),
      ],
    });
    const [front, side, behind] = main(session).sources;
    expect(front).toMatchObject({ antiphase: false, reversed: false });
    expect(side).toMatchObject({ antiphase: true, image: null });
    expect(side?.mono?.sumDb).toBeLessThan(-1);
    expect(behind).toMatchObject({ antiphase: false, reversed: true });
    expect(behind?.image?.traded?.shift).toBeLessThan(0);
    const codes = analyseSession(session).findings.map(({ code }) => code);
    expect(codes.slice(0, 2)).toEqual(['antiphase', 'reversed']);
  });

  it('refuses figures at a capsule instead of giving infinite ones', () => {
    const session = sessionWith({ sources: [newSource({ id: 'a', x: 0.085, y: 0, z: 2 })] });
    expect(main(session).sources[0]).toMatchObject({
      atCapsule: true,
      icldDb: null,
      ictdMs: null,
      image: null,
      mono: null,
    });
    expect(analyseSession(session).findings[0]?.code).toBe('at-capsule');
  });

  it('needs the room for the direct-to-reverberant ratio', () => {
    const sources = [newSource({ id: 'a', x: 0, y: 3, z: 2 })];
    expect(main(sessionWith({ sources })).sources[0]?.directToReverberantDb).toBeNull();
    const omnis = newArray({
      id: 'm',
      z: 2,
      technique: { kind: 'pair', pattern: 'omni', spacingM: 0, includedAngleDeg: 0 },
    });
    const session = sessionWith({ sources, arrays: [omnis] });
    const venue = { ...session.venue, widthM: 10, depthM: 20, heightM: 10, rt60S: 2 };
    // Omni at 3 m, critical distance 0.057·√(2000/2): 20·lg(1.8025/3).
    expect(main({ ...session, venue }).sources[0]?.directToReverberantDb).toBeCloseTo(-4.425, 3);
  });
});

describe('figures of an array', () => {
  it('the ensemble’s angle spans the edges, also across the back', () => {
    const around = [170, -170, 150].map((deg, i) =>
      newSource({
        id: `s${i}`,
        x: 3 * Math.sin((deg * Math.PI) / 180),
        y: 3 * Math.cos((deg * Math.PI) / 180),
      }),
    );
    expect(main(sessionWith({ sources: around })).ensemble?.angleDeg).toBeCloseTo(40, 9);
    const wide = [newSource({ id: 'w', x: 0, y: 2, widthM: 4, facingDeg: 180 })];
    expect(main(sessionWith({ sources: wide })).ensemble?.angleDeg).toBeCloseTo(90, 9);
  });

  it('without sources there is no ensemble, no stage and no in-place angle, but a far-field one', () => {
    const figures = main(sessionWith({}));
    expect(figures).toMatchObject({ ensemble: null, inPlace: null, stage: {} });
    expect(figures.farField.traded?.halfDeg).toBeCloseTo(47.8, 1);
  });

  it('says which players lie outside the recording angle and by how much', () => {
    const session = sessionWith({
      sources: [
        ...[-2, -1, 0.5].map((x) => newSource({ id: `in${x}`, name: `In ${x}`, x, y: 4, z: 2 })),
        newSource({ id: 'out', name: 'Out', x: 5, y: 2, z: 2 }),
      ],
    });
    const { findings, arrays } = analyseSession(session);
    const half = arrays[0]?.inPlace?.traded?.halfDeg ?? NaN;
    const outside = findings.filter(({ code }) => code === 'outside-recording-angle');
    expect(outside).toHaveLength(1);
    expect(outside[0]).toMatchObject({ sourceIds: ['out'], basis: 'physics' });
    expect(outside[0]?.figures.overDeg).toBeCloseTo(68.1986 - half, 3);
  });

  it('warns of two capsules that hear the same', () => {
    const same = { kind: 'pair', pattern: 'omni', spacingM: 0, includedAngleDeg: 0 } as const;
    const session = sessionWith({ arrays: [newArray({ id: 'm', technique: same })] });
    expect(analyseSession(session).findings[0]).toMatchObject({
      code: 'same-signal',
      severity: 'fault',
    });
  });

  it('holds nothing but finite numbers and null, whatever valid session comes in', () => {
    const coordinate = fc.double({ min: -20, max: 20, noNaN: true });
    const source = fc.record({
      x: coordinate,
      y: coordinate,
      z: coordinate,
      widthM: fc.double({ min: 0, max: 9, noNaN: true }),
    });
    const technique = fc.oneof(
      fc.record({
        kind: fc.constant('pair'),
        pattern: fc.double({ min: 0, max: 1, noNaN: true }),
        spacingM: fc.double({ min: 0, max: 4, noNaN: true }),
        includedAngleDeg: fc.double({ min: 0, max: 360, noNaN: true }),
      }),
      fc.record({
        kind: fc.constant('mid-side'),
        midPattern: fc.constantFrom('omni', 'cardioid', 'figure-eight'),
        sideGainDb: fc.double({ min: -60, max: 24, noNaN: true }),
      }),
      fc.constant({ kind: 'single', pattern: 'omni' }),
    );
    const finite = (value: unknown): void => {
      if (typeof value === 'number') expect(Number.isFinite(value)).toBe(true);
      else if (value && typeof value === 'object') Object.values(value).forEach(finite);
    };
    fc.assert(
      fc.property(
        fc.array(source, { maxLength: 5 }),
        technique,
        fc.double({ min: -90, max: 90, noNaN: true }),
        (sources, tech, tiltDeg) => {
          const session = sessionFrom({ sources, arrays: [{ tiltDeg, technique: tech }] });
          finite(analyseSession(session));
        },
      ),
      { numRuns: 120 },
    );
  });
});

describe('analyser', () => {
  it('gives what a fresh computation gives, and computes one source when one moved', () => {
    const session = demoSession(NOW);
    const [array] = session.arrays;
    if (!array) throw new Error('the demo has an array');
    const analyser = createAnalyser();
    const fresh = () => arrayFigures(array, session.sources, contextOf(session));
    expect(analyser.array(session, array)).toEqual(fresh());
    expect(analyser.recomputed()).toBe(9);

    const moved: Session = {
      ...session,
      sources: session.sources.map((s, i) => (i === 3 ? { ...s, x: s.x - 0.5 } : s)),
    };
    const again = analyser.array(moved, array);
    expect(analyser.recomputed()).toBe(1);
    expect(again).toEqual(arrayFigures(array, moved.sources, contextOf(moved)));

    const warmer = { ...moved, venue: { ...moved.venue, temperatureC: 30 } };
    analyser.array(warmer, array);
    expect(analyser.recomputed()).toBe(9);
  });
});

describe('context', () => {
  it('takes 500 Hz and 1 kHz of a reverberation time by bands', () => {
    expect(midReverberationTime({ '125': 3, '500': 2, '1000': 1.8 })).toBeCloseTo(1.9, 12);
    expect(midReverberationTime({ '125': 3 })).toBeNull();
    expect(midReverberationTime(1.4)).toBe(1.4);
  });
});
