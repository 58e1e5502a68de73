import { card, expect, gate, newUnit, ready, saved, test } from './bench'
import { hands, plugIn } from './virtual-port'

/** A small chip, so that a whole read takes seconds. */
const chip = { family: 'LX6', flashBytes: 2 ** 18, flashId: '204012', strap: 'free', mac: '02:4c:59:10:20:44' }

/** Both gates in front of work at the pads. */
async function dead(page: Parameters<typeof hands>[0]): Promise<void> {
  await gate(page, 'Unplugged')
  await card(page).getByRole('textbox').first().fill('3')
  await card(page).getByRole('button', { name: /Measured before/ }).click()
}
/** Power off, BOOT held, power on. */
async function intoLoader(page: Parameters<typeof hands>[0]): Promise<void> {
  await hands(page, 'off')
  await hands(page, 'hold')
  await hands(page, 'on')
}

test('the stock firmware is read twice from the page, over a slip in the middle, and kept', async ({ page }) => {
  await plugIn(page, { ...chip, faults: [{ unplug: { after: 120_000 } }] })
  const n = await newUnit(page, 'Reads itself')
  await page.goto(`/units/${n}/backup`)
  await ready(page)
  await dead(page)
  await card(page).getByRole('button', { name: /Read it here, twice/ }).click()
  // It runs its program, and that is said; nothing is pressed when it answers at last.
  await expect(card(page).getByText(/It started its firmware/)).toBeVisible()
  await intoLoader(page)
  // The wire slips: nothing is lost, and the same port goes on once the unit answers again.
  await expect(card(page).getByText('The line was lost. Nothing else is.')).toBeVisible({ timeout: 60_000 })
  await card(page).getByRole('button', { name: /Choose the port and go on/ }).click()
  await expect(card(page).getByText('Read, and kept.')).toBeVisible({ timeout: 90_000 })
  await expect(page.getByText('equal', { exact: true })).toBeVisible()
  await expect(page.getByText(/204012, so it has 256 KiB/)).toBeVisible()
  await saved(page)
})

test('a stranger’s chip is not read: the record knows another one', async ({ page }) => {
  await plugIn(page, { ...chip, strap: 'held' })
  const n = await newUnit(page, 'Not this one', 'Pellworth P1 rev C')
  await page.goto(`/units/${n}/backup`)
  await ready(page)
  await dead(page)
  await card(page).getByRole('button', { name: /Read it here, twice/ }).click()
  await expect(card(page).getByText(/The record says LX106, the chip is LX6/)).toBeVisible()
  await expect(card(page).getByText(/Not read/)).toBeVisible()
})
