/** A sound that ended, and what its room made of it. */
export interface DecayEvent {
  /** where the decay begins, s */
  atS: number;
  /** where it is over, or the next sound begins, s */
  toS: number;
  /** how long it sounded before, s: a clap hardly at all, interrupted noise long enough to fill the room */
  soundedS: number;
}

/** Steps in which the level is looked at, and over how many of them it is smoothed, s. */
const STEP_S = 0.005;
const SMOOTH_S = 0.03;
/** A decay falls by as much at least, and is over where the level rises again by so much, dB. */
const LEAST_FALL_DB = 25;
const RISE_DB = 10;
/** What is within this of its loudest moment belongs to the sound, dB. */
const PLATEAU_DB = 8;
/** A sound ends where it has fallen so far under its own mean, dB. */
const ENDED_DB = 2;
/** Before the next sound there is nothing of it yet, s. */
const GUARD_S = 0.05;
/** Longer than this is no clap, s. */
export const CLAP_S = 0.25;

/** Smoothed power in steps; both ends as far as there are samples. */
function levelsOf(samples: Float32Array, step: number): Float64Array {
  const count = Math.floor(samples.length / step);
  // What a room makes of a step below changes nothing: highs and lows are told apart later.
  const raw = Float64Array.from({ length: count }, (_, j) => {
    let sum = 0;
    for (let i = j * step; i < (j + 1) * step; i++) sum += (samples[i] as number) ** 2;
    return sum / step;
  });
  const half = Math.round(SMOOTH_S / STEP_S / 2);
  const sums = new Float64Array(count + 1);
  for (let j = 0; j < count; j++) sums[j + 1] = (sums[j] as number) + (raw[j] as number);
  return raw.map((_, j) => {
    const [from, to] = [Math.max(0, j - half), Math.min(count, j + half + 1)];
    return ((sums[to] as number) - (sums[from] as number)) / (to - from);
  });
}

const ratioOf = (db: number): number => 10 ** (db / 10);

/** The last step of a sound whose loudest is at one, and since when it sounded. */
function plateauOf(levels: Float64Array, loudest: number): { from: number; end: number } {
  const top = levels[loudest] as number;
  const least = top / ratioOf(PLATEAU_DB);
  let [from, to] = [loudest, loudest];
  while (from > 0 && (levels[from - 1] as number) >= least) from -= 1;
  while (to < levels.length - 1 && (levels[to + 1] as number) >= least) to += 1;
  let sum = 0;
  // Of what it was before its loudest moment and up to there: what follows may be the decay itself.
  for (let j = from; j <= loudest; j++) sum += levels[j] as number;
  const mean = Math.max(sum / (loudest - from + 1), top / ratioOf(ENDED_DB));
  let end = to;
  while (end > loudest && (levels[end] as number) < mean / ratioOf(ENDED_DB)) end -= 1;
  return { from, end };
}

/**
 * Sounds that end in a recording and leave the room to itself: claps, shots, interrupted noise.
 * @param samples of one channel
 * @param sampleRateHz 8000 … 384000 Hz
 */
export function decayEvents(samples: Float32Array, sampleRateHz: number): DecayEvent[] {
  const step = Math.max(1, Math.round(STEP_S * sampleRateHz));
  const levels = levelsOf(samples, step);
  const stepS = step / sampleRateHz;
  const events: DecayEvent[] = [];
  let [loudest, lowest] = [0, 0];
  const finish = (until: number): void => {
    const [top, low] = [levels[loudest] ?? 0, levels[lowest] ?? 0];
    if (!(top > 0) || top < low * ratioOf(LEAST_FALL_DB)) return;
    const { from, end } = plateauOf(levels, loudest);
    events.push({ atS: end * stepS, toS: until, soundedS: (end - from) * stepS });
  };
  for (let j = 1; j < levels.length; j++) {
    const level = levels[j] as number;
    if (level > (levels[lowest] as number) * ratioOf(RISE_DB) && lowest > loudest) {
      // Risen again: what fell before was one event, if it fell far enough.
      const fallen =
        (levels[loudest] as number) >= (levels[lowest] as number) * ratioOf(LEAST_FALL_DB);
      if (fallen) {
        finish(Math.max(0, j * stepS - GUARD_S));
        [loudest, lowest] = [j, j];
        continue;
      }
    }
    if (level >= (levels[loudest] as number)) [loudest, lowest] = [j, j];
    else if (level < (levels[lowest] as number)) lowest = j;
  }
  finish(samples.length / sampleRateHz);
  return events;
}
