import { arrayFigures } from '../../analysis/array-figures';
import { delayed } from '../../audio/signal/generate';
import { patternAOf } from '../../acoustics/patterns';
import { contextOf } from '../../prepare/context';
import type { Session, SessionTechnique } from '../../session/schema';
import { amplitudeDb, dbToAmplitude } from '../../units/guard';
import { formatNumber } from '../../units/format';
import { zeroBetween } from '../../units/numbers';
import { seededRandom } from '../../units/random';
import { shuffled } from '../../units/shuffled';
import { distance } from '../../units/vector';
import { A_OR_B, hiding, main, type Maker } from './asked';
import type { EarKindId } from './kinds';
import { lateSpot, layer } from './makers-mix';
import { MAIN_PLACE, pairOf, phraseFor, sceneOf, withArrays, type Scene } from './scene';
import {
  addedUp,
  asMidSide,
  asStereo,
  capsulesHear,
  decoded,
  dryPhrase,
  inMono,
  phaseTurned,
  RATE_HZ,
  scaled,
  type Making,
  type Stereo,
} from './sound';

const widthOf = (session: Session): number => {
  const [array] = session.arrays;
  if (!array) return 0;
  const figures = arrayFigures(array, session.sources, contextOf(session));
  return figures.stage.consensus?.imageWidthPct ?? 0;
};

/** A near-coincident pair by how much of 30 cm and 120° it has. */
const openedBy = (share: number): SessionTechnique => pairOf('cardioid', 0.3 * share, 120 * share);

const width: Maker = async (seed, size, making) => {
  const scene = sceneOf(seed, 3);
  const { random } = scene;
  const phrase = phraseFor(random);
  const [from, to] = [0.02, 1.4];
  const widest = widthOf(main(scene, openedBy(to)));
  // The wider one has room between the loudspeakers.
  const narrowPct = Math.min(28 + 12 * random(), (0.92 * widest) / (1 + size / 100));
  const widePct = narrowPct * (1 + size / 100);
  const opened = (pct: number): number =>
    zeroBetween((share) => widthOf(main(scene, openedBy(share))) - pct, from, to, 30);
  const heard: Stereo[] = [];
  for (const pct of [widePct, narrowPct]) {
    const session = main(scene, openedBy(opened(pct)));
    heard.push(asStereo((await capsulesHear(session, phrase, seed, making)).get('main')));
  }
  const [wide, narrow] = heard;
  if (!wide || !narrow) throw new TypeError('two pairs are heard');
  const { truth, rest, sounds } = hiding(random, wide, narrow);
  return {
    text: 'Which picture is wider?',
    answers: A_OR_B,
    sounds,
    truth,
    after: `${truth} is wider: ${formatNumber(widePct, 0)} % of the base, ${rest} ${formatNumber(narrowPct, 0)} %, by the consensus.`,
  };
};

interface Corner {
  pattern: 'omni' | 'cardioid' | 'figure-eight';
  spacingM: number;
  angleDeg: number;
  words: string;
}
const CORNERS: readonly Corner[] = [
  { pattern: 'omni', spacingM: 0.6, angleDeg: 0, words: 'omnis 60 cm apart' },
  { pattern: 'cardioid', spacingM: 0, angleDeg: 90, words: 'coincident cardioids at 90°' },
  { pattern: 'figure-eight', spacingM: 0, angleDeg: 90, words: 'crossed figure-eights (Blumlein)' },
  { pattern: 'cardioid', spacingM: 0.17, angleDeg: 110, words: 'cardioids at 17 cm and 110°' },
];

