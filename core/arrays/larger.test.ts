import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { earlyReflections } from '../acoustics';
import { length, speedOfSound, subtract, vec } from '../units';
import {
  aimOnRow,
  boundaryPair,
  angleToLandOn,
  crossedEquivalent,
  delaysFromCentre,
  departures,
  equalDistancePoints,
  equalLayerM,
  fiveChannel,
  fractionPoints,
  heightSpillDb,
  inequality,
  midSideEquivalent,
  mirroredThroughAnchors,
  mixedPair,
  offsetNotchHz,
  placeCapsules,
  ringWithHeight,
  rotationToMidSide,
  sideGainUnderPanLaw,
  standardNamed,
  standardOf,
  STANDARDS,
  standardTechnique,
  stereoFoldDown,
  threeMicTree,
} from '.';

const c = speedOfSound(20);
const coordinate = fc.double({ min: -10, max: 10, noNaN: true });

describe('mid-side and back', () => {
  it('returns the crossed pair it came from, wherever a mid exists', () => {
    const patternA = fc.double({ min: 0, max: 0.95, noNaN: true });
    fc.assert(
      fc.property(patternA, fc.double({ min: 5, max: 165, noNaN: true }), (a, angle) => {
        const ms = midSideEquivalent(a, angle);
        if (!ms) throw new Error('a mid exists up to 180 degrees');
        const back = crossedEquivalent(ms.midA, ms.sideGainDb);
        expect(back.patternA).toBeCloseTo(a, 9);
        expect(back.includedAngleDeg).toBeCloseTo(angle, 7);
      }),
    );
  });

  it('does not exist behind 180°, for one direction, or for omnis', () => {
    expect(midSideEquivalent(0.5, 200)).toBeNull();
    expect(midSideEquivalent(0.5, 0)).toBeNull();
    expect(midSideEquivalent(1, 90)).toBeNull();
  });

  it('crossed figure-eights turned right: left becomes the mid, right the side with the lobe right', () => {
    expect(rotationToMidSide('right')).toEqual({
      mid: 'left',
      side: 'right',
      sidePositive: 'right',
    });
    expect(rotationToMidSide('left').sidePositive).toBe('left');
    expect(midSideEquivalent(0, 90)?.sideGainDb).toBeCloseTo(0, 9);
  });

  it('the pan law lifts the side against the mid', () => {
    expect(sideGainUnderPanLaw(-6, -3)).toBe(-3);
    expect(() => sideGainUnderPanLaw(0, 1)).toThrow('centrePanDb is 1; allowed: -6 to 0 dB');
  });

  it('capsules 4 cm apart notch at c/(2·h·sin ε)', () => {
    expect(offsetNotchHz(0.04, 30, c)).toBeCloseTo(c / 0.04, 6);
    expect(offsetNotchHz(0.04, 0, c)).toBeNull();
  });
});

describe('named standards', () => {
  it('are found by name and by numbers', () => {
    for (const standard of STANDARDS) {
      expect(standardNamed(`${standard.name} main`)?.name).toBe(standard.name);
      expect(standardOf(standardTechnique(standard))?.name).toBe(standard.name);
    }
    expect(standardNamed('Main pair')).toBeNull();
    expect(standardNamed('Dinner pair')).toBeNull();
  });

  it('say which number departs', () => {
    const ortf = standardNamed('ORTF');
    if (!ortf) throw new Error('known');
    const pair = { kind: 'pair', pattern: 'omni', spacingM: 0.2, includedAngleDeg: 110 } as const;
    expect(departures(ortf, pair)).toEqual(['pattern', 'spacing']);
    expect(departures(ortf, { kind: 'single', pattern: 'omni' })).toEqual(['technique']);
    expect(departures(ortf, { ...pair, pattern: 0.5, spacingM: 0.171 })).toEqual([]);
  });
});

