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
  const omni = { share: 1, towards: 1, weight: 1 };

  it('is 0 dB for an omni at the critical distance and falls 6 dB per doubling', () => {
    expect(directToReverberantDb([{ ...omni, distanceM: 2 }], 1, 2)).toBeCloseTo(0, 10);
    expect(directToReverberantDb([{ ...omni, distanceM: 4 }], 1, 2)).toBeCloseTo(-6.0206, 4);
  });

  it('lets a cardioid stand √3 times as far on its axis', () => {
    const cardioid = { share: 0.5, towards: 1, distanceM: 2 * Math.sqrt(3), weight: 1 };
    expect(directToReverberantDb([cardioid], 1, 2)).toBeCloseTo(0, 10);
  });

  it('sums energy over capsules and refuses none', () => {
    const two = [
      { ...omni, distanceM: 2 },
      { ...omni, distanceM: 2 },
    ];
    expect(directToReverberantDb(two, 1, 2)).toBeCloseTo(0, 10);
    expect(() => directToReverberantDb([], 1, 2)).toThrow('at least one capsule');
  });
});
