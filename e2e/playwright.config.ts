import { defineConfig } from '@playwright/test';

const address = process.env['COFFER_ADDRESS'];
if (!address) throw new Error('Run ./coffer test: it starts the application and names its address.');

export default defineConfig({
  testDir: 'src',
  testMatch: '*.e2e.ts',
  // One company, one open month: the jobs follow one another as they do in the month.
  workers: 1,
  fullyParallel: false,
  timeout: 180_000,
  // No test is about speed: a busy machine may take its time.
  expect: { timeout: 20_000 },
  reporter: [['list'], ['json', { outputFile: process.env['COFFER_E2E_REPORT'] ?? 'test-results/e2e.json' }]],
  use: {
    baseURL: address,
    viewport: { width: 1280, height: 800 },
    locale: 'en-US',
    timezoneId: 'UTC',
    contextOptions: { reducedMotion: 'reduce' },
    screenshot: 'only-on-failure',
    launchOptions: {
      executablePath: '/usr/bin/chromium',
      args: [
        '--no-sandbox',
        '--disable-gpu',
        '--disable-quic',
        '--no-first-run',
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync',
        '--disable-dev-shm-usage',
      ],
    },
  },
});
