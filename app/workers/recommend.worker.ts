import { expose } from 'comlink';
import {
  recommendInSteps,
  type RecommendationResult,
} from '../../core/analysis/recommend/recommend';
import type { Session } from '../../core/session/schema';

/** One run a worker: cancelling ends the worker, so a stale answer can never arrive. */
const api = {
  async run(
    session: Session,
    onProgress: (fraction: number) => void,
  ): Promise<RecommendationResult> {
    const steps = recommendInSteps(session);
    for (;;) {
      const step = steps.next();
      if (step.done) return step.value;
      onProgress(step.value);
      await new Promise((resolve) => setTimeout(resolve));
    }
  },
};

export type RecommendWorker = typeof api;

expose(api);
