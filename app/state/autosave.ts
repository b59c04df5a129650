import { createStore } from 'zustand/vanilla';
import { readSession, type Session } from '../../core/session';
import { notify } from './ui-store';
import { addSession, copyOf } from './library';
import { clearJournal, readJournal, writeJournal } from './journal';
import { openSession, sessionStore } from './session-store';
import { loadSession, saveSession, type LoadResult } from './storage';

export type SaveState =
  | { kind: 'saved'; at: string }
  | { kind: 'unsaved' }
  | { kind: 'saving' }
  | { kind: 'conflict' }
  | { kind: 'failed'; full: boolean; message: string };

export const saveStore = createStore<{ state: SaveState }>(() => ({
  state: { kind: 'saved', at: '' },
}));

const DELAY_MS = 300;

interface Following {
  id: string;
  /** the revision that the open session was loaded from or saved as */
  revision: number;
  /** the session object that is known to be stored */
  stored: Session | null;
}

interface SavedMessage {
  id: string;
  revision: number;
}

/**
 * Keeps the open session stored. One save at a time; a change made meanwhile is saved next; a
 * session that another tab changed is never overwritten unseen.
 */
class Autosave {
  private following: Following | null = null;
  private timer: ReturnType<typeof setTimeout> | null = null;
  private saving = false;
  private readonly channel = new BroadcastChannel('rotunda-saved');

  constructor() {
    sessionStore.subscribe(({ session }) => this.changed(session));
    this.channel.onmessage = (event: MessageEvent<SavedMessage>) => void this.heard(event.data);
    addEventListener('pagehide', () => this.leave());
    document.addEventListener('visibilitychange', () => {
      if (document.visibilityState === 'hidden') this.leave();
    });
  }

  private get dirty(): boolean {
    const { session } = sessionStore.getState();
    return session !== null && session !== this.following?.stored;
  }

  private show(state: SaveState): void {
    saveStore.setState({ state });
  }

  private changed(session: Session | null): void {
    if (!session || session.id !== this.following?.id) return;
    if (session === this.following.stored) {
      if (saveStore.getState().state.kind === 'unsaved') this.show({ kind: 'saved', at: '' });
      return;
    }
    if (saveStore.getState().state.kind === 'conflict') return;
    if (saveStore.getState().state.kind !== 'unsaved') this.show({ kind: 'unsaved' });
    this.schedule();
  }

  private schedule(): void {
    if (this.timer !== null) clearTimeout(this.timer);
    this.timer = setTimeout(() => void this.save(), DELAY_MS);
  }

  /** Loads a session, makes it the open one and follows it. */
  async open(id: string): Promise<LoadResult> {
    await this.flush();
    this.following = null;
    const loaded = await loadSession(id);
    if (loaded.kind !== 'found') {
      openSession(null);
      return loaded;
    }
    const recovered = await this.recover(id, loaded.revision);
    this.following = { id, revision: loaded.revision, stored: loaded.session };
    this.show({ kind: 'saved', at: loaded.session.updatedAt });
    openSession(recovered ?? loaded.session);
    if (recovered) this.changed(recovered);
    return loaded;
  }

  /** Changes that a closed page could not save: taken over, or kept as a copy if outdated. */
  private async recover(id: string, revision: number): Promise<Session | null> {
    const left = readJournal(id, revision);
    const read = left && readSession(left.session);
    if (!left || !read?.ok) return null;
    if (left.current) return read.session;
    const copy = copyOf(read.session, 'unsaved changes');
    if ((await addSession(copy)).kind !== 'saved') return null;
    clearJournal(id);
    notify(`Changes that were not saved before are kept as “${copy.title}”.`);
    return null;
  }

  /** Saves what is not saved yet. */
  async flush(): Promise<void> {
    if (this.timer !== null) clearTimeout(this.timer);
    this.timer = null;
    if (this.dirty && this.following) await this.save();
  }

  private async save(): Promise<void> {
    const { following } = this;
    const { session } = sessionStore.getState();
    if (!following || !session || session.id !== following.id) return;
    if (this.saving) return this.schedule();
    this.saving = true;
    this.show({ kind: 'saving' });
    const at = new Date().toISOString();
    const result = await saveSession({ ...session, updatedAt: at }, following.revision);
    this.saving = false;
    if (result.kind === 'conflict') return this.show({ kind: 'conflict' });
    if (result.kind === 'failed') return this.show(result);
    following.revision = result.revision;
    following.stored = session;
    clearJournal(session.id);
    this.channel.postMessage({ id: session.id, revision: result.revision } satisfies SavedMessage);
    if (this.dirty && this.following === following) {
      this.show({ kind: 'unsaved' });
      this.schedule();
    } else this.show({ kind: 'saved', at });
  }

  /** Another tab saved: follow it when nothing here is unsaved, else ask. */
  private async heard({ id, revision }: SavedMessage): Promise<void> {
    if (this.following?.id !== id || revision <= this.following.revision) return;
    if (this.dirty) return this.show({ kind: 'conflict' });
    await this.takeStored();
  }

  /** Gives up what is here for what is stored. */
  async takeStored(): Promise<void> {
    if (!this.following) return;
    const { id } = this.following;
    clearJournal(id);
    const loaded = await loadSession(id);
    if (loaded.kind !== 'found' || this.following?.id !== id) return;
    this.following = { id, revision: loaded.revision, stored: loaded.session };
    openSession(loaded.session);
    this.show({ kind: 'saved', at: loaded.session.updatedAt });
  }

  /** Stores what is here over what another tab stored. */
  async replaceStored(): Promise<void> {
    const { session } = sessionStore.getState();
    if (!session || !this.following) return;
    const at = new Date().toISOString();
    const result = await saveSession({ ...session, updatedAt: at }, null);
    if (result.kind !== 'saved') {
      if (result.kind === 'failed') this.show(result);
      return;
    }
    this.following = { id: session.id, revision: result.revision, stored: session };
    clearJournal(session.id);
    this.channel.postMessage({ id: session.id, revision: result.revision } satisfies SavedMessage);
    this.show({ kind: 'saved', at });
  }

  private leave(): void {
    const { session } = sessionStore.getState();
    if (!this.dirty || !session || !this.following) return;
    writeJournal(session, this.following.revision);
    void this.flush();
  }
}

export const autosave = new Autosave();
