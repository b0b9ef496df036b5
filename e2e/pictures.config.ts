import { defineConfig } from '@playwright/test';
import journeys from './playwright.config';

/** Takes the pictures of docs/screenshots from the demo data. */
export default defineConfig({
  ...journeys,
  testDir: './pictures',
  testMatch: '**/pictures.ts',
});
