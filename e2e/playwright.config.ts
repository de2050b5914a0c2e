import { defineConfig } from '@playwright/test'
import { existsSync } from 'node:fs'

// Debian's Chromium without a window; where that is not to be had, the whole one without showing it, which takes half as long again.
const shell = '/usr/bin/chromium-headless-shell'
const executablePath = process.env.CHROMIUM ?? (existsSync(shell) ? shell : '/usr/bin/chromium')

// Nothing in it is to ask the network.
const args = [
  '--no-sandbox',
  '--disable-gpu',
  '--disable-quic',
  '--no-first-run',
  '--disable-background-networking',
  '--disable-component-update',
  '--disable-sync',
]

export default defineConfig({
  outputDir: 'results',
  globalSetup: './house.ts',
  fullyParallel: true,
  workers: 2,
  forbidOnly: !!process.env.CI,
  // Run again, a test leaves a trace of what went wrong; one that then passes is listed as flaky, and is to be made steady all the same.
  retries: 1,
  reporter: [['list']],
  timeout: 180_000,
  expect: { timeout: 20_000 },
  use: {
    viewport: { width: 1280, height: 800 },
    trace: 'on-first-retry',
    launchOptions: { executablePath, args },
  },
  projects: [
    { name: 'tests', testDir: 'tests' },
    { name: 'bench', testDir: 'bench', workers: 1, fullyParallel: false, use: { trace: 'off' } },
    { name: 'screenshots', testDir: 'screenshots', use: { trace: 'off' } },
  ],
})
