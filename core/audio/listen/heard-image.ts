import { shiftsOf } from '../../localisation/models';
import type { ChannelDelay } from '../measure/delay';

/** An image between two loudspeakers, −1 left … 1 right: by the consensus, and how far the models differ. */
export interface HeardImage {
  shift: number;
  low: number;
  high: number;
}

/**
 * What is heard between two loudspeakers of a left and a right channel that were recorded.
 * @param delay how the right one stands against the left one
 * @returns null where one is silent or turned over, or their delay cannot be told
 */
export function heardImage(delay: ChannelDelay | null): HeardImage | null {
  if (delay?.delayMs == null || delay.polarity === -1) return null;
  // Later on the right is earlier on the left.
  const shifts = shiftsOf(false, delay.levelDb, -delay.delayMs);
  return { shift: shifts[0] ?? 0, low: Math.min(...shifts), high: Math.max(...shifts) };
}
