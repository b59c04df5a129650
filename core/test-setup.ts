import fc from 'fast-check';

// Property tests repeat the same cases on every machine.
fc.configureGlobal({ seed: 20261123, numRuns: 300 });
