import { channelMap } from '../../channels/map';
import type { Session } from '../../session/schema';

/** Bits of a sample of a simulated take. */
export const TAKE_BITS = 24;

/** How many channels a simulated take has: one an input. */
export const planChannels = (session: Pick<Session, 'arrays'>): number =>
  channelMap(session).inputs.length;

/**
 * Bytes that a take's samples will have.
 * @param channels 0 … 64
 * @param seconds 1 … 600 s
 * @param sampleRateHz 8000 … 192000 Hz
 */
export const takeSize = (channels: number, seconds: number, sampleRateHz: number): number =>
  (Math.round(seconds * sampleRateHz) * channels * TAKE_BITS) / 8;
