import { mkdtempSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { test as base, expect, type Locator, type Page } from '@playwright/test'
import { portOf } from './ports'

/** Every test also sees that nothing leaves this computer and that no page throws. */
export const test = base.extend<{ quiet: undefined }>({
  // biome-ignore lint/correctness/noEmptyPattern: the runner reads the names of the fixtures from this pattern
  baseURL: async ({}, use, info) => use(`http://127.0.0.1:${portOf(info.parallelIndex)}`),
  quiet: [
    async ({ page }, use) => {
      const foreign: string[] = []
      const thrown: string[] = []
      page.on('request', (r) => {
        const url = new URL(r.url())
        if (url.protocol.startsWith('http') && url.hostname !== '127.0.0.1') foreign.push(r.url())
      })
      page.on('pageerror', (e) => thrown.push(e.message))
      await use(undefined)
      expect(foreign).toEqual([])
      expect(thrown).toEqual([])
    },
    { auto: true },
  ],
})
export { expect }

const folder = mkdtempSync(join(tmpdir(), 'fresh-coat-e2e-'))
/** A real file on disk with these bytes. */
export function fileOf(name: string, bytes: Uint8Array | string): string {
  const path = join(folder, name)
  writeFileSync(path, bytes)
  return path
}

export const saved = (page: Page) =>
  expect(page.locator('[data-save-state]')).toHaveAttribute('data-save-state', 'saved')

/** The step on screen hears keys and typing: what is pressed before that goes nowhere. */
export const ready = (page: Page) => expect(page.locator('main[data-step] fieldset').first()).toBeEnabled()

/** What opens on a press is fetched once the page has nothing else to do: until no script came for three seconds. */
export async function fetchedAhead(page: Page): Promise<void> {
  await ready(page)
  const came = () =>
    page.evaluate(() => performance.getEntriesByType('resource').filter((r) => r.name.endsWith('.js')).length)
  for (let before = -1, now = await came(); now !== before; now = await came()) {
    before = now
    await page.waitForTimeout(3000)
  }
}

/** Chooses files once the field hears it: the runner puts them into one that is closed, too, where nobody notices. */
export async function putIn(field: Locator, files: string | string[]): Promise<void> {
  await expect(field).toBeEnabled()
  await field.setInputFiles(files)
}

/** Presses a key of the page once the page hears keys. */
export async function press(page: Page, key: string): Promise<void> {
  await expect(page.locator('html')).toHaveAttribute('data-keys', 'heard')
  await page.locator('body').press(key)
}

/** Types, and waits until the server has answered for it: another tab may then type against it. */
export async function fillAndSave(page: Page, label: string, text: string): Promise<void> {
  await ready(page)
  const answered = page.waitForResponse((r) => r.url().endsWith('/api/commands/save-step'))
  await page.getByLabel(label).fill(text)
  await answered
  await saved(page)
}

/** Presses the one next action and waits for the step that follows. */
export async function done(page: Page, title: string, next: RegExp): Promise<void> {
  await saved(page)
  const button = page.getByRole('button', { name: `${title}: done` })
  await expect(button).toBeEnabled()
  await button.click()
  await page.waitForURL(next)
  // The address changes first, what is on screen a moment later.
  const step = /\/([a-z]+)$/.exec(new URL(page.url()).pathname)?.[1] ?? ''
  await expect(page.locator('main[data-step]')).toHaveAttribute('data-step', step)
}

export async function gate(page: Page, name: string): Promise<void> {
  await page.getByRole('button', { name: new RegExp(`^${name}`) }).click()
  await expect(page.getByText(`${name}, confirmed today`).first()).toBeVisible()
}

export async function newUnit(page: Page, name: string, board?: string): Promise<number> {
  await page.goto('/units/new')
  await page.getByLabel('What you call it for now').fill(name)
  if (board) {
    const option = await page.getByLabel('Board').locator('option', { hasText: board }).getAttribute('value')
    await page.getByLabel('Board').selectOption(option)
  }
  await page.getByRole('button', { name: 'It has arrived' }).click()
  await page.waitForURL(/\/units\/\d+\/arrive/)
  return Number(/units\/(\d+)/.exec(page.url())?.[1])
}

/** The card at the right: the one question. */
export const card = (page: Page) => page.locator('[data-part="card"]')

/** Waits for a question and presses one of its answers. */
export async function answer(page: Page, ask: string | RegExp, label: string | RegExp): Promise<void> {
  await ready(page)
  await expect(card(page).getByRole('heading', { name: ask })).toBeVisible()
  await card(page).getByRole('button', { name: label }).first().click()
}

/** Goes on from a question with fields, as Enter does. */
export const goOn = (page: Page) => card(page).getByRole('button', { name: /^Next/ }).click()

/** Asks for something that was said, or not said yet, by its name on the card. */
export const askFor = (page: Page, name: string) =>
  card(page)
    .getByRole('button', { name: new RegExp(`^${name}`, 'i') })
    .click()

/** Opens the words of a sentence, changes what is there, and closes them. */
export async function inWords(page: Page, name: string, change: (inside: Locator) => Promise<unknown>): Promise<void> {
  await ready(page)
  await page.getByRole('button', { name: `${name}: change` }).click()
  await expect(page.getByRole('dialog', { name, exact: true })).toBeVisible()
  await change(page.getByRole('dialog', { name, exact: true }))
  await page.keyboard.press('Escape')
  await expect(page.getByRole('dialog')).toHaveCount(0)
}

/** Opens a line below the drawing, does something in its drawer, and closes it. */
export async function inDrawer(
  page: Page,
  name: string | RegExp,
  change: (inside: Locator) => Promise<unknown>,
): Promise<void> {
  await ready(page)
  await page
    .locator('[data-part="sheet"]')
    .getByRole('button', { name, exact: typeof name === 'string' })
    .click()
  await expect(page.getByRole('dialog')).toBeVisible()
  await change(page.getByRole('dialog'))
  await page.keyboard.press('Escape')
  await expect(page.getByRole('dialog')).toHaveCount(0)
}

/** Everything that Hub asks of a unit with a button, each with what was seen. */
export async function hubSeen(page: Page, load: string): Promise<void> {
  for (const [ask, saw, say] of [
    [/details in it/, 'its page says connected', 'They are in'],
    [/Does the hub show it/, 'its topic stands in the list', 'It shows it'],
    [/its name, its room/, 'named, with its number on the icon', 'It has'],
    [/from the hub/, load, 'Seen'],
    [/Press its button/, 'Mantel showed the press', 'Seen'],
  ] as const) {
    await expect(card(page).getByRole('heading', { name: ask })).toBeVisible()
    await page.getByLabel('What you saw', { exact: true }).fill(saw)
    await answer(page, ask, say)
  }
  await answer(page, /Fire every automation/, 'None uses it')
}

/** Everything that Hub asks, by what a stand-in hub did over the broker and the listener heard of it. */
export async function hubHeard(page: Page): Promise<void> {
  const seen = page.getByRole('textbox', { name: 'What you saw' })
  const heard = page.locator('[aria-label="Heard on the air"]')
  const use = (text: string | RegExp) =>
    heard.getByRole('listitem').filter({ hasText: text }).first().getByRole('button', { name: 'Use it' }).click()
  const standIn = 'A hub that stands in'
  await inDrawer(page, standIn, async (inside) => {
    await inside.getByRole('button', { name: /let it come on the air/ }).click()
    await expect(inside.getByText(/within seconds/)).toBeVisible()
    // The listener learns of a new unit within seconds: until then what it says is nobody's.
    await expect(async () => {
      await inside.getByRole('button', { name: /^Switch it on/ }).click()
      await inside.getByRole('button', { name: /^Switch it off/ }).click()
      await expect(heard).toContainText(/channel 1 went/, { timeout: 2000 })
    }).toPass({ timeout: 60_000 })
  })
  await use(/channel 1 went/)
  await answer(page, /details in it/, 'They are in')
  for (const [ask, say] of [
    [/Does the hub show it/, 'It shows it'],
    [/its name, its room/, 'It has'],
  ] as const) {
    await expect(card(page).getByRole('heading', { name: ask })).toBeVisible()
    await seen.fill('seen in its list')
    await answer(page, ask, say)
  }
  await expect(card(page).getByRole('heading', { name: /from the hub/ })).toBeVisible()
  await inDrawer(page, standIn, async (inside) => {
    for (const to of [/^Switch it on/, /^Switch it off/, /^Switch it on/])
      await inside.getByRole('button', { name: to }).click()
    await inside.getByRole('button', { name: 'What does it show?' }).click()
    await expect(inside.getByText(/shows channel 1: (on|off)/)).toBeVisible()
  })
  await expect(heard).toContainText(/set (on|off) from outside at .* channel 1 says so \d+ ms later/)
  await use('from outside')
  await expect(seen).toHaveValue(/^heard: set (on|off) from outside at .* ms later$/)
  await answer(page, /from the hub/, 'Seen')
  await inDrawer(page, standIn, (inside) => inside.getByRole('button', { name: 'Press its button' }).click())
  await expect(heard).toContainText(/press at 1/)
  await use('press at 1')
  await answer(page, /Press its button/, 'Seen')
  await answer(page, /Fire every automation/, 'None uses it')
  await expect(page.getByRole('img', { name: /both ways: stands/ })).toBeVisible()
}
