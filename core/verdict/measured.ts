import type { ChannelCue } from '../audio/measure/cues';
import type { Channel, Cue, Place } from './stand';

/** A cue as it was measured, with its standard deviations. */
export interface MeasuredCue extends Cue {
  delayWithinMs: number;
  /** null: its level is not read */
  levelWithinDb: number | null;
}

/** What was measured of one place: by channel of the list, the first left out. */
export type MeasuredAt = readonly (MeasuredCue | null)[];

/**
 * What onsets leave open beside their own spread: of two microphones of one array, and of two farther
 * apart, of a clap and of somebody who plays. ms and dB, standard deviations.
 */
const OPEN = {
  clap: { together: { ms: 0.002, db: 0.15 }, apart: { ms: 0.01, db: 0.4 } },
  player: { together: { ms: 0.004, db: 0.5 }, apart: { ms: 0.05, db: 1.2 } },
} as const;

/** The same of somebody who plays without onsets, read from the phase of all that sounds. */
const STEADY = { together: { ms: 0.015, db: 1.2 }, apart: { ms: 0.1, db: 3 } } as const;

/** The cues of one place with what is not certain in them, in the order of the channel list. */
export function measuredAt(
  cues: readonly ChannelCue[],
  channels: readonly Channel[],
  { taped }: Pick<Place, 'taped'>,
): MeasuredAt {
  const [first] = channels;
  return channels.slice(1).map(({ channel, arrayId }) => {
    const cue = cues.find((one) => one.channel === channel);
    if (!cue) return null;
    const kind = cue.onsets === 0 ? STEADY : OPEN[taped ? 'clap' : 'player'];
    const open = kind[arrayId === first?.arrayId ? 'together' : 'apart'];
    return {
      delayMs: cue.delayMs,
      levelDb: cue.levelDb ?? 0,
      polarity: cue.polarity,
      delayWithinMs: Math.hypot(open.ms, cue.delaySpreadMs),
      levelWithinDb: cue.levelDb === null ? null : Math.hypot(open.db, cue.levelSpreadDb),
    };
  });
}
