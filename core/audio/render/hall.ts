/** What the late field of a hall needs to be known. */
export interface Hall {
  volumeM3: number;
  surfaceM2: number;
  /** reverberation time by octave, s: centre in Hz and time, from low to high */
  rt60S: readonly (readonly [hz: number, seconds: number])[];
  /** speed of sound, m/s */
  speed: number;
}

/** Reverberation time at a frequency: straight over octaves, the ends held, s. */
export function timeAt({ rt60S }: Pick<Hall, 'rt60S'>, hz: number): number {
  const [first] = rt60S;
  const last = rt60S[rt60S.length - 1];
  if (!first || !last) return 0;
  if (hz <= first[0]) return first[1];
  for (let i = 1; i < rt60S.length; i++) {
    const [low, high] = [rt60S[i - 1], rt60S[i]];
    if (!low || !high || hz > high[0]) continue;
    const share = Math.log2(hz / low[0]) / Math.log2(high[0] / low[0]);
    return low[1] + share * (high[1] - low[1]);
  }
  return last[1];
}

const LOG_MILLION = 6 * Math.LN10;

/**
 * Energy of the late field a second, at a time from emission, for an omnidirectional capsule and a source
 * of amplitude one at 1 m and Q = 1: what the reflections to second order leave out.
 * @param seconds from emission, 0 and more
 * @param rt60S at the frequency, s
 */
export function lateEnergy(
  { volumeM3, surfaceM2, speed }: Hall,
  seconds: number,
  rt60S: number,
): number {
  const met = (speed * seconds * surfaceM2) / (4 * volumeM3);
  const beyond = 1 - Math.exp(-met) * (1 + met + (met * met) / 2);
  const decay = Math.exp((-LOG_MILLION * seconds) / rt60S);
  return ((4 * Math.PI * speed) / volumeM3) * decay * beyond;
}

/**
 * The same at one time after another, evenly.
 * @param rt60S s
 * @param fromS the first time, 0 and more
 * @param stepS from one to the next, s
 */
export function lateEnergies(
  { volumeM3, surfaceM2, speed }: Hall,
  rt60S: number,
  fromS: number,
  stepS: number,
  count: number,
): Float64Array {
  const rate = (speed * surfaceM2) / (4 * volumeM3);
  const [fades, passes] = [Math.exp((-LOG_MILLION * stepS) / rt60S), Math.exp(-rate * stepS)];
  let decay = ((4 * Math.PI * speed) / volumeM3) * Math.exp((-LOG_MILLION * fromS) / rt60S);
  let unmet = Math.exp(-rate * fromS);
  const out = new Float64Array(count);
  for (let i = 0; i < count; i++) {
    const met = rate * (fromS + i * stepS);
    // The difference has no meaning left where hardly anything was met.
    out[i] = decay * Math.max(0, 1 - unmet * (1 + met + (met * met) / 2));
    decay *= fades;
    unmet *= passes;
  }
  return out;
}

/**
 * Energy of the whole late field at one frequency, as lateEnergy has it of a second: its integral.
 * @param rt60S at the frequency, s
 */
export function lateEnergySum({ volumeM3, surfaceM2, speed }: Hall, rt60S: number): number {
  const fade = LOG_MILLION / rt60S;
  const rate = (speed * surfaceM2) / (4 * volumeM3);
  const both = fade + rate;
  const left = 1 / fade - 1 / both - rate / both ** 2 - rate ** 2 / both ** 3;
  return ((4 * Math.PI * speed) / volumeM3) * left;
}
