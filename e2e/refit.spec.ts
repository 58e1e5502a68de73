import type { Page } from '@playwright/test'
import { answer, askFor, card, expect, gate, goOn, newUnit, saved, test } from './bench'

/** Writes one reading down at the question that is asked now. */
async function reading(page: Page, ask: RegExp, ohms: string): Promise<void> {
  await expect(card(page).getByRole('heading', { name: ask })).toBeVisible()
  await card(page).getByRole('textbox').first().fill(ohms)
  await goOn(page)
}

test('a module that was put back is measured before power: a bridge stops it, mended it may be closed', async ({
  page,
}) => {
  const n = await newUnit(page, 'Module lamp', 'Pellworth P1 rev C')
  await askFor(page, 'Route')
  await answer(page, 'How does it get its firmware?', /module taken off/)
  await saved(page)
  await page.goto(`/units/${n}/wire`)
  await gate(page, 'Unplugged')
  await page.getByRole('textbox', { name: /^Measured/ }).fill('0.4')
  await page.getByRole('button', { name: /^Measured before the time/ }).click()
  // Off its board nothing holds enable and straps: they are tied before any lead.
  await expect(page.getByText('EN of the bare module floats.').first()).toBeVisible()
  await expect(page.getByRole('button', { name: 'Wire: done' })).toBeDisabled()
  await answer(page, 'EN to 3V3 through 10 kΩ', 'It is tied')
  await answer(page, 'GPIO15 to GND through 10 kΩ', 'It is tied')
  await expect(card(page).getByRole('heading', { name: /to pad GND, black/ })).toBeVisible()
  await saved(page)
  await page.goto(`/units/${n}/close`)

  await answer(page, 'Is the module soldered into its place?', 'It is in')
  await expect(
    page.getByText('The module was soldered back. It is measured before any power, then closed.'),
  ).toBeVisible()
  // Typed in the wrong unit: asked, and until then it counts as typed.
  await reading(page, /3V3 to GND: how many ohms/, '0.41')
  await answer(page, /0\.41 Ω, or is it 410 Ω/, /^\d*\s*410 Ω/)
  await reading(page, /1 \(3V3\) and 2 \(RX\)/, '12 000')
  await reading(page, /2 \(RX\) and 3 \(TX\)/, '0.7')
  await expect(page.getByText('These two are joined and should not be (2 and 3).').first()).toBeVisible()
  await expect(page.getByRole('img', { name: /2-3 bad/ })).toBeVisible()
  await answer(page, /3 \(TX\) and 4 \(GND\)/, 'Over range')
  await goOn(page)
  for (const contact of ['1 (3V3)', '2 (RX)', '3 (TX)', '4 (GND)'])
    await reading(page, new RegExp(contact.replace(/[()]/g, '\\$&')), '0.3')
  await expect(page.getByRole('button', { name: 'Close up: done' })).toBeDisabled()
  // Mended and measured again.
  await answer(page, /2 \(RX\) and 3 \(TX\)/, 'Over range')
  await goOn(page)
  await saved(page)
  await expect(page.getByRole('img', { name: /Contacts before power/ })).toHaveCount(0)
  await expect(page.getByText('These two are joined and should not be (2 and 3).')).toHaveCount(0)
})
