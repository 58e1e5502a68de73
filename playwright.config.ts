import { defineConfig } from '@playwright/test'
import { emptyPort, portOf, workers } from './e2e/ports'
import { chromiumArguments, chromiumPath } from './scripts/browser'

const server = (at: number, more: Record<string, string>) => ({
  command: 'scripts/serve.sh',
  url: `http://127.0.0.1:${at}/api/health`,
  timeout: 240_000,
  // A server already running on these ports serves for a quick second run; CI starts its own.
  reuseExistingServer: !process.env.CI,
  stdout: 'ignore' as const,
  env: { PORT: String(at), FRESH_COAT_LOG: `.data/web-${at}.log`, ...more },
  // A killed server would leave its database behind.
  gracefulShutdown: { signal: 'SIGTERM' as const, timeout: 20_000 },
})
const lanternYard = (worker: number) =>
  server(portOf(worker), { DEMO: '1', RESET: 'copy', FRESH_COAT_DB_NAME: `freshcoat_demo_${worker}` })

/** The production build in Debian's Chromium: a server on a Lantern Yard of its own for every worker, one on an empty database. */
export default defineConfig({
  testDir: './e2e',
  workers,
  fullyParallel: true,
  // How quick it is stands in the figures: a machine that others use too takes several times as long, and no test is about that.
  timeout: 300_000,
  expect: { timeout: 40_000 },
  // On a machine of strangers one slow moment must not hide what 49 others saw; the report still names the test that needed it.
  retries: process.env.CI ? 1 : 0,
  reporter: [['list']],
  use: {
    viewport: { width: 1280, height: 800 },
    reducedMotion: 'reduce',
    launchOptions: { executablePath: chromiumPath(), args: chromiumArguments },
    // To record every test costs time in all of them: one that failed is recorded when it is tried again.
    trace: process.env.CI ? 'on-first-retry' : 'retain-on-failure',
  },
  webServer: [...Array.from({ length: workers }, (_, i) => lanternYard(i)), server(emptyPort, {})],
})
