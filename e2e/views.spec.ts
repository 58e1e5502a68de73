import AxeBuilder from '@axe-core/playwright'
import { stepIds } from '@fresh-coat/core/unit/way'
import type { Page } from '@playwright/test'
import { expect, press, test } from './bench'
import { faultsOf } from './first-screen'
import { emptyPort } from './ports'

const rooms = [
  '/',
  '/units',
  '/units/new',
  '/boards',
  '/images',
  '/meters',
  '/network',
  '/network/addresses',
  '/network/updates',
  '/due',
  '/labels',
  '/kit/routes',
  '/sums',
  '/practice',
  '/kit',
  '/units/17/jig',
  '/nowhere',
]
// One unit per step that has something to show there.
const unitFor: Record<string, number> = {
  identify: 23,
  pads: 13,
  wire: 17,
  backup: 9,
  check: 11,
  write: 20,
  start: 7,
  join: 6,
  pins: 24,
  close: 7,
  behaviour: 7,
  meter: 3,
  name: 6,
  hub: 6,
  prove: 3,
  watch: 4,
  arrive: 16,
  open: 7,
}
const pages = [...rooms, ...stepIds.map((s) => `/units/${unitFor[s]}/${s}`)]

const whole = ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa', 'best-practice']

/** @param contrastOnly in the evening everything but the colours is the same page */
async function axe(page: Page, contrastOnly = false): Promise<string[]> {
  // The name of a page comes with its data: between two pages there is none for a moment.
  await expect(page).toHaveTitle(/./)
  // In the page itself, which has no frames; what passed is not listed: three times as quick as asking a second page to sum up.
  const builder = new AxeBuilder({ page }).setLegacyMode().options({ resultTypes: ['violations'] })
  const { violations } = await (contrastOnly
    ? builder.withRules(['color-contrast'])
    : builder.withTags(whole)
  ).analyze()
  return violations.flatMap((v) => v.nodes.map((n) => `${v.id}: ${n.target.join(' ')}`))
}

/** A page as it is once its controls are open. */
async function open(page: Page, path: string): Promise<void> {
  await page.goto(path, { waitUntil: 'load' })
  await expect(page.locator('fieldset[disabled].contents')).toHaveCount(0)
}

/** As the button in the bar does it. */
const inTheme = (page: Page, theme: 'day' | 'evening') =>
  page.evaluate((t) => {
    document.documentElement.dataset.theme = t
  }, theme)

/** What axe finds on the page as it is, by day and in the evening. */
async function byDayAndEvening(page: Page, what: string): Promise<string[]> {
  const day = await axe(page)
  await inTheme(page, 'evening')
  const evening = await axe(page, true)
  await inTheme(page, 'day')
  return [...day.map((f) => `${what}, day: ${f}`), ...evening.map((f) => `${what}, evening: ${f}`)]
}

/** How much wider than its screen the page is. */
const sideways = (page: Page) =>
  page.evaluate(() => document.documentElement.scrollWidth - document.documentElement.clientWidth)

for (const [half, paths] of [
  ['rooms and the first steps', pages.filter((_, i) => i % 2 === 0)],
  ['the other views', pages.filter((_, i) => i % 2 === 1)],
] as const)
  test(`no finding of axe by day and in the evening, and none is wider than a tablet: ${half}`, async ({ page }) => {
    test.setTimeout(600_000)
    const found: string[] = []
    for (const path of paths) {
      await open(page, path)
      found.push(...(await byDayAndEvening(page, path)))
      await page.setViewportSize({ width: 1024, height: 768 })
      const over = await sideways(page)
      if (over !== 0) found.push(`${path} is ${over} wider than a tablet`)
      await page.setViewportSize({ width: 1280, height: 800 })
    }
    expect(found).toEqual([])
  })

