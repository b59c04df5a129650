import { once } from '../units/remember';
import { powerDb } from '../units/guard';

/**
 * A listener between two loudspeakers, by band: what steady sound says at the ears of a rigid sphere.
 * A picture of focus, never a model for the place: a steady sphere knows nothing of first
 * wavefronts, and with time differences its bands contradict each other where people hear one place.
 * Source: R. O. Duda & W. L. Martens, JASA 104 (1998), for the sphere.
 */

const HEAD_M = 0.0875;
const EAR_DEG = 100;
const BASE_DEG = 30;
/** At 20 °C: the room where somebody listens is not the hall. */
const SPEED = 343.2;
const THIRDS_HZ = Array.from({ length: 18 }, (_, i) => 1000 * 10 ** ((i - 8) / 10));
/** Frequencies in each third octave. */
const IN_EACH = 5;
/** Below this the ear follows the time of the waves themselves, above it levels alone, Hz. */
const TIME_TO_HZ = 1400;
/** Where both count, a neper of level counts so much of a radian. */
const LEVEL_WEIGHT = 0.3;
const WIDEST_DEG = 45;
const STEP_DEG = 1;
const GRID = (2 * WIDEST_DEG) / STEP_DEG + 1;
const NEPER_DB = 20 * Math.log10(Math.E);

interface Complex {
  re: number;
  im: number;
}

const times = (a: Complex, b: Complex): Complex => ({
  re: a.re * b.re - a.im * b.im,
  im: a.re * b.im + a.im * b.re,
});

/** Terms of the series beyond ka that still count. */
const BEYOND = 14;

/**
 * Pressure at a point of a rigid sphere against that of the free field, for a plane wave:
 * Σ (2m+1)·iᵐ·P_m(cos γ)·(−i/(ka)²)/h′_m(ka), h of the second kind.
 * @param cosine of the angle between the point and where the wave comes from, −1 … 1
 * @param frequencyHz 20 … 20,000 Hz
 */
export function spherePressure(cosine: number, frequencyHz: number): Complex {
  const x = (2 * Math.PI * frequencyHz * HEAD_M) / SPEED;
  const [sine, cos] = [Math.sin(x), Math.cos(x)];
  let here: Complex = { re: sine / x, im: cos / x };
  let next: Complex = { re: sine / (x * x) - cos / x, im: cos / (x * x) + sine / x };
  let [legendre, following] = [1, cosine];
  let power: Complex = { re: 1, im: 0 };
  const sum: Complex = { re: 0, im: 0 };
  const terms = Math.ceil(x) + BEYOND;
  for (let m = 0; m < terms; m++) {
    const slope = { re: (m / x) * here.re - next.re, im: (m / x) * here.im - next.im };
    const size = slope.re * slope.re + slope.im * slope.im;
    const weight = ((2 * m + 1) * legendre) / (x * x) / size;
    // −i·iᵐ over the slope.
    sum.re += weight * (power.im * slope.re - power.re * slope.im);
    sum.im += weight * (-power.re * slope.re - power.im * slope.im);
    const after = {
      re: ((2 * m + 3) / x) * next.re - here.re,
      im: ((2 * m + 3) / x) * next.im - here.im,
    };
    [here, next] = [next, after];
    [legendre, following] = [
      following,
      ((2 * m + 3) * cosine * following - (m + 1) * legendre) / (m + 2),
    ];
    power = { re: -power.im, im: power.re };
  }
  return sum;
}

/** At an ear (−1 left, 1 right), from an azimuth, positive right of the front. */
const atEar = (azimuthDeg: number, ear: -1 | 1, hz: number): Complex =>
  spherePressure(Math.cos(((azimuthDeg - ear * EAR_DEG) * Math.PI) / 180), hz);

/** Right ear over left: level in nepers, and phase. */
interface Between {
  nepers: number;
  phase: number;
}

function between(right: Complex, left: Complex): Between {
  const level =
    (right.re * right.re + right.im * right.im) / (left.re * left.re + left.im * left.im);
  return {
    nepers: Math.log(level) / 2,
    phase: Math.atan2(right.im, right.re) - Math.atan2(left.im, left.re),
  };
}

/**
 * Interaural time and level difference of a distant source in front, at one frequency.
 * @param azimuthDeg −90 … 90°, positive right
 * @param frequencyHz 20 … 20,000 Hz
 * @returns right ear earlier and louder is positive: ms (within half a period), dB
 */
export function interauralOf(
  azimuthDeg: number,
  frequencyHz: number,
): { itdMs: number; ildDb: number } {
  const { nepers, phase } = between(
    atEar(azimuthDeg, 1, frequencyHz),
    atEar(azimuthDeg, -1, frequencyHz),
  );
  return {
    itdMs: (wrapped(phase) / (2 * Math.PI * frequencyHz)) * 1000,
    ildDb: nepers * NEPER_DB,
  };
}

const wrapped = (phase: number): number => phase - 2 * Math.PI * Math.round(phase / (2 * Math.PI));

