import { describe, expect, it } from 'vitest';
import { criticalDistance, directToReverberantDb } from './reverberant-field';

describe('critical distance', () => {
  it('is 0.057·√(QV/T)', () => {
    expect(criticalDistance(1, 2000, 1.6)).toBeCloseTo(2.0153, 3);
    expect(criticalDistance(4, 2000, 1.6)).toBeCloseTo(2 * 2.0153, 3);
  });

  it('refuses a reverberation time outside its range', () => {
    expect(() => criticalDistance(1, 2000, 0.05)).toThrow('rt60S is 0.05; allowed: 0.1 to 12 s');
  });
});

describe('direct-to-reverberant ratio', () => {
  const omnisAt = (...distances: number[]) =>
    directToReverberantDb(
      distances.map((r) => ({ gain: 1 / r })),
      distances.map(() => 1),
      distances.map(() => 1),
      1,
      2,
    );

  it('is 0 dB for an omni at the critical distance and falls 6 dB per doubling', () => {
    expect(omnisAt(2)).toBeCloseTo(0, 10);
    expect(omnisAt(4)).toBeCloseTo(-6.0206, 4);
  });

  it('lets a cardioid stand √3 times as far on its axis', () => {
    const arrivals = [{ gain: 1 / (2 * Math.sqrt(3)) }];
    expect(directToReverberantDb(arrivals, [1], [1 / 3], 1, 2)).toBeCloseTo(0, 10);
  });

  it('sums energy over capsules by weight and refuses none', () => {
    expect(omnisAt(2, 2)).toBeCloseTo(0, 10);
    expect(directToReverberantDb([{ gain: 1 }, { gain: 9 }], [1, 0], [1, 1], 1, 1)).toBeCloseTo(
      0,
      10,
    );
    expect(() => omnisAt()).toThrow('at least one capsule');
  });
});
