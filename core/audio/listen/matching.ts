import { dbToAmplitude } from '../../units/guard';

/** Everything that is heard is brought to this before the volume, LUFS. */
export const LOUDNESS = -20;
/** Nothing is made louder by more, dB: what is nearly silent stays so. */
const MOST_TRIM_DB = 40;
/** A trim that is so near to another one is the same, as a share. */
const SAME = 1e-3;

/**
 * What brings something to the loudness of all.
 * Source: loudness after ITU-R BS.1770-4.
 * @param loudness of it, LUFS; null where it has none
 * @returns dB; null where it has none
 */
export const trimDbOf = (loudness: number | null): number | null =>
  loudness === null || !Number.isFinite(loudness)
    ? null
    : Math.min(MOST_TRIM_DB, LOUDNESS - loudness);

/**
 * What brings something to the loudness of another one that has its trim already.
 * @param trim amplitude of the other one, 0 … 1000
 * @param loudness, ownLoudness of the other one and of this one without their trims, LUFS
 * @returns amplitude
 */
export const trimLike = (trim: number, loudness: number, ownLoudness: number): number =>
  trim * dbToAmplitude(loudness - ownLoudness);

/**
 * Whether two trims are one.
 * @param one, other amplitudes, 1e-6 … 1000
 */
export const isSameTrim = (one: number, other: number): boolean => Math.abs(one / other - 1) < SAME;
