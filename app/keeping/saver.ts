import { readSession, type ReadResult, type Session } from '../../core/session';
import { moved, withMove, type Doc, type Move } from '../document/steps';
import type { Leftover } from './leftovers';
import type { LoadResult, SaveResult, Standing } from './storage';
import type { TabMessage } from './tabs';

export type SaveState =
  | { kind: 'saved'; at: string }
  | { kind: 'unsaved' }
  | { kind: 'saving' }
  /** another tab changed it as well */
  | { kind: 'conflict' }
  /** another tab deleted it */
  | { kind: 'deleted' }
  | { kind: 'failed'; full: boolean; message: string };

/** Everything the saver needs of the page, so that it can be tested without one. */
export interface SaverParts {
  /** what is edited and may be stored; a drag that is still held is not part of it */
  current(): Doc | null;
  /** makes a session the open one, with its history */
  open(doc: Doc | null): void;
  /** another title, as another tab gave it: no step in the history */
  retitle(title: string): void;
  /** hands over what is typed but not yet in the session */
  settle(): void;
  load(id: string): Promise<LoadResult>;
  save(doc: Doc, baseRevision: number, baseTitle: string): Promise<SaveResult>;
  replace(doc: Doc): Promise<SaveResult>;
  standing(id: string): Promise<Standing>;
  /** keeps a session beside the stored one, under another identity; gives its title */
  keepAside(session: Session, note: string): Promise<string | null>;
  writeLeftover(session: Session, baseRevision: number, moves: readonly Move[]): boolean;
  clearLeftover(id: string, tabId?: string): void;
  readLeftovers(id: string, revision: number): Leftover[];
  /** whether the tab that left something behind is still there; null: cannot be told */
  isAlive(tabId: string): Promise<boolean | null>;
  /** another tab writes, and what is open here follows it */
  follows(): boolean;
  show(state: SaveState): void;
  tell(text: string): void;
  now(): string;
}

interface Following {
  id: string;
  /** the revision that the open session was loaded from or saved as */
  revision: number;
  title: string;
  /** what is known to be stored */
  stored: Doc | null;
  /** what was done since */
  moves: readonly Move[];
}

/** After the last change, and at the longest after the first one that is not stored. */
const REST_MS = 120;
const LONGEST_MS = 400;
const AGAIN_MS = 5000;

const dated = (doc: Doc, at: string): Doc => ({
  ...doc,
  session: { ...doc.session, updatedAt: at },
});

/** What of the moves came after those that are stored by now. */
function after(moves: readonly Move[], stored: readonly Move[]): readonly Move[] {
  const [last, now] = [stored[stored.length - 1], moves[stored.length - 1]];
  const rest = moves.slice(stored.length);
  // The last one has gone on meanwhile: on what is stored it is a step that takes its place.
  const goesOn = now && last !== now && (now.kind === 'step' || now.kind === 'join');
  return goesOn ? [{ kind: 'join', step: now.step }, ...rest] : rest;
}

/**
 * What a closed page had done, on what is stored: with its steps of undo where they fit, otherwise
 * the session as that page left it.
 */
function replayed(stored: Doc, moves: readonly Move[], left: ReadResult): Doc | null {
  if (!left.ok && moves.length === 0) return null;
  try {
    const doc = moves.reduce(moved, stored);
    if (!left.ok || sameContent(doc.session, left.session)) return doc;
  } catch {
    // Made on something else: the whole is taken.
  }
  const { id } = stored.session;
  return left.ok ? { session: { ...left.session, id }, past: [], future: [] } : null;
}

/** The same figures and texts, whatever the order of the keys and the time of the save. */
function sameContent(a: Session, b: Session): boolean {
  const sorted = (_key: string, value: unknown): unknown =>
    typeof value === 'object' && value !== null && !Array.isArray(value)
      ? Object.fromEntries(Object.entries(value).sort(([one], [other]) => (one < other ? -1 : 1)))
      : value;
  const text = (session: Session) => JSON.stringify({ ...session, updatedAt: '' }, sorted);
  return text(a) === text(b);
}

/**
 * Keeps the open session stored. One save at a time, and never longer than half a second behind
 * the hand; a session that another tab changed is never overwritten unseen.
 */
export class Saver {
  private following: Following | null = null;
  private timer: ReturnType<typeof setTimeout> | null = null;
  /** when the first change came that no save has taken up yet, ms */
  private since: number | null = null;
  private running: Promise<void> | null = null;
  private state: SaveState = { kind: 'saved', at: '' };
  /** counts what was asked to be opened: only the last one counts */
  private opening = 0;

  constructor(private readonly parts: SaverParts) {}

  private get dirty(): boolean {
    const doc = this.parts.current();
    if (doc === null || doc.session.id !== this.following?.id) return false;
    const { stored } = this.following;
    return !stored || doc.session !== stored.session || doc.past !== stored.past;
  }

  private show(state: SaveState): void {
    this.state = state;
    this.parts.show(state);
  }

  /** Waits for a decision: what is here and what is stored are not the same session any more. */
  private get asking(): boolean {
    return this.state.kind === 'conflict' || this.state.kind === 'deleted';
  }

