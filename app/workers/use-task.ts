import { useEffect, useState } from 'react';
import { run } from './run';
import type { TaskName, Tasks } from './tasks';

interface Answered<T extends TaskName> {
  to: Tasks[T]['ask'];
  value: Tasks[T]['answer'] | null;
  error: string | null;
}

export interface TaskState<T extends TaskName> {
  /** the latest answer; an older one stands while a newer is on its way */
  value: Tasks[T]['answer'] | null;
  /** what is shown is not the answer to what is asked now */
  busy: boolean;
  error: string | null;
  /** 0 … 1 while it runs, where the task tells */
  progress: number;
}

/**
 * A figure computed beside the page. Asked again whenever the question is another object; an answer
 * to an older question never lands.
 * @param ask a stable object, from useMemo; null asks nothing
 */
export function useTask<T extends TaskName>(task: T, ask: Tasks[T]['ask'] | null): TaskState<T> {
  const [answered, setAnswered] = useState<Answered<T> | null>(null);
  const [progress, setProgress] = useState(0);
  useEffect(() => {
    if (ask === null) return;
    const stop = new AbortController();
    run(task, ask, { signal: stop.signal, onProgress: setProgress }).then(
      (value) => setAnswered({ to: ask, value, error: null }),
      (error: unknown) => {
        if (stop.signal.aborted) return;
        const message = error instanceof Error ? error.message : String(error);
        setAnswered({ to: ask, value: null, error: message });
      },
    );
    return () => {
      stop.abort();
      setProgress(0);
    };
  }, [task, ask]);
  return {
    value: ask === null ? null : (answered?.value ?? null),
    busy: ask !== null && answered?.to !== ask,
    error: answered?.to === ask ? answered.error : null,
    progress,
  };
}
