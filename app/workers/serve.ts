import type { Reply, Request } from './tasks';

/**
 * The worker's side of the work beside the page: asks come, answers go, and between the steps of a task
 * the worker hears whether it was given up.
 */

/** For tasks that wait themselves. */
export interface Help {
  progress: (fraction: number) => void;
  /** what is known so far, as often as one likes */
  partial: (value: unknown) => void;
  /** lets the worker hear what was said to it; rejects where the task was given up */
  breathe: () => Promise<void>;
  /** progress, and a breath */
  step: (fraction: number) => Promise<void>;
  /** set once the task was given up */
  signal: { readonly aborted: boolean };
}

/** A task is a function, or a generator that yields the fraction done. */
export type Work = (ask: never, help: Help) => unknown;

/** The buffers of the arrays in an answer, each once: they go over instead of being copied. */
export function buffersIn(answer: unknown, found = new Set<ArrayBuffer>()): ArrayBuffer[] {
  if (ArrayBuffer.isView(answer)) found.add(answer.buffer as ArrayBuffer);
  else if (Array.isArray(answer)) for (const value of answer as unknown[]) buffersIn(value, found);
  else if (typeof answer === 'object' && answer !== null && !(answer instanceof Blob)) {
    for (const value of Object.values(answer)) buffersIn(value, found);
  }
  return [...found];
}

const isGenerator = (value: unknown): value is Generator<number, unknown, undefined> =>
  typeof value === 'object' && value !== null && Symbol.iterator in value && 'return' in value;

const rest = (): Promise<void> => new Promise((resolve) => setTimeout(resolve));

/**
 * @param table what is done for each task
 * @param given tasks whose answers are nobody's after they were sent
 * @param post to the page
 * @returns takes in what comes from there
 */
export function serving(
  table: Readonly<Record<string, Work>>,
  given: readonly string[],
  post: (reply: Reply, transfer: Transferable[]) => void,
): (request: Request) => void {
  /** what is going on and was not given up */
  const going = new Set<number>();

  async function run(id: number, task: string, ask: unknown): Promise<void> {
    going.add(id);
    const isGone = (): boolean => !going.has(id);
    const help: Help = {
      progress: (fraction) => post({ kind: 'progress', id, fraction }, []),
      partial: (value) => post({ kind: 'partial', id, value }, []),
      async breathe() {
        await rest();
        if (isGone()) throw new Error('given up');
      },
      step(fraction) {
        help.progress(fraction);
        return help.breathe();
      },
      signal: {
        get aborted() {
          return isGone();
        },
      },
    };
    try {
      const work = table[task];
      if (!work) throw new Error(`no such task: ${task}`);
      let answer: unknown = await work(ask as never, help);
      if (isGenerator(answer)) {
        const steps = answer;
        for (let step = steps.next(); ; step = steps.next()) {
          if (step.done) {
            answer = step.value;
            break;
          }
          await help.step(step.value);
        }
      }
      if (isGone()) return;
      post({ kind: 'answer', id, answer }, given.includes(task) ? buffersIn(answer) : []);
    } catch (error) {
      if (isGone()) return;
      const message = error instanceof Error ? error.message : String(error);
      post({ kind: 'failed', id, message }, []);
    } finally {
      if (isGone()) post({ kind: 'gone', id }, []);
      going.delete(id);
    }
  }

  return (request) => {
    if (request.kind === 'run') void run(request.id, request.task, request.ask);
    else if (!going.delete(request.id)) post({ kind: 'gone', id: request.id }, []);
  };
}
