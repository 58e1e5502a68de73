import { stepIds } from '@fresh-coat/core/unit/way'
import type { Page } from '@playwright/test'

/** Parts of a step that have to be on the first screen. */
const parts = ['sheet', 'drawing', 'card', 'verdict'] as const

/** Measured in the page: what lies outside the screen, what scrolls, and how wide the page is. */
const measure = `(() => {
  const out = []
  const page = document.documentElement
  if (page.scrollHeight > innerHeight + 1) out.push('the page scrolls: ' + page.scrollHeight)
  for (const name of ${JSON.stringify(parts)}) {
    const part = document.querySelector('[data-part=' + name + ']')
    if (!part) { if (name !== 'verdict') out.push('no ' + name); continue }
    const box = part.getBoundingClientRect()
    if (box.height > 0 && (box.bottom > innerHeight + 1 || box.top < 0)) out.push(name + ' ends at ' + Math.round(box.bottom))
    if (name !== 'drawing' && part.scrollHeight > part.clientHeight + 1) out.push(name + ' scrolls: ' + part.scrollHeight + ' in ' + part.clientHeight)
  }
  const drawn = document.querySelector('[data-drawing]')
  if (drawn && drawn.scrollHeight > drawn.clientHeight + 1) out.push('the drawing is cut: ' + drawn.scrollHeight + ' in ' + drawn.clientHeight)
  return out
})()`

const sideways = `(() => {
  const page = document.documentElement
  return page.scrollWidth > innerWidth + 1 ? ['sideways: ' + page.scrollWidth + ' in ' + innerWidth] : []
})()`

/** Turns to a step of the unit on screen as a hand does, and waits until it is drawn. */
async function turnTo(page: Page, number: number, step: string): Promise<void> {
  await page.evaluate(`history.pushState(null, '', '/units/${number}/${step}')`)
  await page.waitForSelector(`main[data-step="${step}"] fieldset:not(:disabled) [data-part="card"]`)
}

/**
 * Every step of a unit at a screen of a desk, and every second one narrow too, at a tablet's or a phone's width by turns from unit
 * to unit: so each step is seen at each of them on a quarter of the units. What does not fit, by step.
 */
export async function faultsOf(page: Page, number: number): Promise<string[]> {
  const faults: string[] = []
  await page.goto(`/units/${number}/arrive`)
  await page.setViewportSize({ width: 1280, height: 800 })
  for (const [i, step] of stepIds.entries()) {
    await turnTo(page, number, step)
    const told = (where: string, what: unknown) =>
      faults.push(...(what as string[]).map((w) => `${number}/${step} at ${where}: ${w}`))
    told('1280', await page.evaluate(measure))
    if ((number + i) % 2 === 1) continue
    const width = (number + i) % 4 === 0 ? 1024 : 390
    await page.setViewportSize({ width, height: width === 390 ? 844 : 768 })
    told(String(width), await page.evaluate(sideways))
    await page.setViewportSize({ width: 1280, height: 800 })
  }
  return faults
}
