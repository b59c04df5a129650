import { run } from '../workers/run';
import type { Tasks } from '../workers/tasks';

type Ask = Tasks['earQuestion']['ask'];
type Question = Tasks['earQuestion']['answer'];

/** Questions that are made already: the next one while the last one is still looked at. */
const made = new Map<string, Promise<Question>>();
const KEPT = 3;

/** A question, made once for the same ask. */
export function questionMade(
  ask: Ask,
  onProgress: (done: number) => void = () => undefined,
): Promise<Question> {
  const key = JSON.stringify([ask.kind, ask.seed, ask.size]);
  const known = made.get(key);
  if (known) return known;
  const making = run('earQuestion', ask, { onProgress });
  made.set(key, making);
  making.catch(() => made.delete(key));
  for (const old of [...made.keys()].slice(0, -KEPT)) made.delete(old);
  return making;
}
