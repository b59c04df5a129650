import { describe, expect, it } from 'vitest';
import {
  angleToLandOn,
  departures,
  heightSpillDb,
  overheadPositions,
  standardNamed,
  STARTING_TECHNIQUES,
} from '.';
import type { MultichannelLayout, OverheadForm } from '.';

describe('what a technique begins with', () => {
  it('is the customary numbers', () => {
    expect(STARTING_TECHNIQUES).toEqual({
      spaced: { kind: 'pair', pattern: 'omni', spacingM: 0.5, includedAngleDeg: 0 },
      coincident: { kind: 'pair', pattern: 'cardioid', spacingM: 0, includedAngleDeg: 90 },
      'near-coincident': {
        kind: 'pair',
        pattern: 'cardioid',
        spacingM: 0.17,
        includedAngleDeg: 110,
      },
      'figure-eights': { kind: 'pair', pattern: 'figure-eight', spacingM: 0, includedAngleDeg: 90 },
      'mid-side': { kind: 'mid-side', midPattern: 'cardioid', sideGainDb: 0, sidePositive: 'left' },
    });
  });
});

describe('a standard', () => {
  const ortf = standardNamed('a pair, ORTF');
  if (!ortf) throw new Error('a standard');
  const off = (spacingM: number, includedAngleDeg: number) =>
    departures(ortf, {
      kind: 'pair',
      pattern: 'cardioid',
      spacingM: 0.17 + spacingM,
      includedAngleDeg: 110 + includedAngleDeg,
    });

  it('is kept to 1.5 mm and half a degree', () => {
    expect(off(0.0014, 0.49)).toEqual([]);
    expect(off(-0.0014, -0.49)).toEqual([]);
    expect(off(0.0016, 0)).toEqual(['spacing']);
    expect(off(0, -0.52)).toEqual(['included angle']);
    expect(departures(ortf, { kind: 'single', pattern: 'omni' })).toEqual(['technique']);
  });
});

describe('overheads', () => {
  const wanted = {
    form: 'mirrored' as OverheadForm,
    anchor: { x: 1, y: 2, z: 0.7 },
    other: null,
    right: 0.6,
    back: 0.3,
    up: 1,
    sideUp: 0.4,
    sideBack: 0.1,
  };

  it('with one anchor are mirrored through the line that runs upstage from it', () => {
    const result = overheadPositions(wanted);
    if (!result.ok) throw new Error(result.message);
    expect(result.value.first).toEqual({ x: 1.6, y: 2.3, z: 1.7 });
    expect(result.value.second.x).toBeCloseTo(0.4, 12);
    expect(result.value.second.y).toBeCloseTo(2.3, 12);
    expect(result.value.second.z).toBeCloseTo(1.7, 12);
  });

  it('over and beside: as far from the anchor, on the other side', () => {
    for (const right of [0.6, -0.6]) {
      const result = overheadPositions({ ...wanted, form: 'over-side', right });
      if (!result.ok) throw new Error(result.message);
      const { first, second } = result.value;
      const away = (p: { x: number; y: number; z: number }) =>
        Math.hypot(p.x - 1, p.y - 2, p.z - 0.7);
      expect(away(second)).toBeCloseTo(away(first), 9);
      expect(Math.sign(second.x - 1)).toBe(-Math.sign(right));
      expect(second.y).toBeCloseTo(2.1, 12);
      expect(second.z).toBeCloseTo(1.1, 12);
    }
  });
});

describe('axes that land on two points', () => {
  it('meet them from the capsules themselves, whatever way the array looks', () => {
    for (const [left, right] of [
      [
        { x: -1, y: 3 },
        { x: 2, y: 2.5 },
      ],
      [
        { x: 2, y: -3 },
        { x: -1, y: -2 },
      ],
      [
        { x: 0.1, y: 4 },
        { x: 0.3, y: 4 },
      ],
    ] as const) {
      const { aimDeg, includedAngleDeg } = angleToLandOn({ x: 0, y: 0 }, 0.3, left, right);
      const turn = (aimDeg * Math.PI) / 180;
      for (const [side, point] of [
        [-1, left],
        [1, right],
      ] as const) {
        const from = { x: side * 0.15 * Math.cos(turn), y: -side * 0.15 * Math.sin(turn) };
        const axis = ((aimDeg + (side * includedAngleDeg) / 2) * Math.PI) / 180;
        const way = { x: point.x - from.x, y: point.y - from.y };
        // Along the axis nothing is left across it.
        expect(way.x * Math.cos(axis) - way.y * Math.sin(axis)).toBeCloseTo(0, 8);
        expect(way.x * Math.sin(axis) + way.y * Math.cos(axis)).toBeGreaterThan(0);
      }
    }
    // Both at one point in front of a pair without spacing: no angle at all.
    expect(angleToLandOn({ x: 0, y: 0 }, 0, { x: 0, y: 2 }, { x: 0, y: 2 })).toEqual({
      aimDeg: 0,
      includedAngleDeg: 0,
    });
  });
});

describe('spill into a height layer', () => {
  const layout = (up: number, dz: number, gainsDb?: number[]): MultichannelLayout => ({
    capsules: [
      ['L', 0, 0],
      ['H', up, dz],
    ].map(([label, elevationDeg, z]) => ({
      label: label as string,
      dx: 0,
      dy: 0,
      dz: z as number,
      azimuthDeg: 0,
      elevationDeg: elevationDeg as number,
      pattern: 'cardioid' as const,
    })),
    loudspeakers: ['L', 'H'],
    ...(gainsDb && { gainsDb }),
  });

  it('is by patterns, directions and levels', () => {
    expect(heightSpillDb(layout(0, 1), 0)).toBeCloseTo(0, 12);
    // A cardioid that looks straight up hears a half of what comes level.
    expect(heightSpillDb(layout(90, 0), 0)).toBeCloseTo(20 * Math.log10(0.5), 9);
    expect(heightSpillDb(layout(90, 1, [0, -6]), 0)).toBeCloseTo(20 * Math.log10(0.5) - 6, 9);
    expect(heightSpillDb(layout(90, 1), 90)).toBeCloseTo(-20 * Math.log10(0.5), 9);
    expect(heightSpillDb(layout(0, 0), 0)).toBeNull();
  });
});
