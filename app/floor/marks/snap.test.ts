import { describe, expect, it } from 'vitest';
import { snap, type SnapScene } from './snap';

const scene = (change: Partial<SnapScene> = {}): SnapScene => ({
  centre: null,
  others: [{ name: 'Flute', x: -2, y: 3, player: true }],
  units: 'metric',
  ...change,
});

describe('snapping', () => {
  it('prefers the mirror of another player, and says so', () => {
    expect(snap(scene(), 1.97, 3.02, 0.08)).toEqual({ x: 2, y: 3, reasons: ['mirror of Flute'] });
  });

  it('takes angle and distance from the array, each within reach', () => {
    const centre = { x: 0, y: 0, aimDeg: 0 };
    // Flute is √13 = 3.606 m away; the pointer is near 30° and that distance.
    const got = snap(scene({ centre }), 3.606 * Math.sin(0.53), 3.606 * Math.cos(0.53), 0.08);
    expect(got.reasons).toEqual(['as far as Flute', '30°']);
    expect(Math.hypot(got.x, got.y)).toBeCloseTo(Math.sqrt(13), 9);
    expect(got.x / got.y).toBeCloseTo(Math.tan(Math.PI / 6), 9);
  });

  it('falls back on lines and the grid, in feet where those are used', () => {
    expect(snap(scene(), 0.03, 1.02, 0.08)).toEqual({
      x: 0,
      y: 1,
      reasons: ['centre line', 'grid'],
    });
    const feet = snap(scene({ units: 'imperial', others: [] }), 1.2, 5, 0.08);
    expect(feet.x).toBeCloseTo(1.2192, 9);
    expect(feet.y).toBe(5);
  });

  it('leaves alone what is near nothing', () => {
    expect(snap(scene(), 0.73, 1.29, 0.05)).toEqual({ x: 0.73, y: 1.29, reasons: [] });
  });
});
