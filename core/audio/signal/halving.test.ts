import { describe, expect, it } from 'vitest';
import { Halved, halvings, UNTOUCHED } from './halving';

const RATE = 96_000;
const SECONDS = 1;

/** A tone through some halvings, in uneven blocks. */
function halved(hz: number, times: number): Float32Array {
  const chain = new Halved(times);
  const tone = Float32Array.from({ length: RATE * SECONDS }, (_, i) =>
    Math.cos((2 * Math.PI * hz * i) / RATE),
  );
  const out: number[] = [];
  for (let from = 0, i = 0; from < tone.length; i++) {
    const part = tone.subarray(from, from + 1 + ((i * 977) % 5000));
    out.push(...chain.add(part, part.length));
    from += part.length;
  }
  return Float32Array.from(out);
}

describe('halving a rate', () => {
  it.each([1, 2, 5])('%i times leaves what is kept where it was', (times) => {
    const rate = RATE / 2 ** times;
    for (const part of [0.01, 0.2, UNTOUCHED]) {
      const found = halved(part * rate, times);
      expect(found.length).toBeGreaterThan(SECONDS * rate * 0.9);
      let worst = 0;
      for (let i = Math.round(rate * 0.1); i < found.length; i++) {
        const wanted = Math.cos(2 * Math.PI * part * i);
        worst = Math.max(worst, Math.abs((found[i] ?? 0) - wanted));
      }
      expect(worst).toBeLessThan(1e-3);
    }
  });

  it.each([1, 2, 5])('%i times lets nothing fold back into it', (times) => {
    const rate = RATE / 2 ** times;
    // Every tone that would come to lie on what is kept.
    for (const fold of [1, 2, 3].filter((k) => k * rate < RATE / 2)) {
      for (const away of [-UNTOUCHED, -0.1, 0.1, UNTOUCHED]) {
        const found = halved((fold + away) * rate, times);
        const rest = found.subarray(Math.round(rate * 0.1));
        const most = rest.reduce((top, value) => Math.max(top, Math.abs(value)), 0);
        expect(20 * Math.log10(most)).toBeLessThan(-70);
      }
    }
  });

  it('is as often as it needs to be', () => {
    expect([44_100, 48_000, 96_000, 384_000].map((rate) => halvings(rate, 50_000))).toEqual([
      0, 0, 1, 3,
    ]);
  });
});
