import { defineConfig } from 'vitest/config';

export default defineConfig({
  test: {
    include: ['{core,fuzz,app,server,cli,paper}/**/*.test.{ts,tsx}'],
    // Two loaded cores must not fail a test that is right; hangs are guarded by CPU time.
    testTimeout: 60_000,
    hookTimeout: 60_000,
    environment: 'node',
    setupFiles: ['core/test-setup.ts'],
  },
});
