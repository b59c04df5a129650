import { channelMap } from '../channels/map';
import { assignKit } from '../kit/assignment';
import { arrivalsAt, readyArray, realGainOf } from '../prepare/arrays';
import { remembered } from '../units/remember';
import type { MicArray, Microphone, Session } from '../session/schema';
import { amplitudeDb, inRange, powerDb } from '../units/guard';
import { contextOf } from '../prepare/context';

/** 94 dB SPL is 1 Pa. */
const PASCAL_DB = 94;
/** 0 dBu in volts. */
const DBU_V = 0.7746;

/**
 * Output of a microphone, volts.
 * @param levelDb sound pressure level at the capsule, −240 … 240 dB SPL
 * @param sensitivityMvPa 0.1 … 200 mV/Pa
 * @throws RangeError where levelDb is outside −240 … 240 dB, sensitivityMvPa is outside 0.1 … 200
 *   mV/Pa
 */
export function outputVolts(levelDb: number, sensitivityMvPa: number): number {
  inRange('levelDb', levelDb, -240, 240, 'dB');
  inRange('sensitivityMvPa', sensitivityMvPa, 0.1, 200, 'mV/Pa');
  return (sensitivityMvPa / 1000) * 10 ** ((levelDb - PASCAL_DB) / 20);
}

export type Phantom = 'on' | 'off' | 'not known';

/** One input: what arrives, what comes out, what it needs. A null figure is not known. */
export interface GainRow {
  arrayId: string;
  arrayName: string;
  /** place in the technique's order */
  capsule: number;
  label: string;
  /** all players together at their typed levels, direct sound by pattern and the room's, dB SPL */
  levelDb: number | null;
  /** of it the room's part, dB SPL; null while the hall is not known: then only direct sound counts */
  roomDb: number | null;
  /** the same with the session's allowance for peaks */
  peakDb: number | null;
  microphone: Microphone | null;
  /** of the peak, mV */
  outputMv: number | null;
  /** preamp gain that leaves the session's headroom below full scale, dB */
  gainDb: number | null;
  /** attenuation wanted before the input because the gain would be below 0, dB; 0 when none is */
  padDb: number;
  /** how far the peak exceeds what the microphone takes, dB; null when either is not known */
  overloadDb: number | null;
  phantom: Phantom;
}

function phantomOf(array: MicArray, microphone: Microphone | null): Phantom {
  const { phantom } = array.equipment;
  if (phantom !== 'as needed') return phantom;
  if (!microphone) return 'not known';
  return microphone.phantom === 'needs' ? 'on' : 'off';
}

interface CapsuleLevel {
  levelDb: number | null;
  roomDb: number | null;
}

/**
 * Level of all players at each capsule of an array, dB SPL; null at a capsule or without players.
 * Direct energy s²/r² and the room's REE/(Q·r_c²) add, each from the level at 1 m.
 */
function levelsAt(session: Session, array: MicArray): CapsuleLevel[] {
  const { speed, criticalDistanceM } = contextOf(session);
  const ready = readyArray(array);
  const energies = ready.capsules.map(() => 0);
  let reverberant = 0;
  let known = session.sources.length > 0;
  for (const source of session.sources) {
    if (criticalDistanceM !== null) {
      reverberant += 10 ** (source.levelDb / 10) / (source.q * criticalDistanceM ** 2);
    }
    const arrivals = arrivalsAt(array, source, speed);
    if (!arrivals) known = false;
    arrivals?.forEach((arrival, i) => {
      const levelDb = source.levelDb + amplitudeDb(realGainOf(arrival, speed));
      energies[i] = (energies[i] ?? 0) + 10 ** (levelDb / 10);
    });
  }
  return energies.map((direct, i) => {
    const room = reverberant * (ready.diffuse[i] ?? 1);
    const energy = direct + room;
    return {
      levelDb: known && energy > 0 ? powerDb(energy) : null,
      roomDb: known && room > 0 ? powerDb(room) : null,
    };
  });
}

/**
 * Expected level (direct sound and room), output, gain and phantom of every input, in their order. Peak = level + the session's
 * allowance; gain = full scale − headroom − output at the peak, in dBu.
 */
export const gainPlan: (session: Session) => readonly GainRow[] = remembered((session) => {
  const { peakAboveDb, headroomDb, fullScaleDbu } = session.rig;
  const assigned = assignKit(session).capsules;
  const byId = new Map(session.kit.microphones.map((mic) => [mic.id, mic]));
  const arrays = new Map(session.arrays.map((array) => [array.id, array]));
  const levels = new Map<string, CapsuleLevel[]>();
  return channelMap(session).inputs.flatMap(({ arrayId, arrayName, capsule, label }, next) => {
    const array = arrays.get(arrayId);
    if (!array) return [];
    const at = levels.get(arrayId) ?? levelsAt(session, array);
    levels.set(arrayId, at);
    const microphone = byId.get(assigned[next]?.microphoneId ?? '') ?? null;
    const { levelDb, roomDb } = at[capsule] ?? { levelDb: null, roomDb: null };
    const peakDb = levelDb === null ? null : levelDb + peakAboveDb;
    const sensitivity = microphone?.sensitivityMvPa ?? null;
    const volts = peakDb === null || sensitivity === null ? null : outputVolts(peakDb, sensitivity);
    const wanted = volts === null ? null : fullScaleDbu - headroomDb - amplitudeDb(volts / DBU_V);
    const most = microphone?.maxSplDb ?? null;
    return {
      arrayId,
      arrayName,
      capsule,
      label,
      levelDb,
      roomDb,
      peakDb,
      microphone,
      outputMv: volts === null ? null : volts * 1000,
      gainDb: wanted === null ? null : Math.max(0, wanted),
      padDb: wanted !== null && wanted < 0 ? Math.ceil(-wanted / 10) * 10 : 0,
      overloadDb: peakDb === null || most === null ? null : peakDb - most,
      phantom: phantomOf(array, microphone),
    };
  });
});
