import { dbToAmplitude, inRange } from '../units/guard';
import type { Technique } from './technique';
import { capsulesInFrame } from './capsules';

/** How one capsule reaches the two buses. */
export interface Route {
  /** signed amplitude in the left bus */
  left: number;
  /** signed amplitude in the right bus */
  right: number;
  delayMs: number;
}

/** One capsule's channel strip: pan −1 (left) … +1 (right), gain, polarity, delay. */
export interface ChannelStrip {
  pan: number;
  gainDb: number;
  polarity: 1 | -1;
  delayMs: number;
}

/**
 * Constant-power pan (−3 dB in the middle), exact at the ends.
 * @throws RangeError where pan is outside −1 … 1
 */
export function panGains(pan: number): { left: number; right: number } {
  inRange('pan', pan, -1, 1);
  if (pan <= -1) return { left: 1, right: 0 };
  if (pan >= 1) return { left: 0, right: 1 };
  const angle = ((pan + 1) * Math.PI) / 4;
  return { left: Math.cos(angle), right: Math.sin(angle) };
}

/** The pans a technique is customarily given: each capsule to its own side. */
export function usualPans(technique: Technique): number[] {
  if (technique.kind === 'pair') return [-1, 1];
  return capsulesInFrame(technique).map(({ dx, azimuthDeg }) => {
    const side = dx !== 0 ? dx : Math.sin((azimuthDeg * Math.PI) / 180);
    return Math.abs(side) < 1e-9 ? 0 : Math.sign(side);
  });
}

const PLAIN_STRIP: ChannelStrip = { pan: 0, gainDb: 0, polarity: 1, delayMs: 0 };

/** One strip for each capsule: as set, and plain at its usual pan where nothing is set. */
export function stripsOf(technique: Technique, strips: readonly ChannelStrip[]): ChannelStrip[] {
  return usualPans(technique).map((pan, index) => strips[index] ?? { ...PLAIN_STRIP, pan });
}

/**
 * Routes of all capsules to the left and right bus.
 * Mid-side decodes as L = M + S, R = M − S with the side's gain applied; a strip then adds its
 * gain, polarity and delay, while its pan is set by the decoding. An empty list of strips means
 * the usual pans.
 */
export function routes(technique: Technique, strips: readonly ChannelStrip[]): Route[] {
  if (technique.kind === 'mid-side') {
    const [mid = PLAIN_STRIP, side = PLAIN_STRIP] = strips;
    const m = mid.polarity * dbToAmplitude(mid.gainDb);
    const s = side.polarity * dbToAmplitude(side.gainDb + technique.sideGainDb);
    return [
      { left: m, right: m, delayMs: mid.delayMs },
      { left: s, right: -s, delayMs: side.delayMs },
    ];
  }
  return stripsOf(technique, strips).map((strip) => {
    const gain = strip.polarity * dbToAmplitude(strip.gainDb);
    const pan = panGains(strip.pan);
    return { left: gain * pan.left, right: gain * pan.right, delayMs: strip.delayMs };
  });
}
