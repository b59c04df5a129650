import { releaseProxy, wrap, type Remote } from 'comlink';
import { useEffect, useRef, useState } from 'react';
import type { FiguresWorker } from './figures.worker';

export type Ask<T> = (remote: Remote<FiguresWorker>) => Promise<T>;

interface Answer<T> {
  to: Ask<T>;
  value: T | null;
  error: string | null;
}

interface Connection {
  remote: Remote<FiguresWorker>;
  stop: () => void;
}

function connect(): Connection {
  const worker = new Worker(new URL('./figures.worker.ts', import.meta.url), { type: 'module' });
  const remote = wrap<FiguresWorker>(worker);
  return {
    remote,
    stop: () => {
      remote[releaseProxy]();
      worker.terminate();
    },
  };
}

export interface WorkerFigure<T> {
  /** the latest answer; an older one stands while a newer is on its way */
  value: T | null;
  busy: boolean;
  error: string | null;
}

/**
 * A figure computed in a worker of the page's own. Asked again whenever the question is another
 * function; an answer to an older question never replaces a newer one.
 * @param ask a stable function, from useCallback
 */
export function useWorkerFigure<T>(ask: Ask<T>): WorkerFigure<T> {
  const [answer, setAnswer] = useState<Answer<T> | null>(null);
  const connection = useRef<Connection | null>(null);

  useEffect(() => {
    connection.current ??= connect();
    let current = true;
    ask(connection.current.remote).then(
      (value) => current && setAnswer({ to: ask, value, error: null }),
      (error: unknown) => current && setAnswer({ to: ask, value: null, error: String(error) }),
    );
    return () => {
      current = false;
    };
  }, [ask]);

  useEffect(
    () => () => {
      connection.current?.stop();
      connection.current = null;
    },
    [],
  );

  return {
    value: answer?.value ?? null,
    busy: answer?.to !== ask,
    error: answer?.to === ask ? answer.error : null,
  };
}
