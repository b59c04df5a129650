import type { Recorded } from './sound-of';
import type { Reply, Request, TaskName, Tasks } from './tasks';

/**
 * The page's side of the work beside it: one call for every task. What is given up never answers,
 * a worker that does not hear of it is stopped, and one that stops fails all that it was asked.
 */

interface Waiting {
  task: TaskName;
  ask: unknown;
  answer: (value: unknown) => void;
  fail: (error: Error) => void;
  progress: (fraction: number) => void;
  partial: (value: unknown) => void;
}

interface Lane {
  name: string;
  worker: Worker;
  waiting: Map<number, Waiting>;
  /** given up, and the worker has not said yet that it stopped */
  leaving: Set<number>;
  /** ends a worker of a file that nobody asks any more */
  idle: ReturnType<typeof setTimeout> | null;
}

/** Quick tasks share a worker; these have their own, so that nothing waits behind them. */
const OWN: readonly TaskName[] = ['findings', 'ways', 'recommend', 'judge', 'render', 'effects'];
/** Questions to the ear, and what comes of them. */
const OF_DRILL: readonly TaskName[] = [
  ...(['earQuestion', 'earAgain', 'ownSound', 'ownFit', 'plansHeard'] as const),
];
/** Whatever reads contents waits for contents alone. */
const OF_CONTENTS: readonly TaskName[] = ['hash', 'unpack', 'pack'];
/** Recordings have one worker each. */
const OF_RECORDINGS: readonly TaskName[] = [
  'opened',
  'overview',
  'columns',
  'measured',
  'checked',
  'stereo',
  'points',
  'pair',
  'taps',
  'exported',
  'audited',
  'matched',
  'symmetric',
  'heard',
  'loudness',
  'passages',
  'claps',
  'cues',
  'leads',
  'againstPlan',
];
/** What is kept between two questions. */
const LIBRARY = 'library';
const OF_LIBRARY: readonly TaskName[] = ['libraryTaken', 'librarySearch'];
/** A recording that was closed needs its worker no more; what is still asked of it ends first. */
export function letGo(file: Recorded): void {
  const lane = lanes.get(files.get(file) ?? '');
  if (lane && lane.waiting.size === 0) end(lane);
}

/** A worker that is told to stop and does not hear it in so many ms is in the middle of one long step. */
const HEARD_MS = 250;
/** The worker of a recording that nobody asks goes after so many ms. */
const IDLE_MS = 60_000;

const lanes = new Map<string, Lane>();
const files = new WeakMap<Recorded, string>();
let asked = 0;
let known = 0;

function laneName(task: TaskName, ask: unknown): string {
  if (OWN.includes(task)) return task;
  if (OF_CONTENTS.includes(task)) return 'contents';
  if (OF_DRILL.includes(task)) return 'drill';
  if (OF_LIBRARY.includes(task)) return LIBRARY;
  if (!OF_RECORDINGS.includes(task)) return 'quick';
  const { file } = ask as { file: Recorded };
  const name = files.get(file) ?? `recording ${(known += 1)}`;
  files.set(file, name);
  return name;
}

const post = ({ worker }: Lane, request: Request): void => worker.postMessage(request);

function begun(name: string): Lane {
  const worker = new Worker(new URL('./task.worker.ts', import.meta.url), { type: 'module' });
  const lane: Lane = { name, worker, waiting: new Map(), leaving: new Set(), idle: null };
  worker.onmessage = ({ data }: MessageEvent<Reply>) => {
    if (data.kind === 'gone') lane.leaving.delete(data.id);
    const waiting = lane.waiting.get(data.id);
    if (!waiting) return;
    if (data.kind === 'progress') waiting.progress(data.fraction);
    else if (data.kind === 'partial') waiting.partial(data.value);
    else {
      lane.waiting.delete(data.id);
      if (data.kind === 'answer') waiting.answer(data.answer);
      else waiting.fail(new Error(data.kind === 'failed' ? data.message : 'given up'));
      restWhenIdle(lane);
    }
  };
  worker.onerror = (event) => {
    end(lane);
    const error = new Error(event.message || 'the worker stopped');
    for (const waiting of lane.waiting.values()) waiting.fail(error);
  };
  lanes.set(name, lane);
  return lane;
}

function end(lane: Lane): void {
  lane.worker.terminate();
  if (lane.idle !== null) clearTimeout(lane.idle);
  if (lanes.get(lane.name) === lane) lanes.delete(lane.name);
}

function restWhenIdle(lane: Lane): void {
  if (lane.waiting.size > 0 || !lane.name.startsWith('recording ')) return;
  if (lane.idle !== null) clearTimeout(lane.idle);
  lane.idle = setTimeout(() => lane.waiting.size === 0 && end(lane), IDLE_MS);
}

/** A worker that did not hear that it should stop is ended; what others asked of it is asked anew. */
function endIfDeaf(lane: Lane, id: number): void {
  if (!lane.leaving.delete(id) || lanes.get(lane.name) !== lane) return;
  // What it knows would go with it; its steps are short.
  if (lane.name === LIBRARY) return;
  end(lane);
  if (lane.waiting.size === 0) return;
  const next = begun(lane.name);
  for (const [other, waiting] of lane.waiting) {
    next.waiting.set(other, waiting);
    post(next, { kind: 'run', id: other, task: waiting.task, ask: waiting.ask });
  }
}

export interface Options {
  signal?: AbortSignal;
  onProgress?: (fraction: number) => void;
  /** what is known so far, of tasks that tell it */
  onPartial?: (value: unknown) => void;
}

/**
 * Asks for a task. Given up by its signal it never answers: the promise is rejected with the
 * signal's reason.
 */
export function run<T extends TaskName>(
  task: T,
  ask: Tasks[T]['ask'],
  { signal, onProgress, onPartial }: Options = {},
): Promise<Tasks[T]['answer']> {
  return new Promise((resolve, reject) => {
    if (signal?.aborted) return reject(signal.reason as Error);
    const name = laneName(task, ask);
    const lane = lanes.get(name) ?? begun(name);
    if (lane.idle !== null) clearTimeout(lane.idle);
    const id = (asked += 1);
    lane.waiting.set(id, {
      task,
      ask,
      answer: (value) => resolve(value as Tasks[T]['answer']),
      fail: reject,
      progress: (fraction) => onProgress?.(fraction),
      partial: (value) => onPartial?.(value),
    });
    signal?.addEventListener('abort', () => {
      const now = lanes.get(name);
      if (!now?.waiting.delete(id)) return;
      now.leaving.add(id);
      post(now, { kind: 'abort', id });
      setTimeout(() => endIfDeaf(now, id), HEARD_MS);
      reject(signal.reason as Error);
    });
    post(lane, { kind: 'run', id, task, ask });
  });
}
