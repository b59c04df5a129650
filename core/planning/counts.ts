import { channelMap } from '../channels/map';
import type { Session } from '../session/schema';
import { inRange } from '../units/guard';

/** What is needed against what is there; a null limit is not known. */
export interface Shortage {
  what: 'channels' | 'preamplifiers' | 'recorder tracks';
  needed: number;
  limit: number | null;
  /** how many are missing, 0 where it is enough or not known */
  short: number;
}

/** Channels, preamplifiers and recorder tracks: needed, there, short. */
export function shortages(session: Session): Shortage[] {
  const needed = channelMap(session).inputs.length;
  const { kit, brief } = session;
  const limits = [
    ['channels', needed, brief.channelLimit],
    ['preamplifiers', needed, kit.preampChannels],
    ['recorder tracks', brief.storage.tracks ?? needed, kit.recorderTracks],
  ] as const;
  return limits.map(([what, wanted, limit]) => ({
    what,
    needed: wanted,
    limit,
    short: limit === null ? 0 : Math.max(0, wanted - limit),
  }));
}

export interface Storage {
  bytes: number;
  /** minutes after which one file of all tracks together passes 4 GiB; null when it never does */
  passes4GiBAfterMin: number | null;
  /** the same for a file of one track */
  singlePasses4GiBAfterMin: number | null;
}

const GIB4 = 4 * 1024 ** 3;

/**
 * Room that uncompressed recordings take: tracks × rate × depth × time, headers left out.
 * @param tracks 1 … 256
 * @param sampleRateHz 8000 … 768 000 Hz
 * @param bits 16, 24 or 32
 * @param hours 0 … 24
 * @throws RangeError where tracks is outside 1 … 256, sampleRateHz is outside 8000 … 768000 Hz,
 *   bits is outside 8 … 64, hours is outside 0 … 24 h
 */
export function storage(
  tracks: number,
  sampleRateHz: number,
  bits: number,
  hours: number,
): Storage {
  inRange('tracks', tracks, 1, 256);
  inRange('sampleRateHz', sampleRateHz, 8000, 768000, 'Hz');
  inRange('bits', bits, 8, 64);
  inRange('hours', hours, 0, 24, 'h');
  const perSecond = (count: number) => (count * sampleRateHz * bits) / 8;
  const passesAfter = (count: number) => {
    const minutes = GIB4 / perSecond(count) / 60;
    return minutes <= hours * 60 ? minutes : null;
  };
  return {
    bytes: perSecond(tracks) * hours * 3600,
    passes4GiBAfterMin: passesAfter(tracks),
    singlePasses4GiBAfterMin: passesAfter(1),
  };
}
