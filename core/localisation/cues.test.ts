import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Technique } from '../arrays';
import { speedOfSound } from '../units';
import { inPlace } from './recording-angle';
import { cuesFrom, farCues, mixedCues, nearArrivals, nearCues } from './cues';
import { prepareArray } from './prepared-array';
import { placeOf } from './placed';
import { modelById } from './models';

const c = speedOfSound(20);
const at = { x: 0.3, y: -0.4, z: 2.7 };

const technique = fc.record({
  kind: fc.constant('pair' as const),
  pattern: fc.double({ min: 0, max: 1, noNaN: true }),
  spacingM: fc.double({ min: 0, max: 3, noNaN: true }),
  includedAngleDeg: fc.double({ min: 0, max: 180, noNaN: true }),
});
const source = fc.record({
  x: fc.double({ min: -12, max: 12, noNaN: true }),
  y: fc.double({ min: 0.5, max: 20, noNaN: true }),
  z: fc.double({ min: 0, max: 6, noNaN: true }),
});

describe('near cues', () => {
  it('mirror when source and array are mirrored', () => {
    fc.assert(
      fc.property(
        technique,
        source,
        fc.double({ min: -60, max: 60, noNaN: true }),
        (tech, s, aim) => {
          const here = prepareArray({ ...at, aimDeg: aim, tiltDeg: -20, technique: tech });
          const there = prepareArray({
            ...at,
            x: -at.x,
            aimDeg: -aim,
            tiltDeg: -20,
            technique: tech,
          });
          const a = nearCues(here, s, c);
          const b = nearCues(there, { ...s, x: -s.x }, c);
          if (!a || !b) return;
          expect(b.left).toBeCloseTo(a.right, 9);
          expect(b.ictdMs).toBeCloseTo(-a.ictdMs, 9);
          expect(b.antiphase).toBe(a.antiphase);
          expect(modelById('traded').shift(b.icldDb, b.ictdMs)).toBeCloseTo(
            -modelById('traded').shift(a.icldDb, a.ictdMs),
            6,
          );
        },
      ),
    );
  });

  it('do not change when the whole stage is turned or moved', () => {
    const turn = fc.double({ min: -180, max: 180, noNaN: true });
    fc.assert(
      fc.property(
        technique,
        turn,
        fc.double({ min: -80, max: 80, noNaN: true }),
        (tech, aim, theta) => {
          const straight = prepareArray({
            x: 0,
            y: 0,
            z: 2,
            aimDeg: 0,
            tiltDeg: -10,
            technique: tech,
          });
          const turned = prepareArray({
            x: 7,
            y: -3,
            z: 2,
            aimDeg: aim,
            tiltDeg: -10,
            technique: tech,
          });
          const a = inPlace(straight, 4, 1.2, c)(theta);
          const b = inPlace(turned, 4, 1.2, c)(theta);
          expect(b?.icldDb).toBeCloseTo(a?.icldDb ?? NaN, 6);
          expect(b?.ictdMs).toBeCloseTo(a?.ictdMs ?? NaN, 9);
        },
      ),
    );
  });

  it('are null within 1 cm of a capsule', () => {
    const array = prepareArray({
      ...at,
      aimDeg: 0,
      tiltDeg: 0,
      technique: { kind: 'pair', pattern: 'omni', spacingM: 0.5, includedAngleDeg: 0 },
    });
    expect(nearCues(array, { x: at.x - 0.25, y: at.y, z: at.z }, c)).toBeNull();
    expect(nearCues(array, { x: at.x - 0.25, y: at.y + 0.009, z: at.z }, c)).toBeNull();
    expect(nearCues(array, { x: at.x - 0.25, y: at.y + 0.011, z: at.z }, c)).not.toBeNull();
  });

  it('follow from path lengths: spaced omnis on one line with the source', () => {
    const omnis: Technique = { kind: 'pair', pattern: 'omni', spacingM: 1, includedAngleDeg: 0 };
    const array = prepareArray({ x: 0, y: 0, z: 0, aimDeg: 0, tiltDeg: 0, technique: omnis });
    const cues = nearCues(array, { x: 2.5, y: 0, z: 0 }, c);
    expect(cues?.icldDb).toBeCloseTo(20 * Math.log10(3 / 2), 9);
    expect(cues?.ictdMs).toBeCloseTo(1000 / c, 9);
  });
});

describe('far cues', () => {
  it('keep the time difference when spacing doubles and the sine halves', () => {
    const spacing = fc.double({ min: 0.05, max: 2, noNaN: true });
    fc.assert(
      fc.property(spacing, fc.double({ min: -1, max: 1, noNaN: true }), (d, sine) => {
        const of = (spacingM: number) =>
          prepareArray({
            ...at,
            aimDeg: 20,
            tiltDeg: 0,
            technique: { kind: 'pair', pattern: 'omni', spacingM, includedAngleDeg: 0 },
          });
        const deg = (s: number) => (Math.asin(s) * 180) / Math.PI;
        const a = farCues(of(d), deg(sine), c).ictdMs;
        expect(a).toBeCloseTo(((d * sine) / c) * 1000, 9);
        expect(farCues(of(2 * d), deg(sine / 2), c).ictdMs).toBeCloseTo(a, 9);
      }),
    );
  });

  it('crossed figure-eights: no stable image from 52° to 128°, behind that reversed and inverted', () => {
    const array = prepareArray({
      ...at,
      aimDeg: 0,
      tiltDeg: 0,
      technique: { kind: 'pair', pattern: 'figure-eight', spacingM: 0, includedAngleDeg: 90 },
    });
    // Beyond the null at 45° the stronger side's image holds until the weaker is within 18 dB.
    expect(farCues(array, 46, c)).toMatchObject({ antiphase: false, inverted: false });
    expect(farCues(array, 52, c).antiphase).toBe(false);
    expect(farCues(array, 52.2, c).antiphase).toBe(true);
    expect(farCues(array, 127.8, c).antiphase).toBe(true);
    const behind = farCues(array, 160, c);
    expect(behind).toMatchObject({ antiphase: false, inverted: true });
    expect(behind.icldDb).toBeLessThan(0);
  });

  it('mid-side with the lobe to the right swaps the channels', () => {
    const of = (sidePositive: 'left' | 'right') =>
      farCues(
        prepareArray({
          ...at,
          aimDeg: 0,
          tiltDeg: 0,
          technique: { kind: 'mid-side', midPattern: 'cardioid', sideGainDb: 0, sidePositive },
        }),
        30,
        c,
      );
    expect(of('left').icldDb).toBeGreaterThan(0);
    expect(of('right').icldDb).toBeCloseTo(-of('left').icldDb, 9);
  });
});

