import type { Page } from '@playwright/test'
import { gate } from './bench'

/** Out of the mains, and measured before the clock was over. */
export async function unplugged(page: Page): Promise<void> {
  await gate(page, 'Unplugged')
  await page.getByRole('textbox', { name: /^Measured/ }).fill('0.4')
  await page.getByRole('button', { name: /^Measured before the time/ }).click()
}
