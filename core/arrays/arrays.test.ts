import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { sensitivity } from '../acoustics';
import { cosDeg, dot, length, subtract } from '../units';
import { placeCapsules } from './capsules';
import { arrayFrame } from './frame';
import { crossedEquivalent } from './mid-side';
import { panGains, routes, usualPans } from './routing';
import { STARTING_TECHNIQUES, techniqueName, type Technique } from './technique';

const pair: Technique = {
  kind: 'pair',
  pattern: 'cardioid',
  spacingM: 0.17,
  includedAngleDeg: 110,
};

describe('frame', () => {
  it('looks along +y with right along +x', () => {
    const { right, forward, up } = arrayFrame(0, 0);
    expect(right).toEqual({ x: 1, y: -0, z: 0 });
    expect(forward.y).toBe(1);
    expect(up.z).toBe(1);
  });

  it('at −90° looks down, while the aim still turns right', () => {
    const { right, forward } = arrayFrame(90, -90);
    expect(forward.z).toBe(-1);
    expect(right.y).toBe(-1);
  });

  it('is orthonormal with a level right vector at any aim and tilt', () => {
    const angle = fc.double({ min: -360, max: 360, noNaN: true });
    const tilt = fc.double({ min: -90, max: 90, noNaN: true });
    fc.assert(
      fc.property(angle, tilt, (aim, elevation) => {
        const { right, forward, up } = arrayFrame(aim, elevation);
        expect(right.z).toBe(0);
        for (const [a, b] of [
          [right, forward],
          [forward, up],
          [up, right],
        ] as const) {
          expect(dot(a, b)).toBeCloseTo(0, 12);
        }
        for (const v of [right, forward, up]) expect(length(v)).toBeCloseTo(1, 12);
      }),
    );
  });
});

describe('capsules', () => {
  it('puts the left one at −spacing/2, turned half the angle to the left', () => {
    const [left, right] = placeCapsules({
      x: 1,
      y: 2,
      z: 3,
      aimDeg: 0,
      tiltDeg: 0,
      technique: pair,
    });
    expect(left?.position).toEqual({ x: 0.915, y: 2, z: 3 });
    expect(right?.position.x).toBeCloseTo(1.085, 12);
    expect(left?.axis.x).toBeCloseTo(-Math.sin((55 * Math.PI) / 180), 12);
    expect(left?.axis.y).toBeCloseTo(Math.cos((55 * Math.PI) / 180), 12);
  });

  it('tilts both axes with the aim and keeps spacing and included angle', () => {
    const capsules = placeCapsules({ x: 0, y: 0, z: 3, aimDeg: 33, tiltDeg: -40, technique: pair });
    const [left, right] = capsules;
    if (!left || !right) throw new Error('two capsules expected');
    expect(length(subtract(left.position, right.position))).toBeCloseTo(0.17, 12);
    expect(dot(left.axis, right.axis)).toBeCloseTo(cosDeg(110), 12);
    expect(left.position.z).toBeCloseTo(3, 12);
    expect(left.axis.z).toBeCloseTo(Math.sin((-40 * Math.PI) / 180) * cosDeg(55), 12);
  });

  it('keeps a custom capsule in the array’s own frame', () => {
    const technique: Technique = {
      kind: 'custom',
      capsules: [
        { label: 'C', dx: 0, dy: 0.5, dz: 0.2, azimuthDeg: 0, elevationDeg: 0, pattern: 'omni' },
      ],
    };
    const [capsule] = placeCapsules({ x: 0, y: 0, z: 2, aimDeg: 90, tiltDeg: -90, technique });
    // Looking straight down at aim 90: forward is down, the array's up is the old forward (+x).
    expect(capsule?.position.z).toBeCloseTo(1.5, 12);
    expect(capsule?.position.x).toBeCloseTo(0.2, 12);
  });
});

describe('mid-side', () => {
  it.each([
    [0, 0, 0, 90],
    [0.5, 0, 0.309, 126.9],
    [0.5, -6, 0.414, 90.1],
    [1, 0, 0.5, 180],
  ])('mid A %d, side %d dB', (mid, side, patternA, angle) => {
    const crossed = crossedEquivalent(mid, side);
    expect(crossed.patternA).toBeCloseTo(patternA, 3);
    expect(crossed.includedAngleDeg).toBeCloseTo(angle, 1);
  });

  it('decodes to its crossed pair at every angle', () => {
    const azimuth = fc.double({ min: -180, max: 180, noNaN: true });
    const mid = fc.double({ min: 0, max: 1, noNaN: true });
    const side = fc.double({ min: -20, max: 12, noNaN: true });
    fc.assert(
      fc.property(azimuth, mid, side, (theta, patternA, sideDb) => {
        const g = 10 ** (sideDb / 20);
        const left = sensitivity(patternA, cosDeg(theta)) + g * cosDeg(theta + 90);
        const crossed = crossedEquivalent(patternA, sideDb);
        const off = theta + crossed.includedAngleDeg / 2;
        expect(left).toBeCloseTo(crossed.gain * sensitivity(crossed.patternA, cosDeg(off)), 9);
      }),
    );
  });
});

describe('techniques and routes', () => {
  it('names a pair by its numbers', () => {
    for (const [name, technique] of Object.entries(STARTING_TECHNIQUES)) {
      expect(techniqueName(technique)).toBe(name);
    }
  });

  it('sends a pair hard left and right also when both capsules patternA a point', () => {
    expect(usualPans({ ...pair, spacingM: 0, includedAngleDeg: 0 })).toEqual([-1, 1]);
    expect(routes(pair, [])).toEqual([
      { left: 1, right: 0, delayMs: 0 },
      { left: 0, right: 1, delayMs: 0 },
    ]);
  });

  it('pans with constant power', () => {
    for (const pan of [-1, -0.4, 0, 0.7, 1]) {
      const { left, right } = panGains(pan);
      expect(left ** 2 + right ** 2).toBeCloseTo(1, 12);
    }
    expect(panGains(0).left).toBeCloseTo(Math.SQRT1_2, 12);
  });

  it('decodes mid-side as M + S and M − S with the side’s gain and the strips', () => {
    const technique: Technique = {
      kind: 'mid-side',
      midPattern: 'omni',
      sideGainDb: -6,
      sidePositive: 'left',
    };
    const strips = [
      { pan: 0, gainDb: 0, polarity: 1 as const, delayMs: 0 },
      { pan: 0, gainDb: 6, polarity: -1 as const, delayMs: 0 },
    ];
    const [mid, side] = routes(technique, strips);
    expect(mid).toEqual({ left: 1, right: 1, delayMs: 0 });
    expect(side?.left).toBeCloseTo(-1, 12);
    expect(side?.right).toBeCloseTo(1, 12);
  });
});
