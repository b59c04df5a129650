import type { Evidence, Rule } from '../finding';
import { arrayCauses } from './array-causes';
import { mixCauses } from './mix-causes';
import { namesOfTheOtherSide, playersAway } from './people-causes';
import type { CauseCode } from './undo';

/** Undoing it on a copy mends the picture: that is what makes something a cause. */
const ofArray = (code: CauseCode, evidence: Evidence, reason: string): Rule => ({
  code,
  evidence,
  basis: 'physics',
  severities: ['fault'],
  reason,
  isCause: true,
  of: 'session',
  check: (session) =>
    arrayCauses(session).flatMap((cause) => (cause.code === code ? [cause.found] : [])),
});

const ONE_SIDE = 'One perspective for the whole session: every array keeps to its left and right.';

/** What is wrong with a set-up as a whole, asked before its symptoms. */
export const CAUSE_RULES: readonly Rule[] = [
  ofArray(
    'channel-polarity',
    'channels',
    'Channels of opposite polarity make no stable phantom image and cancel in mono.',
  ),
  ofArray(
    'side-lobe',
    'channels',
    'L = M + S and R = M − S want the positive lobe on the left of whom the picture is for.',
  ),
  ofArray('pan-contradicts', 'channels', ONE_SIDE),
  ofArray(
    'channel-late',
    'channels',
    'A time difference between the channels moves every image; beyond 1 ms it leaves only the earlier one.',
  ),
  ofArray(
    'channel-level',
    'channels',
    'A level difference between the channels moves every image by as much.',
  ),
  ofArray('faces-away', 'images', `${ONE_SIDE} Behind an array left and right change.`),
  ofArray('aimed-past', 'images', 'An array pictures what lies before it, its left on the left.'),
  ofArray('stands-behind', 'images', `${ONE_SIDE} From behind the players left and right change.`),
  {
    code: 'microphone-aimed-past',
    evidence: 'levels',
    basis: 'physics',
    severities: ['fault'],
    reason: 'Level by pattern: A + (1 − A)·cos θ off its axis.',
    isCause: true,
    of: 'session',
    check: (session) => mixCauses(session).past,
  },
  {
    code: 'against-the-mix',
    evidence: 'arrivals',
    basis: 'physics',
    severities: ['fault'],
    reason:
      'What comes 30 ms and more after the main array is heard apart; what is inverted against it cancels.',
    isCause: true,
    of: 'session',
    check: (session) => mixCauses(session).against,
  },
  {
    code: 'fader-pulls',
    evidence: 'arrivals',
    basis: 'physics',
    severities: ['fault'],
    reason: 'Who is louder and earlier in the mix says where a player is (estimate by events).',
    isCause: true,
    of: 'session',
    check: (session) => mixCauses(session).pull,
  },
  {
    code: 'fader-down',
    evidence: 'channels',
    basis: 'rule',
    severities: ['fault', 'caution'],
    reason: 'What is put up and patched is meant to be heard; else leave it out, or mute it.',
    isCause: true,
    of: 'session',
    check: (session) => mixCauses(session).down,
  },
  {
    code: 'plays-away',
    evidence: 'floor',
    basis: 'physics',
    severities: ['caution'],
    reason: 'Instruments and voices are bright to the front and dull to the back (J. Meyer).',
    isCause: true,
    of: 'session',
    check: playersAway,
  },
  {
    code: 'name-of-other-side',
    evidence: 'channels',
    basis: 'rule',
    severities: ['caution'],
    reason: 'Names stand on sheets, tracks and in the log: a rigger follows them.',
    isCause: true,
    of: 'session',
    check: namesOfTheOtherSide,
  },
];
