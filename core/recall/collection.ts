import type { Piece } from '../session/library';
import type { Session, Venue } from '../session/schema';
import { documentOfPiece, documentsOf } from './documents';
import { marksOf, type KnownMark } from './marks';
import { SearchIndex, type Facets } from './search';
import { isSameHall, plainName } from './words';

/** All sessions and kept pieces as one library: what is asked of it stays here between two questions. */

/** A session as it stands among others of its hall. */
export interface SessionLine {
  id: string;
  title: string;
  /** the day that it was for, or when it was changed last; ISO 8601 */
  at: string;
  players: number;
  marks: number;
}

/** A hall as a plan in a drawer. */
export interface HallCard {
  name: string;
  /** as the newest of its sessions has it */
  venue: Venue;
  /** the newest session that knows its walls and where the datum is, and the hall as it has it; null: none */
  measuredBy: { id: string; title: string; venue: Venue } | null;
  /** newest first */
  sessions: SessionLine[];
  marks: KnownMark[];
  /** the day of the newest session */
  at: string;
}

interface Kept {
  line: SessionLine;
  venue: Venue;
  marks: KnownMark[];
}

const PIECES = 'pieces';

/** What is said of the whole: it goes to the page whenever something of it changed. */
export interface Overview {
  halls: HallCard[];
  marks: KnownMark[];
  facets: Facets;
  /** all sessions, the newest first */
  all: SessionLine[];
  /** sessions that cannot be read */
  unread: string[];
}

const byNewest = (a: { at: string }, b: { at: string }): number => b.at.localeCompare(a.at);

const isMeasured = ({ origin, widthM, depthM }: Venue): boolean =>
  origin !== null && widthM !== null && depthM !== null;

/** Without the picture beneath, which is a content of its session. */
const venueOf = ({ venue }: Session): Venue => ({ ...venue, underlay: null });

export class Collection {
  readonly index = new SearchIndex();
  readonly #kept = new Map<string, Kept>();
  readonly #unread = new Map<string, string>();
  #ofPieces: KnownMark[] = [];

  /** Puts in a session, in the place of what it was before. */
  put(session: Session): void {
    const { id, title, brief, updatedAt, sources } = session;
    const marks = marksOf(session);
    this.#unread.delete(id);
    this.index.put(id, documentsOf(session));
    this.#kept.set(id, {
      line: {
        id,
        title,
        at: brief.date || updatedAt,
        players: sources.length,
        marks: marks.length,
      },
      venue: venueOf(session),
      marks,
    });
  }

  /** A session that cannot be read is counted, and hides no other. */
  putUnread(id: string, title: string): void {
    this.remove(id);
    this.#unread.set(id, title);
  }

  /** The kept pieces, all of them; marks that came with a kept hall are offered as those of sessions are. */
  putPieces(pieces: readonly Piece[]): void {
    this.index.put(
      PIECES,
      pieces.flatMap((piece) => documentOfPiece(piece) ?? []),
    );
    this.#ofPieces = pieces.flatMap((piece) =>
      piece.kind === 'hall' && 'marks' in piece
        ? marksOf({
            id: piece.from.session,
            title: piece.from.title,
            marks: piece.marks as Session['marks'],
          })
        : [],
    );
  }

  remove(id: string): void {
    this.index.remove(id);
    this.#kept.delete(id);
    this.#unread.delete(id);
  }

  /** Takes away all but these. */
  keepOnly(ids: ReadonlySet<string>): void {
    for (const id of [...this.#kept.keys(), ...this.#unread.keys()]) {
      if (!ids.has(id)) this.remove(id);
    }
  }

  #marks(): KnownMark[] {
    const own = [...this.#kept.values()].flatMap(({ marks }) => marks);
    const known = new Set(own.map(({ key }) => key));
    return [...own, ...this.#ofPieces.filter(({ key }) => !known.has(key))];
  }

  /** Halls with their marks, the newest first; sessions whose hall has no name are in none. */
  #halls(marks: readonly KnownMark[]): HallCard[] {
    const byHall = new Map<string, Kept[]>();
    for (const kept of this.#kept.values()) {
      const key = plainName(kept.venue.name);
      if (key !== '') byHall.set(key, [...(byHall.get(key) ?? []), kept]);
    }
    return [...byHall.values()]
      .flatMap((all): HallCard[] => {
        const sorted = [...all].sort((a, b) => byNewest(a.line, b.line));
        const [newest] = sorted;
        if (!newest) return [];
        const measured = sorted.find(({ venue }) => isMeasured(venue)) ?? null;
        return [
          {
            name: newest.venue.name,
            // Its plan is drawn as the one that was measured.
            venue: (measured ?? newest).venue,
            measuredBy: measured && { ...measured.line, venue: measured.venue },
            sessions: sorted.map(({ line }) => line),
            marks: marks.filter(({ mark }) => isSameHall(mark.hall, newest.venue.name)),
            at: newest.line.at,
          },
        ];
      })
      .sort(byNewest);
  }

  overview(): Overview {
    const marks = this.#marks();
    return {
      halls: this.#halls(marks),
      marks,
      facets: this.index.facets(),
      all: [...this.#kept.values()].map(({ line }) => line).sort(byNewest),
      unread: [...this.#unread.values()],
    };
  }
}
