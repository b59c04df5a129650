import { mean } from 'd3-array';
import { describe, expect, it } from 'vitest';
import { makeSignal, whiteNoise } from '../signal/generate';
import { BandMeter } from './bands';
import { decayEvents } from './decay-events';
import { decayTimes } from '../fixtures/memory';

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

/** Noise that was on for a while and then decays, over a floor; at a level. */
function interrupted(
  rt60S: number,
  { onS = 3, seed = 1, floorDb = -75, afterS = 1.3 * rt60S + 0.5 } = {},
): Float32Array {
  const noise = whiteNoise(Math.round((onS + afterS) * RATE), seed);
  const floor = whiteNoise(noise.length, seed + 77);
  return noise.map((value, i) => {
    const since = i / RATE - onS;
    return (
      0.3 * value * (since > 0 ? 10 ** ((-3 * since) / rt60S) : 1) +
      10 ** (floorDb / 20) * (floor[i] ?? 0)
    );
  });
}

const joinedUp = (parts: readonly Float32Array[]): Float32Array => {
  const out = new Float32Array(parts.reduce((sum, { length }) => sum + length, 0));
  let at = 0;
  for (const part of parts) {
    out.set(part, at);
    at += part.length;
  }
  return out;
};

describe('reverberation of interrupted noise', () => {
  it.each([0.5, 1.2, 2, 4])('of %s s is read from where the noise ends', (rt60S) => {
    const heard = Array.from({ length: 6 }, (_, seed) =>
      decayTimes(interrupted(rt60S, { seed: seed + 1, onS: 1 + seed }), RATE),
    );
    for (const [band, { hz }] of (heard[0] ?? []).entries()) {
      if (hz < 500) continue;
      for (const kind of ['edt', 't20', 't30'] as const) {
        const times = heard.map((list) => list[band]?.[kind]);
        const off = Math.abs((mean(times, (time) => time?.seconds) ?? 0) / rt60S - 1);
        const spread = (times[0]?.uncertaintyS ?? 0) / rt60S / Math.sqrt(times.length);
        expect(off, `${kind} at ${hz} Hz`).toBeLessThan(Math.max(0.03, 3 * spread));
        for (const time of times) {
          const { seconds = 0, uncertaintyS = 0 } = time ?? {};
          expect(Math.abs(seconds - rt60S), `${kind} at ${hz} Hz`).toBeLessThan(4 * uncertaintyS);
        }
      }
    }
  });

  it('says where it began to decay, whatever was on before', () => {
    for (const onS of [0.6, 2, 5]) {
      const [event, more] = decayEvents(interrupted(1.5, { onS }), RATE);
      expect(more).toBeUndefined();
      expect(Math.abs((event?.atS ?? 0) - onS)).toBeLessThan(0.06);
      expect(event?.soundedS).toBeGreaterThan(0.5);
    }
  });
});

describe('several decays in one recording', () => {
  const times = [1, 1.3, 1.6];
  const three = joinedUp(times.map((rt60S, i) => interrupted(rt60S, { seed: i + 1, afterS: 3 })));

  it('are averaged, and one can be chosen', () => {
    expect(decayEvents(three, RATE).map(({ atS }) => Math.round(atS))).toEqual([3, 9, 15]);
    const at1k = (event: number | null) =>
      decayTimes(three, RATE, { event }).find(({ hz }) => hz === 1000);
    const all = at1k(null);
    expect(all?.events).toBe(3);
    expect(Math.abs((all?.t30?.seconds ?? 0) - 1.3)).toBeLessThan(0.08);
    times.forEach((rt60S, i) => {
      const one = at1k(i);
      expect(one?.events).toBe(1);
      expect(Math.abs((one?.t30?.seconds ?? 0) / rt60S - 1)).toBeLessThan(0.1);
      // Three of them are more certain than one.
      const least = (one?.t30?.uncertaintyS ?? 0) / rt60S;
      expect((all?.t30?.uncertaintyS ?? 1) / 1.3).toBeLessThan(least * 0.8);
    });
    expect(at1k(3)?.t30).toBeNull();
    expect(at1k(3)?.refused).toContain('nothing that ends');
  });

  it('are found of claps as well, and none in music that goes on', () => {
    const claps = joinedUp(
      [1, 2, 3, 4].map(
        (seed) => makeSignal('decay', { rt60S: 0.8, seconds: 2, levelDb: -6, seed })[0] ?? three,
      ),
    );
    expect(decayEvents(claps, RATE).length).toBe(4);
    expect(decayEvents(claps, RATE).every(({ soundedS }) => soundedS < 0.25)).toBe(true);
    expect(decayEvents(makeSignal('pink', { seconds: 5 })[0] ?? three, RATE)).toEqual([]);
    expect(decayEvents(new Float32Array(0), RATE)).toEqual([]);
    expect(decayTimes(new Float32Array(3), RATE)[0]?.refused).toContain('nothing that ends');
  });
});

describe('what cannot be told of a decay', () => {
  it('is refused where it is less certain than a fifth', () => {
    for (const { t30, t20, edt, hz } of decayTimes(interrupted(0.25), RATE)) {
      for (const time of [edt, t20, t30]) {
        if (time) expect(time.uncertaintyS / time.seconds, `${hz} Hz`).toBeLessThanOrEqual(0.2);
      }
    }
    const low = decayTimes(interrupted(0.25), RATE).find(({ hz }) => hz === 63);
    expect(low?.edt).toBeNull();
    expect(low?.refused).toContain('too uncertain');
  });

  it('is named where it has two slopes, and only there', () => {
    const both = whiteNoise(6 * RATE, 5).map((value, i) => {
      const t = i / RATE;
      return 0.5 * value * (10 ** ((-3 * t) / 0.7) + 10 ** (-13 / 20) * 10 ** ((-3 * t) / 2.4));
    });
    const padded = joinedUp([new Float32Array(RATE / 2), both]);
    const at2k = decayTimes(padded, RATE).find(({ hz }) => hz === 2000);
    expect(at2k?.twoSlopes?.lateS).toBeGreaterThan(1.5 * (at2k?.twoSlopes?.earlyS ?? 9));
    for (const seed of [1, 2, 3, 4, 5, 6]) {
      const [one = padded] = makeSignal('decay', { rt60S: 1.2, seconds: 3, levelDb: -6, seed });
      expect(decayTimes(one, RATE).every(({ twoSlopes }) => twoSlopes === null)).toBe(true);
    }
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

  it('have the same floor at every rate, and none of too little', () => {
    const floorAt = (rate: number, seconds = 20): (number | null)[] => {
      const planes = makeSignal('pink', { levelDb: -20, seconds, sampleRateHz: rate });
      return (measured(planes, rate).noiseFloor[0] ?? []).map(({ db }) => db);
    };
    const usual = floorAt(48_000);
    for (const rate of [44_100, 96_000, 192_000]) {
      const floor = floorAt(rate);
      const base = (floor[5] ?? 0) - (usual[5] ?? 0);
      // What filters make of pink noise at another rate is the same in all octaves.
      for (const band of [2, 3, 4, 5, 6, 7, 8]) {
        const off = (floor[band] ?? 0) - (usual[band] ?? 0) - base;
        expect(Math.abs(off), `${rate} Hz, band ${band}`).toBeLessThan(1.2);
      }
    }
    expect(floorAt(48_000, 1.2).every((db) => db === null)).toBe(true);
    expect(floorAt(48_000, 1.5)[5]).not.toBeNull();
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
