import { inRange } from '../../units/guard';

/** The localisation models on how level and time differences become a place. */
export type ModelId = 'consensus' | 'traded' | 'added' | 'two-slope' | 'tangent' | 'own';
/** Those that are the same for everybody. */
export type CommonModelId = Exclude<ModelId, 'own'>;

/** Largest differences that any two microphones of a session can have. */
const MOST_ICLD_DB = 240;
const MOST_ICTD_MS = 5000;

/** @throws RangeError where a difference is not a number or beyond what a session can hold */
export function checkCues(icldDb: number, ictdMs: number): void {
  inRange('icldDb', icldDb, -MOST_ICLD_DB, MOST_ICLD_DB, 'dB');
  inRange('ictdMs', ictdMs, -MOST_ICTD_MS, MOST_ICTD_MS, 'ms');
}

/**
 * One model: a map from interchannel differences to an image shift.
 * Shift: −1 at the left loudspeaker, 0 centre, +1 at the right one.
 */
export interface LocalisationModel {
  id: ModelId;
  /** short name for columns and legends */
  name: string;
  /** what it holds, in one line */
  holds: string;
  /** who it goes back to, briefly, for a choice or a legend */
  authors: string;
  source: string;
  /** where its data or derivation apply, and what it leaves out */
  range: string;
  /** level is the only cue it knows: refused for arrays with a time difference */
  levelOnly: boolean;
  /**
   * Below this sum of the cues' shares, |dB|/15 + |ms|/1.12, its image is surely narrower than a
   * level, by the two levels of a scan; 0 where nothing is known.
   */
  surelyNarrower: { at75: number; full: number };
  /**
   * @param icldDb interchannel level difference, dB, positive to the right
   * @param ictdMs interchannel time difference, ms, positive to the right
   * @returns shift from −1 to +1
   */
  shift: (icldDb: number, ictdMs: number) => number;
  /**
   * How far the differences exceed what an image of this size needs, on either side; continuous,
   * and at or above 0 exactly where |shift| ≥ level. Cheaper than the shift itself.
   * @param level size of the shift, above 0 and up to 1
   */
  margin: (icldDb: number, ictdMs: number, level: number) => number;
  /**
   * The least time difference (to the right) that brings the image to a level on the right, given
   * the level difference; below 0 where time may even oppose. Null where no time difference does.
   */
  timeNeeded: (icldDb: number, level: number) => number | null;
}
