/** What the set-up is checked with before anything is asked. */
export const SET_UP_CHECKS = [
  {
    id: 'left',
    text: 'Where do you hear this?',
    answers: ['left', 'middle', 'right'],
    truth: 'left',
    wrong:
      'It was on the left alone. Are the loudspeakers swapped, the headphones on the wrong way round, or is one silent?',
  },
  {
    id: 'right',
    text: 'And this?',
    answers: ['left', 'middle', 'right'],
    truth: 'right',
    wrong:
      'It was on the right alone. Are the loudspeakers swapped, the headphones on the wrong way round, or is one silent?',
  },
  {
    id: 'balance',
    text: 'And this: both as loud?',
    answers: ['left', 'middle', 'right'],
    truth: 'middle',
    wrong:
      'Both are as loud here. Sit in the middle, turn both loudspeakers to you, and bring them to one level by their own knobs.',
  },
  {
    id: 'phase',
    text: 'First one way, then another: which of both is in the middle, the first or the second?',
    answers: ['the first', 'the second'],
    truth: 'the second',
    wrong:
      'The second was in phase. Is one loudspeaker connected the wrong way round? Swap the two wires of one of them.',
  },
] as const;
export type SetUpCheck = (typeof SET_UP_CHECKS)[number]['id'];
