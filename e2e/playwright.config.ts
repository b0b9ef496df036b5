import { defineConfig } from '@playwright/test';

const port = Number(process.env['E2E_PORT'] ?? 3271);

export default defineConfig({
  testDir: './journeys',
  testMatch: '**/*.e2e.ts',
  outputDir: '../var/test-results/playwright',
  workers: 1,
  retries: 0,
  timeout: 60_000,
  expect: { timeout: 10_000 },
  reporter: [['list']],
  // the first journey starts with an empty workspace and leaves the books that the others read
  projects: [
    { name: 'first delivery', testMatch: '**/first-delivery.e2e.ts' },
    { name: 'reading', testIgnore: '**/first-delivery.e2e.ts', dependencies: ['first delivery'] },
  ],
  use: {
    baseURL: `http://127.0.0.1:${port}`,
    viewport: { width: 1280, height: 800 },
    browserName: 'chromium',
    permissions: ['clipboard-read', 'clipboard-write'],
    launchOptions: {
      ignoreDefaultArgs: ['--hide-scrollbars'],
      executablePath: process.env['CHROMIUM'] ?? '/usr/bin/chromium',
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
  webServer: {
    command: 'node fixtures/start-empty.mjs',
    url: `http://127.0.0.1:${port}/api/v1/health`,
    env: { PORT: String(port) },
    reuseExistingServer: false,
    timeout: 20_000,
  },
});
