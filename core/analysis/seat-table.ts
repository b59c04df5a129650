import { nearCues } from '../localisation/cues';
import { shiftIn } from '../localisation/leading';
import { readyArray } from '../prepare/arrays';
import { contextOf } from '../prepare/context';
import type { MicArray, Session, Source } from '../session/schema';
import { amplitudeDb } from '../units/guard';
import { azimuthFrom, sourceFigures } from './source-figures';

/** What one array makes of one seat, channel by channel. */
export interface SeatRow {
  sourceId: string;
  distanceM: number;
  /** off the array's aim, degrees, positive right */
  azimuthDeg: number;
  /** direct sound in each channel, dB SPL; null where nothing comes */
  leftDb: number | null;
  rightDb: number | null;
  /** right against left, dB and ms */
  icldDb: number | null;
  ictdMs: number | null;
  /** of both channels: as it sounds, both turned over, or against each other */
  polarity: 'same' | 'inverted' | 'opposite' | null;
  /** mono sum against the power of both channels, dB */
  monoDb: number | null;
  /** place in the model that leads, −1 … 1; null in antiphase */
  shift: number | null;
}

const levelOf = (amplitude: number, source: Source): number | null =>
  Math.abs(amplitude) > 1e-9 ? source.levelDb + amplitudeDb(Math.abs(amplitude)) : null;

/**
 * Every seat as an array hears it: both channels, their polarity, what mono leaves.
 * @param sources the seats asked for, in the order wanted
 */
export function seatRows(session: Session, array: MicArray, sources: readonly Source[]): SeatRow[] {
  const ready = readyArray(array);
  const context = contextOf(session);
  return sources.map((source) => {
    const cues = nearCues(ready, source, context.speed);
    const figures = sourceFigures(ready, source, context);
    const seen = { sourceId: source.id, distanceM: figures.distanceM };
    const azimuthDeg = azimuthFrom(ready, source);
    if (!cues) {
      return {
        ...seen,
        azimuthDeg,
        leftDb: null,
        rightDb: null,
        icldDb: null,
        ictdMs: null,
        polarity: null,
        monoDb: null,
        shift: null,
      };
    }
    return {
      ...seen,
      azimuthDeg,
      leftDb: levelOf(cues.left, source),
      rightDb: levelOf(cues.right, source),
      icldDb: cues.icldDb,
      ictdMs: cues.ictdMs,
      polarity: cues.opposed ? 'opposite' : cues.inverted ? 'inverted' : 'same',
      monoDb: figures.mono?.sumDb ?? null,
      shift: shiftIn(figures, session.settings.model),
    };
  });
}
