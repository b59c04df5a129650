import { zeroBetween } from '../units/numbers';
import type { Technique } from '../arrays/technique';
import { checkSpeed, inRange } from '../units/guard';
import { farCues } from './cues';
import { prepareArray, type PreparedArray } from './prepared-array';
import { halfAngle, inPlace, type CuesAtAngle } from './recording-angle';
import { modelOf, type ChosenModel } from './leading';
import { modelsFor } from './models/index';

/** What a wanted recording angle is seen from: distant sources, or real ones at a distance. */
export interface Wanted extends ChosenModel {
  /** wanted half recording angle, 5 … 175° */
  halfDeg: number;
  /** null for distant sources, else the ensemble's distance on the plan, m */
  distanceM: number | null;
  /** sources above (positive) or below the array, m */
  heightM: number;
  /** speed of sound, m/s */
  speed: number;
}

function viewOf(array: PreparedArray, { distanceM, heightM, speed }: Wanted): CuesAtAngle {
  if (distanceM === null) return (deg) => farCues(array, deg, speed);
  return inPlace(array, distanceM, heightM, speed);
}

/** Half recording angle of a technique in the leading model; 180 where it is never reached. */
export function halfAngleOf(technique: Technique, wanted: Wanted): number {
  const array = prepareArray({ x: 0, y: 0, z: 0, aimDeg: 0, tiltDeg: 0, technique });
  return halfAngle(viewOf(array, wanted), modelOf(wanted), 1) ?? 180;
}

const SAMPLES = 48;
const BISECTIONS = 28;
const CLOSE_ENOUGH_DEG = 0.02;

/**
 * The smallest value of a parameter at which the half recording angle is the wanted one: a coarse
 * walk for a change of sign, then halving.
 * @param techniqueAt a technique for each value of the parameter
 * @param min least value of the parameter, in its own unit: m, ° or dB
 * @param max largest value
 * @returns null where no value between the limits does
 * @throws RangeError where halfDeg is outside 5 … 175°, speed is outside 250 … 450 m/s, min is
 *   outside −1000 … max, max is outside min … 1000
 */
export function solveParameter(
  techniqueAt: (value: number) => Technique,
  min: number,
  max: number,
  wanted: Wanted,
): number | null {
  inRange('halfDeg', wanted.halfDeg, 5, 175, '°');
  checkSpeed(wanted.speed);
  inRange('min', min, -1000, max);
  inRange('max', max, min, 1000);
  const excess = (value: number) => halfAngleOf(techniqueAt(value), wanted) - wanted.halfDeg;
  let low = min;
  let atLow = excess(min);
  if (Math.abs(atLow) < CLOSE_ENOUGH_DEG) return min;
  for (let i = 1; i <= SAMPLES; i++) {
    const high = min + ((max - min) * i) / SAMPLES;
    const atHigh = excess(high);
    if (atLow * atHigh <= 0) {
      const found = zeroBetween(excess, low, high, BISECTIONS);
      if (Math.abs(excess(found)) < CLOSE_ENOUGH_DEG) return found;
    }
    low = high;
    atLow = atHigh;
  }
  return null;
}

/** One way to a wanted recording angle. */
export interface Solution {
  technique: Technique;
  /** what was solved for */
  solvedFor: 'spacing' | 'included angle' | 'side level';
  /** least and most that any model makes of its half angle, degrees; 180 where it is never reached */
  leastDeg: number;
  mostDeg: number;
}

const PAIR_PATTERNS = ['subcardioid', 'cardioid', 'supercardioid', 'hypercardioid'] as const;
const NEAR_ANGLES_DEG = [60, 70, 80, 90, 100, 110, 120];
const MID_PATTERNS = ['omni', 'subcardioid', 'cardioid', 'supercardioid', 'figure-eight'] as const;
/** Customary ranges: what lies beyond has the angle as well, and nobody puts it up. */
const CROSSED_DEG = { min: 70, max: 180 };
const EIGHTS_DEG = { min: 50, max: 130 };
const SIDE_DB = { min: -10, max: 6 };
const NEAR_M = { min: 0.1, max: 0.45 };
const SPACED_M = { min: 0.3, max: 2 };

const inOrder = (found: Solution[]): Solution[] =>
  found.sort((a, b) => a.mostDeg - a.leastDeg - (b.mostDeg - b.leastDeg));

/** What every model that may speak makes of a technique's half angle. */
function spreadOf(technique: Technique, wanted: Wanted): { leastDeg: number; mostDeg: number } {
  const { coincident } = prepareArray({ x: 0, y: 0, z: 0, aimDeg: 0, tiltDeg: 0, technique });
  const halves = modelsFor(coincident).map(({ id }) =>
    halfAngleOf(technique, { ...wanted, model: id }),
  );
  return { leastDeg: Math.min(...halves), mostDeg: Math.max(...halves) };
}

/**
 * Every technique and pattern in its customary range that has the wanted recording angle; those on
 * which the models agree best come first.
 */
export function solveRecordingAngle(wanted: Wanted): Solution[] {
  const found: Solution[] = [];
  const add = (
    solvedFor: Solution['solvedFor'],
    techniqueAt: (value: number) => Technique,
    min: number,
    max: number,
  ): void => {
    const value = solveParameter(techniqueAt, min, max, wanted);
    if (value === null) return;
    const technique = techniqueAt(value);
    found.push({ solvedFor, technique, ...spreadOf(technique, wanted) });
  };
  const knowsTime = !modelOf(wanted).levelOnly;
  for (const pattern of [...PAIR_PATTERNS, 'figure-eight'] as const) {
    const at = (includedAngleDeg: number): Technique => ({
      kind: 'pair',
      pattern,
      spacingM: 0,
      includedAngleDeg,
    });
    const { min, max } = pattern === 'figure-eight' ? EIGHTS_DEG : CROSSED_DEG;
    add('included angle', at, min, max);
  }
  for (const midPattern of MID_PATTERNS) {
    const at = (sideGainDb: number): Technique => ({
      kind: 'mid-side',
      midPattern,
      sideGainDb,
      sidePositive: 'left',
    });
    add('side level', at, SIDE_DB.min, SIDE_DB.max);
  }
  if (!knowsTime) return inOrder(found);
  for (const pattern of PAIR_PATTERNS) {
    for (const includedAngleDeg of NEAR_ANGLES_DEG) {
      const at = (spacingM: number): Technique => ({
        kind: 'pair',
        pattern,
        spacingM,
        includedAngleDeg,
      });
      add('spacing', at, NEAR_M.min, NEAR_M.max);
    }
  }
  for (const pattern of ['omni', 'subcardioid'] as const) {
    const at = (spacingM: number): Technique => ({
      kind: 'pair',
      pattern,
      spacingM,
      includedAngleDeg: 0,
    });
    add('spacing', at, SPACED_M.min, SPACED_M.max);
  }
  return inOrder(found);
}
