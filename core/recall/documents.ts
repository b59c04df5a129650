import { standardOf } from '../arrays/standards';
import { techniqueName } from '../arrays/technique';
import type { Piece } from '../session/library';
import { standing } from '../session/journals';
import type { LogEntry, MicArray, Session } from '../session/schema';
import { measuredText, marksOf } from './marks';
import { plainName } from './words';

/** Everything that is looked for by words: what each thing says, and where it is. */

export const FOUND_KINDS = [
  ...(['session', 'hall', 'ensemble', 'array', 'kit', 'rig', 'mark', 'option', 'take'] as const),
  ...(['blend', 'verdict', 'note', 'comparison', 'measurement', 'version', 'kept piece'] as const),
] as const;
export type FoundKind = (typeof FOUND_KINDS)[number];

/** One thing that can be found. */
export interface FoundDocument {
  id: string;
  kind: FoundKind;
  title: string;
  text: string;
  /** the session that it is in; empty for a kept piece that is in none */
  session: string;
  sessionTitle: string;
  /** where it opens: a station, and its page */
  station: string;
  page: string;
  hall: string;
  /** kinds of instruments */
  instruments: string[];
  /** names of techniques */
  arrays: string[];
  rating: number | null;
  /** the day it is of, ISO 8601; empty where none is known */
  at: string;
}

const listOf = (values: readonly string[]): string[] => [
  ...new Set(values.filter((value) => value.trim() !== '')),
];
const joined = (...parts: readonly (string | null | undefined)[]): string =>
  parts.filter((part) => part !== '' && part !== null && part !== undefined).join(' · ');

/** "near-coincident", with the name of the standard that it is. */
export const techniqueWords = ({
  technique,
  standard,
}: Pick<MicArray, 'technique' | 'standard'>): string =>
  joined(
    techniqueName(technique).replace('figure-eights', 'crossed figure-eights (Blumlein)'),
    standardOf(technique)?.name ?? standard,
  );

const people = ({ brief }: Session): string =>
  brief.people.map(({ name, role }) => joined(name, role)).join(', ');

type Base = Omit<FoundDocument, 'id' | 'kind' | 'title' | 'text' | 'station' | 'page'>;

/** Of a kind of log entry: its title, its text, and the page that it is on. */
function logDocument(
  entry: LogEntry,
): Pick<FoundDocument, 'kind' | 'title' | 'text' | 'station' | 'page'> | null {
  const of = (
    kind: FoundKind,
    title: string,
    text: string,
    page: string,
    station = 'soundcheck',
  ) => ({ kind, title, text: joined(text, entry.by), station, page });
  if (!('kind' in entry)) return null;
  switch (entry.kind) {
    case 'option': {
      const { name, changed, why, heard, state, reason } = entry as Extract<
        LogEntry,
        { kind: 'option' }
      >;
      return of(
        'option',
        name || 'Option',
        joined(changed.join('; '), why, heard, state, reason),
        'diary',
      );
    }
    case 'blend':
      return of('blend', (entry as { name: string }).name || 'Blend', '', 'blend');
    case 'verdict':
      return of('verdict', 'Verdict', (entry as { text: string }).text, 'report');
    case 'note':
      return of('note', 'Note', (entry as { text: string }).text, 'diary');
    case 'version':
      return of(
        'version',
        (entry as { name: string }).name || 'Version',
        '',
        'difference',
        'recall',
      );
    case 'comparison': {
      const { name, names } = entry as Extract<LogEntry, { kind: 'comparison' }>;
      return of('comparison', name || 'Comparison', names.join(', '), 'report');
    }
    case 'measurement': {
      const { file, asked } = entry as Extract<LogEntry, { kind: 'measurement' }>;
      return of('measurement', file?.name || 'Measurement', asked.join(', '), 'kept', 'bench');
    }
    default:
      return null;
  }
}

function planDocuments(session: Session, base: Base): FoundDocument[] {
  const { id, venue, kit, brief } = session;
  const doc = (
    kind: FoundKind,
    title: string,
    text: string,
    [station, page]: readonly [string, string],
    own: Partial<Base> = {},
  ): FoundDocument => ({ ...base, id: `${id}/${kind}`, kind, title, text, station, page, ...own });
  const size = [venue.widthM, venue.depthM, venue.heightM].map((m) => (m === null ? '?' : `${m}`));
  return [
    doc(
      'session',
      session.title,
      joined(brief.programme, brief.notes, brief.date, people(session)),
      ['brief', 'job'],
    ),
    ...(venue.name === ''
      ? []
      : [
          doc(
            'hall',
            venue.name,
            joined(`${size.join(' × ')} m`, venue.surfaces.map(({ name }) => name).join(', ')),
            ['brief', 'hall'],
          ),
        ]),
    ...(session.sources.length === 0
      ? []
      : [
          doc(
            'ensemble',
            `${session.sources.length} ${session.sources.length === 1 ? 'player' : 'players'}`,
            listOf(session.sources.flatMap(({ name, kind, group }) => [name, kind, group])).join(
              ', ',
            ),
            ['floor', ''],
          ),
        ]),
    ...session.arrays.map((array) => ({
      ...doc('array', array.name, joined(techniqueWords(array), array.role), ['array', ''], {
        arrays: [techniqueName(array.technique)],
      }),
      id: `${id}/array/${array.id}`,
    })),
    ...(kit.microphones.length + kit.stands.length === 0
      ? []
      : [
          doc(
            'kit',
            'Kit',
            listOf([
              ...kit.microphones.map(({ name, kind }) => joined(name, kind)),
              ...[...kit.stands, ...kit.bars].map(({ name }) => name),
            ]).join(', '),
            ['brief', 'kit'],
          ),
        ]),
    ...(session.rig.asBuilt.length === 0
      ? []
      : [
          doc('rig', 'As built', `${session.rig.asBuilt.length} figures were set`, [
            'rig',
            'built',
          ]),
        ]),
  ];
}

