import { availableParallelism } from 'node:os'
import { defineConfig } from '@playwright/test'

/** Debian's Chromium, kept from asking anybody anything. */
const QUIET = [
  '--no-sandbox', '--disable-gpu', '--disable-quic', '--no-first-run', '--disable-background-networking', '--disable-component-update',
  '--disable-sync',
]

/** They begin first: else one of them is left over for one browser at the end. */
const LONGEST = ['demo', 'courses', 'evening', 'recipes', 'broadcasts', 'beginning', 'emails'].map(name => `${name}.spec.ts`)

export default defineConfig({
  testDir: 'tests/browser',
  globalSetup: './tests/built/furnished.ts',
  timeout: 300_000,
  // Patience costs nothing where all goes well; a busy machine needs it.
  expect: { timeout: 60_000 },
  // Each file has an application of its own, and a browser. A quarter of the time it only waits for something to appear.
  workers: Math.min(5, Math.max(2, availableParallelism()) + 1),
  projects: [{ name: 'long', testMatch: LONGEST }, { name: 'short', testIgnore: LONGEST }],
  // What passes only at its second try has failed.
  retries: 0,
  forbidOnly: Boolean(process.env.CI),
  reporter: [['list'], ['json', { outputFile: 'test-results/browser.json' }]],
  use: {
    viewport: { width: 1280, height: 800 },
    // What moves is drawn anew sixty times a second, and waited for. The tests that begin with the first run see all of it.
    contextOptions: { reducedMotion: 'reduce' },
    // No trace: recording one runs scripts in frames that must not run any.
    screenshot: 'only-on-failure',
    actionTimeout: 60_000,
    launchOptions: { executablePath: process.env.PORCH_CHROMIUM || '/usr/bin/chromium', args: QUIET },
  },
})
