import { defineConfig } from '@playwright/test';
import journeys from './playwright.config';

const port = 3272;

/** Takes the pictures of docs/screenshots from the demo data. */
export default defineConfig({
  ...journeys,
  testDir: './pictures',
  testMatch: '**/pictures.ts',
  projects: [{ name: 'pictures' }],
  use: { ...journeys.use, baseURL: `http://127.0.0.1:${port}` },
  webServer: {
    command: 'node ../apps/server/dist/main.js',
    url: `http://127.0.0.1:${port}/api/v1/health`,
    env: { PORT: String(port), MARGIN_LENS_DB: '../var/demo.db' },
    reuseExistingServer: false,
    timeout: 20_000,
  },
});
