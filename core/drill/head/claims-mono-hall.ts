import { criticalDistance } from '../../acoustics/reverberant-field';
import { distanceFactor } from '../../acoustics/patterns';
import { storage } from '../../planning/counts';
import { amplitudeDb, powerDb, sinDeg } from '../../units/guard';
import { C, claim, db, n, type Claim } from './claim';

/** Of mid-side and mono. */
export const MID_SIDE_AND_MONO: readonly Claim[] = [
  claim(
    'ms-mono',
    ['false', 'physics', 'mid-side'],
    'Mono of mid-side loses nothing.',
    'The side vanishes with all that only it heard: the room from the sides and players at its lobes become softer. Of the mid nothing is lost, and nothing is combed.',
    () => `a player at 90°: cardioid mid ${db(amplitudeDb(0.5))}, all of the side gone`,
    { kind: 'mid-side', size: 8 },
  ),
  claim(
    'copy-cancels',
    ['false', 'physics', 'mid-side'],
    'A copied and turned side always cancels in mono.',
    'Only if the copy is as loud and in step to the sample.',
    () =>
      `0.5 dB too loud leaves ${db(amplitudeDb(10 ** (0.5 / 20) - 1))} of S; one sample late at 48 kHz ${db(amplitudeDb(2 * sinDeg(1800 / 48)))} at 10 kHz`,
    { kind: 'decode', size: 2 },
  ),
  claim(
    'ms-is-pair',
    ['true', 'physics', 'mid-side'],
    'Every mid-side is some crossed pair.',
    'An identity of first-order patterns: M ± S is a microphone of first order that looks to the side.',
    () => {
      const angle = (2 * Math.atan2(1, 0.5) * 180) / Math.PI;
      const rho = Math.hypot(0.5, 1);
      return `cardioid and side at 0 dB: A = ${n(0.5 / (0.5 + rho), 2)}, ${n(angle, 0)}° between them`;
    },
  ),
  claim(
    'more-side-wider',
    ['true', 'physics', 'mid-side'],
    'More side makes the picture wider.',
    'And the room louder, and the centre softer; past the mid it turns over and mono thins out.',
    () => `side +6 dB: centre unchanged in M, ${db(6)} for all that is sideways`,
    { kind: 'mid-side', size: 6 },
  ),
  claim(
    'polarity-mono',
    ['true', 'physics', 'mono'],
    'One channel turned over empties the middle in mono.',
    'What was alike in both vanishes, the lows first; in stereo it pulls outward and seems wide.',
    () => `equal and turned: 1 − 1 = 0`,
    { kind: 'polarity', size: 180 },
  ),
  claim(
    'correlation-negative',
    ['depends', 'physics', 'diffuse-field-correlation'],
    'A negative correlation is a fault.',
    'Of a whole mix over time it is: look for a turned channel. For short moments and in single bands spaced pairs swing below 0 as a matter of course.',
    () => {
      const z = (2 * Math.PI * 250 * 1) / C;
      return `omnis 1 m apart in a diffuse field: ${n(Math.sin(z) / z, 2)} at 250 Hz`;
    },
    { kind: 'polarity', size: 120 },
  ),
  claim(
    'wide-uncorrelated',
    ['false', 'physics', 'diffuse-field-correlation'],
    'Spaced omnis are uncorrelated.',
    'In the lows they are nearly alike however far a stage lets them go.',
    () => {
      const z = (2 * Math.PI * 50 * 1) / C;
      return `1 m apart at 50 Hz: ${n(Math.sin(z) / z, 2)}`;
    },
  ),
  claim(
    'comb-by-delay-only',
    ['false', 'physics', 'mono'],
    'How deep a comb is depends on the delay.',
    'The delay says where its teeth are; the level of the second arrival says how deep they are.',
    () =>
      `second arrival 10 dB softer: ${n(amplitudeDb((1 + 10 ** -0.5) / (1 - 10 ** -0.5)), 1)} dB from peak to dip at any delay`,
    { kind: 'comb', size: 12 },
  ),
  claim(
    'mono-nobody',
    ['false', 'convention', 'mono'],
    'Nobody hears mono any more.',
    'Small loudspeakers, telephones, kitchens, and every listener far to one side.',
    () =>
      `two loudspeakers 30 cm apart, heard from 3 m: ±${n((Math.atan(0.15 / 3) * 180) / Math.PI, 0)}° instead of ±30°`,
  ),
];

