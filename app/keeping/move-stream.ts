import type { Session } from '../../core/session';
import type { Doc, Move } from '../document/steps';
import type { TabMessage } from './tabs';
import type { Role } from './writing';

/** How moves get from one place to others: tabs of a browser, or a line to another device. */
export interface Transport {
  tell(message: TabMessage): void;
  hear(listener: (message: TabMessage) => void): void;
}

/** Who of all places writes: a lock of the browser says so, or a server. */
export interface WriterRole {
  readonly role: Role;
  begin(id: string): Promise<Role>;
  end(): void;
  handOver(): void;
  takeOver(ask: () => void): Promise<void>;
  refused(): void;
}

/** What the stream needs of the place that it is in. */
export interface StreamParts {
  role(): Role;
  /** the session that is open, and may be stored as it is; a drag that is held is not part of it */
  document(): Doc | null;
  /** the revision that it is of; null where it is not followed here */
  revision(): number | null;
  /** does a move that was made elsewhere; throws where it does not fit, or no file may hold what would be */
  receive(move: Move): void;
  /** the writing place says what is there */
  shown(doc: Doc, revision: number): void;
  /** a move that is to be saved here */
  saves(move: Move): void;
  /** stores an entry that is made where nothing else is written */
  keepEntry(session: Session): void;
  /** somebody wants to write: everything is stored first */
  handOver(id: string): void;
  /** the writing place goes on writing */
  refused(): void;
}

/**
 * The moves of one session between places of which one writes: counted, so that whoever misses one asks for
 * the whole. Journals only grow, so that any place may add to them.
 */
export class MoveStream {
  /** how many moves this place has told, or has heard of the writing one; null: not in step with it */
  private counted: number | null = 0;

  constructor(
    private readonly transport: Transport,
    private readonly parts: StreamParts,
  ) {}

  private get id(): string {
    return this.parts.document()?.session.id ?? '';
  }

  /** The place has this role from now on. */
  obey(role: Role): void {
    this.counted = role === 'following' ? null : 0;
    if (role === 'following') this.ask();
  }

  /** Asks the writing place what is there. */
  private ask(): void {
    this.transport.tell({ kind: 'asks', id: this.id });
  }

  /** Something was done here: it is saved, and told to those that follow. */
  did(move: Move): void {
    const { parts, transport, id } = this;
    if (parts.role() === 'writing') {
      parts.saves(move);
      this.counted = (this.counted ?? 0) + 1;
      transport.tell({ kind: 'did', id, n: this.counted, move });
    } else if (move.kind === 'entry') {
      const doc = parts.document();
      if (doc) parts.keepEntry(doc.session);
      transport.tell({ kind: 'entered', id, move });
    }
  }

  /** Shows those that follow what is there. */
  show(): void {
    const doc = this.parts.document();
    const revision = this.parts.revision();
    if (!doc || revision === null) return;
    this.transport.tell({ kind: 'shows', id: this.id, n: this.counted ?? 0, revision, doc });
  }

  /** Something was said elsewhere of the session that is open here. */
  heard(message: TabMessage): void {
    if (message.kind === 'entered') this.entered(message.move);
    else if (this.parts.role() === 'following') this.follow(message);
    else if (message.kind === 'wants to write') this.parts.handOver(message.id);
    else if (message.kind === 'asks') this.show();
  }

  private entered(move: Move & { kind: 'entry' }): void {
    try {
      this.parts.receive(move);
    } catch {
      // What no file may hold is not taken from another place either.
      return;
    }
    if (this.parts.role() === 'writing') this.parts.saves(move);
  }

  /** Does what the writing place did, or asks where it is out of step. */
  private follow(message: TabMessage): void {
    if (message.kind === 'shows') {
      this.parts.shown(message.doc, message.revision);
      this.counted = message.n;
    } else if (message.kind === 'did') {
      try {
        if (this.counted === null || message.n !== this.counted + 1) {
          throw new RangeError('out of step');
        }
        this.parts.receive(message.move);
        this.counted = message.n;
      } catch {
        this.counted = null;
        this.ask();
      }
    } else if (message.kind === 'keeps writing') this.parts.refused();
  }
}
