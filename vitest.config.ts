import { defineConfig } from 'vitest/config';

export default defineConfig({
  test: {
    // Two loaded cores must not fail a test that is right: what is too long is told by CPU time, in the
    // setup; these end only what waits for nothing.
    testTimeout: 600_000,
    hookTimeout: 600_000,
    environment: 'node',
    // What is measured there is CPU time of its own process, so that both cores may work.
    maxWorkers: 2,
    setupFiles: ['core/test-setup.ts'],
    projects: [
      {
        extends: true,
        // Without state of their own these share what they have loaded.
        test: { name: 'core', include: ['{core,fuzz,cli,paper}/**/*.test.ts'], isolate: false },
      },
      { extends: true, test: { name: 'app', include: ['{app,server}/**/*.test.{ts,tsx}'] } },
    ],
  },
});
