import { describe, expect, it } from 'vitest';
import { scaled } from '../fixtures/made';
import { delayed, pinkNoise, whiteNoise } from '../signal/generate';
import { MidSideMeter, type MidSideAudit } from './mid-side';

const RATE = 48_000;
const SECONDS = 10;
const mid = pinkNoise(SECONDS * RATE, 1);
const side = scaled(pinkNoise(SECONDS * RATE, 2), 0.5);

function audit(planes: Float32Array[]): MidSideAudit {
  const meter = new MidSideMeter(RATE, planes.length > 2);
  meter.add(planes, SECONDS * RATE);
  return meter.result();
}

const leftAt = ({ copy }: MidSideAudit, hz: number): number =>
  copy?.leftInMono.reduce((best, band) =>
    Math.abs(band.hz - hz) < Math.abs(best.hz - hz) ? band : best,
  ).db ?? NaN;

describe('the audit of a mid-side recording', () => {
  it('says how wide it is, and how alike both decoded channels are', () => {
    const { sideDb, correlation, decodedCorrelation, leftAgainstRightDb, like } = audit([
      mid,
      side,
    ]);
    expect(sideDb).toBeCloseTo(-6, 0);
    expect(Math.abs(correlation ?? 1)).toBeLessThan(0.05);
    // (1 − s²) / (1 + s²) with s² a quarter.
    expect(decodedCorrelation).toBeCloseTo(0.6, 1);
    expect(Math.abs(leftAgainstRightDb ?? 9)).toBeLessThan(0.5);
    expect(like).toBe('mid and side');
  });

  it('knows left and right that were decoded before', () => {
    const [left, right] = [1, -1].map((sign) => mid.map((m, i) => m + sign * (side[i] ?? 0)));
    expect(audit([left ?? mid, right ?? mid]).like).toBe('left and right');
  });

  it('finds nothing wrong with a true copy', () => {
    const { copy } = audit([mid, side, scaled(side, -1)]);
    expect(copy?.faults).toEqual([]);
    expect(copy?.leftInMonoDb).toBeLessThan(-100);
  });

  it('one sample late leaves −17.7 dB at 1 kHz and +1.7 dB at 10 kHz of the side', () => {
    const white = whiteNoise(SECONDS * RATE, 3);
    const found = audit([mid, white, scaled(delayed(white, 1), -1)]);
    expect(found.copy?.faults).toEqual(['the copy is 1.00 samples late']);
    expect(leftAt(found, 1000)).toBeCloseTo(-17.7, 0);
    expect(leftAt(found, 10_000)).toBeCloseTo(1.7, 0);
  });

  it('half a decibel too loud leaves −24.5 dB, too soft −25.0 dB', () => {
    const loud = audit([mid, side, scaled(side, -(10 ** (0.5 / 20)))]);
    expect(loud.copy?.leftInMonoDb).toBeCloseTo(-24.5, 1);
    expect(leftAt(loud, 1000)).toBeCloseTo(-24.5, 1);
    expect(loud.copy?.faults).toEqual(['the copy is 0.50 dB too loud']);
    const soft = audit([mid, side, scaled(side, -(10 ** (-0.5 / 20)))]);
    expect(soft.copy?.leftInMonoDb).toBeCloseTo(-25, 1);
    expect(soft.copy?.faults).toEqual(['the copy is 0.50 dB too soft']);
  });

  it('tells a late copy, a silent one and another microphone apart', () => {
    const late = audit([mid, side, scaled(delayed(side, 0.08 * RATE), -1)]).copy;
    expect(late?.is).toBe('a copy');
    expect(late?.delayMs).toBeCloseTo(80, 2);
    const silent = audit([mid, side, new Float32Array(mid.length)]).copy;
    expect(silent).toMatchObject({ is: 'silent', delayMs: null, faults: ['the copy is silent'] });
    const other = audit([mid, side, whiteNoise(mid.length, 77)]).copy;
    expect(other).toMatchObject({ is: 'not a copy', delayMs: null, polarity: null });
    expect(other?.faults.join()).toContain('no copy of the side');
  });

  it('does not call a crossed pair mid and side, nor a spaced one left and right', () => {
    const [left, right] = [1, -1].map((sign) => mid.map((m, i) => m + sign * (side[i] ?? 0)));
    expect(audit([left ?? mid, right ?? mid]).like).toBe('left and right');
    expect(audit([mid, whiteNoise(mid.length, 5)]).like).toBeNull();
  });

  it('names a copy that was never turned over, and says nothing of silence', () => {
    expect(audit([mid, side, side]).copy?.faults.join()).toContain('not turned over');
    const silent = audit([mid, new Float32Array(mid.length), new Float32Array(mid.length)]);
    expect(silent).toMatchObject({ sideDb: null, copy: null, like: null });
  });
});
