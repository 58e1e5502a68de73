import type { Page } from '@playwright/test'
import { card, expect, newUnit, press, ready, saved, test } from './bench'

const printed = [
  'starting',
  'crystal is 26 MHz',
  'MAC address B8-3C-D0-77-1E-9A',
  'flash id 68 4014, 1MB',
  '921600 baud failed',
  'now 230400 baud',
  'wrote 438304 bytes at 0x0 in 21.4 s',
  'hash verified',
].join('\n')

/** Pastes beside any field, as Ctrl+V does. */
async function paste(page: Page, text: string): Promise<void> {
  await ready(page)
  await expect(page.locator('html')).toHaveAttribute('data-keys', 'heard')
  await page.evaluate((words) => {
    const clipboardData = new DataTransfer()
    clipboardData.setData('text/plain', words)
    document.body.dispatchEvent(new ClipboardEvent('paste', { clipboardData, bubbles: true, cancelable: true }))
  }, text)
}

test('a tool’s words, pasted at any step, fill Identify, Back up and Join, and undo takes it all back', async ({
  page,
}) => {
  const n = await newUnit(page, 'Pasted plug')
  await paste(page, printed)
  const drawer = page.getByRole('dialog', { name: 'A tool’s words' })
  await expect(drawer.getByRole('list', { name: 'Lines that say something' })).toContainText(
    'MAC address B8-3C-D0-77-1E-9A',
  )
  await expect(drawer.getByText('Identify lacks it')).toBeVisible()
  // Until it is kept, it outlives a reload.
  await page.reload()
  await ready(page)
  await press(page, 'w')
  await drawer.getByRole('textbox', { name: 'The tool, as you call it' }).fill('the old one')
  await drawer.getByRole('button', { name: 'Keep it, and take 3 facts' }).click()
  await expect(drawer).toHaveCount(0)
  await page.goto(`/units/${n}/identify`)
  await expect(card(page).getByRole('button', { name: /Crystal: 26 MHz|Crystal\s*26 MHz/ })).toBeVisible()
  await page.goto(`/units/${n}/backup`)
  await expect(page.getByText('68 40 14').first()).toBeVisible()
  await page.goto(`/units/${n}/join`)
  await expect(page.getByText('b8:3c:d0:77:1e:9a').first()).toBeVisible()
  await press(page, 'u')
  await expect(page.getByText('b8:3c:d0:77:1e:9a')).toHaveCount(0)
})

test('the row of an attempt fills itself from the tool’s words', async ({ page }) => {
  await page.goto('/units/20/write')
  await paste(page, printed)
  const drawer = page.getByRole('dialog', { name: 'A tool’s words' })
  await drawer.getByRole('textbox', { name: 'The tool, as you call it' }).fill('the old one')
  await drawer.getByRole('textbox', { name: 'It ran on' }).fill('the bench laptop')
  await drawer.getByRole('button', { name: /^Keep it/ }).click()
  await expect(card(page).getByRole('heading', { name: 'Done. What is worth keeping?' })).toBeVisible()
  await expect(page.getByLabel('Writing took')).toHaveValue('21.4')
  await expect(page.getByLabel('The message as it was printed')).toHaveValue('hash verified')
  await page.getByLabel('Minutes at the bench').fill('4')
  await page.getByRole('button', { name: 'Log this attempt' }).click()
  await expect(page.getByText('equal by digest').first()).toBeVisible()
  await saved(page)
  await page.getByRole('button', { name: 'What worked on this board' }).click()
  await expect(page.getByRole('dialog').getByText('the old one, on the bench laptop')).toBeVisible()
})
