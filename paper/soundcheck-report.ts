import type { LogEntry, Session } from '../core/session';
import {
  DEGREES,
  expectedText,
  namesIn,
  pText,
  resultOfRound,
  heldAgainst,
  ofKind,
  openVotesOf,
  optionName,
  optionOfTake,
  optionsOf,
  readExpected,
  roundSentences,
  roundsOf,
  takesOf,
  trialsOfRound,
  type Option,
  type Preferred,
} from '../core/soundcheck';
import { capitalised, formatNumber, formatSigned } from '../core/units';
import type { ReportModel } from './measurement-report';

/** The whole soundcheck: the same for the page, the printer, the PDF, the files and the command. */

export const SOUNDCHECK_HEAD = ['At', 'What', 'Which', 'By', 'Blind', 'Says', 'Figures'] as const;

const whenOf = (at: string): string => at.slice(0, 16).replace('T', ' ');

/** What an option is expected to do against the one before, or by itself. */
function expectedOfOption(option: Option, before: Option | null): string {
  const now = readExpected(option.entry.expected);
  const was = before ? readExpected(before.entry.expected) : null;
  if (!now) return 'not kept';
  if (was) return expectedText(was, now);
  const width = now.widthPct === null ? '' : `picture ${formatNumber(now.widthPct, 0)} %`;
  const room = now.directDb === null ? '' : `direct to room ${formatSigned(now.directDb, 1)} dB`;
  return [width, room].filter((part) => part !== '').join(', ') || '—';
}

/** Names of whatever is compared or spoken about, by any of its ids. */
function namesOf(session: Session, options: readonly Option[]): (id: string) => string {
  const names = new Map<string, string>();
  for (const option of options) {
    for (const { id } of option.history) names.set(id, optionName(option));
  }
  for (const { take, history } of takesOf(session)) {
    for (const { id } of history) names.set(id, `Take ${take.number}`);
  }
  for (const { history, standing } of ofKind(session, 'blend')) {
    for (const { id } of history) names.set(id, `Blend: ${standing?.name ?? 'struck'}`);
  }
  for (const { history } of ofKind(session, 'comparison')) {
    for (const { id } of history) names.set(id, 'a blind comparison that was broken off');
  }
  return (id) => names.get(id) ?? 'a recording';
}

type Note = Extract<LogEntry, { kind: 'note' }>;

/** What was heard of something that is compared, not notes about anything else. */
const heardNotes = (session: Session): Note[] =>
  ofKind(session, 'note').flatMap(({ standing }) =>
    standing && (standing.judged.length > 0 || standing.about.length > 0) ? [standing] : [],
  );

const playersIn = (session: Session, { players }: Note): string =>
  players.length === 0
    ? 'the whole'
    : players
        .map((id) => session.sources.find((source) => source.id === id)?.name ?? 'somebody gone')
        .join(', ');

const judgedText = ({ judged }: Note): string =>
  judged.map(({ word, degree }) => `${word} ${DEGREES[degree] ?? degree}`).join(', ');

/** What stands out of a soundcheck, in sentences: what is kept and why, what was heard blind, what is open. */
export function soundcheckSentences(session: Session): string[] {
  const options = optionsOf(session);
  const said: string[] = [];
  const of = (state: string): Option[] => options.filter(({ entry }) => entry.state === state);
  for (const option of of('kept')) {
    const { reason } = option.entry;
    said.push(`Kept: ${optionName(option)}${reason === '' ? '' : `, because ${reason}`}.`);
  }
  if (options.length > 0 && of('kept').length === 0) said.push('No option is kept yet.');
  if (of('shortlisted').length > 0) {
    said.push(`Shortlisted: ${of('shortlisted').map(optionName).join(', ')}.`);
  }
  for (const round of roundsOf(session).reverse()) {
    if (round.entry.closed) said.push(...roundSentences(round));
    else {
      said.push(
        `A blind comparison is under way (${round.finished.length} listened): nothing of it is said before it is closed.`,
      );
    }
  }
  return said;
}

/** Everything that was said, in its order, a row each: for other programs. */
export function soundcheckRows(session: Session): (string | number | null)[][] {
  const options = optionsOf(session);
  const nameOf = namesOf(session, options);
  const rows: (string | number | null)[][] = [];
  options.forEach((option, i) => {
    const { entry, history } = option;
    rows.push([
      ...[history[0]?.at ?? entry.at, `option, ${entry.state}`, optionName(option), entry.by, ''],
      [...entry.changed, entry.why, entry.heard, entry.reason].filter(Boolean).join('; '),
      expectedOfOption(option, heldAgainst(options, i)),
    ]);
  });
  for (const { take, history } of takesOf(session)) {
    const option = optionOfTake(options, take);
    const files = take.simulation ? 'simulated' : take.files.map(({ name }) => name).join(', ');
    rows.push([
      ...[history[0]?.at ?? take.at, 'take', `Take ${take.number}`, take.by, ''],
      [option ? optionName(option) : '', take.performance, take.comment].filter(Boolean).join('; '),
      files,
    ]);
  }
  for (const round of roundsOf(session)) {
    const { entry, finished } = round;
    if (!entry.closed) continue;
    const which = entry.names.join(', ');
    rows.push([
      ...[entry.at, `comparison, ${entry.test}`, which, '', 'yes'],
      roundSentences(round).join(' '),
      `${entry.trials} trials fixed beforehand, ${trialsOfRound(round)} answers of each; trims ${entry.trimsDb.map((db) => formatSigned(db, 1)).join(', ')} dB`,
    ]);
    for (const vote of finished) {
      rows.push([
        ...[vote.at, 'vote', which, vote.by, 'yes'],
        vote.text,
        vote.answers.map(({ said }) => (said === '' ? 'no difference' : nameOf(said))).join(' / '),
      ]);
    }
  }
  for (const vote of openVotesOf(session)) {
    rows.push([
      ...[vote.at, 'vote', vote.among.map(nameOf).join(', '), vote.by, 'no'],
      `prefers ${nameOf(vote.choice)}`,
      '',
    ]);
  }
  for (const note of heardNotes(session)) {
    rows.push([
      ...[note.at, 'note', note.about.map(nameOf).join(', '), note.by, note.blind ? 'yes' : 'no'],
      [playersIn(session, note), note.text].filter(Boolean).join(': '),
      judgedText(note),
    ]);
  }
  return rows.sort((a, b) => String(a[0]).localeCompare(String(b[0])));
}