/** Of halls and of making. */
export const HALL_AND_MAKING: readonly Claim[] = [
  claim(
    'critical-quality',
    ['false', 'physics', 'reverberant-field'],
    'The critical distance is the best distance.',
    'It is where direct and reverberant sound of that source are equal for an omni: a figure to begin from. Many halls want less, many choirs more.',
    () => `5000 m³ and 1.8 s: ${n(criticalDistance(1, 5000, 1.8), 1)} m`,
    { kind: 'distance', size: 60 },
  ),
  claim(
    'critical-mic',
    ['depends', 'physics', 'reverberant-field'],
    'The critical distance belongs to the hall.',
    'To the hall, the player and the microphone: a beaming trumpet and a cardioid each move it outward.',
    () => {
      const one = criticalDistance(1, 5000, 1.8);
      return `omni ${n(one, 1)} m; Q = 4 ${n(2 * one, 1)} m; cardioid ${n(distanceFactor(0.5) * one, 1)} m`;
    },
  ),
  claim(
    'rt-loud',
    ['false', 'physics', 'reverberant-field'],
    'A longer reverberation is a louder one by as many dB as it is longer.',
    'The level of the room goes with T/V: twice the time is 3 dB, at the same volume.',
    () => `twice the time ${db(powerDb(2))}, twice the volume ${db(-powerDb(2))}`,
  ),
  claim(
    'higher-less-room',
    ['depends', 'physics', 'reverberant-field'],
    'Raising the array takes room away.',
    'It is farther from the front and not much farther from the back: depth evens out. Direct sound falls, so the share of room rises as a rule.',
    () =>
      `front player at 2 m: 2.4 m up is ${n(Math.hypot(2, 1.2), 2)} m away, 3.6 m up ${n(Math.hypot(2, 2.4), 2)} m`,
    { kind: 'distance', size: 30 },
  ),
  claim(
    'cardioid-no-room',
    ['false', 'physics', 'microphone-patterns'],
    'Cardioids keep the room out.',
    'They turn it down; from behind fully, from all around by less than most expect.',
    () => `${db(powerDb(1 / 3))} of the diffuse field`,
  ),
  claim(
    'bit-depth-loud',
    ['false', 'physics', 'gain'],
    'With 24 bits the level must be as high as possible.',
    'Its floor lies far under that of any hall and microphone: keep headroom.',
    () =>
      `24 bits: ${n(24 * 6.0206 + 1.76, 0)} dB; 20 dB of headroom leave ${n(24 * 6.0206 + 1.76 - 20, 0)} dB`,
  ),
  claim(
    'rate-double',
    ['true', 'physics', 'storage'],
    'Twice the sampling rate is twice the storage.',
    'Of uncompressed recordings, to the byte.',
    () =>
      `8 tracks, 24 bits, 1 h: ${n(storage(8, 48_000, 24, 1).bytes / 1e9, 1)} GB at 48 kHz, ${n(storage(8, 96_000, 24, 1).bytes / 1e9, 1)} GB at 96 kHz`,
  ),
  claim(
    'lid-off',
    ['depends', 'convention', 'radiating-side'],
    'A piano records best without its lid.',
    'Without it there is less reflection to the audience side and more to the roof; some pairs over the strings want that, most arrays in front do not. Taking a lid off is the work of two who know how, and the owner decides.',
    () =>
      `the lid is the largest mirror near the microphones: its path is about 1 m longer, ${n(1000 / C, 1)} ms`,
  ),
  claim(
    'stands-far',
    ['depends', 'convention', 'stands'],
    'The higher the better.',
    'Height evens the depth out and needs weight, room and leave: nothing stands or hangs over people that the venue and its rigger have not agreed to.',
    () => {
      const ratio = (h: number): number => amplitudeDb(Math.hypot(5, h) / Math.hypot(2, h));
      return `front 2 m, back 5 m: back softer by ${n(ratio(0.8), 1)} dB at 0.8 m over the players, ${n(ratio(3), 1)} dB at 3 m`;
    },
  ),
];
