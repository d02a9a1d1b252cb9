import { defineConfig } from '@playwright/test'

export const chromiumArguments = [
  '--headless',
  '--no-sandbox',
  '--disable-gpu',
  '--disable-quic',
  '--no-first-run',
  '--disable-background-networking',
  '--disable-component-update',
  '--disable-sync',
]

export default defineConfig({
  testDir: '.',
  outputDir: '../test-results',
  timeout: 60_000,
  workers: 2,
  fullyParallel: false,
  reporter: [['list'], ['json']],
  use: {
    viewport: { width: 1280, height: 800 },
    launchOptions: { executablePath: '/usr/bin/chromium', args: chromiumArguments },
    actionTimeout: 10_000,
    trace: 'off',
  },
})