const technique: Maker = async (seed, size, making) => {
  const scene = sceneOf(seed, 3);
  const { random } = scene;
  const phrase = phraseFor(random);
  const [from, to] = shuffled(CORNERS, random);
  if (!from || !to) throw new TypeError('two techniques are compared');
  const share = size / 100;
  const between = (a: number, b: number): number => a + share * (b - a);
  const spacingM = between(from.spacingM, to.spacingM);
  const angleDeg = between(from.angleDeg, to.angleDeg);
  const patternA = between(patternAOf(from.pattern), patternAOf(to.pattern));
  const session = withArrays(scene, [
    { id: 'one', name: 'One', technique: pairOf(from.pattern, from.spacingM, from.angleDeg) },
    { id: 'two', name: 'Two', technique: pairOf(patternA, spacingM, angleDeg) },
  ]);
  const heard = await capsulesHear(session, phrase, seed, making);
  const { truth, rest, sounds } = hiding(
    random,
    asStereo(heard.get('two')),
    asStereo(heard.get('one')),
  );
  const whole = share >= 0.999;
  return {
    text: whole ? `Which one is ${to.words}?` : `Which one is nearer to ${to.words}?`,
    answers: A_OR_B,
    sounds,
    truth,
    after: whole
      ? `${truth} is ${to.words}, ${rest} is ${from.words}.`
      : `${rest} is ${from.words}; ${truth} is ${formatNumber(size, 0)} % of the way from there to ${to.words}: ${formatNumber(100 * spacingM, 0)} cm, ${formatNumber(angleDeg, 0)}°.`,
  };
};

const farther: Maker = async (seed, size, making) => {
  const scene = sceneOf(seed, 3);
  const { random } = scene;
  const phrase = phraseFor(random);
  const pair = pairOf('cardioid', 0.17, 110);
  const meanM = (y: number): number =>
    scene.session.sources.reduce((sum, of) => sum + distance(of, { ...MAIN_PLACE, y }), 0) /
    scene.session.sources.length;
  const nearM = meanM(MAIN_PLACE.y);
  const farM = nearM * (1 + size / 100);
  const y = zeroBetween((at) => meanM(at) - farM, -12, MAIN_PLACE.y, 40);
  const session = withArrays(scene, [
    { id: 'near', name: 'Near', technique: pair },
    { id: 'far', name: 'Far', technique: pair, y },
  ]);
  const heard = await capsulesHear(session, phrase, seed, making);
  const { truth, rest, sounds } = hiding(
    random,
    asStereo(heard.get('far')),
    asStereo(heard.get('near')),
  );
  return {
    text: 'Which one stands farther away?',
    answers: A_OR_B,
    sounds,
    truth,
    after: `${truth} stands ${formatNumber(farM, 2)} m from the players on average, ${rest} ${formatNumber(nearM, 2)} m, at one loudness.`,
  };
};

const DRY = ['violin', 'cello', 'clarinet', 'trumpet', 'guitar', 'tenor', 'soprano'] as const;

const comb: Maker = (seed, size) => {
  const random = seededRandom(seed);
  const player = DRY[Math.floor(random() * DRY.length)] ?? 'violin';
  const dry = dryPhrase(player, phraseFor(random), seed);
  const ms = 0.6 + 2 * random();
  const ripple = dbToAmplitude(size);
  const second = (ripple - 1) / (ripple + 1);
  const sum = addedUp([dry, scaled(delayed(dry, (ms / 1000) * RATE_HZ), second)]);
  const { truth, rest, sounds } = hiding(random, [sum, sum], [dry, dry]);
  return Promise.resolve({
    text: 'Which mono sum is combed?',
    answers: A_OR_B,
    sounds,
    truth,
    after: `${truth} has a second arrival ${formatNumber(ms, 2)} ms later and ${formatNumber(-amplitudeDb(second), 1)} dB softer: teeth of ${formatNumber(size, 1)} dB every ${formatNumber(1000 / ms, 0)} Hz. ${rest} has none.`,
  });
};

const polarity: Maker = async (seed, size, making) => {
  const scene = sceneOf(seed, 3);
  const { random } = scene;
  const heard = await capsulesHear(
    main(scene, pairOf('cardioid', 0.17, 110)),
    phraseFor(random),
    seed,
    making,
  );
  const [left, right] = asStereo(heard.get('main'));
  const { truth, rest, sounds } = hiding(
    random,
    [left, phaseTurned(right, size)],
    [left, phaseTurned(right, 0)],
  );
  const turned = size >= 179.5 ? 'turned over (180°)' : `turned by ${formatNumber(size, 0)}°`;
  return {
    text: 'In which one is a channel turned?',
    answers: A_OR_B,
    sounds,
    truth,
    after: `In ${truth} the phase of the right channel is ${turned}; ${rest} is as it was recorded.`,
  };
};

