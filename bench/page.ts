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

/** Bytes that came over the line while `run` ran. */
async function transferred(page: Page, run: () => Promise<void>): Promise<number> {
  const session = await page.context().newCDPSession(page)
  await session.send('Network.enable')
  let bytes = 0
  session.on('Network.loadingFinished', (e) => {
    bytes += e.encodedDataLength
  })
  await run()
  await session.detach()
  return bytes
}

/** Notes when the controls of the step's surface first hear; runs in the page before anything of its own. */
const noteHearing = `setInterval(() => {
  const surface = document.querySelector('main[data-step] fieldset')
  if (surface && !surface.disabled) window.heardAt ??= performance.now()
}, 5)`

/** Bytes of scripts as they came: those that the page itself names, those until the step's controls hear, all that follow. */
const scriptsThatCame = `async () => {
  const html = await (await fetch(location.href)).text()
  const came = performance.getEntriesByType('resource').filter((r) => r.name.endsWith('.js'))
  const sum = (some) => some.reduce((bytes, r) => bytes + r.encodedBodySize, 0)
  return {
    named: sum(came.filter((r) => html.includes(r.name.split('/').at(-1)))),
    heard: sum(came.filter((r) => r.startTime < window.heardAt)),
    all: sum(came),
  }
}`

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

const unitsToTypeAt = [3, 15, 17, 24, 12, 13, 16]

const server = process.env.FRESH_COAT_URL ? null : await ownServer()
const at = process.env.FRESH_COAT_URL ?? base
const browser = await openBrowser()
try {
  console.log(
    '\nfirst visit of a step (scripts as they come, gzip: named by the page, asked for until its controls hear, with all that is fetched ahead), and work in the page for a key',
  )
  for (const step of stepIds) {
    const context = await browser.newContext({ viewport: { width: 1280, height: 800 } })
    const page = await context.newPage()
    await page.addInitScript(noteHearing)
    await page.goto(`${at}/units/${unitsToTypeAt[0]}/${step}`, { waitUntil: 'networkidle' })
    await page.waitForTimeout(3000)
    const scripts = (await page.evaluate(`(${scriptsThatCame})()`)) as { named: number; heard: number; all: number }
    await page.route('**/api/commands/**', (r) => r.abort())
    // Where a unit has nothing to type at a step, another one may.
    let keys: number[] | null = null
    for (const number of unitsToTypeAt) {
      if (number !== unitsToTypeAt[0]) await page.goto(`${at}/units/${number}/${step}`, { waitUntil: 'networkidle' })
      keys = (await page.evaluate(`(${keyWork})('abcdefghij')`)) as number[] | null
      if (keys) break
    }
    console.log(
      `  ${step.padEnd(10)} scripts ${[scripts.named, scripts.heard, scripts.all].map((b) => kb(b).padStart(9)).join('')}   key ${keys ? `${median(keys).toFixed(1)} ms, most ${Math.max(...keys).toFixed(1)}` : 'nothing to type'}`,
    )
    await context.close()
  }
  const context = await browser.newContext({ viewport: { width: 1280, height: 800 } })
  const page = await context.newPage()
  await page.goto(`${at}/units/13/arrive`, { waitUntil: 'networkidle' })
  // What is fetched ahead for later presses is no answer to typing.
  await page.waitForTimeout(8000)
  await page.getByRole('button', { name: 'Seller and lot: change' }).click()
  const field = page.getByLabel('Seller', { exact: true })
  const bytes = await transferred(page, async () => {
    await field.fill(`the corner shop ${Date.now()}`)
    await page.locator('[data-save-state=saved]').waitFor()
    await page.waitForTimeout(1500)
  })
  console.log(`after one cell of typing ${kb(bytes)} came back`)
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
