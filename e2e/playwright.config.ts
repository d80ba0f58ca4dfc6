import { defineConfig } from '@playwright/test';

const chromium = process.env['CHROME_BIN'] ?? '/usr/bin/chromium';

export default defineConfig({
  testDir: './tests',
  // Tests side by side, more than a small machine has cores: each has a server of its own, and half its time is waiting.
  workers: 4,
  fullyParallel: true,
  // A slow machine may need minutes for what takes one here; what hangs is told by its own expectation.
  timeout: 600_000,
  expect: { timeout: 20_000 },
  forbidOnly: true,
  // A machine under load may stall a browser; a test that needed its second try is named in the output.
  retries: 1,
  outputDir: '../test-results',
  reporter: [['list'], ['./support/tally-reporter.ts']],
  globalSetup: './support/make-demo.ts',
  use: {
    viewport: { width: 1280, height: 800 },
    // What a test sees comes from its server; the test of the kept app allows it for itself.
    serviceWorkers: 'block',
    // Half the work of a small machine would go into sliding and fading.
    contextOptions: { reducedMotion: 'reduce' },
    // What is to be pressed is there, or the test says where it was not.
    actionTimeout: 30_000,
    launchOptions: {
      executablePath: chromium,
      args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking', '--no-first-run'],
    },
    trace: 'off',
  },
});
