import { defineConfig } from '@playwright/test';

const PORT = 4680;

export default defineConfig({
  testDir: 'e2e',
  testMatch: '**/*.e2e.ts',
  // For a machine that is slow and busy; what takes how long where it is free, the bench of speed tells.
  timeout: 240_000,
  expect: { timeout: 60_000 },
  fullyParallel: true,
  workers: 2,
  // What a busy machine made fail once is asked again; how many there were is said, and few are allowed.
  retries: 1,
  reporter: [['list'], ['json', { outputFile: 'test-results/e2e.json' }]],
  use: {
    baseURL: `http://127.0.0.1:${PORT}`,
    viewport: { width: 1280, height: 800 },
    launchOptions: { executablePath: '/usr/bin/chromium' },
    locale: 'en-GB',
    // Filling its store for every test would take longer than the test; one test allows it.
    serviceWorkers: 'block',
    // A trace of every test costs a quarter of the time; `--trace on` makes one where it is needed.
    trace: 'off',
    screenshot: 'only-on-failure',
  },
  projects: [
    { name: 'pages', testIgnore: ['**/listen*.e2e.ts', '**/alone.e2e.ts'] },
    // Sound is made in real time, and how soon something is heard is measured: on a machine that does nothing else.
    {
      name: 'sound',
      testMatch: ['**/listen*.e2e.ts', '**/alone.e2e.ts'],
      workers: 1,
      dependencies: ['pages'],
    },
  ],
  webServer: {
    command: `npx tsx server/main.ts --port ${PORT}`,
    url: `http://127.0.0.1:${PORT}/`,
    reuseExistingServer: false,
    timeout: 30_000,
  },
});
