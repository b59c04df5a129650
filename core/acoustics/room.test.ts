import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { distance, speedOfSound, vec } from '../units';
import { airAbsorption } from './air-absorption';
import { diffuseFieldCorrelation, type Receiver } from './diffuse-field';
import { monoSum } from './mono';
import { proximityBoostDb } from './proximity';
import { earlyReflections, reflectionPath, type Shoebox } from './reflections';
import {
  eyringTime,
  reverberationTimes,
  sabineTime,
  transitionFrequency,
} from './reverberation-time';
import { monoResponse } from '../fixtures/closed';

const c = speedOfSound(20);

describe('proximity', () => {
  it('is 3 dB where c/(2πfr) is 1 for a figure-eight, and none for an omni', () => {
    const r = 0.5;
    const f = c / (2 * Math.PI * r);
    expect(proximityBoostDb(0, f, r, c)).toBeCloseTo(3.0103, 4);
    expect(proximityBoostDb(1, 50, 0.1, c)).toBe(0);
    // cardioid, 100 Hz, 10 cm: (0.5·343.21/(2π·100·0.1))² = 7.459
    expect(proximityBoostDb(0.5, 100, 0.1, c)).toBeCloseTo(9.273, 2);
  });
});

describe('air', () => {
  it('follows ISO 9613-1 at 20 °C and 50 %', () => {
    // dB/km: 1 kHz 4.7, 4 kHz 29.7 (published tables)
    const dbPerKm = (f: number) => airAbsorption(f, 20, 50) * 10 * Math.LOG10E * 1000;
    expect(dbPerKm(1000)).toBeCloseTo(4.66, 1);
    expect(Math.abs(dbPerKm(4000) - 29.7)).toBeLessThan(0.6);
    expect(Math.abs(dbPerKm(8000) - 105)).toBeLessThan(2);
  });
});

describe('reverberation time', () => {
  const walls = [{ areaM2: 1000, absorption: 0.1 }];

  it('Sabine and Eyring', () => {
    expect(sabineTime(2000, walls, 0)).toBeCloseTo((0.161 * 2000) / 100, 9);
    expect(eyringTime(2000, walls, 0)).toBeCloseTo((0.161 * 2000) / (1000 * 0.1053605), 4);
    expect(sabineTime(2000, walls, 0.003)).toBeCloseTo((0.161 * 2000) / (100 + 24), 9);
    expect(eyringTime(2000, [{ areaM2: 10, absorption: 1 }], 0)).toBe(0);
    expect(sabineTime(2000, [{ areaM2: 10, absorption: 0 }], 0)).toBeNull();
  });

  it('Eyring is shorter than Sabine and meets it for little absorption', () => {
    fc.assert(
      fc.property(fc.double({ min: 0.001, max: 0.95, noNaN: true }), (absorption) => {
        const surfaces = [{ areaM2: 500, absorption }];
        const [s, e] = [sabineTime(900, surfaces, 0) ?? 0, eyringTime(900, surfaces, 0) ?? 0];
        expect(e).toBeLessThan(s);
        if (absorption < 0.01) expect(e / s).toBeGreaterThan(0.994);
      }),
    );
  });

  it('by bands: air shortens the highs', () => {
    const times = reverberationTimes(5000, () => walls, 20, 50);
    expect(times.map(({ frequencyHz }) => frequencyHz)).toEqual([
      125, 250, 500, 1000, 2000, 4000, 8000,
    ]);
    expect(times[6]?.sabineS ?? 0).toBeLessThan(0.7 * (times[0]?.sabineS ?? 0));
  });

  it('names a bad absorption', () => {
    expect(() => sabineTime(100, [{ areaM2: 1, absorption: 1.2 }], 0)).toThrow(
      'absorption is 1.2; allowed: 0 to 1',
    );
  });
});

