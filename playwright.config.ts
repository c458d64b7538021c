import { defineConfig } from '@playwright/test';

/** Specs that hear nothing. */
const still = [
  'access',
  'edit-many',
  'imports',
  'loop-page',
  'material',
  'rooms',
  'slice',
  'together',
  'two-servers',
  'uploads',
  'walks/bench',
].map((name) => `**/${name}.spec.ts`);

/** The application is started by `npm test`, which tells its address. */
export default defineConfig({
  testDir: 'test/e2e',
  outputDir: process.env.TEST_OUTPUT ?? '.data/test/e2e-output',
  timeout: 120_000,
  expect: { timeout: 15_000 },
  workers: 2,
  // Sound is timed against the audio clock, and two browsers on two cores would starve each other: `npm test` runs one of the two behind the other.
  projects: [
    { name: 'still', testMatch: still, fullyParallel: true },
    { name: 'sound', testIgnore: still, workers: 1 },
  ],
  retries: process.env.CI ? 1 : 0,
  reporter: [['list'], ['json']],
  use: {
    baseURL: process.env.TEST_ADDRESS ?? 'http://127.0.0.1:3000',
    browserName: 'chromium',
    // Taps on the audio thread and the accessibility checker are put into the page; that pages work without is a test of its own.
    bypassCSP: true,
    viewport: { width: 1280, height: 800 },
    launchOptions: {
      executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium',
      args: [
        '--headless',
        '--no-sandbox',
        '--disable-gpu',
        '--disable-quic',
        '--no-first-run',
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync',
        '--autoplay-policy=no-user-gesture-required',
      ],
    },
  },
});
