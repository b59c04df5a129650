import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  levelForAngle,
  MODELS,
  modelById,
  modelsFor,
  shiftsByModel,
  shiftsOf,
  timeForAngle,
} from '.';

const level = fc.double({ min: -40, max: 40, noNaN: true });
const time = fc.double({ min: -4, max: 4, noNaN: true });

describe('every model', () => {
  it.each(MODELS.map((model) => [model.id, model] as const))(
    '%s: the margin says whether the image is as wide as a level',
    (_id, model) => {
      const size = fc.double({ min: 0.05, max: 1, noNaN: true });
      fc.assert(
        fc.property(level, time, size, (db, ms, wanted) => {
          const shift = Math.abs(model.shift(db, ms));
          if (Math.abs(shift - wanted) < 1e-7) return;
          expect(model.margin(db, ms, wanted) >= 0).toBe(shift >= wanted);
        }),
      );
    },
  );

  it.each(MODELS.map((model) => [model.id, model] as const))(
    '%s: odd, bounded, and louder or earlier right never moves the image left',
    (_id, model) => {
      fc.assert(
        fc.property(level, time, fc.double({ min: 0, max: 10, noNaN: true }), (db, ms, more) => {
          const here = model.shift(db, ms);
          expect(Math.abs(here)).toBeLessThanOrEqual(1);
          expect(model.shift(-db, -ms)).toBeCloseTo(-here, 9);
          expect(model.shift(db + more, ms)).toBeGreaterThanOrEqual(here - 1e-8);
          expect(model.shift(db, ms + more / 5)).toBeGreaterThanOrEqual(here - 1e-8);
        }),
      );
    },
  );

  it('is at the centre without a difference', () => {
    for (const model of MODELS) expect(model.shift(0, 0)).toBeCloseTo(0, 12);
  });
});

describe('traded cues near the middle', () => {
  const traded = modelById('traded');
  const small = fc.double({ min: 1e-7, max: 0.3, noNaN: true });

  it('need exactly the angle that is given, however small and however the cues oppose', () => {
    const other = fc.double({ min: -0.95, max: 1, noNaN: true });
    fc.assert(
      fc.property(small, other, (db, part) => {
        const ms = ((db / 15) * part * 1.12) / 2;
        const shift = Math.abs(traded.shift(db, ms));
        if (shift < 1e-9) return;
        const needed = (deg: number): number =>
          db ** 0.83 * levelForAngle(deg) ** -0.83 +
          Math.sign(ms) * Math.abs(ms) ** 0.83 * timeForAngle(deg) ** -0.83;
        expect(needed(30 * shift * (1 - 1e-6))).toBeGreaterThan(1);
        expect(needed(30 * shift * (1 + 1e-6))).toBeLessThan(1);
      }),
      { numRuns: 1000 },
    );
  });
});

describe('consensus', () => {
  const three = (['traded', 'added', 'two-slope'] as const).map(modelById);

  it('is the middle one of the three models of both cues', () => {
    fc.assert(
      fc.property(level, time, (db, ms) => {
        const shifts = three.map(({ shift }) => shift(db, ms)).sort((a, b) => a - b);
        expect(modelById('consensus').shift(db, ms)).toBe(shifts[1]);
      }),
    );
  });

  it('is given with the others at one asking', () => {
    for (const coincident of [false, true]) {
      const models = modelsFor(coincident);
      expect(shiftsOf(coincident, 4.2, 0.1)).toEqual(models.map(({ shift }) => shift(4.2, 0.1)));
      fc.assert(
        fc.property(level, time, (db, ms) => {
          const byName = shiftsByModel(coincident, db, ms, (shift) => [shift]);
          expect(Object.keys(byName)).toEqual(models.map(({ id }) => id));
          for (const { id, shift } of models) expect(byName[id]).toEqual([shift(db, ms)]);
        }),
      );
    }
  });

  it('needs as much time as the second of them, and none where two never get there', () => {
    fc.assert(
      fc.property(level, fc.double({ min: 0.05, max: 1, noNaN: true }), (db, wanted) => {
        const times = three
          .map(({ timeNeeded }) => timeNeeded(db, wanted) ?? Infinity)
          .sort((a, b) => a - b);
        const second = times[1] ?? Infinity;
        const needed = modelById('consensus').timeNeeded(db, wanted);
        expect(needed ?? Infinity).toBe(second);
      }),
    );
  });
});

