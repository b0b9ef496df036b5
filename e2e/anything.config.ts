import { defineConfig } from '@playwright/test';
import journeys from './playwright.config';

/** Presses anything, by chance, for minutes; `npm run bench -- --anything`. */
export default defineConfig({
  ...journeys,
  testDir: './anything',
  testMatch: '**/*.anything.ts',
  retries: 0,
  timeout: 900_000,
});
