import { inRange } from './guard';

/**
 * Speed of sound in air.
 * @param temperatureC air temperature, −20 … 50 °C
 * @returns metres per second; 343.2 at 20 °C
 * @throws RangeError outside that range
 * Source: ideal-gas relation c = 331.3·√(1 + T/273.15), e.g. Kuttruff, Room Acoustics.
 */
export function speedOfSound(temperatureC: number): number {
  inRange('temperatureC', temperatureC, -20, 50, '°C');
  return 331.3 * Math.sqrt(1 + temperatureC / 273.15);
}
