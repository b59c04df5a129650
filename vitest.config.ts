import { defineConfig } from 'vitest/config';

export default defineConfig({
  test: {
    include: ['{core,app,server,cli}/**/*.test.{ts,tsx}'],
    environment: 'node',
    setupFiles: ['core/test-setup.ts'],
  },
});
