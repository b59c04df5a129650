import { expect, it } from 'vitest';
import { soundOf } from '../fixtures/made';
import { makeSignal } from '../signal/generate';
import { octaveTimes, venueTimes } from './room';
import { measureTake } from './take';

const read = async (rt60S: number, noiseDb = -120) => {
  const planes = makeSignal('decay', { sampleRateHz: 48_000, seconds: 6, rt60S, noiseDb });
  const { decay } = await measureTake(await soundOf(planes, 48_000), { what: ['decay'] });
  return octaveTimes(decay?.[0] ?? []);
};

it.each([0.6, 1.8])('a decay of %s s is that by octave, as surely as it says', async (rt60S) => {
  const times = (await read(rt60S)).filter(({ hz }) => hz >= 125 && hz <= 4000);
  expect(times).toHaveLength(6);
  for (const { time, of } of times) {
    expect(of).toBe('T30');
    const off = Math.abs((time?.seconds ?? NaN) - rt60S);
    expect(off).toBeLessThan(3 * (time?.uncertaintyS ?? 0));
  }
  const mean = times.reduce((sum, { time }) => sum + (time?.seconds ?? NaN), 0) / times.length;
  expect(Math.abs(mean / rt60S - 1)).toBeLessThan(0.05);
});

it('in noise it is refused with the range that there is, and the venue takes nothing', async () => {
  const times = await read(1.8, -20);
  expect(venueTimes(times)).toBeNull();
  for (const { time, refused } of times) {
    expect(time).toBeNull();
    expect(refused).not.toBe('');
  }
});

it('takes T30 before T20, and leaves out what no venue may have', () => {
  const octave = { rangeDb: 60, events: 1, twoSlopes: null, refused: '', edt: null };
  const time = (seconds: number) => ({ seconds, uncertaintyS: 0.02 });
  const times = octaveTimes([
    { ...octave, hz: 500, t20: time(1.5), t30: time(1.6) },
    { ...octave, hz: 1000, t20: time(1.444), t30: null },
    { ...octave, hz: 2000, t20: time(12.5), t30: null },
    { ...octave, hz: 4000, t20: null, t30: null },
  ]);
  expect(times.map(({ of }) => of)).toEqual(['T30', 'T20', 'T20', null]);
  expect(venueTimes(times)).toEqual({ '500': 1.6, '1000': 1.44 });
  expect(venueTimes([])).toBeNull();
});
