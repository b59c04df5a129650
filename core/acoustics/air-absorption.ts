import { inRange } from '../units/guard';

const REFERENCE_K = 293.15;
const TRIPLE_POINT_K = 273.16;

/**
 * Attenuation of sound energy by air, per metre (the m of 4·m·V), at normal pressure.
 * @param frequencyHz 50 … 10 000 Hz
 * @param temperatureC −20 … 50 °C
 * @param humidityPct relative humidity, 10 … 100 %
 * Source: ISO 9613-1:1993, equations 3 to 5; dB/m divided by 10·lg e gives nepers of energy.
 * @throws RangeError where frequencyHz is outside 50 … 10000 Hz, temperatureC is outside −20 … 50
 *   °C, humidityPct is outside 10 … 100 %
 */
export function airAbsorption(
  frequencyHz: number,
  temperatureC: number,
  humidityPct: number,
): number {
  inRange('frequencyHz', frequencyHz, 50, 10000, 'Hz');
  inRange('temperatureC', temperatureC, -20, 50, '°C');
  inRange('humidityPct', humidityPct, 10, 100, '%');
  const kelvin = temperatureC + 273.15;
  const ratio = kelvin / REFERENCE_K;
  const saturation = 10 ** (-6.8346 * (TRIPLE_POINT_K / kelvin) ** 1.261 + 4.6151);
  const water = humidityPct * saturation;
  const oxygenHz = 24 + (40400 * water * (0.02 + water)) / (0.391 + water);
  const nitrogenHz = ratio ** -0.5 * (9 + 280 * water * Math.exp(-4.17 * (ratio ** (-1 / 3) - 1)));
  const f2 = frequencyHz * frequencyHz;
  const classical = 1.84e-11 * Math.sqrt(ratio);
  const relaxation =
    ratio ** -2.5 *
    ((0.01275 * Math.exp(-2239.1 / kelvin)) / (oxygenHz + f2 / oxygenHz) +
      (0.1068 * Math.exp(-3352 / kelvin)) / (nitrogenHz + f2 / nitrogenHz));
  const dbPerMetre = 8.686 * f2 * (classical + relaxation);
  return dbPerMetre / (10 * Math.LOG10E);
}