  /** Something was done to the open session. */
  did(move: Move): void {
    if (this.following) this.following.moves = withMove(this.following.moves, move);
  }

  /** The open session may have changed. */
  changed(): void {
    if (!this.following || this.parts.current()?.session.id !== this.following.id) return;
    if (this.parts.follows()) {
      // What stands here is the other tab's to store.
      this.following.stored = this.parts.current();
      this.following.moves = [];
      return;
    }
    if (!this.dirty) {
      if (this.state.kind === 'unsaved' && !this.running) this.show({ kind: 'saved', at: '' });
      return;
    }
    if (this.asking) return;
    if (this.state.kind === 'saved') this.show({ kind: 'unsaved' });
    this.since ??= performance.now();
    if (!this.running) this.schedule(REST_MS);
  }

  private schedule(restMs: number): void {
    if (this.timer !== null) clearTimeout(this.timer);
    const left = this.since === null ? restMs : this.since + LONGEST_MS - performance.now();
    this.timer = setTimeout(
      () => void this.save(),
      Math.max(0, this.state.kind === 'failed' ? AGAIN_MS : Math.min(restMs, left)),
    );
  }

  /** Loads a session, makes it the open one and follows it. */
  async open(id: string): Promise<LoadResult> {
    const ticket = (this.opening += 1);
    await this.leaveBehind();
    const loaded = await this.parts.load(id);
    if (ticket !== this.opening) return loaded;
    if (loaded.kind !== 'found') {
      this.parts.open(null);
      return loaded;
    }
    const { session, past, future, revision } = loaded;
    const doc = { session, past, future };
    const recovered = loaded.unstored ? null : await this.recover(id, revision, doc);
    if (ticket !== this.opening) return loaded;
    this.follow(doc, revision, loaded.unstored ? null : doc);
    this.parts.open(recovered ?? doc);
    this.changed();
    return loaded;
  }

  private follow({ session }: Doc, revision: number, stored: Doc | null): void {
    const { id, title } = session;
    this.following = { id, revision, title, stored, moves: [] };
    this.since = null;
    this.show({ kind: 'saved', at: session.updatedAt });
  }

  /** The revision that is followed or edited of a session; null where it is not open here. */
  revisionOf(id: string): number | null {
    return this.following?.id === id ? this.following.revision : null;
  }

  /** Another tab edits, and this one shows what that one says is there. */
  shown(doc: Doc, revision: number): void {
    this.parts.open(doc);
    this.follow(doc, revision, doc);
  }

  /** The session is not shown any more: all of it is stored before it is let go. */
  async close(): Promise<void> {
    this.opening += 1;
    await this.leaveBehind();
  }

  /** Before another session is opened: nothing of this one may be lost. */
  private async leaveBehind(): Promise<void> {
    await this.flush();
    const doc = this.parts.current();
    const { following } = this;
    if (this.dirty && doc && following) {
      if (this.asking) {
        const kept = await this.parts.keepAside(doc.session, 'from this tab');
        if (kept !== null) this.parts.tell(`What was not saved is kept as “${kept}”.`);
      } else this.parts.writeLeftover(doc.session, following.revision, following.moves);
    }
    if (this.following === following) this.following = null;
  }

  /** Changes that closed pages could not save: taken over, or kept as copies if outdated. */
  private async recover(id: string, revision: number, stored: Doc): Promise<Doc | null> {
    let taken: Doc | null = null;
    for (const left of this.parts.readLeftovers(id, revision)) {
      if ((await this.parts.isAlive(left.tabId)) === true) continue;
      const read = readSession(left.session);
      const again: Doc | null = left.current && !taken ? replayed(stored, left.moves, read) : null;
      if (again) taken = again;
      // Its last save came through after all.
      else if (read.ok && !sameContent(read.session, (taken ?? stored).session)) {
        const title = await this.parts.keepAside(read.session, 'unsaved changes');
        if (title === null) continue;
        this.parts.tell(`Changes that were not saved before are kept as “${title}”.`);
      }
      // What was taken over is written anew, under this tab, before the old entry goes.
      if (taken && left.current) this.parts.writeLeftover(taken.session, revision, left.moves);
      this.parts.clearLeftover(id, left.tabId);
    }
    return taken;
  }

  /** Saves what is not saved yet; done when all of it is stored, or cannot be. */
  async flush(): Promise<void> {
    this.parts.settle();
    await this.running;
    while (this.dirty && !this.asking) {
      await this.save();
      if (this.state.kind === 'failed') return;
    }
  }

  private save(): Promise<void> {
    if (this.timer !== null) clearTimeout(this.timer);
    this.timer = null;
    this.running ??= this.saveOnce().finally(() => {
      this.running = null;
      if (this.dirty && !this.asking) this.schedule(this.state.kind === 'failed' ? AGAIN_MS : 0);
    });
    return this.running;
  }