test('no finding of axe by day and in the evening: a board, an image, a dump, two compared, and what opens above a step', async ({
  page,
}) => {
  test.setTimeout(600_000)
  const found: string[] = []
  const look = async (what: string) => {
    // Turning to a page without loading it, its title comes a moment after what it shows.
    await expect(page).toHaveTitle(/Fresh Coat/)
    found.push(...(await byDayAndEvening(page, what)))
  }
  await page.goto('/boards')
  await page.getByRole('link', { name: /Pellworth P1 rev C/ }).click()
  await page.waitForURL(/boards\/.+/)
  await look('board')
  await page.getByRole('link', { name: /Pellworth P1 rev D/ }).click()
  await page.waitForURL(/boards\/compare/)
  await expect(page.getByRole('heading', { level: 1 })).toContainText('Two boards')
  await look('two boards')
  await page.goto('/images')
  await page.getByRole('link', { name: 'lattice-lx6-4m.bin' }).click()
  await page.waitForURL(/images\/.+/)
  await look('image')
  await page.goto('/images')
  await page
    .locator('li')
    .filter({ hasText: 'Glue-pot plug, spare' })
    .getByRole('link', { name: /read 1/ })
    .click()
  await page.waitForURL(/images\/[0-9a-f-]+$/)
  await page.getByRole('slider').waitFor()
  await look('dump')
  const other = page.getByLabel('Compare it with')
  await other.selectOption(await other.locator('option', { hasText: '09 read 2' }).getAttribute('value'))
  await page.getByRole('button', { name: 'Compare', exact: true }).click()
  // The page that one comes from has a slider too.
  await page.waitForURL(/images\/compare/)
  await expect(page).toHaveTitle(/^Compare/)
  await page.getByRole('slider').first().waitFor()
  await look('compare')
  await open(page, '/units/20/write')
  await press(page, 't')
  await page.getByRole('dialog', { name: 'What is wrong?' }).waitFor()
  await look('trouble')
  await open(page, '/units/17/wire')
  await press(page, 'k')
  await page.getByRole('dialog', { name: 'What’s known' }).waitFor()
  await look('what is known')
  await page.keyboard.press('Escape')
  await page.getByRole('button', { name: '3.3 V comes from: change' }).click()
  await page.getByRole('dialog', { name: '3.3 V comes from' }).waitFor()
  await look('words that open')
  await page.keyboard.press('Escape')
  await press(page, 'f')
  await page.getByRole('dialog', { name: '17 Wire' }).waitFor()
  await look('bench view')
  expect(found).toEqual([])
})

test('no view scrolls sideways on a phone, and what was chosen for the evening stands after a load', async ({
  page,
}) => {
  await page.setViewportSize({ width: 390, height: 844 })
  await page.addInitScript(() => localStorage.setItem('fresh-coat:theme', 'evening'))
  for (const path of pages) {
    await page.goto(path, { waitUntil: 'load' })
    expect([path, await sideways(page), await page.evaluate(() => document.documentElement.dataset.theme)]).toEqual([
      path,
      0,
      'evening',
    ])
  }
})

test('an empty shop says what to do first', async ({ page }) => {
  const empty = `http://127.0.0.1:${emptyPort}`
  for (const [path, words] of [
    ['/', 'Five coats, from a sealed case to a device in service'],
    ['/units', 'No unit yet'],
    ['/boards', 'No board yet'],
    ['/images', 'No image yet'],
    ['/meters', 'No unit with a meter yet'],
    ['/network', 'No address known yet'],
    ['/kit', 'No adapter yet'],
  ] as const) {
    await page.goto(empty + path, { waitUntil: 'networkidle' })
    await expect(page.getByRole('heading', { name: words })).toBeVisible()
    expect([path, ...(await axe(page))]).toEqual([path])
  }
})

// Every step of every unit of Lantern Yard, in thirds so that both hands of the machine have work.
for (const third of [0, 1, 2])
  test(`every step stands on one screen of a desk, and none is wider than a tablet or a phone: ${third + 1} of 3`, async ({
    page,
  }) => {
    test.setTimeout(600_000)
    const faults: string[] = []
    for (let number = 1 + third; number <= 24; number += 3) faults.push(...(await faultsOf(page, number)))
    expect(faults).toEqual([])
  })
