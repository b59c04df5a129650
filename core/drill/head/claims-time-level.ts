import { airAbsorption } from '../../acoustics/air-absorption';
import { proximityBoostDb } from '../../acoustics/proximity';
import { amplitudeDb, powerDb, sinDeg } from '../../units/guard';
import { speedOfSound } from '../../units/sound';
import { C, claim, db, n, type Claim } from './claim';

/** Of a neper of energy. */
const DB_OF_ENERGY = 10 / Math.LN10;

/** Of time and path. */
export const TIME_AND_PATH: readonly Claim[] = [
  claim(
    'bass-slower',
    ['false', 'physics', 'speed-of-sound'],
    'Bass travels slower than treble.',
    'In air all frequencies travel at one speed. Low notes speak later because their instruments do, and are heard later because their attacks are soft.',
    () => `${n(C, 1)} m/s at 20 °C, at 40 Hz as at 10 kHz`,
  ),
  claim(
    'louder-faster',
    ['false', 'physics', 'speed-of-sound'],
    'Louder sound arrives sooner.',
    'The speed depends on the temperature, not on the level: within anything that music makes.',
    () => `10 m take ${n(10_000 / C, 1)} ms at any level`,
  ),
  claim(
    'warm-faster',
    ['true', 'physics', 'speed-of-sound'],
    'In a warmer hall sound is faster.',
    'c grows with the root of the absolute temperature. A delay set in a cold hall is too long once the audience has warmed it.',
    () =>
      `15 °C ${n(speedOfSound(15), 1)} m/s, 25 °C ${n(speedOfSound(25), 1)} m/s: ${n(1000 * (10 / speedOfSound(15) - 10 / speedOfSound(25)), 2)} ms over 10 m`,
  ),
  claim(
    'metre-3ms',
    ['true', 'physics', 'speed-of-sound'],
    'A metre is about 3 ms.',
    'Good enough for the head; for samples take the temperature.',
    () => `1 m ÷ ${n(C, 1)} m/s = ${n(1000 / C, 2)} ms`,
  ),
  claim(
    'mono-delay-all',
    ['false', 'physics', 'equal-distances'],
    'Two overheads at equal distance from one drum are in phase for the whole set.',
    'Equal distance to one drum mends that drum alone; every other one still has its own two paths.',
    () => {
      const [a, b] = [Math.hypot(0.9, 1.1), Math.hypot(0.3, 1.1)];
      return `overheads 1.2 m apart and 1.1 m up: a cymbal 30 cm to one side is ${n(((a - b) * 1000) / C, 2)} ms nearer to one of them`;
    },
    { kind: 'comb', size: 12 },
  ),
  claim(
    'align-all-spots',
    ['depends', 'convention', 'spots-in-a-recording'],
    'Every spot must be delayed to the main pair.',
    'A spot that is early leads by its wavefront and pulls its player to its pan, which some want. Soft spots far under the pair hardly lead. Delaying by more than the path is safe from combing and moves the player back.',
    () => `a spot 4 m nearer is ${n(4000 / C, 1)} ms ahead`,
    { kind: 'late spot', size: 40 },
  ),
  claim(
    'late-spot-echo',
    ['depends', 'physics', 'spots-in-a-recording'],
    'A spot 30 ms late is heard as an echo.',
    'It depends on attack and level: clicks and plucks double from about 10 to 20 ms, sung lines bear 50 ms and more, and a spot 10 dB softer bears longer.',
    () => `30 ms are ${n(0.03 * C, 1)} m`,
    { kind: 'late spot', size: 30 },
  ),
  claim(
    'sample-enough',
    ['false', 'physics', 'mid-side'],
    'A copied side that is one sample late does not matter in mono.',
    'What should vanish leaves a rising remainder.',
    () =>
      `one sample at 48 kHz leaves ${db(amplitudeDb(2 * sinDeg(180 / 48)))} of S at 1 kHz and ${db(amplitudeDb(2 * sinDeg(1800 / 48)))} at 10 kHz`,
    { kind: 'decode', size: 1 },
  ),
];

/** Of level and distance. */
export const LEVEL: readonly Claim[] = [
  claim(
    'inverse-6',
    ['depends', 'physics', 'reverberant-field'],
    'Doubling the distance takes 6 dB.',
    'Of the direct sound in the free field, yes. In a hall beyond the critical distance the sum hardly falls at all.',
    () =>
      `direct ${db(-amplitudeDb(2))}; with the room, from the critical distance to twice it, ${db(powerDb((1 / 4 + 1) / (1 + 1)))}`,
    { kind: 'distance', size: 100 },
  ),
  claim(
    'two-equal-6',
    ['depends', 'physics', 'mix'],
    'Two equal sources are 6 dB louder than one.',
    'Two that are the same signal in step are; two players are not correlated.',
    () => `the same signal ${db(amplitudeDb(2))}, two players ${db(powerDb(2))}`,
  ),
  claim(
    'ten-singers',
    ['true', 'physics', 'mix'],
    'Ten singers are 10 dB louder than one.',
    'As far as they sing equally loud at equal distance: powers add.',
    () => `10·lg 10 = ${db(powerDb(10))}`,
  ),
  claim(
    'louder-better',
    ['true', 'convention', 'soundcheck'],
    'A mix that is 1 dB louder is heard as the better one.',
    'Listeners take small differences in level for nearness, warmth or clarity. So options are brought to one loudness before anybody judges.',
    () => `all options here are matched to within 0.1 LU`,
    { kind: 'level', size: 1 },
  ),
  claim(
    'closer-narrower',
    ['false', 'physics', 'recording-angle'],
    'Closer microphones make a narrower picture.',
    'From nearer the ensemble subtends a larger angle, so the picture is wider, until it crowds at the loudspeakers.',
    () => {
      const deg = (m: number): number => (2 * Math.atan(2 / m) * 180) / Math.PI;
      return `4 m of players from 4 m: ${n(deg(4), 0)}°; from 2 m: ${n(deg(2), 0)}°`;
    },
    { kind: 'width', size: 60 },
  ),
  claim(
    'room-by-fader',
    ['false', 'physics', 'reverberant-field'],
    'Turning a microphone up brings its player nearer.',
    'It brings direct sound and room up together; their ratio, and so the distance, stays. In a mix of several it can change who leads.',
    () => `+6 dB: direct +6, room +6, ratio 0 dB`,
    { kind: 'distance', size: 60 },
  ),
  claim(
    'proximity-omni',
    ['false', 'physics', 'proximity'],
    'Omnis get boomy when they are close.',
    'Proximity belongs to the gradient part of a pattern; a pressure microphone has none.',
    () =>
      `at 10 cm and 50 Hz: omni ${db(proximityBoostDb(1, 50, 0.1, C))}, cardioid ${db(proximityBoostDb(0.5, 50, 0.1, C))}, figure-eight ${db(proximityBoostDb(0, 50, 0.1, C))}`,
  ),
  claim(
    'air-highs',
    ['depends', 'physics', 'reverberant-field'],
    'Distance takes the highs.',
    'Air does, but at the distances of a stage very little; what is missing from afar is mostly the direct sound of instruments that beam, and the room is duller than they are.',
    () =>
      `air over 10 m at 20 °C, 50 %: ${n(10 * DB_OF_ENERGY * airAbsorption(10_000, 20, 50), 1)} dB at 10 kHz, ${n(10 * DB_OF_ENERGY * airAbsorption(1000, 20, 50), 2)} dB at 1 kHz`,
  ),
];