describe('traded', () => {
  const { shift } = modelById('traded');

  it('passes through the listening data, level alone and time alone', () => {
    for (const [deg, db, ms] of [
      [10, 2.5, 0.2],
      [20, 5.5, 0.44],
      [30, 15, 1.12],
    ] as const) {
      expect(shift(db, 0)).toBeCloseTo(deg / 30, 7);
      expect(shift(0, ms)).toBeCloseTo(deg / 30, 7);
      expect(levelForAngle(deg)).toBeCloseTo(db, 10);
      expect(timeForAngle(deg)).toBeCloseTo(ms, 10);
    }
  });

  it('half of each cue is not yet the whole: the exponent 0.83 makes them help each other', () => {
    // At 20°: 2·(v)^0.83 = 1 gives v = 0.5^(1/0.83).
    const v = 0.5 ** (1 / 0.83);
    expect(shift(v * 5.5, v * 0.44)).toBeCloseTo(20 / 30, 7);
  });

  it('finds on its grid what plain halving of the same equation finds', () => {
    const p = (x: number) => Math.sign(x) * Math.abs(x) ** 0.83;
    const plain = (db: number, ms: number): number => {
      const lean = db / 15 + ms / 1.12;
      const [l, t] = [db * Math.sign(lean), ms * Math.sign(lean)];
      const sum = (deg: number) => p(l / levelForAngle(deg)) + p(t / timeForAngle(deg));
      if (sum(30) >= 1) return Math.sign(lean);
      let [low, high] = [1e-9, 30];
      if (sum(low) <= 1) return 0;
      for (let i = 0; i < 80; i++) {
        const middle = (low + high) / 2;
        if (sum(middle) >= 1) low = middle;
        else high = middle;
      }
      return (Math.sign(lean) * low) / 30;
    };
    fc.assert(
      fc.property(level, time, (db, ms) => {
        expect(shift(db, ms)).toBeCloseTo(plain(db, ms), 8);
        expect(shift(db / 100, ms / 100)).toBeCloseTo(plain(db / 100, ms / 100), 8);
      }),
    );
  });

  it('solves its own equation wherever it is not full', () => {
    const p = (x: number) => Math.sign(x) * Math.abs(x) ** 0.83;
    const positive = fc.double({ min: 0.01, max: 10, noNaN: true });
    fc.assert(
      fc.property(positive, fc.double({ min: 0.001, max: 1, noNaN: true }), (db, ms) => {
        const deg = shift(db, ms) * 30;
        if (deg >= 30) return;
        const sum = p(db / levelForAngle(deg)) + p(ms / timeForAngle(deg));
        expect(sum).toBeCloseTo(1, 6);
      }),
    );
  });
});

describe('added', () => {
  const { shift } = modelById('added');

  it('is 7.5 % per dB and 13 % per 0.1 ms, and full at 18 dB or 1.1 ms', () => {
    expect(shift(4, 0)).toBeCloseTo(0.3, 12);
    expect(shift(0, 0.3)).toBeCloseTo(0.39, 12);
    expect(shift(4, 0.3)).toBeCloseTo(0.69, 12);
    expect(shift(4, -0.3)).toBeCloseTo(-0.09, 12);
    expect(shift(10, 0)).toBeCloseTo(0.75, 12);
    expect(shift(18, 0)).toBe(1);
    expect(shift(17, 0)).toBeLessThan(1);
    expect(shift(0, 1.1)).toBe(1);
  });

  it('goes on with the same slope where the tail begins', () => {
    expect((shift(10.001, 0) - shift(10, 0)) / 0.001).toBeCloseTo(0.075, 4);
  });
});

describe('two-slope', () => {
  const { shift } = modelById('two-slope');

  it('reaches two thirds at half the measure, full at 17 dB or 1 ms', () => {
    expect(shift(8.5, 0)).toBeCloseTo(2 / 3, 12);
    expect(shift(0, 0.5)).toBeCloseTo(2 / 3, 12);
    expect(shift(0, 0.75)).toBeCloseTo(5 / 6, 12);
    expect(shift(17, 0)).toBe(1);
    expect(shift(0, -1)).toBe(-1);
  });
});

describe('tangent', () => {
  it('places a gain ratio of 3 : 1 at atan(tan 30° / 2)', () => {
    const { shift } = modelById('tangent');
    const deg = (Math.atan(Math.tan(Math.PI / 6) / 2) * 180) / Math.PI;
    expect(shift(20 * Math.log10(3), 0) * 30).toBeCloseTo(deg, 9);
    expect(shift(120, 0)).toBeCloseTo(1, 12);
  });

  it('does not speak for arrays with a time difference', () => {
    expect(modelsFor(false).map(({ id }) => id)).toEqual([
      'consensus',
      'traded',
      'added',
      'two-slope',
    ]);
    expect(modelsFor(true)).toHaveLength(5);
  });
});
