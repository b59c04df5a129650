import { departures, standardTechnique, STANDARDS, type Standard } from '../arrays/standards';
import { farField, halfAngle } from '../localisation/recording-angle';
import type { LocalisationModel } from '../localisation/models/index';
import { prepareArray } from '../localisation/prepared-array';
import type { MicArray } from '../session/schema';
import { inRange } from '../units/guard';

/** How an array differs from a named standard, and what that does. */
export interface Alteration {
  standard: Standard;
  /** in which of its numbers: pattern, spacing, included angle */
  in: readonly string[];
  /** half recording angle of the array, degrees; null where it is not reached */
  halfDeg: number | null;
  /** that of the standard */
  standardHalfDeg: number | null;
}

/** The standard that a pair was set up as, whatever has become of it; null for none. */
export const standardSetUp = ({ standard }: Pick<MicArray, 'standard'>): Standard | null =>
  STANDARDS.find(({ name }) => name === standard) ?? null;

/**
 * What has become of an array that goes by a standard's name.
 * @param model in which both recording angles are found, for distant sources
 * @param speed speed of sound, m/s
 * @returns null where it is the standard still
 * @throws RangeError where speed is outside 250 … 450 m/s
 */
export function alterationOf(
  array: MicArray,
  standard: Standard,
  model: LocalisationModel,
  speed: number,
): Alteration | null {
  inRange('speed', speed, 250, 450, 'm/s');
  const off = departures(standard, array.technique);
  if (off.length === 0) return null;
  const half = (technique: MicArray['technique']): number | null =>
    halfAngle(farField(prepareArray({ ...array, technique }), speed), model, 1);
  return {
    standard,
    in: off,
    halfDeg: half(array.technique),
    standardHalfDeg: half(standardTechnique(standard)),
  };
}