describe('mix estimate', () => {
  it('gives a plain pair exactly what the fast way gives', () => {
    fc.assert(
      fc.property(technique, source, (tech, s) => {
        const array = prepareArray({ ...at, aimDeg: 10, tiltDeg: -20, technique: tech });
        const arrivals = nearArrivals(array, s, c);
        if (!arrivals) return;
        expect(array.plainPair).toBe(true);
        expect(cuesFrom(array, arrivals)).toEqual(mixedCues(array, arrivals));
        expect(nearCues(array, s, c)).toEqual(mixedCues(array, arrivals));
      }),
    );
  });

  it('a channel delay moves the image away from it', () => {
    const omnis: Technique = { kind: 'pair', pattern: 'omni', spacingM: 0.5, includedAngleDeg: 0 };
    const strip = (pan: number, delayMs: number) => ({
      pan,
      gainDb: 0,
      polarity: 1 as const,
      delayMs,
    });
    const array = prepareArray({ ...at, aimDeg: 0, tiltDeg: 0, technique: omnis }, [
      strip(-1, 0.3),
      strip(1, 0),
    ]);
    expect(farCues(array, 0, c).ictdMs).toBeCloseTo(0.3, 9);
    expect(array.coincident).toBe(false);
  });

  it('three capsules: the centre one pulls to the middle, most where it comes first', () => {
    const capsule = (label: string, dx: number, dy: number) => ({
      label,
      dx,
      dy,
      dz: 0,
      azimuthDeg: 0,
      elevationDeg: 0,
      pattern: 'omni' as const,
    });
    const outer = [capsule('L', -0.5, 0), capsule('R', 0.5, 0)];
    const of = (capsules: typeof outer) => {
      const technique = { kind: 'custom', capsules } as const;
      const cues = farCues(prepareArray({ ...at, aimDeg: 0, tiltDeg: 0, technique }), 20, c);
      return { cues, place: placeOf(cues, modelById('consensus')) };
    };
    const two = of(outer);
    expect(two.cues.ictdMs).toBeGreaterThan(0.9);
    // First by more than 1 ms it holds the pair back by 10 dB: 1 to 2 · 0.1 in energy.
    const three = of([...outer, capsule('C', 0, 0.8)]);
    expect(three.place / two.place).toBeCloseTo(0.2 / 1.2, 2);
    // Far behind it comes last: 2 to 0.1.
    const behind = of([...outer, capsule('C', 0, -0.8)]);
    expect(behind.place / two.place).toBeCloseTo(2 / 2.1, 2);
    expect(Math.abs(behind.cues.icldDb)).toBeLessThan(1e-9);
  });

  const tree = (gainDb: number) =>
    prepareArray(
      {
        ...at,
        aimDeg: 0,
        tiltDeg: 0,
        technique: {
          kind: 'custom',
          capsules: [
            [-1, 0],
            [0, 1.5],
            [1, 0],
          ].map(([dx = 0, dy = 0], i) => ({
            label: 'LCR'.charAt(i),
            dx,
            dy,
            dz: 0,
            azimuthDeg: 0,
            elevationDeg: 0,
            pattern: 'omni' as const,
          })),
        },
      },
      [-1, 0, 1].map((pan) => ({
        pan,
        gainDb: pan === 0 ? gainDb : 0,
        polarity: 1 as const,
        delayMs: 0,
      })),
    );

  it('a tree leaves everybody on the own side, whatever the centre’s level', () => {
    const place = fc.record({
      x: fc.double({ min: 0.05, max: 4, noNaN: true }),
      y: fc.double({ min: 1.8, max: 8, noNaN: true }),
      gainDb: fc.double({ min: -30, max: 6, noNaN: true }),
    });
    fc.assert(
      fc.property(place, ({ x, y, gainDb }) => {
        const cues = nearCues(tree(gainDb), { x: at.x + x, y: at.y + y, z: at.z }, c);
        expect(cues?.icldDb).toBeGreaterThan(0);
        expect(cues?.ictdMs).toBeGreaterThanOrEqual(-1e-9);
      }),
    );
  });

  it('a centre that is raised pulls inward by degrees, not at a stroke', () => {
    const player = { x: at.x + 1.5, y: at.y + 3, z: at.z };
    const places = Array.from({ length: 361 }, (_, i) => {
      const cues = nearCues(tree(-30 + i * 0.1), player, c);
      return cues ? placeOf(cues, modelById('consensus')) : NaN;
    });
    expect(places[0]).toBeGreaterThan(0.95);
    expect(places[places.length - 1]).toBeLessThan(0.2);
    const steps = places.slice(1).map((place, i) => (places[i] ?? NaN) - place);
    expect(Math.min(...steps)).toBeGreaterThanOrEqual(0);
    expect(Math.max(...steps)).toBeLessThan(0.01);
  });
});
