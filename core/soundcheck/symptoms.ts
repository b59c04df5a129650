import type { LeverName } from './levers';
import type { SenseName } from './senses';

/** What is said at a soundcheck, the figure in which it shows, and what the field does about it. */

export interface Symptom {
  id: string;
  /** as it is said; {player} for whom it is about */
  says: string;
  /** one player is asked for */
  ofPlayer: boolean;
  sense: SenseName;
  /** what the field turns, as it is usually tried */
  levers: readonly LeverName[];
  /** where schools differ: who says what */
  schools?: readonly { who: string; says: string }[];
  /** what only ears, hands or the house can do about it */
  also?: string;
}

const PAIR_FIRST = 'Who trusts the main pair';
const MIXER = 'Who builds the picture from spots';

export const SYMPTOMS: readonly Symptom[] = [
  {
    id: 'too-far',
    says: 'Too far away, too much room',
    ofPlayer: false,
    sense: 'room',
    levers: [
      'closer',
      'narrower pattern',
      'ambience down',
      'outriggers down',
      'lower',
      'tilt down',
    ],
    schools: [
      { who: PAIR_FIRST, says: 'move the pair before any fader: a nearer one sounds nearer.' },
      { who: MIXER, says: 'bring spots up and keep the pair for the glue.' },
      {
        who: 'Who records live',
        says: 'rather too close than too far: room can be added later, never taken away.',
      },
    ],
  },
  {
    id: 'too-close',
    says: 'Too close, dry, no room',
    ofPlayer: false,
    sense: 'dry',
    levers: ['back', 'wider pattern', 'higher', 'ambience up', 'outriggers up', 'other spots down'],
    schools: [
      {
        who: 'Who trusts the hall',
        says: 'go back: what the hall gives fits what is played in it.',
      },
      { who: 'Who mixes later', says: 'stay, and add an ambience pair or a reverberation.' },
    ],
  },
  {
    id: 'player-far',
    says: '{player} sounds too far, the others are right',
    ofPlayer: true,
    sense: 'own room',
    levers: [
      'spot up',
      'new spot',
      'spot nearer',
      'nearer',
      'aim',
      'left',
      'right',
      'tilt up',
      'turn player',
    ],
    schools: [
      { who: PAIR_FIRST, says: 'ask the player to come nearer before a spot goes up.' },
      { who: MIXER, says: 'that is what a spot is for, 6 dB and more under the pair.' },
    ],
  },
  {
    id: 'player-vague',
    says: '{player} ill-defined in this room, the others are fine',
    ofPlayer: true,
    sense: 'own direct',
    levers: [
      'new spot',
      'spot up',
      'spot nearer',
      'open lid',
      'nearer',
      'closer',
      'lower',
      'ambience down',
      'narrower pattern',
    ],
    schools: [
      { who: PAIR_FIRST, says: 'lid, place and turn of the instrument first, then the pair.' },
      { who: MIXER, says: 'a soft spot gives outline and leaves the room to the pair.' },
    ],
    also: 'In a small room a carpet under the instrument or a curtain behind it does as much as a microphone.',
  },
  {
    id: 'player-weak',
    says: '{player} too weak',
    ofPlayer: true,
    sense: 'weak',
    levers: [
      'spot up',
      'new spot',
      'nearer',
      'open lid',
      'left',
      'right',
      'aim',
      'spot nearer',
      'tilt up',
    ],
    also: 'Ask whether the others may play softer there: no microphone does that better.',
  },
  {
    id: 'player-loud',
    says: '{player} too loud, swallows the others',
    ofPlayer: true,
    sense: 'loud',
    levers: [
      'spot down',
      'farther off',
      'close lid',
      'aim',
      'left',
      'right',
      'back',
      'narrower pattern',
      'tilt down',
      'wider pattern',
    ],
    schools: [
      { who: PAIR_FIRST, says: 'seat, lid and registration first: balance is made on the stage.' },
      { who: MIXER, says: 'spots for those who are swallowed, up to where they join.' },
    ],
    also: 'Of an organ: a softer registration, or shutters closed, by its player.',
  },
  {
    id: 'hole',
    says: 'Hole in the middle',
    ofPlayer: false,
    sense: 'gap',
    levers: [
      'smaller spacing',
      'smaller angle',
      'back',
      'wider pattern',
      'smaller',
      'less side',
      'outriggers down',
    ],
    schools: [
      {
        who: 'Who works with time',
        says: 'a third microphone in the middle rather than less spacing.',
      },
      { who: 'Who works with level', says: 'less spacing, more angle: the middle comes back.' },
    ],
  },
  {
    id: 'narrow',
    says: 'Picture too narrow',
    ofPlayer: false,
    sense: 'narrow',
    levers: [
      'wider spacing',
      'wider angle',
      'closer',
      'narrower pattern',
      'more side',
      'larger',
      'outriggers up',
      'lower',
    ],
  },
  {
    id: 'crowded',
    says: 'Everybody sits at the loudspeakers',
    ofPlayer: false,
    sense: 'speakers',
    levers: [
      'back',
      'smaller spacing',
      'smaller angle',
      'less side',
      'smaller',
      'wider pattern',
      'higher',
    ],
  },
  {
    id: 'heavy',
    says: 'One side heavy',
    ofPlayer: false,
    sense: 'side',
    levers: ['aim', 'left', 'right', 'strips', 'other spots down', 'outriggers down'],
    also: 'Change the two loudspeakers over first: what stays on the same side is the monitoring.',
  },
  {
    id: 'misplaced',
    says: '{player} is heard where nobody sits',
    ofPlayer: true,
    sense: 'place',
    levers: ['join spot', 'spot down', 'strips', 'left', 'right', 'aim'],
  },
  {
    id: 'mono-thin',
    says: 'Thin or hollow in mono',
    ofPlayer: false,
    sense: 'mono',
    levers: [
      'smaller spacing',
      'smaller angle',
      'strips',
      'less side',
      'outriggers down',
      'smaller',
      'left',
      'right',
      'aim',
    ],
    schools: [
      { who: 'Who broadcasts', says: 'mono must hold: coincident, or mid-side.' },
      {
        who: 'Who records for two loudspeakers',
        says: 'what a spaced pair loses in mono is its price.',
      },
    ],
  },
  {
    id: 'phasey',
    says: '{player} hollow, as through a tube',
    ofPlayer: true,
    sense: 'comb',
    levers: [
      'spot down',
      'spot up',
      'join spot',
      'spot nearer',
      'strips',
      'other spots down',
      'leave out',
    ],
    schools: [
      { who: 'Some', says: 'delay the spot so that it comes with the pair, or a little later.' },
      {
        who: 'Others',
        says: 'no delay: let the spot lead, soft enough that only its level counts.',
      },
    ],
  },
  {
    id: 'echo',
    says: 'An echo, a slap after attacks',
    ofPlayer: false,
    sense: 'echo',
    levers: ['ambience down', 'strips', 'leave out', 'other spots down', 'outriggers down'],
  },
  {
    id: 'back-lost',
    says: 'Front desks too near, the back is lost',
    ofPlayer: false,
    sense: 'back',
    levers: ['higher', 'back', 'tilt up', 'narrower pattern', 'tilt down'],
  },
  {
    id: 'flat',
    says: 'No depth, everybody in one plane',
    ofPlayer: false,
    sense: 'depth',
    levers: ['closer', 'lower', 'other spots down', 'leave out', 'ambience up'],
    schools: [
      { who: PAIR_FIRST, says: 'spots flatten: take them down until the back is behind again.' },
      { who: MIXER, says: 'delay the spots of the back and send them to more reverberation.' },
    ],
  },
  {
    id: 'harsh',
    says: 'Harsh strings',
    ofPlayer: false,
    sense: 'harsh',
    levers: ['lower', 'back'],
    schools: [
      { who: 'Some', says: 'lower and farther: their brilliance goes upwards.' },
      {
        who: 'Others',
        says: 'higher still and farther back: what is sharp near by is not over 4 m.',
      },
    ],
    also: 'A darker microphone does it without another place, and other strings or a softer bow without any.',
  },
  {
    id: 'dull',
    says: 'Strings without brilliance',
    ofPlayer: false,
    sense: 'dull',
    levers: ['higher', 'closer'],
  },
  {
    id: 'boomy',
    says: 'Thick bass, boomy near the microphones',
    ofPlayer: false,
    sense: 'boom',
    levers: ['spot farther', 'back', 'wider pattern', 'other spots down', 'leave out', 'higher'],
    also: 'Where a tone of the room booms wherever one stands, only another place of the instrument helps.',
  },
  {
    id: 'no-bass',
    says: 'No body, the lowest octave is missing',
    ofPlayer: false,
    sense: 'bass',
    levers: ['wider pattern'],
    schools: [
      { who: 'Who works with omnis', says: 'only pressure receivers have the last octave.' },
      {
        who: 'Others',
        says: 'a filter gives it back to cardioids, and a pair of omnis at the sides.',
      },
    ],
  },
  {
    id: 'not-spacious',
    says: 'Not spacious, no air around',
    ofPlayer: false,
    sense: 'space',
    levers: [
      'wider spacing',
      'outriggers up',
      'ambience up',
      'narrower pattern',
      'more side',
      'wider angle',
      'larger',
    ],
  },
  {
    id: 'spill',
    says: 'The spot of {player} is full of the others',
    ofPlayer: true,
    sense: 'spill',
    levers: ['spot nearer', 'spot pattern', 'farther off', 'turn player', 'strips'],
  },
  {
    id: 'wanders',
    says: '{player} wanders when he moves',
    ofPlayer: true,
    sense: 'wander',
    levers: [
      'spot down',
      'spot farther',
      'back',
      'smaller spacing',
      'smaller angle',
      'farther off',
    ],
    also: 'Mark his chair on the floor.',
  },
  {
    id: 'player-wide',
    says: '{player} is as wide as the stage',
    ofPlayer: true,
    sense: 'own width',
    levers: [
      'back',
      'smaller spacing',
      'smaller angle',
      'spot down',
      'less side',
      'farther off',
      'wider pattern',
    ],
  },
  {
    id: 'surface',
    says: 'Coloured, as if a wall or the floor were near',
    ofPlayer: false,
    sense: 'surface',
    levers: ['higher', 'lower', 'back', 'closer', 'left', 'right', 'narrower pattern', 'aim'],
    also: 'A carpet before the players, or a curtain on the wall, takes the reflection itself.',
  },
  {
    id: 'exchanged',
    says: 'Left and right are exchanged, or nothing has a place',
    ofPlayer: false,
    sense: 'exchanged',
    levers: ['strips', 'turn round', 'aim', 'smaller angle', 'back'],
    also: 'Tap the left microphone: it must be heard on the left. Cables and loudspeakers change over as easily.',
  },
  {
    id: 'spot-out',
    says: 'The spot of {player} sticks out of the picture',
    ofPlayer: true,
    sense: 'pull',
    levers: ['spot down', 'join spot', 'spot farther', 'strips'],
  },
];

export const symptomById = (id: string): Symptom | null =>
  SYMPTOMS.find((symptom) => symptom.id === id) ?? null;

/** "Organ too loud, swallows the others" */
export const saidOf = ({ says }: Symptom, player: string): string =>
  says.replace('{player}', player || 'The player');
