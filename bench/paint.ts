import { mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { noise } from '@fresh-coat/core/image/build'
import { lx6Stock } from '../demo/binaries'
import { openBrowser } from '../scripts/browser'
import { median } from './median'
import { ownServer, port } from './server'

/**
 * What a person sees after choosing a dump, in Chromium on the production build: when the first of the map is painted,
 * when all of it is, how long the page stood still at most meanwhile, and how long Stop takes. Nothing is stored:
 * requests that would change something are broken off.
 */
const mib = 1048576
/** Runs in the page, as text: a compiled function would bring helpers along that the page does not have. */
const watch = `(want) => {
  const seen = { long: 0 }
  window.seen = seen
  const map = () => document.querySelector('svg[aria-label^="Chip map"]')?.getAttribute('aria-label')
  const before = map()
  const painted = (name) => {
    if (name in seen) return
    seen[name] = 0
    requestAnimationFrame(() => {
      const after = new MessageChannel()
      after.port1.onmessage = () => { seen[name] = performance.now() }
      after.port2.postMessage(0)
    })
  }
  document.addEventListener('change', () => { seen.chosen = performance.now() }, true)
  new MutationObserver(() => {
    const label = map()
    if (!label || label === before) return
    painted('first')
    if (label.includes(': ' + want + ' sectors')) painted('whole')
  }).observe(document.body, { childList: true, subtree: true, attributes: true })
  new PerformanceObserver((list) => {
    for (const task of list.getEntries()) if (seen.chosen && task.startTime > seen.chosen) seen.long = Math.max(seen.long, task.duration)
  }).observe({ entryTypes: ['longtask'] })
}`
interface Seen {
  chosen: number
  first: number
  whole: number
  long: number
}

const folder = mkdtempSync(join(tmpdir(), 'fresh-coat-bench-'))
const changing = new Uint8Array(16 * mib).fill(0xff)
for (let at = 0; at < changing.length; at += 8192) changing.set(noise(4096, at + 1), at)
const inputs: [string, Uint8Array][] = [
  ['stock chip, 4 MiB', lx6Stock(1)],
  ['noise, 16 MiB', noise(16 * mib, 3)],
  ['every sector another, 16 MiB', changing],
]
const server = process.env.FRESH_COAT_URL ? null : await ownServer()
const base = process.env.FRESH_COAT_URL ?? `http://127.0.0.1:${port}`
const browser = await openBrowser()
try {
  console.log('\nafter a dump is chosen, in Chromium: milliseconds, median of 5 fresh pages')
  for (const [name, bytes] of inputs) {
    const file = join(folder, 'read.bin')
    writeFileSync(file, bytes)
    const rounds: Seen[] = []
    for (let round = 0; round < 5; round++) {
      const context = await browser.newContext({ viewport: { width: 1280, height: 800 }, bypassCSP: true })
      const page = await context.newPage()
      await page.route('**/api/**', (route) => (route.request().method() === 'GET' ? route.continue() : route.abort()))
      await page.goto(`${base}/units/19/backup`, { waitUntil: 'networkidle' })
      await page.evaluate(`(${watch})(${bytes.length / 4096})`)
      await page.locator('input[type=file]').first().setInputFiles(file)
      await page.waitForFunction('window.seen.first > 0 && window.seen.whole > 0')
      await page.waitForTimeout(300)
      rounds.push(await page.evaluate('window.seen'))
      await context.close()
    }
    const of = (value: (seen: Seen) => number) => median(rounds.map(value)).toFixed(0)
    console.log(
      `  ${name.padEnd(28)} first of the map ${of((s) => s.first - s.chosen)}, all of it ${of((s) => s.whole - s.chosen)}   longest task of the page ${of((s) => s.long)} (0: none over 50)`,
    )
  }
} finally {
  await browser.close()
  server?.kill('SIGTERM')
  rmSync(folder, { recursive: true })
}
