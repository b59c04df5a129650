import { mean } from 'd3-array';
import { contextOf } from '../prepare/context';
import { playersOf } from '../prepare/for-whom';
import type { MicArray, Session } from '../session/schema';
import { arrivalsOf } from './arrivals';
import { heardArrays } from './mix';

/** What a layer does to the main array by its delay. */
export type LayerWord = 'fuses' | 'colours' | 'echo';

/** One array against the main one, over the players that it is for. */
export interface Layer {
  arrayId: string;
  name: string;
  role: MicArray['role'];
  /** after the main array, ms: least, mean and most over the players; negative before it */
  leastMs: number;
  meanMs: number;
  mostMs: number;
  /** against the main array, mean over the players, dB */
  levelDb: number;
  word: LayerWord;
}

/** Within this of each other two arrays are one, ms. */
const FUSED_MS = 1;

/**
 * Every layer of the mix against the main array: what fuses with it, colours it, or is heard apart
 * from the session's limit on (35 ms is usual).
 * Source: H. Haas (1951).
 * @returns nothing without a main array that is heard
 */
export function layersOf(session: Session): Layer[] {
  const heard = heardArrays(session);
  const main = heard.find(({ role }) => role === 'main');
  if (!main) return [];
  const { speed } = contextOf(session);
  const limitMs = session.settings.echoFromMs;
  return heard.flatMap((array): Layer[] => {
    if (array.id === main.id) return [];
    const against = playersOf(array, session.sources, speed).flatMap((source) => {
      const { arrivals } = arrivalsOf(session, source);
      const own = arrivals.filter(({ arrayId }) => arrayId === array.id);
      const mains = arrivals.filter(({ arrayId }) => arrayId === main.id);
      if (own.length === 0 || mains.length === 0) return [];
      const first = (list: typeof own): number => Math.min(...list.map((one) => one.arrivalMs));
      const loudest = (list: typeof own): number => Math.max(...list.map((one) => one.levelDb));
      return [{ ms: first(own) - first(mains), db: loudest(own) - loudest(mains) }];
    });
    const delays = against.map(({ ms }) => ms);
    const [meanMs, levelDb] = [mean(delays), mean(against, ({ db }) => db)];
    if (meanMs === undefined || levelDb === undefined) return [];
    const apartMs = Math.max(...delays.map(Math.abs));
    return [
      {
        arrayId: array.id,
        name: array.name,
        role: array.role,
        leastMs: Math.min(...delays),
        meanMs,
        mostMs: Math.max(...delays),
        levelDb,
        word: apartMs <= FUSED_MS ? 'fuses' : apartMs < limitMs ? 'colours' : 'echo',
      },
    ];
  });
}