describe('diffuse-field correlation', () => {
  const at = (x: number, patternA: number, axisDeg: number): Receiver => ({
    position: vec(x, 0, 0),
    axis: vec(Math.sin((axisDeg * Math.PI) / 180), Math.cos((axisDeg * Math.PI) / 180), 0),
    patternA,
  });

  it('spaced omnis follow sinc: 0.796 at 125 Hz and 0.329 at 250 Hz for 50 cm', () => {
    const of = (f: number) => diffuseFieldCorrelation(at(-0.25, 1, 0), at(0.25, 1, 0), f, c);
    expect(of(125).real).toBeCloseTo(0.796, 3);
    expect(of(250).real).toBeCloseTo(0.329, 3);
    expect(of(250).imaginary).toBe(0);
  });

  it('crossed cardioids at 90° give 0.75, crossed figure-eights 0, at every frequency', () => {
    for (const f of [20, 500, 16000]) {
      expect(diffuseFieldCorrelation(at(0, 0.5, -45), at(0, 0.5, 45), f, c).real).toBeCloseTo(
        0.75,
        9,
      );
      expect(diffuseFieldCorrelation(at(0, 0, -45), at(0, 0, 45), f, c).real).toBeCloseTo(0, 9);
    }
  });

  it('is the mean over the sphere of both microphones’ signals', () => {
    const numeric = (a: Receiver, b: Receiver, f: number) => {
      const [rings, steps] = [160, 160];
      const sum = { real: 0, imaginary: 0, ea: 0, eb: 0 };
      for (let i = 0; i < rings; i++) {
        const z = -1 + (2 * (i + 0.5)) / rings;
        const level = Math.sqrt(1 - z * z);
        for (let j = 0; j < steps; j++) {
          const phi = (2 * Math.PI * (j + 0.5)) / steps;
          const n = vec(level * Math.cos(phi), level * Math.sin(phi), z);
          const s = (r: Receiver) =>
            r.patternA + (1 - r.patternA) * (n.x * r.axis.x + n.y * r.axis.y + n.z * r.axis.z);
          const phase = ((2 * Math.PI * f) / c) * (n.x * (b.position.x - a.position.x));
          sum.real += s(a) * s(b) * Math.cos(phase);
          sum.imaginary += s(a) * s(b) * Math.sin(phase);
          sum.ea += s(a) ** 2;
          sum.eb += s(b) ** 2;
        }
      }
      const norm = Math.sqrt(sum.ea * sum.eb);
      return { real: sum.real / norm, imaginary: sum.imaginary / norm };
    };
    const pairs: [Receiver, Receiver][] = [
      [at(-0.085, 0.5, -55), at(0.085, 0.5, 55)],
      [at(-0.3, 0.25, 10), at(0.3, 0.75, 70)],
      [at(-0.1, 0, -45), at(0.2, 1, 0)],
    ];
    for (const [a, b] of pairs) {
      for (const f of [60, 300, 900]) {
        const analytic = diffuseFieldCorrelation(a, b, f, c);
        const summed = numeric(a, b, f);
        expect(analytic.real).toBeCloseTo(summed.real, 3);
        expect(Math.abs(analytic.imaginary)).toBeCloseTo(Math.abs(summed.imaginary), 3);
      }
    }
  });

  it('never exceeds 1, and is smooth where the series takes over', () => {
    const patternA = fc.double({ min: 0, max: 1, noNaN: true });
    const angle = fc.double({ min: -180, max: 180, noNaN: true });
    fc.assert(
      fc.property(
        patternA,
        patternA,
        angle,
        angle,
        fc.double({ min: 1, max: 20000, noNaN: true }),
        (a, b, p, q, f) => {
          const { real, imaginary } = diffuseFieldCorrelation(at(-0.2, a, p), at(0.3, b, q), f, c);
          expect(Math.hypot(real, imaginary)).toBeLessThanOrEqual(1 + 1e-9);
        },
      ),
    );
    const around = (z: number) =>
      diffuseFieldCorrelation(at(-0.5, 0.5, 20), at(0.5, 0.3, -30), (z * c) / (2 * Math.PI), c);
    expect(around(0.0199999).real).toBeCloseTo(around(0.0200001).real, 6);
    expect(around(0.0199999).imaginary).toBeCloseTo(around(0.0200001).imaginary, 6);
  });
});

describe('transition frequency', () => {
  it('is 2000·√(T/V), and refuses what no room is', () => {
    expect(transitionFrequency(2000, 2)).toBeCloseTo(63.2456, 4);
    expect(transitionFrequency(150, 0.6)).toBeCloseTo(126.4911, 4);
    expect(() => transitionFrequency(0, 1)).toThrow('volumeM3');
    expect(() => transitionFrequency(100, 0.05)).toThrow('rt60S');
  });
});

