import { defineConfig } from 'vitest/config';

export default defineConfig({
  test: {
    include: ['{core,app,server,cli,paper}/**/*.test.{ts,tsx}'],
    environment: 'node',
    setupFiles: ['core/test-setup.ts'],
  },
});
