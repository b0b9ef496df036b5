import { defineConfig } from '@playwright/test';

export default defineConfig({
  testDir: './journeys',
  testMatch: '**/*.e2e.ts',
  outputDir: '../var/test-results/playwright',
  // two cores; each worker has a server of its own, each journey a workspace of its own
  workers: 2,
  fullyParallel: true,
  globalSetup: './fixtures/demo-workspace.ts',
  globalTimeout: 2_400_000,
  // where nobody can look again a journey may try twice; the summary of the run names those that did
  retries: process.env['CI'] ? 1 : 0,
  // these end what hangs: machines differ in speed by more than twice
  timeout: 240_000,
  expect: { timeout: 40_000 },
  reporter: [['list']],
  use: {
    viewport: { width: 1280, height: 800 },
    browserName: 'chromium',
    contextOptions: { reducedMotion: 'reduce' },
    permissions: ['clipboard-read', 'clipboard-write'],
    launchOptions: {
      ignoreDefaultArgs: ['--hide-scrollbars'],
      executablePath: process.env['CHROMIUM'] ?? '/usr/bin/chromium-headless-shell',
      args: [
        '--no-sandbox',
        '--disable-gpu',
        '--disable-quic',
        '--no-first-run',
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync',
      ],
    },
  },
});
