import { existsSync } from 'node:fs'
import { type Browser, chromium } from '@playwright/test'

/** The one that is named, or Debian's: without windows where it is there, as scripts/setup.sh puts it in. */
export const chromiumPath = (): string =>
  process.env.CHROMIUM ??
  ['/usr/bin/chromium-headless-shell', '/usr/bin/chromium'].find((path) => existsSync(path)) ??
  '/usr/bin/chromium'
export const chromiumArguments = [
  '--no-sandbox',
  '--disable-gpu',
  '--disable-quic',
  '--no-first-run',
  '--disable-background-networking',
  '--disable-component-update',
  '--disable-sync',
]

export async function openBrowser(): Promise<Browser> {
  if (!existsSync(chromiumPath())) throw new Error(`No Chromium at ${chromiumPath()}: run scripts/setup.sh chromium`)
  return chromium.launch({ executablePath: chromiumPath(), args: chromiumArguments })
}
