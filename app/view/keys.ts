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
}

const SOUND: readonly (readonly [letter: string, action: KeyAction])[] = [
  ['B', 'candidate'],
  ['R', 'room'],
  ['O', 'mono'],
  ['X', 'swap'],
  ['D', 'dim'],
  ['H', 'headphones'],
];

/** Every key of the product, once. */
export const KEYS: readonly KeyLine[] = [
  {
    chords: ['Ctrl+K'],
    where: 'everywhere',
    action: 'palette',
  },
  {
    chords: ['Ctrl+Z'],
    where: 'everywhere',
    action: 'undo',
  },
  { chords: ['Ctrl+Shift+Z', 'Ctrl+Y'], where: 'everywhere', action: 'redo' },
  { chords: ['Ctrl+C'], where: 'everywhere', action: 'copy' },
  { chords: ['Ctrl+V'], where: 'everywhere', action: 'paste' },
  { chords: ['Ctrl+A'], where: 'everywhere', action: 'select all' },
  {
    chords: ['1', '2', '3', '4', '5', '6', '7', '8', '9'],
    where: 'everywhere',
    action: 'station',
  },
  { chords: ['A'], where: 'everywhere', action: 'add player' },
  {
    chords: ['Delete', 'Backspace'],
    where: 'everywhere',
    action: 'remove',
  },
  { chords: ['Escape'], where: 'everywhere', action: 'choose nothing' },
  { chords: ['M'], where: 'everywhere', action: 'measure' },
  { chords: ['S'], where: 'everywhere', action: 'snap' },
  { chords: ['E'], where: 'everywhere', action: 'ensemble' },
  { chords: ['F6'], where: 'everywhere', action: 'image line' },
  {
    chords: ['Space'],
    where: 'everywhere',
    action: 'play',
  },
  ...SOUND.flatMap(([letter, action]): KeyLine[] => [
    { chords: [letter], where: 'image line', action },
    { chords: [`Shift+${letter}`], where: 'everywhere', action },
  ]),
  {
    chords: ['[', ']'],
    where: 'image line',
    action: null,
  },
  { chords: ['+', '=', '-'], where: 'plan', action: null },
  { chords: ['0'], where: 'plan', action: null },
  {
    chords: ['ArrowLeft', 'ArrowRight', 'ArrowUp', 'ArrowDown'],
    where: 'plan',
    action: null,
  },
  {
    chords: [...'ABCDEFGHX'],
    where: 'soundcheck',
    action: null,
  },
  {
    chords: ['K'],
    where: 'soundcheck',
    action: null,
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
