import { mean } from 'd3-array';
import { describe, expect, it } from 'vitest';
import { makeSignal, whiteNoise } from '../signal/generate';
import { BandMeter } from './bands';
import { decayTimes } from './decay';

const RATE = 48_000;
const plane = (planes: Float32Array[]): Float32Array => planes[0] ?? new Float32Array();

describe('reverberation from a decay', () => {
  it.each([0.4, 1, 2.5])('of %s s within 5 % at 500 Hz and up, noise under it', (rt60S) => {
    const heard = Array.from({ length: 8 }, (_, seed) => {
      const decay = plane(
        makeSignal('decay', { rt60S, seconds: rt60S * 2 + 1, levelDb: -6, seed: seed + 1 }),
      );
      const noise = whiteNoise(decay.length, 99 + seed);
      return decayTimes(
        decay.map((value, i) => value + 10 ** (-72 / 20) * (noise[i] ?? 0)),
        RATE,
      );
    });
    for (const [band, { hz }] of (heard[0] ?? []).entries()) {
      if (hz < 500) continue;
      const of = (kind: 't30' | 't20' | 'edt') => heard.map((list) => list[band]?.[kind]);
      const off = (kind: 't30' | 't20' | 'edt') =>
        Math.abs((mean(of(kind), (time) => time?.seconds) ?? 0) / rt60S - 1);
      expect(off('t30'), `T30 at ${hz} Hz`).toBeLessThan(0.05);
      expect(off('t20'), `T20 at ${hz} Hz`).toBeLessThan(0.05);
      expect(off('edt'), `EDT at ${hz} Hz`).toBeLessThan(0.1);
      // Each by itself lies within a few of its own deviations.
      for (const time of of('t30')) {
        expect(Math.abs((time?.seconds ?? 0) - rt60S)).toBeLessThan(4 * (time?.uncertaintyS ?? 0));
      }
    }
  });

  it('is refused where the noise leaves too little of it', () => {
    const decay = plane(makeSignal('decay', { rt60S: 1, seconds: 3, levelDb: -6 }));
    const noise = whiteNoise(decay.length, 7);
    const heard = decay.map((value, i) => value + 10 ** (-36 / 20) * (noise[i] ?? 0));
    for (const { hz, t30, rangeDb, refused } of decayTimes(heard, RATE)) {
      if (hz < 250) continue;
      expect(rangeDb).toBeLessThan(45);
      expect(t30).toBeNull();
      expect(refused).toContain('45 dB for T30');
    }
    const silent = decayTimes(new Float32Array(RATE), RATE);
    expect(silent.every(({ edt, t20, t30 }) => !edt && !t20 && !t30)).toBe(true);
  });
});

describe('bands of two channels', () => {
  const measured = (planes: Float32Array[], rate = RATE) => {
    const meter = new BandMeter(planes.length, rate);
    const frames = planes[0]?.length ?? 0;
    for (let from = 0; from < frames; from += 5000) {
      const to = Math.min(frames, from + 5000);
      meter.add(
        planes.map((p) => p.subarray(from, to)),
        to - from,
      );
    }
    return meter.result();
  };

  it.each([-0.6, 0, 0.3, 0.9])('find a correlation of %s in every octave', (correlation) => {
    const { correlation: found } = measured(makeSignal('correlated', { correlation, seconds: 20 }));
    for (const { hz, value } of found) {
      expect(Math.abs((value ?? 9) - correlation), `${hz} Hz`).toBeLessThan(hz < 100 ? 0.2 : 0.06);
    }
  });

  it('of identical and inverted channels are +3 dB and nothing in mono', () => {
    for (const { db } of measured(makeSignal('identical')).monoLoss)
      expect(db).toBeCloseTo(3.01, 1);
    for (const { db } of measured(makeSignal('inverted')).monoLoss) expect(db).toBeLessThan(-60);
    // One sample late the top goes: −6 dB where both are 120° apart, a third of the rate.
    const late = measured(makeSignal('one-sample-late')).monoLoss;
    const at16k = late.find(({ hz }) => Math.abs(hz - 16_000) < 900);
    expect(at16k?.db).toBeCloseTo(-3, 0);
  });

  it('tell the level of pink noise alike in every octave, and none of silence', () => {
    const [floor = []] = measured(makeSignal('pink', { levelDb: -20, seconds: 20 })).noiseFloor;
    const levels = floor.filter(({ hz }) => hz >= 125).map(({ db }) => db ?? 0);
    expect(Math.max(...levels) - Math.min(...levels)).toBeLessThan(3);
    expect(measured(makeSignal('silence')).noiseFloor[0]?.every(({ db }) => db === null)).toBe(
      true,
    );
  });
});
