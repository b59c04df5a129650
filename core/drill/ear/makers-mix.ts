import { delayed } from '../../audio/signal/generate';
import { contextOf } from '../../prepare/context';
import { formatNumber } from '../../units/format';
import { amplitudeDb, dbToAmplitude } from '../../units/guard';
import { distance } from '../../units/vector';
import { A_OR_B, hiding, type Maker } from './asked';
import { MAIN_PLACE, pairOf, phraseFor, sceneOf, withArrays } from './scene';
import { addedUp, asStereo, capsulesHear, loudnessOf, RATE_HZ, scaled, type Stereo } from './sound';

const LAYERS = [
  { id: 'outriggers', label: 'the outriggers' },
  { id: 'spot', label: 'the spot' },
  { id: 'hall', label: 'the hall pair' },
];

/** By what a sound is brought to the loudness of another one. */
const likeLoud = (sound: Stereo, other: Stereo): number =>
  dbToAmplitude((loudnessOf(other) ?? 0) - (loudnessOf(sound) ?? 0));

const mixed = (sounds: readonly Stereo[]): Stereo => [
  addedUp(sounds.map(([left]) => left)),
  addedUp(sounds.map(([, right]) => right)),
];
const louder = ([left, right]: Stereo, by: number): Stereo => [scaled(left, by), scaled(right, by)];

/** Which layer of a mix is missing. @throws TypeError where the made-up set-up has nobody */
export const layer: Maker = async (seed, size, making) => {
  const scene = sceneOf(seed, 4);
  const { random, session: bare } = scene;
  const phrase = phraseFor(random);
  const spotted = bare.sources[Math.floor(random() * bare.sources.length)];
  if (!spotted) throw new TypeError('a player has the spot');
  const spotAt = { x: spotted.x * 0.85, y: spotted.y - 0.7, z: 1.5, aimDeg: 0, tiltDeg: 0 };
  const session = withArrays(scene, [
    { id: 'main', name: 'Main pair', technique: pairOf('cardioid', 0.17, 110) },
    { id: 'outriggers', name: 'Outriggers', technique: pairOf('omni', 4.4, 0) },
    { id: 'spot', name: 'Spot', technique: pairOf('cardioid', 0.02, 0), ...spotAt },
    { id: 'hall', name: 'Hall pair', technique: pairOf('omni', 1.2, 180), y: -7, z: 4 },
  ]);
  const heard = await capsulesHear(session, phrase, seed, making);
  const pair = asStereo(heard.get('main'));
  const layers = LAYERS.map(({ id }) => {
    const sound = asStereo(heard.get(id));
    return { id, sound: louder(sound, (size / 100) * likeLoud(sound, pair)) };
  });
  const gone = LAYERS[Math.floor(random() * LAYERS.length)];
  if (!gone) throw new TypeError('one is missing');
  const all = mixed([pair, ...layers.map(({ sound }) => sound)]);
  const less = mixed([pair, ...layers.flatMap(({ id, sound }) => (id === gone.id ? [] : [sound]))]);
  const db = amplitudeDb(size / 100);
  const before =
    Math.abs(db) < 0.05
      ? 'as loud as'
      : `${formatNumber(Math.abs(db), 1)} dB ${db < 0 ? 'softer' : 'louder'} than`;
  return {
    text: 'A is the whole mix. Which layer is missing in B?',
    answers: LAYERS,
    sounds: [all, less],
    truth: gone.id,
    after: `${gone.label.replace(/^t/, 'T')} ${gone.id === 'outriggers' ? 'are' : 'is'} missing: ${before} the main pair before${gone.id === 'spot' ? `, on the ${spotted.name.toLowerCase()}` : ''}.`,
  };
};

/** A spot that is in time stands so far behind the main pair, ms. */
const BEHIND_MS = 8;

/** Which spot is late. @throws TypeError where the made-up set-up has nobody */
export const lateSpot: Maker = async (seed, size, making) => {
  const scene = sceneOf(seed, 3);
  const { random, session: bare } = scene;
  const spotted = bare.sources[Math.floor(random() * bare.sources.length)];
  if (!spotted) throw new TypeError('a player has the spot');
  const spotAt = { x: spotted.x, y: spotted.y - 0.6, z: 1.4, aimDeg: 0, tiltDeg: 0 };
  const session = withArrays(scene, [
    { id: 'main', name: 'Main pair', technique: pairOf('cardioid', 0.17, 110) },
    { id: 'spot', name: 'Spot', technique: pairOf('cardioid', 0.02, 0), ...spotAt },
  ]);
  // Attacks tell a delay.
  const heard = await capsulesHear(session, 'staccato', seed, making);
  const pair = asStereo(heard.get('main'));
  const spot = asStereo(heard.get('spot'));
  const by = 0.8 * likeLoud(spot, pair);
  const { speed } = contextOf(session);
  const aheadMs = ((distance(spotted, MAIN_PLACE) - distance(spotted, spotAt)) / speed) * 1000;
  const withDelay = (ms: number): Stereo => {
    const frames = Math.round((ms / 1000) * RATE_HZ);
    return mixed([
      pair,
      [scaled(delayed(spot[0], frames), by), scaled(delayed(spot[1], frames), by)],
    ]);
  };
  const { truth, rest, sounds } = hiding(
    random,
    withDelay(aheadMs + BEHIND_MS + size),
    withDelay(aheadMs + BEHIND_MS),
  );
  return {
    text: `In which one is the spot of the ${spotted.name.toLowerCase()} too late?`,
    answers: A_OR_B,
    sounds,
    truth,
    after: `${truth}: its spot arrives ${formatNumber(BEHIND_MS + size, 1)} ms behind the main pair, in ${rest} ${BEHIND_MS} ms.`,
  };
};
