import { arrivalsAt, realGainOf } from '../prepare/arrays';
import { speedOfSound } from '../units/sound';
import { amplitudeDb } from '../units/guard';
import { formatSigned } from '../units/format';
import type { Input } from '../channels/map';
import type { Session, Source } from '../session/schema';

/** How one microphone should stand against another for one player, by the plan: direct sound alone. */
export interface PlannedDifference {
  sourceId: string;
  name: string;
  /** of the second against the first: later, ms; negative earlier */
  delayMs: number;
  /** of the second against the first, dB */
  levelDb: number;
}

interface Heard {
  timeS: number;
  gain: number;
}

function heardAt(session: Session, input: Input, source: Source, speed: number): Heard | null {
  const array = session.arrays.find(({ id }) => id === input.arrayId);
  const arrival = array && arrivalsAt(array, source, speed)?.[input.capsule];
  if (!arrival) return null;
  return { timeS: arrival.timeS, gain: Math.abs(realGainOf(arrival, speed)) };
}

/**
 * What the plan expects between two microphones, player by player: before delays and gains of the desk.
 * @param first, second inputs of the channel list
 * @returns players in their order; those at a capsule or in its null are left out
 */
export function plannedDifferences(
  session: Session,
  first: Input,
  second: Input,
): PlannedDifference[] {
  const speed = speedOfSound(session.venue.temperatureC);
  return session.sources.flatMap((source) => {
    const [one, other] = [first, second].map((input) => heardAt(session, input, source, speed));
    if (!one || !other || one.gain === 0 || other.gain === 0) return [];
    return {
      sourceId: source.id,
      name: source.name,
      delayMs: (other.timeS - one.timeS) * 1000,
      levelDb: amplitudeDb(other.gain / one.gain),
    };
  });
}

/** How a pair that was measured stands to what was planned. */
export interface SidesTold {
  verdict: 'as planned' | 'swapped' | 'cannot be told';
  /** why, or by what */
  text: string;
}

/** Nearer to the middle than this the plan itself tells no side: ms, dB. */
const [LEAST_MS, LEAST_DB] = [0.1, 2];

/**
 * Whether left and right are as planned, where one player is alone.
 * @param measured of the right against the left; null where it cannot be told
 * @param planned the same by the plan, of whoever plays
 */
export function sidesTold(
  measured: { delayMs: number | null; levelDb: number | null },
  planned: PlannedDifference,
): SidesTold {
  const { delayMs, levelDb } = measured;
  const votes: { agrees: boolean; words: string }[] = [];
  if (delayMs !== null && Math.abs(planned.delayMs) >= LEAST_MS && Math.abs(delayMs) >= LEAST_MS) {
    votes.push({
      agrees: Math.sign(delayMs) === Math.sign(planned.delayMs),
      words: `${formatSigned(delayMs, 2)} ms where the plan has ${formatSigned(planned.delayMs, 2)} ms`,
    });
  }
  if (levelDb !== null && Math.abs(planned.levelDb) >= LEAST_DB && Math.abs(levelDb) >= LEAST_DB) {
    votes.push({
      agrees: Math.sign(levelDb) === Math.sign(planned.levelDb),
      words: `${formatSigned(levelDb, 1)} dB where the plan has ${formatSigned(planned.levelDb, 1)} dB`,
    });
  }
  const words = votes.map((vote) => vote.words).join(', ');
  if (votes.length === 0) {
    const text =
      Math.abs(planned.delayMs) < LEAST_MS && Math.abs(planned.levelDb) < LEAST_DB
        ? `${planned.name} is planned too near the middle to tell a side: take somebody who sits at one.`
        : `The recording is too near the middle there to tell a side.`;
    return { verdict: 'cannot be told', text };
  }
  if (votes.every(({ agrees }) => agrees)) {
    return { verdict: 'as planned', text: `${planned.name} is on the side of the plan: ${words}.` };
  }
  if (votes.some(({ agrees }) => agrees)) {
    const text = `Time and level do not agree on a side: ${words}. A stretch with ${planned.name} quite alone would tell.`;
    return { verdict: 'cannot be told', text };
  }
  return {
    verdict: 'swapped',
    text: `Left and right are swapped, by ${planned.name}: ${words}.`,
  };
}
