import { stepIds } from '@fresh-coat/core/unit/way'
import type { Page } from '@playwright/test'
import { openBrowser } from '../scripts/browser'
import { median } from './median'
import { ownServer, port } from './server'

/**
 * What a visit costs in Chromium: scripts of a unit's page (gzip, as they come), what comes back after one cell of
 * typing, how long the page works for a key, and how long it takes from one step to the next.
 */
const kb = (bytes: number) => `${(bytes / 1024).toFixed(1)} KB`
const base = `http://127.0.0.1:${port}`

/** Bytes that came over the line while `run` ran, by kind. */
async function transferred(page: Page, run: () => Promise<void>): Promise<{ scripts: number; all: number }> {
  const session = await page.context().newCDPSession(page)
  await session.send('Network.enable')
  const kinds = new Map<string, string>()
  let [scripts, all] = [0, 0]
  session.on('Network.responseReceived', (e) => kinds.set(e.requestId, e.type))
  session.on('Network.loadingFinished', (e) => {
    all += e.encodedDataLength
    if (kinds.get(e.requestId) === 'Script') scripts += e.encodedDataLength
  })
  await run()
  await session.detach()
  return { scripts, all }
}

/**
 * Milliseconds that the page's thread is busy from a key to the frame that shows it; runs in the page, as text. A step
 * without a field on its card is typed into where the words of its sentence open.
 */
const keyWork = `async (text) => {
  const field = (where) => document.querySelector(where + ' :is(input:not([type=radio]):not([type=checkbox]):not([type=file]), textarea)')
  let input = field('main[data-step]')
  for (const word of document.querySelectorAll('main[data-step] button[aria-label$=": change"]')) {
    if (input) break
    word.click()
    await new Promise((r) => setTimeout(r, 300))
    input = field('[role=dialog]')
    if (!input) document.dispatchEvent(new KeyboardEvent('keydown', { key: 'Escape', bubbles: true }))
    await new Promise((r) => setTimeout(r, 200))
  }
  if (!input) return null
  const set = Object.getOwnPropertyDescriptor(Object.getPrototypeOf(input), 'value').set
  const times = []
  for (const letter of text) {
    const from = performance.now()
    set.call(input, input.value + letter)
    input.dispatchEvent(new Event('input', { bubbles: true }))
    times.push(performance.now() - from)
    await new Promise((r) => setTimeout(r, 60))
  }
  return times
}`

const server = process.env.FRESH_COAT_URL ? null : await ownServer()
const at = process.env.FRESH_COAT_URL ?? base
const browser = await openBrowser()
try {
  console.log('\nfirst visit of a step (scripts as they come, gzip), and work in the page for a key')
  for (const step of stepIds) {
    const context = await browser.newContext({ viewport: { width: 1280, height: 800 } })
    const page = await context.newPage()
    const { scripts } = await transferred(page, async () => {
      await page.goto(`${at}/units/3/${step}`, { waitUntil: 'networkidle' })
    })
    await page.route('**/api/commands/**', (r) => r.abort())
    const keys = (await page.evaluate(`(${keyWork})('abcdefghij')`)) as number[] | null
    console.log(
      `  ${step.padEnd(10)} scripts ${kb(scripts).padStart(9)}   key ${keys ? `${median(keys).toFixed(1)} ms, most ${Math.max(...keys).toFixed(1)}` : 'nothing to type'}`,
    )
    await context.close()
  }
  const context = await browser.newContext({ viewport: { width: 1280, height: 800 } })
  const page = await context.newPage()
  await page.goto(`${at}/units/13/arrive`, { waitUntil: 'networkidle' })
  await page.getByRole('button', { name: 'Seller and lot: change' }).click()
  const field = page.getByLabel('Seller', { exact: true })
  const { all } = await transferred(page, async () => {
    await field.fill(`the corner shop ${Date.now()}`)
    await page.locator('[data-save-state=saved]').waitFor()
    await page.waitForTimeout(1500)
  })
  console.log(`after one cell of typing ${kb(all)} came back`)
  const turns: number[] = []
  for (const [from, to] of [
    ['pads', 'Wire'],
    ['wire', 'Back up'],
    ['backup', 'Pads'],
    ['pads', 'Back up'],
    ['backup', 'Wire'],
  ] as const) {
    await page.goto(`${at}/units/13/${from}`, { waitUntil: 'networkidle' })
    const link = page.getByRole('navigation', { name: 'Steps' }).getByRole('link', { name: new RegExp(`^${to}`) })
    await link.hover()
    await page.waitForTimeout(400)
    const start = performance.now()
    await link.click()
    await page.locator(`main[data-step]:not([data-step=${from}])`).waitFor()
    turns.push(performance.now() - start)
  }
  console.log(
    `from step to step, its data there already: median ${median(turns).toFixed(0)} ms, most ${Math.max(...turns).toFixed(0)} ms`,
  )
  await context.close()
} finally {
  await browser.close()
  server?.kill('SIGTERM')
}
