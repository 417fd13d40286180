import { execSync } from 'node:child_process';
import { defineConfig } from '@playwright/test';

const chromium = process.env.CHROMIUM ?? execSync('command -v chromium').toString().trim();
const PORT = 4199;

export default defineConfig({
  testDir: 'tests/e2e',
  timeout: 240_000,
  workers: 2,
  retries: 1,
  // Two journeys run side by side: what takes a moment alone may take longer.
  expect: { timeout: 12_000 },
  reporter: [['list'], ['json', { outputFile: 'test-results/e2e.json' }]],
  use: {
    baseURL: `http://localhost:${PORT}`,
    viewport: { width: 1280, height: 800 },
    locale: 'en-GB',
    // Journeys are about the app as it is served; offline.spec.ts is about the one that is kept.
    serviceWorkers: 'block',
    actionTimeout: 20_000,
    // Journeys are the same at every hour; what is not done at night is asked of the clock in at-hand.spec.ts.
    storageState: {
      cookies: [],
      origins: [
        {
          origin: `http://localhost:${PORT}`,
          localStorage: [{ name: 'wet-test-settings', value: JSON.stringify({ working: { sittings: [] } }) }],
        },
      ],
    },
    launchOptions: {
      executablePath: chromium,
      args: [
        '--no-sandbox',
        '--disable-gpu',
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync',
        '--no-first-run',
      ],
    },
  },
  webServer: {
    command: `PORT=${PORT} node --import tsx src/server/main.ts start`,
    url: `http://localhost:${PORT}/w/mine`,
    reuseExistingServer: false,
  },
});
