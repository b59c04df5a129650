import { useCallback, useEffect, useState } from 'react';
import { run, type Options } from './run';
import type { TaskName, Tasks } from './tasks';

interface Answered<Ask, Answer> {
  to: Ask;
  value: Answer | null;
  error: string | null;
}

/** Whatever answers a question some time, and can be given up. */
export type Answering<Ask, Answer> = (ask: Ask, help: Options) => Promise<Answer>;

export interface AnswerState<Answer> {
  /** the latest answer; an older one stands while a newer is on its way */
  value: Answer | null;
  /** what is shown is not the answer to what is asked now */
  busy: boolean;
  error: string | null;
  /** 0 … 1 while it runs, where the task tells */
  progress: number;
}

export type TaskState<T extends TaskName> = AnswerState<Tasks[T]['answer']>;

/**
 * A figure computed beside the page. Asked again whenever the question is another object; an answer
 * to an older question never lands.
 * @param ask a stable object, from useMemo; null asks nothing
 */
export function useTask<T extends TaskName>(task: T, ask: Tasks[T]['ask'] | null): TaskState<T> {
  const answering = useCallback<Answering<Tasks[T]['ask'], Tasks[T]['answer']>>(
    (asked, help) => run(task, asked, help),
    [task],
  );
  return useAnswer(ask, answering);
}

/**
 * An answer that takes its time.
 * @param ask a stable object; null asks nothing
 * @param answering a stable function
 */
export function useAnswer<Ask, Answer>(
  ask: Ask | null,
  answering: Answering<Ask, Answer>,
): AnswerState<Answer> {
  const [answered, setAnswered] = useState<Answered<Ask, Answer> | null>(null);
  const [progress, setProgress] = useState(0);
  useEffect(() => {
    if (ask === null) return;
    const stop = new AbortController();
    answering(ask, { signal: stop.signal, onProgress: setProgress }).then(
      (value) => {
        if (!stop.signal.aborted) setAnswered({ to: ask, value, error: null });
      },
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
  }, [answering, ask]);
  return {
    value: ask === null ? null : (answered?.value ?? null),
    busy: ask !== null && answered?.to !== ask,
    error: answered?.to === ask ? answered.error : null,
    progress,
  };
}
