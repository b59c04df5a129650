import type { Session } from '../../session/schema';
import { expectedOf, playerChanges, wholeChanges, type Expected } from '../../soundcheck/expected';
import { LEVERS, type LeverName } from '../../soundcheck/levers';
import { seededRandom } from '../../units/random';
import { formatNumber } from '../../units/format';
import { shuffled } from '../../units/shuffled';

/** From one's own plan: something is moved on a copy, and what it does is predicted first. */

export const MOVED_ASKS = ['place', 'width', 'room', 'mono'] as const;
export type MovedAsk = (typeof MOVED_ASKS)[number];

export interface MovedQuestion {
  seed: number;
  ask: MovedAsk;
  /** what was done, in words */
  move: string;
  /** the plan with it */
  plan: Session;
  text: string;
  answers: { id: string; label: string }[];
  truth: string;
  /** what it does to what was asked, with its figure */
  after: string;
  /** what else changes, a sentence each */
  besides: string[];
}

const TURNS: readonly LeverName[] = [
  ...(['closer', 'back', 'higher', 'lower', 'left', 'right'] as const),
  ...(['wider angle', 'smaller angle', 'wider spacing', 'smaller spacing'] as const),
  ...(['narrower pattern', 'wider pattern', 'more side', 'less side'] as const),
  ...(['spot up', 'spot down', 'outriggers up', 'outriggers down'] as const),
  ...(['ambience up', 'ambience down', 'nearer', 'farther off'] as const),
];
/** Those of one player: it is he who is asked about. */
const OF_PLAYER: ReadonlySet<LeverName> = new Set([
  ...(['spot up', 'spot down', 'nearer', 'farther off'] as const),
]);
/** Steps of a lever that are tried: the gentlest says nothing, the farthest nobody would do. */
const STEPS = 4;

/** What is said to stay, and what is said to change: between them nobody is asked. */
interface Asking {
  /** of one player, or of the whole */
  figure: (of: Expected, player: string) => number | null;
  same: number;
  changed: number;
  text: (name: string) => string;
  answers: readonly [more: string, less: string, same: string];
  said: (before: number, after: number) => string;
  /** what else is said of the whole that says it again */
  saidBy: RegExp;
}

const ASKING: Readonly<Record<MovedAsk, Asking>> = {
  place: {
    figure: ({ players }, id) => {
      const shift = players.find((one) => one.id === id)?.shift;
      return shift === null || shift === undefined ? null : 100 * shift;
    },
    same: 1.5,
    changed: 5,
    text: (name) => `Where does ${name} go?`,
    answers: ['further right', 'further left', 'stays (within 2 %)'],
    said: (before, after) => `${sided(before)} → ${sided(after)}`,
    saidBy: /^$/,
  },
  width: {
    figure: ({ widthPct }) => widthPct,
    same: 1.5,
    changed: 5,
    text: () => 'What becomes of the width of the picture?',
    answers: ['wider', 'narrower', 'the same (within 2 %)'],
    said: (before, after) => `${formatNumber(before, 0)} → ${formatNumber(after, 0)} % of the base`,
    saidBy: /^picture/,
  },
  room: {
    figure: ({ directDb }) => (directDb === null ? null : -directDb),
    same: 0.3,
    changed: 0.8,
    text: () => 'Is there more room in it, or less?',
    answers: ['more room', 'less room', 'as much (within half a dB)'],
    said: (before, after) =>
      `room against direct sound ${formatNumber(before, 1)} → ${formatNumber(after, 1)} dB, mean of the players`,
    saidBy: /room on average/,
  },
  mono: {
    figure: ({ monoDb }) => monoDb,
    same: 0.5,
    changed: 1.2,
    text: () => 'What becomes of the weakest player in mono?',
    answers: ['stronger', 'weaker', 'the same (within 1 dB)'],
    said: (before, after) =>
      `what mono leaves of the weakest ${formatNumber(before, 1)} → ${formatNumber(after, 1)} dB`,
    saidBy: /^mono/,
  },
};

const sided = (pct: number): string =>
  Math.abs(pct) < 0.5 ? 'centre' : `${formatNumber(Math.abs(pct), 0)} % ${pct < 0 ? 'L' : 'R'}`;

function questionFrom(
  session: Session,
  seed: number,
  step: { label: string; plan: Session },
  random: () => number,
  mover: string | null,
): MovedQuestion | null {
  const [before, after] = [expectedOf(session), expectedOf(step.plan)];
  const players = shuffled(session.sources, random).filter(
    ({ id }) => mover === null || id === mover,
  );
  for (const ask of shuffled(MOVED_ASKS, random)) {
    const asking = ASKING[ask];
    for (const { id, name } of ask === 'place' ? players : players.slice(0, 1)) {
      const [was, is] = [asking.figure(before, id), asking.figure(after, id)];
      if (was === null || is === null) continue;
      const change = is - was;
      const size = Math.abs(change);
      if (size > asking.same && size < asking.changed) continue;
      const [more, less, same] = asking.answers;
      return {
        seed,
        ask,
        move: step.label,
        plan: step.plan,
        text: asking.text(name),
        answers: [
          { id: 'more', label: more },
          { id: 'less', label: less },
          { id: 'same', label: same },
        ],
        truth: size <= asking.same ? 'same' : change > 0 ? 'more' : 'less',
        after: asking.said(was, is),
        besides: [
          ...wholeChanges(before, after).filter((words) => !asking.saidBy.test(words)),
          ...playerChanges(before, after)
            .filter((of) => of.words !== '' && !(ask === 'place' && of.id === id))
            .map(({ words }) => words)
            .slice(0, 3),
        ],
      };
    }
  }
  return null;
}

/**
 * Something is moved on a copy of a plan, and asked about.
 * @param seed any whole number, 0 … 2^32: the same plan and seed ask the same
 * @returns null where nothing can be moved that says anything: without players or an array in use
 */
export function movedQuestion(session: Session, seed: number): MovedQuestion | null {
  const random = seededRandom(seed);
  if (session.sources.length === 0) return null;
  const focus = session.sources[Math.floor(random() * session.sources.length)]?.id ?? null;
  // One in five may be a question to which nothing changes: else that would never be the answer.
  const wantsSame = random() < 0.2;
  let spare: MovedQuestion | null = null;
  for (const name of shuffled(TURNS, random)) {
    const steps = [];
    for (const step of LEVERS[name](session, focus)) {
      steps.push(step);
      if (steps.length >= STEPS) break;
    }
    const step = steps[Math.min(steps.length - 1, 1 + Math.floor(random() * (STEPS - 1)))];
    const question =
      step && questionFrom(session, seed, step, random, OF_PLAYER.has(name) ? focus : null);
    if (!question) continue;
    if ((question.truth === 'same') === wantsSame) return question;
    spare ??= question;
  }
  return spare;
}
