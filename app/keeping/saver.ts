import { readSession, type Session } from '../../core/session';
import type { Leftover } from './journal';
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
  current(): Session | null;
  /** makes a session the open one, with a new history */
  open(session: Session | null): void;
  /** another title, as another tab gave it: no step in the history */
  retitle(title: string): void;
  /** hands over what is typed but not yet in the session */
  settle(): void;
  load(id: string): Promise<LoadResult>;
  save(session: Session, baseRevision: number, baseTitle: string): Promise<SaveResult>;
  replace(session: Session): Promise<SaveResult>;
  standing(id: string): Promise<Standing>;
  /** keeps a session beside the stored one, under another identity; gives its title */
  keepAside(session: Session, note: string): Promise<string | null>;
  writeJournal(session: Session, baseRevision: number): boolean;
  clearJournal(id: string, tabId?: string): void;
  readJournals(id: string, revision: number): Leftover[];
  /** whether the tab that left something behind is still there; null: cannot be told */
  isAlive(tabId: string): Promise<boolean | null>;
  show(state: SaveState): void;
  tell(text: string): void;
  now(): string;
}

interface Following {
  id: string;
  /** the revision that the open session was loaded from or saved as */
  revision: number;
  title: string;
  /** the session object that is known to be stored */
  stored: Session | null;
}

/** After the last change, and at the longest after the first one that is not stored. */
const REST_MS = 120;
const LONGEST_MS = 400;
const AGAIN_MS = 5000;

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
    const session = this.parts.current();
    return (
      session !== null && session.id === this.following?.id && session !== this.following.stored
    );
  }

  private show(state: SaveState): void {
    this.state = state;
    this.parts.show(state);
  }

  /** Waits for a decision: what is here and what is stored are not the same session any more. */
  private get asking(): boolean {
    return this.state.kind === 'conflict' || this.state.kind === 'deleted';
  }

  /** The open session may have changed. */
  changed(): void {
    if (!this.following || this.parts.current()?.id !== this.following.id) return;
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
    const { session, revision } = loaded;
    const recovered = loaded.unstored ? null : await this.recover(id, revision);
    if (ticket !== this.opening) return loaded;
    this.follow(session, revision, loaded.unstored ? null : session);
    this.parts.open(recovered ?? session);
    if (loaded.pictureMissing) {
      this.parts.tell('The picture under the plan is no longer stored here; lay it again.');
    }
    this.changed();
    return loaded;
  }

  private follow(session: Session, revision: number, stored: Session | null): void {
    const { id, title } = session;
    this.following = { id, revision, title, stored };
    this.since = null;
    this.show({ kind: 'saved', at: session.updatedAt });
  }

  /** Before another session is opened: nothing of this one may be lost. */
  private async leaveBehind(): Promise<void> {
    await this.flush();
    const session = this.parts.current();
    if (this.dirty && session && this.following) {
      if (this.asking) {
        const kept = await this.parts.keepAside(session, 'from this tab');
        if (kept !== null) this.parts.tell(`What was not saved is kept as “${kept}”.`);
      } else this.parts.writeJournal(session, this.following.revision);
    }
    this.following = null;
  }

  /** Changes that closed pages could not save: taken over, or kept as copies if outdated. */
  private async recover(id: string, revision: number): Promise<Session | null> {
    let taken: Session | null = null;
    for (const left of this.parts.readJournals(id, revision)) {
      if ((await this.parts.isAlive(left.tabId)) === true) continue;
      const read = readSession(left.session);
      if (read.ok && left.current && !taken) taken = { ...read.session, id };
      else if (read.ok) {
        const title = await this.parts.keepAside(read.session, 'unsaved changes');
        if (title === null) continue;
        this.parts.tell(`Changes that were not saved before are kept as “${title}”.`);
      }
      // What was taken over is written anew, under this tab, before the old entry goes.
      if (taken && left.current) this.parts.writeJournal(taken, revision);
      this.parts.clearJournal(id, left.tabId);
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
    const session = this.parts.current();
    if (!following || !session || !this.dirty || this.asking) return;
    if (this.state.kind !== 'failed') this.show({ kind: 'saving' });
    this.since = null;
    const at = this.parts.now();
    const { revision, title } = following;
    const result = await this.parts.save({ ...session, updatedAt: at }, revision, title);
    if (this.following !== following) return;
    this.settled(following, session, at, result);
  }

  private settled(following: Following, session: Session, at: string, result: SaveResult): void {
    if (result.kind !== 'saved') return this.show(result);
    following.revision = result.revision;
    following.stored = session;
    this.parts.clearJournal(session.id);
    this.takeTitle(result.title);
    this.show(this.dirty ? { kind: 'unsaved' } : { kind: 'saved', at });
  }

  /** A name given elsewhere is no conflict: it is taken over unless this tab gave one, too. */
  private takeTitle(title: string): void {
    const { following } = this;
    const session = this.parts.current();
    if (!following || !session || following.title === title) return;
    // Given here, whether it is the same one or another: the history keeps its step.
    const given = session.title !== following.title;
    const clean = !this.dirty;
    following.title = title;
    if (given) return;
    this.parts.retitle(title);
    if (clean) following.stored = this.parts.current();
  }

  /** Another tab did something. */
  async heard(message: TabMessage): Promise<void> {
    const { following } = this;
    if (!following || message.id !== following.id) return;
    if (message.kind === 'renamed') this.takeTitle(message.title);
    else if (message.kind === 'deleted') this.show({ kind: 'deleted' });
    else if (message.kind === 'back') await this.look();
    else await this.compare(message.revision);
  }

  private async compare(revision: number): Promise<void> {
    // A save of this tab that is under way finds out by itself.
    await this.running;
    if (!this.following || revision <= this.following.revision) return;
    if (this.dirty) this.show({ kind: 'conflict' });
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
    this.parts.clearJournal(id);
    const loaded = await this.parts.load(id);
    if (loaded.kind !== 'found') return false;
    if (this.following?.id !== id) return true;
    this.follow(loaded.session, loaded.revision, loaded.session);
    this.parts.open(loaded.session);
    return true;
  }

  /** Gives up what is here; the session is gone or another. */
  letGo(): void {
    if (this.following) this.parts.clearJournal(this.following.id);
    this.following = null;
    this.show({ kind: 'saved', at: '' });
  }

  /** Stores what is here over what another tab stored, or brings back what it deleted. */
  async replaceStored(): Promise<void> {
    this.parts.settle();
    const session = this.parts.current();
    const { following } = this;
    if (!session || !following) return;
    const at = this.parts.now();
    const result = await this.parts.replace({ ...session, updatedAt: at });
    if (this.following !== following) return;
    following.title = session.title;
    this.settled(following, session, at, result);
    this.changed();
  }

  /** Keeps what is here as a copy and shows what is stored; gives the copy's title. */
  async keepAsCopy(): Promise<string | null> {
    this.parts.settle();
    const session = this.parts.current();
    return session ? this.parts.keepAside(session, 'from this tab') : null;
  }

  /** The page goes, or may go: what is not stored is written where it takes no time. */
  leave(): void {
    this.parts.settle();
    const session = this.parts.current();
    if (!this.dirty || !session || !this.following) return;
    this.parts.writeJournal(session, this.following.revision);
    void this.flush();
  }
}