describe('layouts', () => {
  it('a tree: base, depth, and the centre’s lead', () => {
    const tree = threeMicTree(2, 1.5, 'omni');
    expect(tree.capsules.map(({ label, dx, dy }) => [label, dx, dy])).toEqual([
      ['L', -1, 0],
      ['C', 0, 1.5],
      ['R', 1, 0],
    ]);
    expect(delaysFromCentre(tree, c)[1]?.ms).toBeCloseTo(1500 / c, 9);
    expect(stereoFoldDown(tree).map(({ pan }) => pan)).toEqual([-1, 0, 1]);
  });

  it('five channels and up to 7 + 4, symmetric about the centre line', () => {
    const layouts = [
      fiveChannel(1.2, 0.4, 1, 0.6, 'cardioid'),
      ringWithHeight(7, 0.6, 4, 1, 45, 'cardioid'),
      ringWithHeight(4, 0.5, 0, 0, 0, 'omni'),
    ];
    expect(layouts.map(({ capsules }) => capsules.length)).toEqual([5, 11, 4]);
    for (const { capsules } of layouts) {
      expect(capsules.reduce((sum, { dx }) => sum + dx, 0)).toBeCloseTo(0, 9);
      expect(capsules.reduce((sum, { azimuthDeg }) => sum + azimuthDeg, 0)).toBe(0);
    }
    const height = layouts[1]?.capsules[7];
    expect(height).toMatchObject({ label: 'Ltf', dz: 1, elevationDeg: 45 });
    expect(Math.hypot(height?.dx ?? 0, height?.dy ?? 0)).toBeCloseTo(0.6, 9);
  });

  it('a height layer that looks up hears less of the stage in front', () => {
    const of = (upDeg: number) =>
      heightSpillDb(ringWithHeight(5, 0.5, 4, 1, upDeg, 'cardioid'), 0) ?? NaN;
    expect(of(90)).toBeLessThan(of(30));
    // Straight up every height cardioid hears a level source at ½: 4 · ¼ against the ring.
    const ring = [30, 0, 30, 110, 110].map(
      (deg) => (0.5 + 0.5 * Math.cos((deg * Math.PI) / 180)) ** 2,
    );
    expect(of(90)).toBeCloseTo(10 * Math.log10(1 / ring.reduce((a, b) => a + b)), 9);
    expect(heightSpillDb(threeMicTree(1, 1, 'omni'), 0)).toBeNull();
  });

  it('refuse counts that have no loudspeakers', () => {
    const own = ringWithHeight(5, 0.5, 4, 1, 45, 'omni', { pattern: 'cardioid', gainDb: -6 }, -10);
    expect(own.capsules.map(({ pattern }) => pattern)).toEqual([
      ...Array.from({ length: 5 }, () => 'omni'),
      ...Array.from({ length: 4 }, () => 'cardioid'),
    ]);
    expect(own.capsules[0]?.elevationDeg).toBe(-10);
    expect(own.gainsDb?.slice(-1)).toEqual([-6]);
    expect(stereoFoldDown(own).slice(-1)).toEqual([
      { pan: 1, gainDb: -9, polarity: 1, delayMs: 0 },
    ]);
    const even = ringWithHeight(5, 0.5, 4, 1, 45, 'omni', { pattern: 'cardioid', gainDb: 0 }, -10);
    expect((heightSpillDb(own, 0) ?? NaN) - (heightSpillDb(even, 0) ?? NaN)).toBeCloseTo(-6, 9);
    expect(() => ringWithHeight(6, 1, 0, 0, 0, 'omni')).toThrow('count is 6; allowed: 4, 5, 7');
    expect(() => ringWithHeight(5, 1, 3, 1, 0, 'omni')).toThrow('heightCount is 3; allowed: 0, 4');
  });

  it.each([4, 5, 7])('a layer over %i as far up as left and right are apart', (count) => {
    const { capsules } = ringWithHeight(count, 0.5, 4, equalLayerM(count, 0.5), 45, 'cardioid');
    const at = (name: string) => {
      const found = capsules.find(({ label }) => label === name);
      return vec(found?.dx ?? NaN, found?.dy ?? NaN, found?.dz ?? NaN);
    };
    const apart = (a: string, b: string) => length(subtract(at(a), at(b)));
    expect(apart('L', 'Ltf')).toBeCloseTo(apart('L', 'R'), 12);
    // Over four it is a cube: its edge is √2 of the radius.
    if (count === 4) {
      expect(apart('Ltr', 'Ls')).toBeCloseTo(0.5 * Math.SQRT2, 12);
      expect(apart('Ltf', 'Rtf')).toBeCloseTo(0.5 * Math.SQRT2, 12);
    }
    expect(equalLayerM(count, 0)).toBe(0);
    expect(() => equalLayerM(6, 0.5)).toThrow('count is 6');
    expect(() => equalLayerM(count, 5.1)).toThrow('radiusM');
  });

  it('boundary microphones in the floor hear its reflection with the direct sound', () => {
    const technique = { kind: 'custom', ...boundaryPair(2) } as const;
    const [left] = placeCapsules({ x: 0, y: 0, z: 0, aimDeg: 0, tiltDeg: 0, technique });
    if (!left) throw new Error('two are expected');
    const absorption = { left: 0, right: 0, front: 0, back: 0, floor: 0, ceiling: 0 };
    const room = { min: vec(-6, -6, 0), max: vec(6, 12, 7), absorption };
    const floor = earlyReflections(room, vec(1, 4, 1.2), left, c)?.find(
      ({ surfaces }) => surfaces.join() === 'floor',
    );
    expect(floor?.delayMs).toBeCloseTo(0, 9);
    expect(floor?.levelDb).toBeCloseTo(0, 9);
    expect(() => boundaryPair(0)).toThrow('spacingM is 0; allowed: 0.1 to 20 m');
  });

  it('a mixed pair keeps the bar', () => {
    const { capsules } = mixedPair('cardioid', 'omni', 0.3, 60);
    expect(capsules.map(({ dx, azimuthDeg, pattern }) => [dx, azimuthDeg, pattern])).toEqual([
      [-0.15, -30, 'cardioid'],
      [0.15, 30, 'omni'],
    ]);
  });
});