/** The report as it is printed. */
export function soundcheckReport(session: Session): ReportModel {
  const options = optionsOf(session);
  const nameOf = namesOf(session, options);
  const takes = takesOf(session);
  const notes = heardNotes(session);
  const tables: ReportModel['tables'] = [];
  const add = (title: string, head: string[], rows: string[][]): void => {
    if (rows.length > 0) tables.push({ title, head, rows });
  };
  add(
    'Options',
    ['Letter', 'Option', 'State', 'What changed', 'Expected', 'Heard'],
    options.map((option, i) => {
      const { letter, entry } = option;
      return [
        ...[letter, entry.name || '—', capitalised(entry.state)],
        [...entry.changed.slice(0, 4), entry.changed.length > 4 ? 'and more' : '']
          .filter(Boolean)
          .join('; ') || '—',
        expectedOfOption(option, heldAgainst(options, i)),
        entry.heard || '—',
      ];
    }),
  );
  const closed = roundsOf(session).filter(({ entry }) => entry.closed);
  add(
    'Blind comparisons',
    ['When', 'Question', 'Among', 'Listeners', 'Like for like'],
    closed.map(({ entry, finished }) => [
      whenOf(entry.at),
      entry.test === 'identification' ? 'which is which' : 'which is better',
      entry.names.join(', '),
      finished.map(({ by }) => by || 'without a name').join(', ') || 'nobody',
      entry.alike ? 'yes' : 'no, another performance',
    ]),
  );
  add(
    'Blind answers, by listener',
    ['Listener', 'Of', 'Answers', 'By guessing alone'],
    closed.flatMap((round) => {
      const names = namesIn(round);
      const of = (id: string): string => names.get(id) ?? id;
      const { identified, own, together } = resultOfRound(round);
      const pairRow = (by: string, pair: Preferred): string[] => [
        by,
        `${of(pair.one)} and ${of(pair.other)}`,
        `${pair.forOne} to ${pair.forOther}${pair.ties === 0 ? '' : `, ${pair.ties} without a difference`}`,
        `${pText(pair.p)}${round.entry.among.length > 2 ? `, corrected ${pText(pair.corrected)}` : ''}`,
      ];
      return [
        ...identified.map(({ by, right, trials, p }) => [
          by || 'without a name',
          'which is which',
          `${right} of ${trials} right`,
          pText(p),
        ]),
        ...own.flatMap(({ by, pairs }) =>
          pairs.map((pair) => pairRow(by || 'without a name', pair)),
        ),
        ...together.map((pair) => pairRow('all, a voice each', pair)),
      ];
    }),
  );
  add(
    'Said openly',
    ['When', 'Who', 'Prefers', 'Among'],
    openVotesOf(session).map((vote) => [
      ...[whenOf(vote.at), vote.by || 'somebody', nameOf(vote.choice)],
      vote.among.map(nameOf).join(', '),
    ]),
  );
  add(
    'What was heard, by listener and player',
    ['Listener', 'Player', 'Of', 'Words', 'In other words'],
    notes.map((note) => [
      ...[note.by || 'somebody', playersIn(session, note), note.about.map(nameOf).join(', ')],
      ...[judgedText(note) || '—', note.text || '—'],
    ]),
  );
  add(
    'Takes',
    ['Take', 'Name', 'Option', 'Performance', 'Files', 'Comment'],
    takes.map(({ take }) => [
      `${take.number}`,
      take.name || '—',
      optionOfTake(options, take)?.letter ?? '—',
      take.performance || 'not said',
      take.simulation ? 'simulated' : take.files.map(({ name }) => name).join(', ') || 'none',
      take.comment || '—',
    ]),
  );
  return {
    title: `${session.title}: soundcheck`,
    facts: [
      session.venue.name,
      session.brief.date,
      `${options.length} ${options.length === 1 ? 'option' : 'options'}, ${takes.length} ${takes.length === 1 ? 'take' : 'takes'}`,
    ]
      .filter((part) => part !== '')
      .join(' · '),
    sentences: soundcheckSentences(session),
    tables,
  };
}
