import type { Page } from '@playwright/test'
import { card, expect, inDrawer, press, ready, saved, test } from './bench'
import { plugIn } from './virtual-port'

/** What a person would see of a module with a relay and a light that is lit at low, whatever is driven. */
function module_(click: string, light: string) {
  let before: string[] = []
  return (on: string[]): { click: boolean; light: boolean } => {
    const heard = on.includes(click) !== before.includes(click)
    before = on
    return { click: heard, light: !on.includes(light) }
  }
}

/** The pins that the card says are on. */
async function driven(page: Page): Promise<string[] | null> {
  const heading = (await card(page).getByRole('heading').first().textContent()) ?? ''
  if (heading === 'Everything is off') return []
  return heading.endsWith(' on') ? (heading.match(/GPIO\d+/g) ?? []) : null
}

test('pins are driven over the console of the firmware, and what was switched is what the trial says', async ({
  page,
}) => {
  await plugIn(page, { family: 'LX106', flashBytes: 2 ** 20, flashId: '684014', strap: 'free' })
  await page.goto('/units/10/pins')
  await ready(page)
  const reopen = page.getByRole('button', { name: /^Reopen/ })
  if (await reopen.isVisible()) await reopen.click()
  await card(page).getByRole('button', { name: 'Find pins by trials' }).click()
  await card(page).getByRole('button', { name: 'Lights, on or off: one more' }).click()
  await press(page, 'b')
  await card(page).getByRole('button', { name: 'It shows no levels' }).click()
  await inDrawer(page, 'Drive pins over the line', (inside) =>
    inside.getByRole('button', { name: 'Open the line' }).click(),
  )
  for (const saw of ['2', '2', '2']) {
    await card(page)
      .getByRole('button', { name: /over the line/ })
      .click()
    await expect(card(page).getByText('It says that it did. Look and listen.')).toBeVisible()
    await press(page, saw)
  }
})

test('unknown pins are found by trials, by keys alone, over a reload, and what was driven is set back', async ({
  page,
}) => {
  await page.goto('/units/19/pins')
  await ready(page)
  await press(page, '2')
  await expect(card(page).getByRole('textbox')).toBeVisible()
  // The bench supply feeds the unit’s own rail: 3.3 V comes from one place only.
  await expect(page.getByRole('heading', { name: /voltage of the unit’s own rail/ })).toBeVisible()
  await card(page).getByRole('textbox').first().fill('150')
  await card(page)
    .getByRole('button', { name: /Limit set/ })
    .click()
  await card(page).getByRole('button', { name: 'Find pins by trials' }).click()
  await card(page).getByRole('button', { name: 'Relays that click: one more' }).click()
  await card(page).getByRole('button', { name: 'Lights, on or off: one more' }).click()
  await expect(card(page).getByText(/pins to try, each pin’s yes and no spell its number/)).toBeVisible()
  await press(page, 'b')
  // Levels and buttons first: nothing is driven before it is known what moves by itself and what a hand may short.
  await expect(card(page).getByRole('heading', { name: 'Pulled up: which read low?' })).toBeVisible()
  await press(page, 'Enter')
  await expect(card(page).getByRole('heading', { name: 'Pulled down: which read high?' })).toBeVisible()
  await press(page, 'Enter')
  await expect(card(page).getByRole('heading', { name: /Hold a button/ })).toBeVisible()
  const places = await card(page).getByRole('listitem').allTextContents()
  const at = places.findIndex((t) => t.includes('GPIO14'))
  await press(page, String((at + 1) % 10))
  await press(page, 'Enter')
  await expect(card(page).getByText('GPIO14, low while held')).toBeVisible()
  await press(page, 'Enter')
  const look = module_('GPIO12', 'GPIO13')
  for (let i = 0; i < 30; i++) {
    const on = await driven(page)
    if (on === null) break
    const { click, light } = look(on)
    const roll = page.getByRole('img', { name: new RegExp(`^${i} trials\\.`) })
    await expect(roll).toBeVisible()
    await press(page, click && light ? '3' : click ? '1' : light ? '2' : '4')
    await expect(page.getByRole('img', { name: new RegExp(`^${i + 1} trials\\.`) })).toBeVisible()
    // It goes on where it was.
    if (i === 2) {
      await saved(page)
      await page.reload()
      await ready(page)
    }
  }
  await expect(card(page).getByRole('heading', { name: 'This is what was found' })).toBeVisible()
  const found = card(page).getByRole('list', { name: 'Found' })
  await expect(found.getByText(/GPIO12\s+a relay/)).toBeVisible()
  await expect(found.getByText(/GPIO14\s+a button, on at low/)).toBeVisible()
  await expect(found.getByText(/GPIO13\s+a light, on at low/)).toBeVisible()
  await press(page, 'Enter')
  await expect(card(page).getByRole('heading', { name: 'Set the trial functions back' })).toBeVisible()
  await expect(page.getByRole('button', { name: /^Done when: Set all of them back/ })).toBeVisible()
  await press(page, '1')
  await expect(page.getByRole('button', { name: /^GPIO12: relay 2, seen/ })).toBeVisible()
  await saved(page)
})

test('a unit’s rules are worked out over time, a nasty case is tried, a rule is changed, an unsafe load is said', async ({
  page,
}) => {
  await page.goto('/units/12/behaviour')
  await ready(page)
  const line = page.getByRole('group', { name: /Inputs over time/ })
  await expect(line).toBeVisible()
  await page.getByRole('button', { name: 'held for a minute' }).click()
  const edge = line.getByRole('slider', { name: /button on at 3 s/ }).first()
  await edge.focus()
  await page.keyboard.press('ArrowRight')
  await expect(line.getByRole('slider', { name: /button on at 3.1 s/ }).first()).toBeVisible()
  await page.keyboard.press('Delete')
  await expect(line.getByRole('slider', { name: /button on at/ })).toHaveCount(0)
  await inDrawer(page, /^Rules: \d/, async (inside) => {
    const rules = inside.getByRole('list', { name: 'Rules' }).getByRole('listitem')
    const before = await rules.count()
    await inside.getByRole('button', { name: 'Add a rule' }).click()
    await expect(rules).toHaveCount(before + 1)
    await expect(rules.last()).toContainText('is held')
  })
  await inDrawer(page, 'When the unit does not work for it', async (inside) => {
    await inside.getByLabel(/On channel 1 hangs/).selectOption('pump')
    await expect(inside.getByText('Program stands still', { exact: true })).toBeVisible()
    await expect(inside.getByText(/nothing in the unit ends it/).first()).toBeVisible()
  })
  await saved(page)
})
