import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { Writing, type Locks, type Role } from './writing';

interface Request {
  held: (lock: unknown) => Promise<void>;
  answer: () => void;
  fail: () => void;
}

/** The locks of a browser, for the tabs of one test. */
class FakeLocks implements Locks {
  holder: Request | null = null;
  queue: Request[] = [];

  request(
    _name: string,
    {
      ifAvailable,
      steal,
      signal,
    }: { ifAvailable?: boolean; steal?: boolean; signal?: AbortSignal },
    held: (lock: unknown) => Promise<void>,
  ): Promise<void> {
    return new Promise((answer, reject) => {
      const request: Request = { held, answer, fail: () => reject(new Error('AbortError')) };
      if (ifAvailable && this.holder) return void held(null).then(answer);
      if (steal) {
        this.holder?.fail();
        return this.give(request);
      }
      this.queue.push(request);
      signal?.addEventListener('abort', () => {
        this.queue = this.queue.filter((entry) => entry !== request);
        request.fail();
      });
      this.next();
    });
  }

  private give(request: Request): void {
    this.holder = request;
    void request.held({}).then(() => {
      request.answer();
      if (this.holder !== request) return;
      this.holder = null;
      this.next();
    });
  }

  private next(): void {
    if (this.holder) return;
    const request = this.queue.shift();
    if (request) this.give(request);
  }
}

class Tab {
  changes: Role[] = [];
  shown: Role | null = null;
  readonly writing: Writing;

  constructor(locks: Locks | null) {
    this.writing = new Writing(
      locks,
      (role) => void this.changes.push(role),
      (role) => (this.shown = role),
    );
  }
}

beforeEach(() => void vi.useFakeTimers());
afterEach(() => void vi.useRealTimers());
const pass = (ms = 0) => vi.advanceTimersByTimeAsync(ms);

async function three() {
  const locks = new FakeLocks();
  const tabs = [new Tab(locks), new Tab(locks), new Tab(locks)] as const;
  for (const { writing } of tabs) await writing.begin('a');
  const roles = () => tabs.map(({ writing }) => writing.role);
  return { tabs, roles };
}

describe('of several tabs', () => {
  it('one writes; when it goes the next in line does, and is told', async () => {
    const { tabs, roles } = await three();
    expect(roles()).toEqual(['writing', 'following', 'following']);
    tabs[0].writing.end();
    await pass();
    expect(roles().slice(1)).toEqual(['writing', 'following']);
    expect([tabs[1].changes, tabs[2].changes]).toEqual([['writing'], []]);
  });

  it('one asks, the other hands over and follows', async () => {
    const { tabs, roles } = await three();
    void tabs[1].writing.takeOver(() => tabs[0].writing.handOver());
    await pass();
    expect(roles()).toEqual(['following', 'writing', 'following']);
    expect([tabs[0].changes, tabs[1].changes]).toEqual([['following'], ['writing']]);
    await pass(10_000);
    expect(roles()).toEqual(['following', 'writing', 'following']);
    tabs[1].writing.end();
    await pass();
    expect(tabs[2].writing.role === 'writing' || tabs[0].writing.role === 'writing').toBe(true);
  });

  it('one that sleeps loses it after three seconds, and follows when it wakes', async () => {
    const { tabs, roles } = await three();
    void tabs[2].writing.takeOver(() => undefined);
    await pass(2900);
    expect(roles()[0]).toBe('writing');
    await pass(200);
    expect(roles()).toEqual(['following', 'following', 'writing']);
    expect(tabs[0].changes).toEqual(['following']);
  });

  it('one that cannot store what it has goes on writing', async () => {
    const { tabs, roles } = await three();
    void tabs[1].writing.takeOver(() => tabs[1].writing.refused());
    await pass(10_000);
    expect(roles()).toEqual(['writing', 'following', 'following']);
  });

  it('one that opens another session lets go of the first', async () => {
    const { tabs } = await three();
    await tabs[0].writing.begin('b');
    await pass();
    expect(tabs[1].writing.role).toBe('writing');
    expect(tabs[0].writing.role).toBe('following');
  });
});

describe('without locks', () => {
  it('every tab writes', async () => {
    const tabs = [new Tab(null), new Tab(null)];
    for (const { writing } of tabs) expect(await writing.begin('a')).toBe('writing');
    expect(tabs.map(({ writing }) => writing.role)).toEqual(['writing', 'writing']);
  });
});
