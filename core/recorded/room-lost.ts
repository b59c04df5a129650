import { mean } from 'd3-array';
import { patternAOf, randomEnergyEfficiency } from '../acoustics/patterns';
import type { PairMatch } from '../audio/measure/pair';
import type { Session } from '../session/schema';
import { inRange, powerDb } from '../units/guard';
import { plannedMidSide } from './mid-side';
import type { Binding } from './bound';

/** What mono loses of what sounds in a stretch, by third octave. */
export interface RoomLost {
  /** of the power of left and right together, dB, 0 and less */
  bands: { hz: number; db: number }[];
  /** mean of the bands, 100 Hz … 10 kHz */
  meanDb: number;
  worst: { hz: number; db: number };
}

const [FROM_HZ, TO_HZ] = [100, 10_000];

/** Power that a high-pass of second order (Q 1/√2) leaves. */
function passed(hz: number, cutHz: number | null): number {
  if (cutHz === null) return 1;
  const w = (hz / cutHz) ** 4;
  return w / (1 + w);
}

/**
 * What mono loses of mid and side: of M² + S² the side's part.
 * @param match the side against the mid in the stretch, as two microphones are matched
 * @param gainDb of the side in the decoder, −60 … 24
 * @param highPassHz of the side; null without one
 * @throws RangeError where gainDb is outside −60 … 24 dB
 */
export function roomLost(
  { trimDb, bands }: Pick<PairMatch, 'trimDb' | 'bands'>,
  gainDb: number,
  highPassHz: number | null,
): RoomLost {
  inRange('gainDb', gainDb, -60, 24, 'dB');
  const lost = bands.map(({ hz, db }) => {
    const side = 10 ** ((db - trimDb + gainDb) / 10) * passed(hz, highPassHz);
    return { hz, db: -powerDb(1 + side) };
  });
  const judged = lost.filter(({ hz }) => hz >= FROM_HZ && hz <= TO_HZ);
  const worst = judged.reduce((most, one) => (one.db < most.db ? one : most), {
    hz: 1000,
    db: 0,
  });
  return { bands: lost, meanDb: mean(judged, ({ db }) => db) ?? 0, worst };
}

/**
 * The same of a diffuse room by the patterns of the plan, dB; null where the channel is no mid of it.
 * @param channel of the mid, 0 … 63
 * @param gainDb of the side, −60 … 24
 */
export function plannedRoomLostDb(
  session: Session,
  binding: Binding,
  channel: number,
  gainDb: number,
): number | null {
  const planned = plannedMidSide(session, binding, channel);
  if (!planned) return null;
  const ratio = randomEnergyEfficiency(0) / randomEnergyEfficiency(patternAOf(planned.midPattern));
  return -powerDb(1 + ratio * 10 ** (gainDb / 10));
}
