import { describe, expect, it } from 'vitest';
import { HandClock } from './hand-clock';

describe('when the hand moved, on the clock of the sound', () => {
  it('is even, though the page says so late and the sound tells its time in steps', () => {
    const clock = new HandClock();
    const told: number[] = [];
    for (let i = 0; i < 120; i++) {
      const movedMs = 1000 + (1000 * i) / 60;
      clock.moved(movedMs);
      const ms = movedMs + 2 + ((i * 7) % 23);
      const soundS = 5 + Math.floor((ms - 1000) / 10) / 100;
      told.push(clock.read(soundS, ms) - 5 - i / 60);
    }
    const later = told.slice(20);
    expect(Math.max(...later) - Math.min(...later)).toBeLessThan(0.005);
    expect(Math.max(...later.map(Math.abs))).toBeLessThan(0.01);
  });

  it('is now, where nothing was moved of late, and goes by the new clock after a stop', () => {
    const clock = new HandClock();
    clock.moved(1000);
    expect(clock.read(3, 1500)).toBeCloseTo(3, 9);
    // It stood still for two seconds.
    clock.restart();
    expect(clock.read(3, 3500)).toBeCloseTo(3, 9);
    clock.moved(3490);
    expect(clock.read(3, 3500)).toBeCloseTo(2.99, 9);
  });

  it('follows a sound that has fallen behind', () => {
    const clock = new HandClock();
    clock.read(3, 1000);
    let last = 0;
    for (let i = 0; i < 400; i++) last = clock.read(2.9 + i / 60, 1000 + (1000 * i) / 60);
    expect(last).toBeCloseTo(2.9 + 399 / 60, 3);
  });
});
