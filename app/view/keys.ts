/** What a key does. */
export type KeyAction =
  | 'palette'
  | 'undo'
  | 'redo'
  | 'copy'
  | 'paste'
  | 'select all'
  | 'station'
  | 'add player'
  | 'remove'
  | 'choose nothing'
  | 'measure'
  | 'snap'
  | 'ensemble'
  | 'image line'
  | 'play'
  | 'candidate'
  | 'room'
  | 'mono'
  | 'swap'
  | 'dim'
  | 'headphones';

/** Where a key works: everywhere, on the image line, on the drawing of the floor, or where one listens at the Soundcheck. */
export type KeyPlace = 'everywhere' | 'image line' | 'plan' | 'soundcheck';

export interface KeyLine {
  chords: readonly string[];
  where: KeyPlace;
  /** null where the drawing or the page itself takes it */
  action: KeyAction | null;
  does: string;
}

const SOUND: readonly (readonly [letter: string, action: KeyAction, does: string])[] = [
  [
    'B',
    'candidate',
    'hear the candidate, or on the Bench the plan in the place of the recording, and back',
  ],
  ['R', 'room', 'hear the room alone, without direct sound'],
  ['O', 'mono', 'hear both channels as one'],
  ['X', 'swap', 'change left and right'],
  ['D', 'dim', 'softer by 20 dB, to talk'],
  ['H', 'headphones', 'on headphones as from two loudspeakers'],
];

/** Every key of the product, once. */
export const KEYS: readonly KeyLine[] = [
  {
    chords: ['Ctrl+K'],
    where: 'everywhere',
    action: 'palette',
    does: 'find or do anything by name',
  },
  {
    chords: ['Ctrl+Z'],
    where: 'everywhere',
    action: 'undo',
    does: 'undo; what is being typed in a field first, until the field is left',
  },
  { chords: ['Ctrl+Shift+Z', 'Ctrl+Y'], where: 'everywhere', action: 'redo', does: 'redo' },
  { chords: ['Ctrl+C'], where: 'everywhere', action: 'copy', does: 'copy what is selected' },
  { chords: ['Ctrl+V'], where: 'everywhere', action: 'paste', does: 'paste' },
  { chords: ['Ctrl+A'], where: 'everywhere', action: 'select all', does: 'select all players' },
  {
    chords: ['1', '2', '3', '4', '5', '6', '7', '8', '9'],
    where: 'everywhere',
    action: 'station',
    does: 'go to a station',
  },
  { chords: ['A'], where: 'everywhere', action: 'add player', does: 'add a player' },
  {
    chords: ['Delete', 'Backspace'],
    where: 'everywhere',
    action: 'remove',
    does: 'remove what is selected',
  },
  { chords: ['Escape'], where: 'everywhere', action: 'choose nothing', does: 'select nothing' },
  { chords: ['M'], where: 'everywhere', action: 'measure', does: 'the tape measure' },
  { chords: ['S'], where: 'everywhere', action: 'snap', does: 'snapping on or off' },
  { chords: ['E'], where: 'everywhere', action: 'ensemble', does: 'an ensemble from a template' },
  { chords: ['F6'], where: 'everywhere', action: 'image line', does: 'go to the image line' },
  {
    chords: ['Space'],
    where: 'everywhere',
    action: 'play',
    does: 'play the plan, or the recording that is looked at, and stop; while one types it is a space, and on a control that was reached by Tab it presses it',
  },
  ...SOUND.flatMap(([letter, action, does]): KeyLine[] => [
    { chords: [letter], where: 'image line', action, does },
    { chords: [`Shift+${letter}`], where: 'everywhere', action, does },
  ]),
  {
    chords: ['[', ']'],
    where: 'image line',
    action: null,
    does: 'on the place in the phrase: go round from here, to here',
  },
  { chords: ['+', '=', '-'], where: 'plan', action: null, does: 'zoom' },
  { chords: ['0'], where: 'plan', action: null, does: 'show all' },
  {
    chords: ['ArrowLeft', 'ArrowRight', 'ArrowUp', 'ArrowDown'],
    where: 'plan',
    action: null,
    does: 'move the view, or what is selected',
  },
  {
    chords: [...'ABCDEFGHX'],
    where: 'soundcheck',
    action: null,
    does: 'hear what has that letter on Compare, in the place of what the letter does elsewhere',
  },
  {
    chords: ['K'],
    where: 'soundcheck',
    action: null,
    does: 'mark this moment of a sweep',
  },
];

/** A key press as the table writes it: "Ctrl+Shift+Z", "B", "Space". */
export function chordOf({
  key,
  ctrlKey,
  metaKey,
  shiftKey,
}: Pick<KeyboardEvent, 'key' | 'ctrlKey' | 'metaKey' | 'shiftKey'>): string {
  const letter = /^\p{L}$/u.test(key);
  const name = key === ' ' ? 'Space' : letter ? key.toUpperCase() : key;
  // Signs have their shift in themselves.
  const shift = shiftKey && (letter || key.length > 1 || key === ' ');
  return `${ctrlKey || metaKey ? 'Ctrl+' : ''}${shift ? 'Shift+' : ''}${name}`;
}

/** What a key press does where the focus is. */
export function actionOf(chord: string, onImageLine: boolean): KeyAction | null {
  const here: readonly KeyPlace[] = onImageLine ? ['everywhere', 'image line'] : ['everywhere'];
  return (
    KEYS.find(({ chords, where }) => chords.includes(chord) && here.includes(where))?.action ?? null
  );
}
