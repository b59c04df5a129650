import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { about, moved, secondsOf, within, zoomed } from './view';

describe('what of a recording is seen', () => {
  const frames = fc.integer({ min: 1, max: 2 ** 31 });
  const place = fc.double({ min: -1e6, max: 1e9, noNaN: true });

  it('always lies within it, whatever one turns, pulls or leads to', () => {
    fc.assert(
      fc.property(
        frames,
        place,
        place,
        fc.double({ min: 0.01, max: 100, noNaN: true }),
        (all, a, b, by) => {
          const start = within({ from: Math.min(a, b), to: Math.max(a, b) }, all);
          for (const view of [
            start,
            zoomed(start, a, by, all),
            moved(start, by - 1, all),
            about(start, all),
          ]) {
            expect(view.from).toBeGreaterThanOrEqual(0);
            expect(view.to).toBeLessThanOrEqual(all * (1 + 1e-12) + 1e-6);
            expect(view.to - view.from).toBeGreaterThan(Math.min(31, all - 1));
          }
        },
      ),
    );
  });

  it('holds the place under the pointer while one zooms, and does not wander at its limits', () => {
    const view = { from: 1000, to: 9000 };
    const nearer = zoomed(view, 3000, 0.5, 100_000);
    expect(nearer).toEqual({ from: 2000, to: 6000 });
    expect((3000 - nearer.from) / (nearer.to - nearer.from)).toBeCloseTo(0.25, 12);
    const whole = { from: 0, to: 100_000 };
    expect(zoomed(whole, 70_000, 2, 100_000)).toEqual(whole);
    const least = zoomed({ from: 500, to: 532 }, 510, 0.5, 100_000);
    expect(least).toEqual({ from: 500, to: 532 });
  });
});

it.each([
  ['62.5', 62.5],
  ['1:02.5', 62.5],
  ['1:02,5 s', 62.5],
  ['1:00:02', 3602],
  ['0', 0],
  ['', null],
  ['-1', null],
  ['1:2:3:4', null],
  ['ten', null],
])('%j is %s s', (text, seconds) => {
  expect(secondsOf(text)).toBe(seconds);
});
