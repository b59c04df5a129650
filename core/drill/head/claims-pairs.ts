import { distanceFactor } from '../../acoustics/patterns';
import { amplitudeDb, sinDeg } from '../../units/guard';
import { C, claim, db, half, n, type Claim } from './claim';

/** Of pairs and of distances between microphones. */
export const PAIRS: readonly Claim[] = [
  claim(
    '3-1-phase',
    ['false', 'physics', 'spill-and-3-to-1'],
    '3 to 1 aligns the phase of two microphones.',
    'It aligns nothing: it keeps the second arrival so soft that its comb is shallow.',
    () => {
      const g = 1 / 3;
      return `${db(-amplitudeDb(3))}: the comb keeps ${n(amplitudeDb((1 + g) / (1 - g)), 1)} dB from peak to dip`;
    },
    { kind: 'comb', size: 6 },
  ),
  claim(
    'cable-3-1',
    ['false', 'physics', 'spill-and-3-to-1'],
    'The cable from player to microphone, laid twice, is 3 to 1.',
    'Twice the distance is 2 to 1. It takes three lengths, from the player to the neighbour’s microphone.',
    () => `2 to 1 is ${db(-amplitudeDb(2))}, 3 to 1 ${db(-amplitudeDb(3))}`,
  ),
  claim(
    '3-1-stereo',
    ['false', 'physics', 'spill-and-3-to-1'],
    'A stereo pair must keep to 3 to 1.',
    'The rule is for microphones that are mixed and have players of their own. A pair wants both microphones to hear everybody.',
    () => `17 cm at 2 m would need 6 m: no picture with a centre`,
  ),
  claim(
    '3-1-equal',
    ['depends', 'physics', 'spill-and-3-to-1'],
    '3 to 1 gives 9.5 dB.',
    'For equally loud players with microphones alike, in the free field. A trumpet beside a flute needs far more.',
    () => `9.5 dB; beside a neighbour 10 dB louder ${db(amplitudeDb(3) - 10)}`,
  ),
  claim(
    'omni-one-place',
    ['false', 'physics', 'cues'],
    'Two omnis in one place, turned apart, make stereo.',
    'Both hear everything alike: neither level nor time differs. Only what real capsules lose behind them above 5 kHz would.',
    () => `level difference 0.0 dB, time difference 0 ms at every angle`,
    { kind: 'technique', size: 100 },
  ),
  claim(
    'turn-apart-narrower',
    ['true', 'physics', 'recording-angle'],
    'Turning a coincident pair further apart makes the recording angle smaller.',
    'More level difference for the same angle: the same players fill more of the base.',
    () => `coincident cardioids: 90° ${half('cardioid', 0, 90)}, 120° ${half('cardioid', 0, 120)}`,
    { kind: 'width', size: 50 },
  ),
  claim(
    'small-angle-wide',
    ['true', 'physics', 'recording-angle'],
    'A small recording angle makes a wide picture.',
    'What lies within it is spread over the whole base. An ensemble wider than it crowds at the loudspeakers.',
    () =>
      `17 cm and 110° ${half('cardioid', 0.17, 110)}; 30 cm and 110° ${half('cardioid', 0.3, 110)}`,
  ),
  claim(
    'omni-20',
    ['false', 'physics', 'recording-angle'],
    'Two omnis 20 cm apart make a full picture.',
    'The largest time difference is too small to bring anybody to a loudspeaker.',
    () => `at most ${n(200 / C, 2)} ms; full takes about 1.1 ms: ${half('omni', 0.2, 0)}`,
    { kind: 'width', size: 60 },
  ),
  claim(
    'pattern-angle',
    ['false', 'physics', 'recording-angle'],
    'The angle between the microphones is the recording angle.',
    'The included angle is how the microphones stand; the recording angle is which part of the hall fills the base.',
    () => `17 cm and 110°: the recording angle is ${half('cardioid', 0.17, 110)}`,
  ),
  claim(
    'spaced-sharp',
    ['false', 'convention', 'models-from-cues-to-a-place'],
    'Spaced pairs locate more sharply than coincident ones.',
    'Time alone gives loose and spacious places, level alone sharp ones; taste decides which is better, not which is sharper.',
    () => `beyond about 1 ms time no longer moves the image, it blurs it`,
    { kind: 'technique', size: 100 },
  ),
  claim(
    'coincident-mono',
    ['true', 'physics', 'mono'],
    'Coincident pairs are safe in mono.',
    'Without time differences nothing can comb, only level is summed. Opposite lobes can still cancel at the sides of crossed figure-eights.',
    () => `time difference 0 ms: no dip at any frequency`,
    { kind: 'comb', size: 10 },
  ),
  claim(
    'spaced-mono-useless',
    ['false', 'physics', 'mono'],
    'A spaced pair is useless in mono.',
    'Each player is combed by another delay, and with the room between it often passes as colour. Count what is lost before it is thrown away.',
    () => {
      const ms = (0.5 * sinDeg(30) * 1000) / C;
      return `50 cm at 30°: ${n(ms, 2)} ms, first dip at ${n(500 / ms, 0)} Hz`;
    },
    { kind: 'comb', size: 20 },
  ),
  claim(
    'cardioid-farther',
    ['true', 'physics', 'microphone-patterns'],
    'Cardioids may stand farther away than omnis for the same share of room.',
    'They hear a third of the diffuse sound.',
    () =>
      `${n(distanceFactor(0.5), 2)} times as far: 2 m become ${n(2 * distanceFactor(0.5), 1)} m`,
    { kind: 'distance', size: 70 },
  ),
  claim(
    'hyper-narrowest',
    ['true', 'physics', 'microphone-patterns'],
    'Of the first-order patterns the hypercardioid hears least of the room.',
    'A² + (1 − A)²/3 is least at A = ¼.',
    () =>
      `distance factors: cardioid ${n(distanceFactor(0.5), 2)}, supercardioid ${n(distanceFactor(0.366), 2)}, hypercardioid ${n(distanceFactor(0.25), 2)}, figure-eight ${n(distanceFactor(0), 2)}`,
  ),
  claim(
    'one-angle-best',
    ['false', 'convention', 'recording-angle'],
    '110° and 17 cm is right for every ensemble.',
    'It is a good custom for one recording angle. A string quartet seen at 60° and a choir at 130° want others.',
    () =>
      `its recording angle is ${half('cardioid', 0.17, 110)}: compare it with what the players subtend`,
  ),
  claim(
    'same-angle-same-picture',
    ['false', 'physics', 'angular-distortion'],
    'Two arrays with one recording angle give one picture.',
    'The same width, but other places between, another share of time and level, another room.',
    () =>
      `cardioids 17 cm 110° ${half('cardioid', 0.17, 110)}, omnis 50 cm ${half('omni', 0.5, 0)}: nearly one angle, two pictures`,
    { kind: 'technique', size: 100 },
  ),
];
