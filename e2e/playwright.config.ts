import { defineConfig } from '@playwright/test'
import { chromium } from '../scripts/chromium.mjs'

export default defineConfig({
  testDir: '.',
  outputDir: '../test-results',
  // the machine may be a slow one: what is waited for is a fact, not a speed
  timeout: 180_000,
  expect: { timeout: 30_000 },
  workers: 2,
  // a test that needed its second try is named at the end of the run
  retries: 1,
  fullyParallel: false,
  reporter: [['list'], ['json']],
  use: {
    viewport: { width: 1280, height: 800 },
    launchOptions: chromium,
    actionTimeout: 30_000,
    // keeping the pages on the tablet is the business of the tests that go offline; elsewhere every context would fetch them all
    serviceWorkers: 'block',
    contextOptions: { reducedMotion: 'reduce' },
    trace: 'off',
  },
})
