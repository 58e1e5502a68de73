import { defineConfig } from '@playwright/test'
import { chromiumArguments, chromiumPath } from './scripts/browser'

const port = Number(process.env.FRESH_COAT_E2E_PORT ?? 4491)
const server = (at: number, more: Record<string, string>) => ({
  command: 'scripts/serve.sh',
  url: `http://127.0.0.1:${at}/api/health`,
  timeout: 180_000,
  // A server already running on these ports serves for a quick second run; CI starts its own.
  reuseExistingServer: !process.env.CI,
  stdout: 'ignore' as const,
  env: { PORT: String(at), FRESH_COAT_LOG: `.data/web-${at}.log`, ...more },
  // A killed server would leave its database behind.
  gracefulShutdown: { signal: 'SIGTERM' as const, timeout: 20_000 },
})

/** The production build in Debian's Chromium: one server on Lantern Yard, one on an empty database. */
export default defineConfig({
  testDir: './e2e',
  workers: 1,
  timeout: 120_000,
  expect: { timeout: 15_000 },
  retries: 0,
  reporter: [['list']],
  use: {
    baseURL: `http://127.0.0.1:${port}`,
    viewport: { width: 1280, height: 800 },
    reducedMotion: 'reduce',
    launchOptions: { executablePath: chromiumPath(), args: chromiumArguments },
    trace: 'retain-on-failure',
  },
  webServer: [server(port, { DEMO: '1', RESET: '1' }), server(port + 1, {})],
})
