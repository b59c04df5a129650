import { instrumentFields } from '../../ensembles/instruments';
import { sessionFrom } from '../../session/create';
import type { MicArray, Session, SessionTechnique, Source } from '../../session/schema';
import { seededRandom } from '../../units/random';
import { shuffled } from '../../units/shuffled';

/** A made-up set-up for a question: another one for every seed, so that nothing but what is asked tells. */

const KINDS = [
  ...['violin', 'viola', 'cello', 'flute', 'oboe', 'clarinet', 'bassoon', 'horn', 'trumpet'],
  ...['guitar', 'harp', 'soprano', 'tenor'],
] as const;
const PHRASES = ['chorale', 'scale', 'staccato'] as const;
export type Phrase = (typeof PHRASES)[number];

export interface Scene {
  session: Session;
  random: () => number;
  seed: number;
}

/** The wall behind the players is so far upstage, m. */
const WALL_M = 6;

/** A place in the hall, m. */
interface Place {
  x: number;
  y: number;
}

/** Players on an arc before the array, from left to right. */
function arcOf(count: number, random: () => number): Place[] {
  const half = 28 + 14 * random();
  const radius = 2.6 + 1.4 * random();
  return Array.from({ length: count }, (_, i) => {
    const share = count === 1 ? 0 : (2 * i) / (count - 1) - 1;
    const deg = half * share + 6 * (random() - 0.5);
    const at = radius * (1 + 0.15 * (random() - 0.5));
    return {
      x: at * Math.sin((deg * Math.PI) / 180),
      y: at * Math.cos((deg * Math.PI) / 180) - 0.6,
    };
  });
}

/** Where the main microphones of every made-up set-up stand. */
export const MAIN_PLACE = { x: 0, y: -0.6, z: 2.4, aimDeg: 0, tiltDeg: 0 } as const;

/**
 * A few players in a hall, without an array.
 * @param seed any whole number
 * @param players 1 … 6
 * @param places where they sit, from left to right; on an arc where it is left out
 */
export function sceneOf(seed: number, players: number, places?: readonly Place[]): Scene {
  const random = seededRandom(seed);
  const kinds = shuffled(KINDS, random).slice(0, players);
  const at = places ?? arcOf(players, random);
  const sources = kinds.map((kind, i): Partial<Source> => {
    const { x = 0, y = 2 } = at[i] ?? {};
    const name = `${kind.charAt(0).toUpperCase()}${kind.slice(1)}`;
    return { ...instrumentFields(kind), id: `player-${i + 1}`, name, kind, x, y, z: 1.2 };
  });
  const [widthM, depthM] = [12 + 8 * random(), 18 + 13 * random()];
  return {
    seed,
    random,
    session: sessionFrom({
      id: `drill-${seed}`,
      venue: {
        widthM,
        depthM,
        heightM: 7 + 5 * random(),
        rt60S: 1 + 1.1 * random(),
        origin: { x: widthM / 2, y: depthM - WALL_M },
      },
      sources,
    }),
  };
}

/** One of the phrases, by chance. */
export const phraseFor = (random: () => number): Phrase =>
  PHRASES[Math.floor(random() * PHRASES.length)] ?? 'chorale';

/** The same set-up with arrays. */
export const withArrays = (
  { session }: Scene,
  arrays: readonly (Partial<MicArray> & { technique: SessionTechnique })[],
): Session =>
  sessionFrom({ ...session, arrays: arrays.map((array) => ({ ...MAIN_PLACE, ...array })) });

/** A pair as the file says it. */
export const pairOf = (
  pattern: 'omni' | 'subcardioid' | 'cardioid' | 'supercardioid' | 'figure-eight' | number,
  spacingM: number,
  includedAngleDeg: number,
): SessionTechnique => ({ kind: 'pair', pattern, spacingM, includedAngleDeg });
