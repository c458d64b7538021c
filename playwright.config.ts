import { defineConfig } from '@playwright/test';

/** The application is started by `npm test`, which tells its address. */
export default defineConfig({
  testDir: 'test/e2e',
  outputDir: process.env.TEST_OUTPUT ?? '.data/test/e2e-output',
  timeout: 120_000,
  expect: { timeout: 15_000 },
  workers: 2,
  // What is timed against the audio clock, must not stop for a moment, or disturbs others is tagged so: two browsers on two cores would starve each
  // other. `npm test` runs one of the two behind the other.
  projects: [
    { name: 'beside', grepInvert: /@alone/, fullyParallel: true },
    { name: 'alone', grep: /@alone/, workers: 1 },
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
