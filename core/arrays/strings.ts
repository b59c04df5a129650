import { inRange } from '../units/guard';

/** Two microphones over strings, each for the part below it. */
export interface OverStrings {
  /** the distance that keeps the rule, m: three times the height */
  leastM: number;
  /** distance over height */
  ratio: number;
  /** the other's strings against the own ones, by distance alone, dB */
  spillDb: number;
}

/**
 * Height and spacing of two microphones over strings, by the rule of three to one.
 * @param heightM above the strings, 0.01 … 5 m
 * @param spacingM between the microphones, 0.01 … 20 m
 * @throws RangeError where heightM is outside 0.01 … 5 m, spacingM is outside 0.01 … 20 m
 */
export function overStrings(heightM: number, spacingM: number): OverStrings {
  inRange('heightM', heightM, 0.01, 5, 'm');
  inRange('spacingM', spacingM, 0.01, 20, 'm');
  return {
    leastM: 3 * heightM,
    ratio: spacingM / heightM,
    spillDb: 20 * Math.log10(heightM / Math.hypot(heightM, spacingM)),
  };
}

/**
 * Where a fret of an equally tempered string lies.
 * Source: each fret shortens what sounds by the twelfth root of two.
 * @param scaleM from nut to bridge, 0.1 … 3 m
 * @param fret 0 (the open string) … 30
 * @returns from the bridge: what sounds, m
 * @throws RangeError where scaleM is outside 0.1 … 3 m, fret is outside 0 … 30
 */
export function fretFromBridge(scaleM: number, fret: number): number {
  inRange('scaleM', scaleM, 0.1, 3, 'm');
  inRange('fret', fret, 0, 30);
  return scaleM * 2 ** (-fret / 12);
}

/**
 * Which fret lies at a place along an equally tempered string; between two of them a fraction.
 * @param scaleM from nut to bridge, 0.1 … 3 m
 * @param fromBridgeM from the bridge towards the nut, m
 * @returns 0 at the nut; null beyond nut or bridge, and nearer to the bridge than the 30th fret
 * @throws RangeError where scaleM is outside 0.1 … 3 m, fromBridgeM is outside ±10⁶ m
 */
export function fretAt(scaleM: number, fromBridgeM: number): number | null {
  inRange('scaleM', scaleM, 0.1, 3, 'm');
  inRange('fromBridgeM', fromBridgeM, -1e6, 1e6, 'm');
  if (!(fromBridgeM > 0 && fromBridgeM <= scaleM)) return null;
  const fret = 12 * Math.log2(scaleM / fromBridgeM);
  return fret <= 30 ? fret : null;
}
