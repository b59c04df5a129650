import type { Reply, Request, TaskName, Tasks } from './tasks';

/**
 * The page's side of the work beside it: one call for every task. What is given up never answers,
 * and a worker that stops fails all that it was asked.
 */

interface Waiting {
  answer: (value: unknown) => void;
  fail: (error: Error) => void;
  progress: (fraction: number) => void;
}

interface Lane {
  worker: Worker;
  waiting: Map<number, Waiting>;
}

/** Quick tasks share a worker; these have their own, so that nothing waits behind them. */
const OWN: readonly TaskName[] = ['findings', 'ways', 'recommend', 'judge', 'render'];
/** Whatever reads files waits for files alone. */
const OF_FILES: readonly TaskName[] = ['hash', 'unpack', 'pack'];

const lanes = new Map<string, Lane>();
let asked = 0;

function laneOf(task: TaskName): Lane {
  const name = OWN.includes(task) ? task : OF_FILES.includes(task) ? 'files' : 'quick';
  const known = lanes.get(name);
  if (known) return known;
  const worker = new Worker(new URL('./task.worker.ts', import.meta.url), { type: 'module' });
  const lane: Lane = { worker, waiting: new Map() };
  worker.onmessage = ({ data }: MessageEvent<Reply>) => {
    const waiting = lane.waiting.get(data.id);
    if (!waiting) return;
    if (data.kind === 'progress') return waiting.progress(data.fraction);
    lane.waiting.delete(data.id);
    if (data.kind === 'answer') waiting.answer(data.answer);
    else waiting.fail(new Error(data.message));
  };
  worker.onerror = (event) => {
    lanes.delete(name);
    worker.terminate();
    const error = new Error(event.message || 'the worker stopped');
    for (const waiting of lane.waiting.values()) waiting.fail(error);
  };
  lanes.set(name, lane);
  return lane;
}

export interface Options {
  signal?: AbortSignal;
  onProgress?: (fraction: number) => void;
}

/**
 * Asks for a task. Given up by its signal it never answers: the promise is rejected with the
 * signal's reason.
 */
export function run<T extends TaskName>(
  task: T,
  ask: Tasks[T]['ask'],
  { signal, onProgress }: Options = {},
): Promise<Tasks[T]['answer']> {
  return new Promise((resolve, reject) => {
    if (signal?.aborted) return reject(signal.reason as Error);
    const { worker, waiting } = laneOf(task);
    const id = (asked += 1);
    const post = (request: Request) => worker.postMessage(request);
    waiting.set(id, {
      answer: (value) => resolve(value as Tasks[T]['answer']),
      fail: reject,
      progress: (fraction) => onProgress?.(fraction),
    });
    signal?.addEventListener('abort', () => {
      if (!waiting.delete(id)) return;
      post({ kind: 'abort', id });
      reject(signal.reason as Error);
    });
    post({ kind: 'run', id, task, ask });
  });
}
