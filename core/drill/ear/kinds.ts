import type { Scale } from '../staircase';

/** What the ear is asked, and how it grows harder. */

export interface EarKind {
  name: string;
  /** what is asked, in a few words, where it is listed */
  short: string;
  /** the size of the thing asked; null where the answer is a place on the line */
  scale: Scale | null;
  /** of how many answers one is chosen; 0 where it is a place */
  choices: number;
  /** where the formula stands */
  formula: string;
  /** what to listen for: said afterwards */
  listen: string;
}

const scale = (
  least: number,
  most: number,
  start: number,
  unit: string,
  decimals: number,
): Scale => ({ least, most, start, unit, decimals });

export const EAR = {
  place: {
    name: 'Where is it?',
    short: 'the place of one player on the line',
    scale: null,
    choices: 0,
    formula: 'models-from-cues-to-a-place',
    listen:
      'Close your eyes, point first, then look at the line: what the eye sees pulls the ear towards it.',
  },
  width: {
    name: 'Wider or narrower',
    short: 'which of two pictures is wider',
    scale: scale(5, 90, 60, '%', 0),
    choices: 2,
    formula: 'recording-angle',
    listen:
      'Listen to the outermost players alone, and compare where they stand, not how much room there is.',
  },
  technique: {
    name: 'Which technique',
    short: 'which of two arrays is which',
    scale: scale(10, 100, 100, '%', 0),
    choices: 2,
    formula: 'models-from-cues-to-a-place',
    listen:
      'Time between the microphones makes places loose and the room wide; level alone makes them sharp, and mono safe.',
  },
  distance: {
    name: 'Nearer or farther',
    short: 'which array stands farther away',
    scale: scale(5, 120, 80, '%', 0),
    choices: 2,
    formula: 'reverberant-field',
    listen:
      'At one loudness distance is the room behind the direct sound: attacks grow soft and tails grow long.',
  },
  layer: {
    name: 'Which layer is missing',
    short: 'outriggers, spot or hall pair gone from a mix',
    scale: scale(12, 120, 100, '%', 0),
    choices: 3,
    formula: 'mix',
    listen:
      'Outriggers carry width, a spot the attack of one player, the hall pair the tail after each note.',
  },
  'late spot': {
    name: 'A late spot',
    short: 'which spot is delayed too much',
    scale: scale(2, 120, 60, 'ms', 0),
    choices: 2,
    formula: 'spots-in-a-recording',
    listen:
      'Listen to the attacks of the player with the spot: doubled from about 30 ms, coloured below.',
  },
  comb: {
    name: 'Comb in mono',
    short: 'which mono sum is combed',
    scale: scale(0.6, 30, 20, 'dB', 1),
    choices: 2,
    formula: 'mono',
    listen: 'A comb sounds hollow, as through a tube; its teeth stand at one over the delay.',
  },
  polarity: {
    name: 'Polarity',
    short: 'which pair has one channel turned',
    scale: scale(12, 180, 180, '°', 0),
    choices: 2,
    formula: 'mono',
    listen: 'Turned channels pull outward and leave no middle; in mono the lows go first.',
  },
  'mid-side': {
    name: 'Mid-side level',
    short: 'which decode has another level of the side',
    scale: scale(0.4, 12, 8, 'dB', 1),
    choices: 2,
    formula: 'mid-side',
    listen:
      'More side is wider and roomier, and the middle recedes; less side draws all to the centre.',
  },
  decode: {
    name: 'A decode that is late',
    short: 'which mono sum has a copied side that is late',
    scale: scale(0.5, 16, 12, 'samples', 1),
    choices: 2,
    formula: 'mid-side',
    listen:
      'In mono a side that should vanish leaves a thin, high copy of itself: listen above 5 kHz.',
  },
  level: {
    name: 'Level differences',
    short: 'which one is louder',
    scale: scale(0.2, 8, 5, 'dB', 1),
    choices: 2,
    formula: 'soundcheck',
    listen:
      'Below 1 dB louder is heard as better: nearer, fuller, clearer. This is why options are matched first.',
  },
  sides: {
    name: 'Reversed sides',
    short: 'which one has left and right swapped',
    scale: scale(3, 100, 100, '%', 0),
    choices: 2,
    formula: 'cues',
    listen: 'Take the two outermost players, and look for one of them on the side where he sits.',
  },
} as const satisfies Readonly<Record<string, EarKind>>;

export type EarKindId = keyof typeof EAR;
export const EAR_KINDS = Object.keys(EAR) as EarKindId[];
