import { defineConfig } from '@playwright/test';
import type { Day } from './src/coffer.ts';

const address = process.env['COFFER_ADDRESS'];
const books = process.env['COFFER_BOOKS_ADDRESS'];
const own = process.env['COFFER_OWN_ADDRESS'];
if (!address || !books || !own)
  throw new Error('Run ./coffer test: it starts the application and names its addresses.');

/** The day that the demo company lives in, and the one that an installation of one's own was started at. */
const demoDay = '2026-11-03';
const ownDay = process.env['COFFER_OWN_DAY'] ?? '2026-05-04';

export default defineConfig<Day>({
  testMatch: '*.e2e.ts',
  workers: 2,
  fullyParallel: false,
  timeout: 180_000,
  // No test is about speed: a busy machine may take its time.
  expect: { timeout: 20_000 },
  reporter: [['list'], ['json', { outputFile: process.env['COFFER_E2E_REPORT'] ?? 'test-results/e2e.json' }]],
  projects: [
    {
      // One company, one open month: the jobs follow one another as they do in the month.
      name: 'books',
      testDir: 'src/books',
      workers: 1,
      use: { baseURL: books, today: demoDay },
    },
    {
      // Each leaves alone what the others look at, but they share a company.
      name: 'instruments',
      testDir: 'src/instruments',
      workers: 1,
      use: { baseURL: address, today: demoDay },
    },
    {
      // An installation that begins with nothing.
      name: 'own',
      testDir: 'src/own',
      workers: 1,
      use: { baseURL: own, today: ownDay },
    },
  ],
  use: {
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
