import { arrayFigures } from '../../analysis/array-figures';
import { contextOf } from '../../prepare/context';
import type { Session, SessionTechnique, Source } from '../../session/schema';
import { shiftText } from '../../units/format';
import { zeroBetween } from '../../units/numbers';
import type { Asked } from './asked';
import { MAIN_PLACE, pairOf, phraseFor, sceneOf, withArrays, type Scene } from './scene';
import { asStereo, capsulesHear, type Making, type Stereo } from './sound';

/** Where a player appears: in the consensus, and the least and the most of all models. */
export interface Placed {
  shift: number;
  low: number;
  high: number;
}

const PAIRS: readonly (readonly [SessionTechnique, string])[] = [
  [pairOf('cardioid', 0.17, 110), 'cardioids, 17 cm and 110°'],
  [pairOf('cardioid', 0.3, 90), 'cardioids, 30 cm and 90°'],
  [pairOf('cardioid', 0, 100), 'cardioids in one place, 100°'],
  [pairOf('omni', 0.45, 0), 'omnis, 45 cm apart'],
];
const OUT_DEG = 42;
const MOST_DEG = 70;
const DISTANCE_M = 3.2;

const at = (deg: number): { x: number; y: number } => ({
  x: DISTANCE_M * Math.sin((deg * Math.PI) / 180),
  y: DISTANCE_M * Math.cos((deg * Math.PI) / 180) + MAIN_PLACE.y,
});

interface PlaceScene {
  scene: Scene;
  session: Session;
  words: string;
  deg: number;
  phrase: ReturnType<typeof phraseFor>;
}

function placeScene(seed: number): PlaceScene {
  const scene = sceneOf(seed, 1);
  const { random } = scene;
  const deg = OUT_DEG * (2 * random() - 1);
  const [technique, words] = PAIRS[Math.floor(random() * PAIRS.length)] ?? [
    pairOf('cardioid', 0.17, 110),
    '',
  ];
  const phrase = phraseFor(random);
  const session = withArrays(scene, [{ id: 'main', name: 'Main pair', technique }]);
  return { scene, session, words, deg, phrase };
}

const movedTo = (session: Session, deg: number): Session => ({
  ...session,
  sources: session.sources.map((source): Source => ({ ...source, ...at(deg) })),
});

/** Where the only player of a set-up appears. */
export function placedIn(session: Session): Placed {
  const [array] = session.arrays;
  const image = array
    ? arrayFigures(array, session.sources, contextOf(session)).sources[0]?.image
    : null;
  const shifts = Object.values(image ?? {}).map(({ shift }) => shift);
  return {
    shift: image?.consensus?.shift ?? 0,
    low: Math.min(...shifts),
    high: Math.max(...shifts),
  };
}

/**
 * One player somewhere, to be found on the line.
 * @param seed any whole number, 0 … 2^32
 */
export async function earPlace(seed: number, making: Making): Promise<Asked & { placed: Placed }> {
  const { session, words, deg, phrase } = placeScene(seed);
  const moved = movedTo(session, deg);
  const heard = await capsulesHear(moved, phrase, seed, making);
  const placed = placedIn(moved);
  const [player] = moved.sources;
  return {
    text: `Where is the ${(player?.name ?? 'player').toLowerCase()}?`,
    answers: [],
    sounds: [asStereo(heard.get('main'))],
    truth: placed.shift,
    after: `${player?.name ?? ''} at ${Math.round(Math.abs(deg))}° ${deg < 0 ? 'left' : 'right'}, ${words}: ${shiftText(placed.shift)} by the consensus, ${shiftText(placed.low)} to ${shiftText(placed.high)} by the models.`,
    placed,
  };
}

/**
 * The same player where the answer was: what would have been heard there.
 * @param shift −1 … +1
 */
export async function heardAt(seed: number, shift: number, making: Making): Promise<Stereo> {
  const { session, phrase } = placeScene(seed);
  const off = (deg: number): number => placedIn(movedTo(session, deg)).shift - shift;
  const deg = zeroBetween(off, -MOST_DEG, MOST_DEG, 30);
  const heard = await capsulesHear(movedTo(session, deg), phrase, seed, making);
  return asStereo(heard.get('main'));
}
