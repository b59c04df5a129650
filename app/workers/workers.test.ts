import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { run } from './run';
import { buffersIn, serving, type Work } from './serve';
import type { Reply, Request } from './tasks';

const turn = (): Promise<void> => new Promise((resolve) => setTimeout(resolve, 5));

describe('what a worker serves', () => {
  const heard: [Reply, Transferable[]][] = [];
  const of = (id: number) => heard.filter(([reply]) => reply.id === id).map(([reply]) => reply);
  const table: Record<string, Work> = {
    twice: (ask: number) => 2 * ask,
    *stepped(ask: number) {
      for (let i = 1; i <= ask; i++) yield i / ask;
      return 'done';
    },
    async waiting(_ask, help) {
      help.partial('a sketch');
      await help.step(0.5);
      await help.breathe();
      return new Float32Array(3);
    },
    fails: () => {
      throw new RangeError('out of range');
    },
  };
  const take = serving(table, ['waiting'], (reply, transfer) => heard.push([reply, transfer]));
  beforeEach(() => void (heard.length = 0));

  it('is answered, with progress and what is known so far', async () => {
    take({ kind: 'run', id: 1, task: 'twice' as never, ask: 21 });
    take({ kind: 'run', id: 2, task: 'stepped' as never, ask: 3 });
    take({ kind: 'run', id: 3, task: 'waiting' as never, ask: 0 });
    await vi.waitFor(() => expect(heard.filter(([{ kind }]) => kind === 'answer')).toHaveLength(3));
    expect(of(1)).toEqual([{ kind: 'answer', id: 1, answer: 42 }]);
    expect(of(2).map((reply) => reply.kind)).toEqual([
      ...Array<string>(3).fill('progress'),
      'answer',
    ]);
    expect(of(3)[0]).toEqual({ kind: 'partial', id: 3, value: 'a sketch' });
    const [, given] = heard.find(([{ kind, id }]) => kind === 'answer' && id === 3) ?? [];
    expect(given).toHaveLength(1);
  });

  it('says what went wrong, and that a task is not one', async () => {
    take({ kind: 'run', id: 4, task: 'fails' as never, ask: 0 });
    take({ kind: 'run', id: 5, task: 'nothing' as never, ask: 0 });
    await turn();
    expect(of(4)).toEqual([{ kind: 'failed', id: 4, message: 'out of range' }]);
    expect(of(5)).toEqual([{ kind: 'failed', id: 5, message: 'no such task: nothing' }]);
  });

  it('given up is heard between steps, and never answered', async () => {
    take({ kind: 'run', id: 6, task: 'stepped' as never, ask: 1000 });
    take({ kind: 'run', id: 7, task: 'waiting' as never, ask: 0 });
    await turn();
    take({ kind: 'abort', id: 6 });
    take({ kind: 'abort', id: 7 });
    take({ kind: 'abort', id: 99 });
    await vi.waitFor(() => expect(of(6).at(-1)).toEqual({ kind: 'gone', id: 6 }));
    expect(of(6).some(({ kind }) => kind === 'answer')).toBe(false);
    expect(of(6).length).toBeLessThan(900);
    expect(of(99)).toEqual([{ kind: 'gone', id: 99 }]);
  });

  it('hands over each buffer once, wherever it is', () => {
    const one = new Float32Array(4);
    const answer = {
      levels: [{ a: one, b: one.subarray(1) }, { c: new Uint8Array(2) }],
      n: 1,
      no: null,
    };
    expect(buffersIn(answer)).toHaveLength(2);
  });
});

/** A worker that hears nothing while it is in one long step, as workers are. */
class FakeWorker {
  static all: FakeWorker[] = [];
  static deaf = false;
  onmessage: ((event: { data: Reply }) => void) | null = null;
  onerror: ((event: { message: string }) => void) | null = null;
  asked: Request[] = [];
  ended = false;
  constructor() {
    FakeWorker.all.push(this);
  }
  postMessage(request: Request): void {
    this.asked.push(request);
    if (request.kind === 'abort' && !FakeWorker.deaf) {
      setTimeout(() => this.say({ kind: 'gone', id: request.id }));
    }
  }
  say(data: Reply): void {
    if (!this.ended) this.onmessage?.({ data });
  }
  terminate(): void {
    this.ended = true;
  }
}

