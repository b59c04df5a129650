import fc from 'fast-check';
import { afterEach, beforeEach } from 'vitest';

// Property tests repeat the same cases on every machine.
fc.configureGlobal({ seed: 20261123, numRuns: 300 });

/** A test that asks more of a core than this hangs, s; a busy machine makes none longer. */
const MOST_CPU_S = process.env.ROTUNDA_SOAK ? 600 : 60;
let begun = process.cpuUsage();

beforeEach(() => {
  begun = process.cpuUsage();
});

afterEach(({ task }) => {
  const { user, system } = process.cpuUsage(begun);
  const seconds = (user + system) / 1e6;
  if (seconds > MOST_CPU_S) {
    throw new Error(`“${task.name}” took ${seconds.toFixed(0)} s of CPU; allowed: ${MOST_CPU_S} s`);
  }
});