  private async saveOnce(): Promise<void> {
    const { following } = this;
    const doc = this.parts.current();
    if (!following || !doc || !this.dirty || this.asking) return;
    if (this.state.kind !== 'failed') this.show({ kind: 'saving' });
    this.since = null;
    const at = this.parts.now();
    const { revision, title, moves } = following;
    const result = await this.parts.save(dated(doc, at), revision, title);
    if (this.following !== following) return;
    if (result.kind === 'saved') following.moves = after(following.moves, moves);
    this.settled(following, doc, at, result);
  }

  private settled(following: Following, doc: Doc, at: string, result: SaveResult): void {
    if (result.kind !== 'saved') return this.show(result);
    following.revision = result.revision;
    following.stored = doc;
    this.parts.clearLeftover(doc.session.id);
    this.takeTitle(result.title);
    this.show(this.dirty ? { kind: 'unsaved' } : { kind: 'saved', at });
  }

  /** A name given elsewhere is no conflict: it is taken over unless this tab gave one, too. */
  private takeTitle(title: string): void {
    const { following } = this;
    const doc = this.parts.current();
    if (!following || !doc || following.title === title) return;
    // Given here, whether it is the same one or another: the history keeps its step.
    const given = doc.session.title !== following.title;
    const clean = !this.dirty;
    following.title = title;
    if (given) return;
    this.parts.retitle(title);
    if (!clean) return;
    following.stored = this.parts.current();
    following.moves = [];
  }

  /** Another tab did something. */
  async heard(message: TabMessage): Promise<void> {
    const { following } = this;
    if (!following || message.id !== following.id) return;
    if (message.kind === 'renamed') this.takeTitle(message.title);
    else if (message.kind === 'deleted') this.show({ kind: 'deleted' });
    else if (message.kind === 'back') await this.look();
    else if (message.kind === 'saved') await this.compare(message.revision);
  }

  private async compare(revision: number): Promise<void> {
    // A save of this tab that is under way finds out by itself.
    await this.running;
    if (!this.following || revision <= this.following.revision) return;
    if (this.parts.follows()) this.following.revision = revision;
    else if (this.dirty) this.show({ kind: 'conflict' });
    else await this.takeStored();
  }

  /** After a sleep: what has happened to the stored session meanwhile? */
  async look(): Promise<void> {
    const { following } = this;
    if (!following || following.stored === null) return;
    const standing = await this.parts.standing(following.id).catch(() => null);
    if (!standing || this.following !== following) return;
    if (standing.kind === 'missing' || standing.deleted) return this.show({ kind: 'deleted' });
    if (this.state.kind === 'deleted') {
      this.show({ kind: 'saved', at: '' });
      this.changed();
    }
    await this.compare(standing.revision);
  }

  /** Gives up what is here for what is stored; false where nothing is stored any more. */
  async takeStored(): Promise<boolean> {
    if (!this.following) return false;
    const { id } = this.following;
    this.parts.clearLeftover(id);
    const loaded = await this.parts.load(id);
    if (loaded.kind !== 'found') return false;
    if (this.following?.id !== id) return true;
    const { session, past, future, revision } = loaded;
    const doc = { session, past, future };
    this.follow(doc, revision, doc);
    this.parts.open(doc);
    return true;
  }

  /** Gives up what is here; the session is gone or another. */
  letGo(): void {
    if (this.following) this.parts.clearLeftover(this.following.id);
    this.following = null;
    this.show({ kind: 'saved', at: '' });
  }

  /** Stores what is here over what another tab stored, or brings back what it deleted. */
  async replaceStored(): Promise<void> {
    this.parts.settle();
    const doc = this.parts.current();
    const { following } = this;
    if (!doc || !following) return;
    const at = this.parts.now();
    const result = await this.parts.replace(dated(doc, at));
    if (this.following !== following) return;
    following.title = doc.session.title;
    following.moves = [];
    this.settled(following, doc, at, result);
    this.changed();
  }

  /** Keeps what is here as a copy and shows what is stored; gives the copy's title. */
  async keepAsCopy(): Promise<string | null> {
    this.parts.settle();
    const doc = this.parts.current();
    return doc ? this.parts.keepAside(doc.session, 'from this tab') : null;
  }

  /**
   * The page goes, or may go: what is not stored is written where it takes no time.
   * @returns whether everything stands somewhere, or soon will
   */
  leave(): boolean {
    const written = this.leftover();
    if (this.dirty) void this.flush();
    return written && this.state.kind !== 'failed';
  }

  /** What is not stored is left for the next page. @returns whether there is nothing else */
  private leftover(): boolean {
    this.parts.settle();
    const doc = this.parts.current();
    if (!this.dirty || !doc || !this.following) return true;
    return this.parts.writeLeftover(doc.session, this.following.revision, this.following.moves);
  }

  /**
   * Before the page is loaded anew: stored, or at least left for the next page.
   * @param longestMs that the database is waited for
   * @returns whether nothing would be lost
   */
  async secure(longestMs: number): Promise<boolean> {
    const waited = new Promise<void>((done) => setTimeout(done, longestMs));
    await Promise.race([this.flush(), waited]);
    return this.leftover();
  }
}