/**
 * All that can be found in a session; what was struck is not.
 * @param session whole, with its journals
 */
export function documentsOf(session: Session): FoundDocument[] {
  const { id, title, venue, brief } = session;
  const base: Base = {
    session: id,
    sessionTitle: title,
    hall: venue.name,
    instruments: listOf(session.sources.map(({ kind }) => kind)),
    arrays: listOf(session.arrays.map(({ technique }) => techniqueName(technique))),
    rating: null,
    at: brief.date || session.updatedAt || session.createdAt,
  };
  const found = planDocuments(session, base);
  for (const { key, mark, since } of marksOf(session)) {
    found.push({
      ...base,
      id: `${id}/mark/${key}`,
      kind: 'mark',
      title: mark.name || mark.array?.name || 'Mark',
      text: joined(
        mark.instrument,
        mark.tags.join(', '),
        mark.text,
        mark.by,
        measuredText(mark, 'metric'),
        mark.array ? techniqueWords(mark.array) : '',
      ),
      station: 'recall',
      page: mark.use === 'ears' ? 'listening' : 'marks',
      hall: mark.hall,
      instruments: listOf([mark.instrument]),
      arrays: mark.array ? [techniqueName(mark.array.technique)] : [],
      rating: mark.rating,
      at: since,
    });
  }
  for (const entry of standing(session.log)) {
    const own = logDocument(entry);
    if (own) found.push({ ...base, ...own, id: `${id}/log/${entry.id}`, at: entry.at || base.at });
  }
  for (const take of standing(session.takes)) {
    found.push({
      ...base,
      id: `${id}/take/${take.id}`,
      kind: 'take',
      title: joined(`Take ${take.number}`, take.name),
      text: joined(take.comment, take.state.people, take.files.map(({ name }) => name).join(', ')),
      station: 'soundcheck',
      page: 'takes',
      at: take.at || base.at,
    });
  }
  return found;
}

const PIECE_WORDS: Readonly<Record<string, string>> = {
  hall: 'hall',
  ensemble: 'ensemble',
  seating: 'seating',
  arrays: 'arrays',
  rig: 'rig',
  kit: 'kit',
  blend: 'blend',
  spot: 'spot',
};

/** What a kept piece is called by kind; null of one that is no part of a session, such as results of a drill. */
export const pieceWord = ({ kind }: Pick<Piece, 'kind'>): string | null =>
  PIECE_WORDS[kind] ?? null;

/** A kept piece as it is found; null of one that cannot be put into a session. */
export function documentOfPiece(piece: Piece): FoundDocument | null {
  const word = pieceWord(piece);
  if (word === null) return null;
  const {
    venue,
    sources = [],
    arrays = [],
  } = piece as {
    venue?: Session['venue'];
    sources?: Session['sources'];
    arrays?: Session['arrays'];
  };
  return {
    id: `piece/${piece.id}`,
    kind: 'kept piece',
    title: piece.name || word,
    text: joined(
      word,
      venue?.name,
      listOf(sources.flatMap(({ name, kind }) => [name, kind])).join(', '),
      arrays.map((array) => joined(array.name, techniqueWords(array))).join(', '),
      piece.from.title,
    ),
    session: '',
    sessionTitle: piece.from.title,
    station: 'recall',
    page: 'pieces',
    hall: venue?.name ?? '',
    instruments: listOf(sources.map(({ kind }) => kind)),
    arrays: listOf(arrays.map(({ technique }) => techniqueName(technique))),
    rating: null,
    at: piece.at,
  };
}

/** What a search is narrowed to; empty: to nothing. */
export interface Narrowed {
  kind: string;
  hall: string;
  instrument: string;
  array: string;
  /** rated at least so, 0 … 5; null: any */
  leastRating: number | null;
  /** ISO days; empty: open */
  from: string;
  to: string;
}

export const NOT_NARROWED: Narrowed = {
  ...{ kind: '', hall: '', instrument: '', array: '', leastRating: null, from: '', to: '' },
};

const has = (values: readonly string[], wanted: string): boolean =>
  wanted === '' || values.some((value) => plainName(value) === plainName(wanted));

/** Whether a document is within what a search is narrowed to. A day counts to its end. */
export const isWithin = (doc: FoundDocument, narrowed: Narrowed): boolean =>
  has([doc.kind], narrowed.kind) &&
  has([doc.hall], narrowed.hall) &&
  has(doc.instruments, narrowed.instrument) &&
  has(doc.arrays, narrowed.array) &&
  (narrowed.leastRating === null || (doc.rating ?? -1) >= narrowed.leastRating) &&
  (narrowed.from === '' || (doc.at !== '' && doc.at.slice(0, 10) >= narrowed.from)) &&
  (narrowed.to === '' || (doc.at !== '' && doc.at.slice(0, 10) <= narrowed.to));