describe('early reflections', () => {
  const room: Shoebox = {
    min: vec(-5, -10, 0),
    max: vec(5, 10, 6),
    absorption: { left: 0, right: 0.5, front: 0, back: 0, floor: 0, ceiling: null },
  };
  const omni: Receiver = { position: vec(0, -4, 2), axis: vec(0, 1, 0), patternA: 1 };
  const source = vec(0, 2, 1);
  const all = earlyReflections(room, source, omni, c) ?? [];
  const over = (...surfaces: string[]) => all.find((r) => r.surfaces.join() === surfaces.join());

  it('the floor: path by Pythagoras, notch at 1/(2τ)', () => {
    const path = Math.hypot(6, 3);
    const direct = Math.hypot(6, 1);
    const floor = over('floor');
    expect(floor?.pathM).toBeCloseTo(path, 9);
    expect(floor?.delayMs).toBeCloseTo(((path - direct) / c) * 1000, 9);
    expect(floor?.levelDb).toBeCloseTo(20 * Math.log10(direct / path), 9);
    expect(floor?.firstNotchHz).toBeCloseTo(c / (2 * (path - direct)), 6);
  });

  it('has 6 of first and 18 of second order, earliest first, each image once', () => {
    expect(all.filter(({ surfaces }) => surfaces.length === 1)).toHaveLength(6);
    expect(all.filter(({ surfaces }) => surfaces.length === 2)).toHaveLength(18);
    const key = all.map(
      ({ image }) => `${image.x.toFixed(6)} ${image.y.toFixed(6)} ${image.z.toFixed(6)}`,
    );
    expect(new Set(key).size).toBe(24);
    for (let i = 1; i < all.length; i++) {
      expect(all[i]?.delayMs ?? 0).toBeGreaterThanOrEqual(all[i - 1]?.delayMs ?? 0);
    }
  });

  it('takes known absorption off, and says at most where it is not known', () => {
    const [left, right] = [over('left'), over('right')];
    expect(right?.levelDb).toBeCloseTo((left?.levelDb ?? 0) - 3.0103, 3);
    expect(right?.atMost).toBe(false);
    expect(over('ceiling')?.atMost).toBe(true);
  });

  it('a pattern’s null takes a reflection out', () => {
    // Figure-eight looking up the hall: sideways walls arrive obliquely, the floor image stays.
    const eight: Receiver = { ...omni, axis: vec(1, 0, 0), patternA: 0 };
    const floor = earlyReflections(room, source, eight, c)?.find(
      (r) => r.surfaces.join() === 'floor',
    );
    const card: Receiver = { position: omni.position, axis: vec(0, -1, 0), patternA: 0.5 };
    const back = earlyReflections(room, source, card, c)?.find(
      (r) => r.surfaces.join() === 'front',
    );
    // The direct sound lies in the null: it counts as 25 dB down, as a real one leaves it.
    expect(back?.levelDb).toBeGreaterThan(5);
    expect(back?.levelDb).toBeLessThan(25);
    expect(back?.directGain).toBeCloseTo(0.0562 / distance(source, omni.position), 4);
    expect(floor?.levelDb).toBeLessThanOrEqual(0);
  });

  it('is null outside the room', () => {
    expect(earlyReflections(room, vec(6, 0, 1), omni, c)).toBeNull();
  });
});

describe('mono response', () => {
  it('averages to the sum level and dips around the notch', () => {
    const bands = monoResponse(1, 0.9, 0.5);
    const mean = bands.reduce((sum, { levelDb }) => sum + 10 ** (levelDb / 10), 0) / bands.length;
    expect(10 * Math.log10(mean)).toBeCloseTo(monoSum(1, 0.9, 0.5).sumDb, 9);
    const at1k = bands.find(({ frequencyHz }) => Math.abs(frequencyHz - 1000) < 1);
    expect(at1k?.levelDb).toBeLessThan(-10);
    expect(bands).toHaveLength(21);
  });
});

describe('the way of a reflection', () => {
  const absorption = { left: 0, right: 0, front: 0, back: 0, floor: 0, ceiling: 0 };
  const room: Shoebox = { min: vec(-5, -10, 0), max: vec(6, 8, 7), absorption };

  it('is as long as from its image, corner by corner on its walls', () => {
    const source = vec(1, 3, 1.2);
    const position = vec(-2, -1, 2.7);
    const receiver = { position, axis: vec(0, 1, 0), patternA: 1 };
    const all = earlyReflections(room, source, receiver, c) ?? [];
    expect(all.length).toBeGreaterThan(20);
    for (const { surfaces, pathM } of all) {
      const path = reflectionPath(room, source, position, surfaces);
      expect(path).toHaveLength(surfaces.length + 2);
      const run = path
        .slice(1)
        .reduce((total, point, i) => total + distance(path[i] ?? point, point), 0);
      expect(run, surfaces.join()).toBeCloseTo(pathM, 9);
    }
    const [, corner] = reflectionPath(room, vec(0, 0, 1), vec(0, 4, 1), ['left']);
    expect(corner).toEqual(vec(-5, 2, 1));
    expect(reflectionPath(room, source, position, [])).toEqual([source, position]);
  });
});
