import { proxy, releaseProxy, wrap } from 'comlink';
import type { RecommendationResult } from '../../core/analysis/recommend/recommend';
import type { Session } from '../../core/session/schema';
import type { RecommendWorker } from './recommend.worker';

export interface Run {
  result: Promise<RecommendationResult>;
  cancel: () => void;
}

/** Ranks arrays for a session in a worker of its own. */
export function runRecommendation(session: Session, onProgress: (fraction: number) => void): Run {
  const worker = new Worker(new URL('./recommend.worker.ts', import.meta.url), { type: 'module' });
  const remote = wrap<RecommendWorker>(worker);
  const failed = new Promise<never>((_, reject) => {
    worker.onerror = (event) => reject(new Error(event.message || 'the worker stopped'));
  });
  const result = Promise.race([remote.run(session, proxy(onProgress)), failed]);
  return {
    // The remote must be held until it has answered: once collected it stops listening.
    result: result.finally(() => {
      remote[releaseProxy]();
      worker.terminate();
    }),
    cancel: () => worker.terminate(),
  };
}
