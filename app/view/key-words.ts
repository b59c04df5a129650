/** What every key does, in words: by where it works and its first chord. With Shift a key of the line works everywhere. */
export const KEY_WORDS: Readonly<Record<string, string>> = {
  'image line B':
    'hear the candidate, or on the Bench the plan in the place of the recording, and back',
  'image line R': 'hear the room alone, without direct sound',
  'image line O': 'hear both channels as one',
  'image line X': 'change left and right',
  'image line D': 'softer by 20 dB, to talk',
  'image line H': 'on headphones as from two loudspeakers',
  'everywhere Ctrl+K': 'find or do anything by name',
  'everywhere Ctrl+Z': 'undo; what is being typed in a field first, until the field is left',
  'everywhere Ctrl+Shift+Z': 'redo',
  'everywhere Ctrl+C': 'copy what is selected',
  'everywhere Ctrl+V': 'paste',
  'everywhere Ctrl+A': 'select all players',
  'everywhere 1': 'go to a station',
  'everywhere A': 'add a player',
  'everywhere Delete': 'remove what is selected',
  'everywhere Escape': 'select nothing',
  'everywhere M': 'the tape measure',
  'everywhere S': 'snapping on or off',
  'everywhere E': 'an ensemble from a template',
  'everywhere F6': 'go to the image line',
  'everywhere Space':
    'play the plan, or the recording that is looked at, and stop; while one types it is a space, and on a control that was reached by Tab it presses it',
  'plan +': 'zoom',
  'plan 0': 'show all',
  'plan ArrowLeft': 'move the view, or what is selected',
  'soundcheck A':
    'hear what has that letter on Compare, in the place of what the letter does elsewhere',
  'soundcheck K': 'mark this moment of a sweep',
  'image line [': 'on the place in the phrase: go round from here, to here',
};
