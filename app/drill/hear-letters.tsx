import type { Clips } from './clips';

interface Props {
  heard: Clips;
  letters: readonly string[];
  /** what the button of a letter says */
  name?: (letter: string) => string;
}

/** A button for every sound: that which sounds is pressed. */
export function HearLetters({ heard, letters, name = (letter) => `Hear ${letter}` }: Props) {
  return letters.map((letter) => (
    <button
      key={letter}
      className={`btn btn-sm min-w-16 ${heard.sounding === letter ? 'btn-neutral' : ''}`}
      aria-pressed={heard.sounding === letter}
      onClick={() => heard.play([letter])}
    >
      {name(letter)}
    </button>
  ));
}