describe('equal distances', () => {
  it('the second position on a line is as far from the anchor as the first', () => {
    const point = fc.record({ x: coordinate, y: coordinate, z: coordinate });
    fc.assert(
      fc.property(point, point, point, point, (anchor, first, from, direction) => {
        if (length(direction) < 0.1) return;
        for (const second of equalDistancePoints(anchor, first, from, direction)) {
          expect(length(subtract(second, anchor))).toBeCloseTo(length(subtract(first, anchor)), 7);
        }
      }),
    );
  });

  it('over and side of a drum 0.9 m away: one point either way along the line', () => {
    const found = equalDistancePoints(
      vec(0, 0, 0.6),
      vec(0, 0.2, 1.45),
      vec(0, 0.1, 0.8),
      vec(1, 0, 0),
    );
    expect(found).toHaveLength(2);
    expect(
      inequality(vec(0, 0, 0.6), vec(0, 0.2, 1.45), found[1] ?? vec(0, 0, 0), c).differenceMm,
    ).toBeCloseTo(0, 6);
    expect(equalDistancePoints(vec(0, 0, 0), vec(1, 0, 0), vec(0, 5, 0), vec(1, 0, 0))).toEqual([]);
  });

  it('a pair mirrored through two anchors is equal for both', () => {
    const point = fc.record({ x: coordinate, y: coordinate, z: coordinate });
    fc.assert(
      fc.property(point, point, point, (first, a, b) => {
        if (Math.hypot(a.x - b.x, a.y - b.y) < 0.1) return;
        const second = mirroredThroughAnchors(first, a, b);
        for (const anchor of [a, b]) {
          expect(inequality(anchor, first, second, c).differenceMm).toBeCloseTo(0, 6);
        }
      }),
    );
  });

  it('an inequality in mm, ms and first notch', () => {
    const found = inequality(vec(0, 0, 0), vec(1, 0, 0), vec(0, 1.1, 0), c);
    expect(found.differenceMm).toBeCloseTo(100, 9);
    expect(found.differenceMs).toBeCloseTo(100 / c, 9);
    expect(found.firstNotchHz).toBeCloseTo(c / 0.2, 6);
  });
});

describe('aim', () => {
  it('an axis at 45° lands on the row where it must', () => {
    const hit = aimOnRow({ x: 0, y: 0 }, { x: 1, y: 1 }, { x: -4, y: 2 }, { x: 4, y: 2 });
    expect(hit?.fraction).toBeCloseTo(0.75, 12);
    expect(hit?.point.x).toBeCloseTo(2, 12);
    expect(aimOnRow({ x: 0, y: 0 }, { x: -1, y: -1 }, { x: -4, y: 2 }, { x: 4, y: 2 })).toBeNull();
    expect(aimOnRow({ x: 0, y: 0 }, { x: 1, y: 0 }, { x: -4, y: 2 }, { x: 4, y: 2 })).toBeNull();
  });

  it('the angle that lands on two points does land there', () => {
    const spacing = fc.double({ min: 0, max: 1, noNaN: true });
    const side = fc.double({ min: 0.5, max: 5, noNaN: true });
    fc.assert(
      fc.property(spacing, side, side, fc.double({ min: 2, max: 8, noNaN: true }), (d, l, r, y) => {
        const [left, right] = [
          { x: -l, y },
          { x: r, y },
        ];
        const { aimDeg, includedAngleDeg } = angleToLandOn({ x: 0, y: 0 }, d, left, right);
        const aim = (aimDeg * Math.PI) / 180;
        for (const [sign, target] of [
          [-1, left],
          [1, right],
        ] as const) {
          const position = {
            x: (sign * Math.cos(aim) * d) / 2,
            y: (-sign * Math.sin(aim) * d) / 2,
          };
          const turn = aim + (sign * includedAngleDeg * Math.PI) / 360;
          const axis = { x: Math.sin(turn), y: Math.cos(turn) };
          const hit = aimOnRow(position, axis, { x: -9, y }, { x: 9, y });
          expect(hit?.point.x).toBeCloseTo(target.x, 6);
        }
      }),
    );
  });

  it('thirds of a row', () => {
    const [third] = fractionPoints(vec(-3, 1, 0), vec(3, 4, 0), [1 / 3, 2 / 3]);
    expect(third?.x).toBeCloseTo(-1, 12);
    expect(third?.y).toBeCloseTo(2, 12);
  });
});
