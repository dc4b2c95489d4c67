import { defineConfig } from '@playwright/test'
import { chromiumPath } from './cli/browser'

export default defineConfig({
  testDir: 'tests/browser',
  globalSetup: './tests/browser/site.setup.ts',
  // Files run side by side, two on two cores; within a file one test builds on the last.
  workers: 2,
  fullyParallel: false,
  // Generous: a slow machine is no failure; nothing waits longer than it must.
  timeout: 600_000,
  expect: { timeout: 60_000 },
  reporter: 'list',
  use: {
    viewport: { width: 1280, height: 800 },
    actionTimeout: 60_000,
    // Each person has a browser of their own: none fetches the whole application for days off line, but
    // in the tests of that. Motion is for people; what moves is drawn many times.
    serviceWorkers: 'block',
    contextOptions: { reducedMotion: 'reduce' },
    launchOptions: {
      executablePath: chromiumPath(),
      args: [
        '--headless',
        '--no-sandbox',
        '--disable-gpu',
        '--disable-quic',
        '--no-first-run',
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync',
      ],
    },
  },
})
