import { defineConfig } from '@playwright/test'

// Debian's Chromium, headless, with nothing that would ask the network.
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
  retries: 0,
  reporter: [['list']],
  timeout: 180_000,
  expect: { timeout: 20_000 },
  use: {
    viewport: { width: 1280, height: 800 },
    trace: 'on-first-retry',
    launchOptions: { executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium', args },
  },
  projects: [
    { name: 'tests', testDir: 'tests' },
    { name: 'bench', testDir: 'bench', workers: 1, fullyParallel: false, use: { trace: 'off' } },
    { name: 'screenshots', testDir: 'screenshots', use: { trace: 'off' } },
  ],
})