describe('the page’s side', () => {
  beforeEach(() => {
    FakeWorker.deaf = false;
    vi.stubGlobal('Worker', FakeWorker);
  });
  afterEach(() => {
    for (const worker of FakeWorker.all) worker.onerror?.({ message: 'the test is over' });
    FakeWorker.all = [];
    vi.useRealTimers();
    vi.unstubAllGlobals();
  });
  const last = (): FakeWorker => FakeWorker.all.at(-1) as FakeWorker;
  const idOf = (worker: FakeWorker, at = -1): number => worker.asked.at(at)?.id ?? -1;

  it('answers whoever asked, tells progress and what is known so far', async () => {
    const told: unknown[] = [];
    const file = new Blob(['a']);
    const work = run(
      'overview',
      { file, columns: 10, kept: null },
      { onProgress: (done) => told.push(done), onPartial: (value) => told.push(value) },
    );
    const id = idOf(last());
    last().say({ kind: 'progress', id, fraction: 0.5 });
    last().say({ kind: 'partial', id, value: 'rough' });
    last().say({ kind: 'answer', id, answer: 'fine' });
    expect(await work).toBe('fine');
    expect(told).toEqual([0.5, 'rough']);
  });

  it('has a worker for each recording, and one for what is quick', async () => {
    const [one, other] = [new Blob(['1']), new Blob(['2'])];
    const works = [
      run('opened', { file: one }),
      run('measured', { file: one, options: {} }),
      run('opened', { file: other }),
      run('mono', { session: {} as never, arrayId: null }),
      run('tolerance', { session: {} as never, arrayId: 'a' }),
    ];
    expect(FakeWorker.all.map(({ asked }) => asked.length)).toEqual([2, 1, 2]);
    for (const worker of FakeWorker.all) worker.onerror?.({ message: 'broken' });
    const results = await Promise.allSettled(works);
    expect(results.map(({ status }) => status)).toEqual(Array<string>(5).fill('rejected'));
    // And is there again afterwards.
    void run('opened', { file: one }).catch(() => undefined);
    expect(FakeWorker.all).toHaveLength(4);
  });

  it('lets the worker of a recording go that nobody asks', async () => {
    vi.useFakeTimers();
    const work = run('opened', { file: new Blob(['x']) });
    last().say({ kind: 'answer', id: idOf(last()), answer: 1 });
    await work;
    vi.advanceTimersByTime(59_000);
    expect(last().ended).toBe(false);
    vi.advanceTimersByTime(2000);
    expect(last().ended).toBe(true);
  });

  it('given up rejects at once; a worker that hears it goes on, a deaf one is ended', async () => {
    vi.useFakeTimers();
    const file = new Blob(['y']);
    for (const deaf of [false, true]) {
      FakeWorker.deaf = deaf;
      const stop = new AbortController();
      const gone = run('measured', { file, options: {} }, { signal: stop.signal });
      const stays = run('opened', { file });
      const worker = last();
      const staying = idOf(worker);
      stop.abort(new Error('enough'));
      await expect(gone).rejects.toThrow('enough');
      vi.advanceTimersByTime(1000);
      expect(worker.ended).toBe(deaf);
      // What else was asked of it is asked of the next one.
      expect(last().asked.some(({ kind, id }) => kind === 'run' && id === staying)).toBe(true);
      last().say({ kind: 'answer', id: staying, answer: 'still' });
      expect(await stays).toBe('still');
    }
    const stopped = new AbortController();
    stopped.abort(new Error('before'));
    await expect(run('opened', { file }, { signal: stopped.signal })).rejects.toThrow('before');
  });
});
