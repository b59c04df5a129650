import { inRange } from '../units/guard';
import { airAbsorption } from './air-absorption';

/** Octave-band centres for which a reverberation time is computed, Hz. */
export const OCTAVES_HZ = [125, 250, 500, 1000, 2000, 4000, 8000] as const;

export interface Surface {
  areaM2: number;
  /** absorption coefficient, 0 … 1 */
  absorption: number;
}

const SABINE = 0.161;

interface Absorbing {
  areaM2: number;
  meanAbsorption: number;
}

function total(surfaces: readonly Surface[]): Absorbing {
  let areaM2 = 0;
  let absorbing = 0;
  for (const surface of surfaces) {
    inRange('areaM2', surface.areaM2, 0.01, 1e6, 'm²');
    inRange('absorption', surface.absorption, 0, 1);
    areaM2 += surface.areaM2;
    absorbing += surface.areaM2 * surface.absorption;
  }
  if (!(areaM2 > 0)) throw new RangeError('surfaces is empty; allowed: at least one surface');
  return { areaM2, meanAbsorption: absorbing / areaM2 };
}

function decay(volumeM3: number, absorptionM2: number): number | null {
  return absorptionM2 > 1e-9 ? (SABINE * volumeM3) / absorptionM2 : null;
}

/**
 * Reverberation time after Sabine, s: 0.161·V/(S·α + 4·m·V); null where nothing absorbs.
 * @param volumeM3 0.1 … 10 000 000 m³
 * @param airPerM energy attenuation by air, 1/m, 0 … 1
 * Source: W. C. Sabine 1900. Fit for small absorption, evenly spread.
 * @throws RangeError where volumeM3 is outside 0.1 … 10⁷ m³, airPerM is outside 0 … 1 1/m
 */
export function sabineTime(
  volumeM3: number,
  surfaces: readonly Surface[],
  airPerM: number,
): number | null {
  inRange('volumeM3', volumeM3, 0.1, 1e7, 'm³');
  inRange('airPerM', airPerM, 0, 1, '1/m');
  const { areaM2, meanAbsorption } = total(surfaces);
  return decay(volumeM3, areaM2 * meanAbsorption + 4 * airPerM * volumeM3);
}

/**
 * Reverberation time after Eyring, s: S·α replaced by −S·ln(1 − α); 0 where α is 1,
 * null where nothing absorbs.
 * Source: C. F. Eyring, JASA 1 (1930). Fit for large absorption.
 * @throws RangeError where volumeM3 is outside 0.1 … 10⁷ m³, airPerM is outside 0 … 1 1/m
 */
export function eyringTime(
  volumeM3: number,
  surfaces: readonly Surface[],
  airPerM: number,
): number | null {
  inRange('volumeM3', volumeM3, 0.1, 1e7, 'm³');
  inRange('airPerM', airPerM, 0, 1, '1/m');
  const { areaM2, meanAbsorption } = total(surfaces);
  if (meanAbsorption >= 1) return 0;
  const walls = -areaM2 * Math.log(1 - meanAbsorption);
  return decay(volumeM3, walls + 4 * airPerM * volumeM3);
}

export interface BandTimes {
  frequencyHz: number;
  sabineS: number | null;
  eyringS: number | null;
}

/**
 * Reverberation times by octave band, air included.
 * @param volumeM3 1 … 1,000,000 m³
 * @param temperatureC °C
 * @param humidityPct relative, percent
 * @param surfacesAt the surfaces with their absorption in a band
 */
export function reverberationTimes(
  volumeM3: number,
  surfacesAt: (frequencyHz: number) => readonly Surface[],
  temperatureC: number,
  humidityPct: number,
): BandTimes[] {
  return OCTAVES_HZ.map((frequencyHz) => {
    const air = airAbsorption(frequencyHz, temperatureC, humidityPct);
    const surfaces = surfacesAt(frequencyHz);
    return {
      frequencyHz,
      sabineS: sabineTime(volumeM3, surfaces, air),
      eyringS: eyringTime(volumeM3, surfaces, air),
    };
  });
}

/**
 * The frequency below which single modes stand out of a room and a diffuse field is no longer a
 * good picture of it: 2000·√(T/V).
 * Source: M. R. Schroeder, J. Acoust. Soc. Am. 34 (1962).
 * @param volumeM3 0.1 … 10 000 000 m³
 * @param rt60S reverberation time, 0.1 … 12 s
 * @returns Hz
 * @throws RangeError where volumeM3 is outside 0.1 … 10⁷ m³, rt60S is outside 0.1 … 12 s
 */
export function transitionFrequency(volumeM3: number, rt60S: number): number {
  inRange('volumeM3', volumeM3, 0.1, 1e7, 'm³');
  inRange('rt60S', rt60S, 0.1, 12, 's');
  return 2000 * Math.sqrt(rt60S / volumeM3);
}
