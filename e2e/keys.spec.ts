import type { Page } from '@playwright/test'
import { boardPhoto } from '../demo/pictures'
import { card, expect, fileOf, goOn, newUnit, ready, saved, test } from './bench'

const photo = fileOf('keys.png', boardPhoto(5, 1))

/** A person without a pointing device: every key that is pressed is counted, those of typed words apart. */
function handsOn(page: Page) {
  const counts = { keys: 0, tabs: 0, letters: 0 }
  const key = async (name: string) => {
    counts.keys += 1
    if (name === 'Tab' || name === 'Shift+Tab') counts.tabs += 1
    await expect(page.locator('html')).toHaveAttribute('data-keys', 'heard')
    await page.keyboard.press(name)
  }
  const type = async (text: string) => {
    counts.letters += text.length
    await page.keyboard.type(text)
  }
  /** Answers the question on the card by the digit that stands beside the answer. */
  const answer = async (ask: RegExp, label: RegExp) => {
    await ready(page)
    await expect(card(page).getByRole('heading', { name: ask })).toBeVisible()
    const digit = await card(page).getByRole('button', { name: label }).first().getAttribute('data-key')
    await key(String(digit))
    await expect(card(page).getByRole('heading', { name: ask })).toHaveCount(0)
  }
  /** The one button of the step, by its key. */
  const done = async (next: string) => {
    await saved(page)
    await expect(page.getByRole('button', { name: /: done/ })).toBeEnabled()
    await key('Space')
    await expect(page.locator('main[data-step]')).toHaveAttribute('data-step', next)
    await ready(page)
  }
  return { counts, key, type, answer, done }
}

test('a unit goes from its box to its wires by keys alone, with a key or two for each answer', async ({ page }) => {
  const { counts, key, type, answer, done } = handsOn(page)
  await page.goto('/')
  await key('n')
  await page.waitForURL('/units/new')
  await expect(page.getByLabel('What you call it for now')).toBeFocused()
  await type('Keys only plug')
  await key('Tab')
  for (let i = 0; i < 6 && !(await page.getByLabel('Board').evaluate((e) => e === document.activeElement)); i++)
    await key('Tab')
  await type('Pellworth P1 rev C')
  await key('Tab')
  await type('workshop')
  await key('Enter')
  await page.waitForURL(/\/units\/\d+\/arrive/)
  await answer(/does it work/, /It works/)
  await answer(/What will it work/, /A lamp/)
  await done('open')
  await expect(page.getByRole('heading', { name: /Unplugged from the mains/ })).toBeVisible()
  await key('g')
  await expect(page.getByRole('timer')).toBeVisible()
  await key('n')
  await type('0.4')
  await key('Enter')

  await expect(card(page).getByRole('heading', { name: 'A photo: board top' })).toBeVisible()
  const chooser = page.waitForEvent('filechooser')
  await key('n')
  await (await chooser).setFiles(photo)
  await expect(card(page).getByRole('img', { name: 'board top' }).first()).toBeVisible()
  await key('Enter')
  await answer(/Out next: 2 screws/, /It is out/)
  await answer(/Out next: 1 screw/, /It is out/)
  await done('identify')
  await done('pads')
  await done('wire')
  await answer(/GND to pad GND/, /All 4 are on/)
  await done('backup')

  // Two Tabs in all, to the board and the place of the new unit; and less than two keys for each thing said.
  expect(counts).toEqual({ keys: 19, tabs: 2, letters: 43 })
})

test('a unit of a board nobody named: the longest question of the first step stands on one screen', async ({
  page,
}) => {
  await newUnit(page, 'Unnamed lamp')
  await goOn(page)
  await expect(card(page).getByRole('heading', { name: 'How does it get its firmware?' })).toBeVisible()
  await expect(
    card(page)
      .getByText(/the last \d+: \d+ min, [\d.]+ €; [\d.]+ € with the work/)
      .first(),
  ).toBeVisible()
  const over = await card(page).evaluate((e) => e.scrollHeight - e.clientHeight)
  expect(over).toBeLessThanOrEqual(1)
})
