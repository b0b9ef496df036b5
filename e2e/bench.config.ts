import { defineConfig } from '@playwright/test';
import journeys from './playwright.config';

const port = 3274;

/** Measures the interface on a copy of the demo workspace; `npm run bench -- --screen`. */
export default defineConfig({
  ...journeys,
  workers: 1,
  fullyParallel: false,
  globalSetup: undefined,
  testDir: './bench',
  testMatch: '**/*.bench.ts',
  timeout: 240_000,
  projects: [{ name: 'bench' }],
  use: { ...journeys.use, baseURL: `http://127.0.0.1:${port}` },
  webServer: {
    command: 'node ../apps/server/dist/main.js',
    url: `http://127.0.0.1:${port}/api/v1/health`,
    env: { PORT: String(port), MARGIN_LENS_DB: '../var/bench-screen.db' },
    reuseExistingServer: false,
    timeout: 20_000,
  },
});
