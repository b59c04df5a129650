import { createStore } from 'zustand/vanilla';
import type { WriterRole } from './move-stream';

/**
 * Of all tabs that show a session one writes; a lock of the browser says which. It goes to the next
 * tab when that one is closed, or when another asks for it. Where there are no locks every tab
 * writes, and the revision of what is stored guards against two at once.
 */
export type Role = 'writing' | 'following';

export const writingStore = createStore<{ role: Role }>(() => ({ role: 'writing' }));

/** A tab that does not answer, because the browser has put it to sleep, is not waited for. */
const ANSWER_MS = 3000;

export interface Locks {
  /** holds the lock until what `held` gives is done */
  request(
    name: string,
    options: { ifAvailable?: boolean; steal?: boolean; signal?: AbortSignal },
    held: (lock: unknown) => Promise<void>,
  ): Promise<void>;
}

export class Writing implements WriterRole {
  private id: string | null = null;
  private letGo: (() => void) | null = null;
  private waiting: AbortController | null = null;
  /** it was asked for, and not refused since */
  private wanted = false;

  constructor(
    private readonly locks: Locks | null,
    /** the role has changed by itself or by another tab */
    private readonly changed: (role: Role) => void | Promise<void>,
    private readonly show: (role: Role) => void = (role) => writingStore.setState({ role }),
  ) {}

  get role(): Role {
    return this.locks === null || this.letGo !== null ? 'writing' : 'following';
  }

  private get name(): string {
    return `rotunda-writes-${this.id ?? ''}`;
  }

  /** Holds the lock until it is let go or taken away. @returns whether it was given */
  private hold(options: { ifAvailable?: boolean; steal?: boolean; signal?: AbortSignal }) {
    const { locks, id } = this;
    return new Promise<boolean>((answer) => {
      if (!locks) return answer(true);
      locks
        .request(this.name, options, (lock) => {
          if (lock === null || this.id !== id) {
            answer(false);
            return Promise.resolve();
          }
          return new Promise<void>((done) => {
            this.letGo = done;
            answer(true);
          });
        })
        .catch(() => {
          // Taken away, or no longer waited for.
          answer(false);
          if (this.id !== id || options.signal?.aborted) return;
          this.letGo = null;
          this.await();
          this.become('following');
        });
    });
  }

  private become(role: Role): void {
    if (role === 'following') this.show(role);
    const opened = this.changed(role);
    // A key pressed before all is open would be refused: until then it is said that another tab writes.
    if (opened) void opened.then(() => this.show(this.role));
    else this.show(role);
  }

  /** Waits in line: when the writing tab goes, this one writes. */
  private await(): void {
    const waiting = new AbortController();
    this.waiting = waiting;
    void this.hold({ signal: waiting.signal }).then((given) => {
      if (!given || this.waiting !== waiting) return;
      this.waiting = null;
      this.become('writing');
    });
  }

  /** A session is opened here: may this tab write it? */
  async begin(id: string): Promise<Role> {
    this.end();
    this.id = id;
    const given = await this.hold({ ifAvailable: true });
    if (this.id !== id) return 'following';
    if (!given) this.await();
    this.show(this.role);
    return this.role;
  }

  /** The session is not shown any more. */
  end(): void {
    this.waiting?.abort();
    this.waiting = null;
    this.letGo?.();
    this.letGo = null;
    this.id = null;
  }

  /** Lets another tab write; this one follows, and waits in line. */
  handOver(): void {
    if (this.locks === null || this.letGo === null) return;
    this.letGo();
    this.letGo = null;
    this.await();
    this.become('following');
  }

  /**
   * Asks for the lock, and takes it where nobody answers.
   * @param ask tells the writing tab
   */
  async takeOver(ask: () => void): Promise<void> {
    const { id } = this;
    if (this.role === 'writing' || id === null) return;
    this.wanted = true;
    ask();
    await new Promise((done) => setTimeout(done, ANSWER_MS));
    if (this.id !== id || this.letGo !== null || !this.wanted) return;
    this.waiting?.abort();
    this.waiting = null;
    if (await this.hold({ steal: true })) this.become('writing');
  }

  /** The writing tab cannot give it away now: it has something that could not be stored. */
  refused(): void {
    this.wanted = false;
  }
}
