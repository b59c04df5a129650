import { mainArrays } from '../../session/lists';
import type { MicArray, Session, Source } from '../../session/schema';
import { arrivalsOf, type MicrophoneArrival } from '../arrivals';
import { heardArrays } from '../mix';

/** A microphone so far below the main array, dB, pulls nobody. */
export const TOO_WEAK_DB = 15;
/** A lead of more than this is one, ms. */
export const LEAD_MS = 1;

const loudest = (list: readonly MicrophoneArrival[]): number =>
  Math.max(...list.map(({ levelDb }) => levelDb));
const earliest = (list: readonly MicrophoneArrival[]): number =>
  Math.min(...list.map(({ arrivalMs }) => arrivalMs));

/** The main array that leads the mix; undefined without one. */
export const leadingMain = (session: Session): MicArray | undefined => {
  const mains = new Set(mainArrays(session).map(({ id }) => id));
  return heardArrays(session).find(({ id }) => mains.has(id));
};

/** How one array reaches the mix against the main array, for one player; null where one is silent. */
export function against(
  session: Session,
  array: MicArray,
  main: MicArray,
  source: Source,
): { leadMs: number; levelDb: number } | null {
  const { arrivals } = arrivalsOf(session, source);
  const own = arrivals.filter(({ arrayId }) => arrayId === array.id);
  const mains = arrivals.filter(({ arrayId }) => arrayId === main.id);
  if (own.length === 0 || mains.length === 0) return null;
  return { leadMs: earliest(mains) - earliest(own), levelDb: loudest(own) - loudest(mains) };
}

/** Why whoever is heard first matters. */
export const FIRST_WAVE = 'The earliest loud arrival pulls the image (precedence)';
