import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { diffuseFieldCorrelation } from '../acoustics/diffuse-field';
import { patternAOf } from '../acoustics/patterns';
import { crossedEquivalent } from '../arrays/mid-side';
import type { ChannelStrip } from '../arrays/routing';
import type { Technique } from '../arrays/technique';
import { prepareArray } from '../localisation/prepared-array';
import { interchannelCorrelation } from './correlation';

const AT = { x: 0, y: 0, z: 2, aimDeg: 0, tiltDeg: 0 };
const SPEED = 343.2;
const of = (technique: Technique, strips: readonly ChannelStrip[] = []) =>
  prepareArray({ ...AT, technique }, strips);
const pair = (pattern: number, spacingM: number, includedAngleDeg: number): Technique => ({
  kind: 'pair',
  pattern,
  spacingM,
  includedAngleDeg,
});
const strip = (pan: number, change: Partial<ChannelStrip> = {}): ChannelStrip => ({
  pan,
  gainDb: 0,
  polarity: 1,
  delayMs: 0,
  ...change,
});

describe('correlation of the two channels in the reverberant field', () => {
  it('has the figures of the literature for plain pairs', () => {
    const spaced = of(pair(1, 0.5, 0));
    expect(interchannelCorrelation(spaced, 125, SPEED)?.real).toBeCloseTo(0.796, 3);
    expect(interchannelCorrelation(spaced, 250, SPEED)?.real).toBeCloseTo(0.329, 3);
    for (const hz of [50, 1000, 8000]) {
      expect(interchannelCorrelation(of(pair(0.5, 0, 90)), hz, SPEED)?.real).toBeCloseTo(0.75, 9);
      expect(interchannelCorrelation(of(pair(0, 0, 90)), hz, SPEED)?.real).toBeCloseTo(0, 9);
    }
  });

  it('of mid-side is that of the crossed pair that it stands for, not that of mid and side', () => {
    for (const midPattern of ['cardioid', 'omni', 'figure-eight'] as const) {
      for (const sideGainDb of [-6, 0, 3]) {
        const technique = {
          kind: 'mid-side',
          midPattern,
          sideGainDb,
          sidePositive: 'left',
        } as const;
        const { patternA, includedAngleDeg } = crossedEquivalent(
          patternAOf(midPattern),
          sideGainDb,
        );
        const crossed = interchannelCorrelation(
          of(pair(patternA, 0, includedAngleDeg)),
          125,
          SPEED,
        );
        const decoded = interchannelCorrelation(of(technique), 125, SPEED);
        expect(decoded?.real).toBeCloseTo(crossed?.real ?? NaN, 9);
      }
    }
    const usual = of({
      kind: 'mid-side',
      midPattern: 'cardioid',
      sideGainDb: -8,
      sidePositive: 'left',
    });
    const [mid, side] = usual.capsules;
    if (!mid || !side) throw new Error('two capsules');
    expect(diffuseFieldCorrelation(mid, side, 125, SPEED).real).toBeCloseTo(0, 9);
    expect(interchannelCorrelation(usual, 125, SPEED)?.real).toBeCloseTo(0.726, 1);
  });

  it('by routes is that of the plain pair, turns its sign with a polarity, is 1 for one signal', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0, max: 1, noNaN: true }),
        fc.double({ min: 0, max: 2, noNaN: true }),
        fc.double({ min: 0, max: 180, noNaN: true }),
        fc.double({ min: 20, max: 8000, noNaN: true }),
        (patternA, spacingM, angleDeg, hz) => {
          const technique = pair(patternA, spacingM, angleDeg);
          const plain = interchannelCorrelation(of(technique), hz, SPEED);
          const routed = interchannelCorrelation(
            of(technique, [strip(-1), strip(1, { gainDb: -7 })]),
            hz,
            SPEED,
          );
          const turned = interchannelCorrelation(
            of(technique, [strip(-1), strip(1, { polarity: -1 })]),
            hz,
            SPEED,
          );
          expect(routed?.real).toBeCloseTo(plain?.real ?? NaN, 9);
          expect(routed?.imaginary).toBeCloseTo(plain?.imaginary ?? NaN, 9);
          expect(turned?.real).toBeCloseTo(-(plain?.real ?? NaN), 9);
          const mono = interchannelCorrelation(of(technique, [strip(0), strip(0)]), hz, SPEED);
          expect(mono === null || Math.abs(mono.real - 1) < 1e-9).toBe(true);
          expect(Math.hypot(routed?.real ?? 0, routed?.imaginary ?? 0)).toBeLessThan(1 + 1e-9);
        },
      ),
      { numRuns: 100 },
    );
  });

  it('turns with a delay between the channels, and is not said of an empty one', () => {
    const same = pair(1, 0, 0);
    const delayed = of(same, [strip(-1), strip(1, { delayMs: 1 })]);
    expect(interchannelCorrelation(delayed, 500, SPEED)?.real).toBeCloseTo(-1, 9);
    expect(interchannelCorrelation(delayed, 250, SPEED)?.real).toBeCloseTo(0, 9);
    expect(interchannelCorrelation(of(same, [strip(-1), strip(-1)]), 500, SPEED)).toBeNull();
  });
});
