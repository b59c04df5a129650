import type { LogEntry, Session } from '../session/schema';
import {
  identifiedText,
  preferredText,
  resultOf,
  trialsIn,
  type Answer,
  type BlindResult,
} from './blind';
import { ofKind } from './diary';

/** What came of comparisons by ear: read from the log, said once for page, report and files. */

export type Comparison = Extract<LogEntry, { kind: 'comparison' }>;
export type Vote = Extract<LogEntry, { kind: 'vote' }>;

export interface Round {
  /** of its first entry */
  key: string;
  entry: Comparison;
  /** who came to the end */
  finished: Vote[];
  /** who did not: nothing is said of their answers */
  broken: Vote[];
}

/** All comparisons of a log, the newest first. */
export function roundsOf(session: Pick<Session, 'log'>): Round[] {
  const votes = ofKind(session, 'vote').flatMap(({ standing }) => standing ?? []);
  const rounds = ofKind(session, 'comparison').flatMap(({ standing, history }): Round[] => {
    const [first] = history;
    if (!standing || !first) return [];
    const own = votes.filter(({ round }) => round === first.id);
    return [
      {
        key: first.id,
        entry: standing,
        finished: own.filter(({ finished }) => finished),
        broken: own.filter(({ finished }) => !finished),
      },
    ];
  });
  return rounds.reverse();
}

/** Votes that were said openly, the newest first. */
export const openVotesOf = (session: Pick<Session, 'log'>): Vote[] =>
  ofKind(session, 'vote')
    .flatMap(({ standing }) => (standing && standing.round === '' ? [standing] : []))
    .reverse();

/** What was compared was called, by its id. */
export const namesIn = ({ entry: { among, names } }: Round): ReadonlyMap<string, string> =>
  new Map(among.map((id, i) => [id, names[i] || id]));

/** How many trials a listener has in it. */
export const trialsOfRound = ({ entry }: Round): number =>
  trialsIn(entry.test, entry.among.length, entry.trials);

const asAnswers = ({ answers }: Vote): Answer[] =>
  answers.map(({ among, hidden, said }) => ({ among, hidden: hidden || null, said }));

/** What its answers say, of those who came to the end. */
export const resultOfRound = ({ entry, finished }: Round): BlindResult =>
  resultOf(
    entry.test,
    entry.among,
    finished.map((vote) => ({ by: vote.by, answers: asAnswers(vote) })),
  );

/** What a comparison says, in sentences; nothing before it is closed. */
export function roundSentences(round: Round): string[] {
  const { entry, finished, broken } = round;
  if (!entry.closed) return [];
  const names = namesIn(round);
  const several = entry.among.length > 2;
  const { identified, own, together } = resultOfRound(round);
  const said = [
    ...identified.map(identifiedText),
    ...together.map((pair) =>
      preferredText(`${finished.length} listeners, a voice each`, pair, names, several),
    ),
    ...own.flatMap(({ by, pairs }) =>
      pairs.map((pair) =>
        preferredText(
          `${by || 'A listener without a name'}, by ${entry.trials} ${entry.trials === 1 ? 'trial' : 'trials'} of a pair`,
          pair,
          names,
          several,
        ),
      ),
    ),
  ];
  if (finished.length === 0) said.push('Nobody came to its end: it says nothing.');
  if (broken.length > 0) {
    said.push(
      `Broken off, and not counted: ${broken.map(({ by, letters }) => `${by || 'a listener without a name'} after ${letters.length} of ${trialsOfRound(round)}`).join(', ')}.`,
    );
  }
  if (!entry.alike) {
    said.push('Another performance: what was heard may be the playing, not the microphones.');
  }
  for (const { by, text } of finished) {
    if (text !== '') said.push(`${by || 'A listener without a name'}: “${text}”`);
  }
  return said;
}

export const DEGREES: Readonly<Record<number, string>> = {
  [-2]: 'far too little',
  [-1]: 'a little too little',
  0: 'right',
  1: 'a little too much',
  2: 'far too much',
};

type Note = Extract<LogEntry, { kind: 'note' }>;

/** "Anna of the Viol: width right, room a little too much; too near" */
export function noteText({ by, players, judged, text }: Note, session: Session): string {
  const names = players.map(
    (id) => session.sources.find((source) => source.id === id)?.name ?? 'somebody who is gone',
  );
  const words = judged.map(({ word, degree }) => `${word} ${DEGREES[degree] ?? degree}`).join(', ');
  const what = [words, text].filter((part) => part !== '').join('; ');
  return `${by || 'Somebody'} of ${names.length === 0 ? 'the whole' : names.join(', ')}: ${what}`;
}

/** Notes about something that was compared, the newest first. */
export const notesAbout = (session: Pick<Session, 'log'>, id: string): Note[] =>
  ofKind(session, 'note')
    .flatMap(({ standing }) => (standing?.about.includes(id) ? [standing] : []))
    .reverse();