/** One frequency of the tables: ways from the loudspeakers, and real sources to compare with. */
interface Tone {
  hz: number;
  leftToLeft: Complex;
  leftToRight: Complex;
  rightToLeft: Complex;
  rightToRight: Complex;
  nepers: Float64Array;
  phases: Float64Array;
}

function toneAt(hz: number): Tone {
  const nepers = new Float64Array(GRID);
  const phases = new Float64Array(GRID);
  for (let i = 0; i < GRID; i++) {
    const deg = i * STEP_DEG - WIDEST_DEG;
    const real = between(atEar(deg, 1, hz), atEar(deg, -1, hz));
    nepers[i] = real.nepers;
    phases[i] = real.phase;
  }
  return {
    hz,
    leftToLeft: atEar(-BASE_DEG, -1, hz),
    leftToRight: atEar(-BASE_DEG, 1, hz),
    rightToLeft: atEar(BASE_DEG, -1, hz),
    rightToRight: atEar(BASE_DEG, 1, hz),
    nepers,
    phases,
  };
}

/** Made when somebody first asks: a tenth of a second. */
const tables = once(() =>
  THIRDS_HZ.map((hz) => ({
    hz,
    tones: Array.from({ length: IN_EACH }, (_, i) =>
      toneAt(hz * 10 ** (((i + 0.5) / IN_EACH - 0.5) / 10)),
    ),
  })),
);

/** One wave in the two channels: signed amplitudes, and when it comes, s. */
export interface StereoWave {
  left: number;
  right: number;
  timeS: number;
}

/** What one player's two channels are at one frequency. */
function channelsAt(waves: readonly StereoWave[], hz: number): { left: Complex; right: Complex } {
  const left = { re: 0, im: 0 };
  const right = { re: 0, im: 0 };
  for (const wave of waves) {
    const turn = -2 * Math.PI * hz * wave.timeS;
    const [cos, sine] = [Math.cos(turn), Math.sin(turn)];
    left.re += wave.left * cos;
    left.im += wave.left * sine;
    right.re += wave.right * cos;
    right.im += wave.right * sine;
  }
  return { left, right };
}

/** Where a band places a player: a real source with the same differences at the ears, degrees. */
function placeIn(tones: readonly Tone[], waves: readonly StereoWave[]): number {
  const costs = new Float64Array(GRID);
  for (const tone of tones) {
    const { left, right } = channelsAt(waves, tone.hz);
    const [ll, rl] = [times(left, tone.leftToLeft), times(right, tone.rightToLeft)];
    const [lr, rr] = [times(left, tone.leftToRight), times(right, tone.rightToRight)];
    const heard = between(
      { re: lr.re + rr.re, im: lr.im + rr.im },
      { re: ll.re + rl.re, im: ll.im + rl.im },
    );
    const byTime = tone.hz < TIME_TO_HZ;
    const weight = byTime ? LEVEL_WEIGHT : 1;
    for (let i = 0; i < GRID; i++) {
      const level = weight * (heard.nepers - (tone.nepers[i] ?? 0));
      const time = byTime ? wrapped(heard.phase - (tone.phases[i] ?? 0)) : 0;
      costs[i] = (costs[i] ?? 0) + level * level + time * time;
    }
  }
  let best = 0;
  for (let i = 1; i < GRID; i++) if ((costs[i] ?? 0) < (costs[best] ?? 0)) best = i;
  return best * STEP_DEG - WIDEST_DEG;
}

/** What the bands say of one player, as shifts of a ±30° base: up to ±1.5, which is ±45°. */
export interface Focus {
  /** median of the third octaves to 500 Hz, 630 Hz … 1.25 kHz, and from 1.6 to 8 kHz */
  low: number;
  middle: number;
  high: number;
  /** of all bands */
  median: number;
  /** largest difference of the three, in half bases: 0 is of one mind */
  apart: number;
}

const LOW_TO_HZ = 560;
const MIDDLE_TO_HZ = 1450;

function median(values: readonly number[]): number {
  const sorted = [...values].sort((a, b) => a - b);
  const half = sorted.length >> 1;
  const above = sorted[half] ?? 0;
  return sorted.length % 2 === 1 ? above : ((sorted[half - 1] ?? 0) + above) / 2;
}

/**
 * Low, middle and high place of a player in two channels, and how far they disagree.
 * @returns null where neither channel has a sound
 */
export function focusOf(waves: readonly StereoWave[]): Focus | null {
  const energy = waves.reduce((sum, { left, right }) => sum + left * left + right * right, 0);
  if (!(powerDb(energy) > -100)) return null;
  const found = tables().map(({ hz, tones }) => ({ hz, shift: placeIn(tones, waves) / BASE_DEG }));
  const of = (from: number, to: number): number =>
    median(found.filter(({ hz }) => hz >= from && hz < to).map(({ shift }) => shift));
  const [low, middle] = [of(0, LOW_TO_HZ), of(LOW_TO_HZ, MIDDLE_TO_HZ)];
  const high = of(MIDDLE_TO_HZ, Infinity);
  return {
    low,
    middle,
    high,
    median: median(found.map(({ shift }) => shift)),
    apart: Math.max(low, middle, high) - Math.min(low, middle, high),
  };
}