/** What a mid-side array hears: the mid, and the side with its positive lobe to the left. */
async function midAndSide(scene: Scene, phrase: ReturnType<typeof phraseFor>, making: Making) {
  // A crossed pair of figure-eights is a mid and a side: half its sum and half its difference.
  const heard = await capsulesHear(
    main(scene, pairOf('figure-eight', 0, 90)),
    phrase,
    scene.seed,
    making,
  );
  return asMidSide(asStereo(heard.get('main')));
}

const midSide: Maker = async (seed, size, making) => {
  const scene = sceneOf(seed, 3);
  const { random } = scene;
  const [mid, side] = await midAndSide(scene, phraseFor(random), making);
  const more = random() < 0.5;
  const by = dbToAmplitude(more ? size : -size);
  const right = decoded(mid, side, 0.8);
  const { truth, rest, sounds } = hiding(random, decoded(mid, side, 0.8 * by), right);
  return {
    text: 'R is the decode as it should be. Which one has another level of the side?',
    answers: A_OR_B,
    sounds: [right, ...sounds],
    truth,
    after: `${truth} has ${formatNumber(size, 1)} dB ${more ? 'more' : 'less'} side than R; ${rest} is R.`,
  };
};

const decode: Maker = async (seed, size, making) => {
  const scene = sceneOf(seed, 3);
  const { random } = scene;
  const [mid, side] = await midAndSide(scene, phraseFor(random), making);
  const late = delayed(side, size);
  const left = mid.map((value, i) => value + (side[i] ?? 0));
  const wrong = mid.map((value, i) => value - (late[i] ?? 0));
  const { truth, rest, sounds } = hiding(
    random,
    inMono([left, wrong]),
    inMono(decoded(mid, side, 1)),
  );
  const at = (hz: number): string =>
    formatNumber(amplitudeDb(2 * Math.abs(Math.sin((Math.PI * hz * size) / RATE_HZ))), 1);
  return {
    text: 'Both in mono: which decode has a copied side that is late?',
    answers: A_OR_B,
    sounds,
    truth,
    after: `${truth}: the turned copy is ${formatNumber(size, 1)} samples late at 48 kHz, which leaves ${at(1000)} dB of the side at 1 kHz and ${at(10_000)} dB at 10 kHz; in ${rest} it vanishes.`,
  };
};

const level: Maker = async (seed, size, making) => {
  const scene = sceneOf(seed, 2);
  const { random } = scene;
  const heard = await capsulesHear(
    main(scene, pairOf('cardioid', 0.17, 110)),
    phraseFor(random),
    seed,
    making,
  );
  const sound = asStereo(heard.get('main'));
  const isA = random() < 0.5;
  return {
    text: 'Which one is louder?',
    answers: A_OR_B,
    sounds: [sound, sound],
    louder: isA ? [size / 2, -size / 2] : [-size / 2, size / 2],
    truth: isA ? 'A' : 'B',
    after: `${isA ? 'A' : 'B'} is louder by ${formatNumber(size, 1)} dB: nothing else differs.`,
  };
};

const sides: Maker = async (seed, size, making) => {
  const scene = sceneOf(seed, 3);
  const { random } = scene;
  const heard = await capsulesHear(
    main(scene, pairOf('cardioid', 0.17, 110)),
    phraseFor(random),
    seed,
    making,
  );
  const [mid, side] = asMidSide(asStereo(heard.get('main')));
  const right = decoded(mid, side, size / 100);
  const names = scene.session.sources.map(({ name }) => name.toLowerCase());
  const { truth, rest, sounds } = hiding(random, [right[1], right[0]], right);
  return {
    text: `From left to right: ${names.join(', ')}. Which one has its sides swapped?`,
    answers: A_OR_B,
    sounds,
    truth,
    after: `${truth} is swapped: the ${names[0] ?? ''} is on the right. ${rest} is as they sit, at ${formatNumber(size, 0)} % of its width.`,
  };
};

/** How each kind of question but the place is made. */
export const MAKERS: Readonly<Record<Exclude<EarKindId, 'place'>, Maker>> = {
  width,
  technique,
  distance: farther,
  layer,
  'late spot': lateSpot,
  comb,
  polarity,
  'mid-side': midSide,
  decode,
  level,
  sides,
};
