import type { Page } from '@playwright/test'
import { card, expect, gate, inDrawer, newUnit, press, ready, saved, test } from './bench'

/** Whatever is asked, taken and saved before: the card stands on one screen of a desk. */
async function fits(page: Page): Promise<void> {
  const { whole, seen } = await card(page).evaluate((c) => ({ whole: c.scrollHeight, seen: c.clientHeight }))
  expect(whole).toBeLessThanOrEqual(seen + 1)
}

/** Answers what the bench asks until it says that it is enough, by keys alone; gives back what was asked. */
async function calibrate(page: Page, unit: number, shows: number): Promise<string[]> {
  await page.goto(`/units/${unit}/meter`)
  await ready(page)
  const reopen = page.getByRole('button', { name: /^Reopen/ })
  if (await reopen.isVisible()) await reopen.click()
  if (await page.getByRole('button', { name: /^Closed and free of wires/ }).isVisible())
    await gate(page, 'Closed and free of wires')
  await ready(page)
  const seen: string[] = []
  for (let i = 0; i < 25; i++) {
    const heading = (await card(page).getByRole('heading', { level: 2 }).first().textContent()) ?? ''
    if (/^That is enough|Everything for this step/.test(heading)) break
    seen.push(heading)
    await fits(page)
    if (/Relay off/.test(heading)) {
      await card(page).getByLabel('It shows').focus()
      await page.keyboard.type('0.1')
    } else {
      const watts = Number(/about ([\d\s.,\u202f]+) W/.exec(heading)?.[1]?.replace(/[^\d.]/g, '') ?? 300 + 50 * i)
      await card(page).getByLabel('The unit shows').focus()
      await page.keyboard.type((watts * shows).toFixed(1))
      await page.keyboard.press('Tab')
      await page.keyboard.type(watts.toFixed(1))
    }
    const asked =
      (await card(page)
        .getByText(/^(Point|reading) \d/)
        .first()
        .textContent()) ?? ''
    await page.keyboard.press('Enter')
    await expect(card(page).getByText(asked, { exact: true })).toHaveCount(0)
  }
  return seen
}

test('a plug is calibrated by keys alone, in the order that is asked', async ({ page }) => {
  const seen = await calibrate(page, 7, 0.96)
  expect(seen.filter((h) => /Relay off/.test(h)).length).toBeGreaterThanOrEqual(5)
  expect(seen.some((h) => /first load again/.test(h))).toBe(true)
  await expect(page.getByText(/1\.04167/).first()).toBeVisible()
  await inDrawer(page, 'What to tell the unit', async (inside) => {
    await expect(inside.getByRole('region', { name: 'It multiplies' })).toContainText('1.0416')
    await inside.getByLabel('The factor that stands in it now').fill('250')
    await expect(inside.getByRole('region', { name: 'It multiplies' })).toContainText('260.4')
    await expect(inside.getByRole('region', { name: 'It divides' })).toContainText('240')
  })
  await page.getByRole('button', { name: 'Save this calibration' }).first().click()
  await saved(page)
  await fits(page)
  // What was counted before it is rescaled by it; what comes after stays.
  await inDrawer(page, 'Energy and stand-by', async (inside) => {
    await inside.getByLabel(/^Its counter/).fill('2026-01-01 0\n2026-02-01 100')
    await inside.getByLabel(/^A kWh costs/).fill('0.3')
    await expect(inside.getByText('104.17 kWh')).toBeVisible()
    await expect(inside.getByText(/it counted 100 kWh; its calibrations make it 4\.17 % more/)).toBeVisible()
  })
})

test('a plug is calibrated again half a year later: its points begin anew, and what it counted is rescaled by each', async ({
  page,
}) => {
  await page.goto('/units/3/meter')
  await ready(page)
  await page.getByRole('button', { name: /^Reopen/ }).click()
  await gate(page, 'Closed and free of wires')
  // The demo calibrated it half a year before today; which day that is stands on the card.
  const stay = card(page).getByText(/^The points of .* stay with the calibration/)
  const told = /^The points of (\d+ \w+ \d{4}) stay/.exec((await stay.textContent()) ?? '')?.[1] ?? ''
  const from = Date.parse(`${told} UTC`)
  expect(from).toBeGreaterThan(0)
  const day = (later: number) => new Date(from + later * 86_400_000).toISOString().slice(0, 10)
  await expect(page.getByRole('button', { name: 'Save this calibration' })).toHaveCount(0)
  await card(page).getByRole('button', { name: 'Calibrate it again' }).click()
  await saved(page)
  // It was told 1.04346 then; now it shows 2 % too little.
  const seen = await calibrate(page, 3, 0.98)
  expect(seen.length).toBeGreaterThan(5)
  await expect(card(page).getByText(/^1\.020/)).toBeVisible()
  await page.getByRole('button', { name: 'Save this calibration' }).first().click()
  await saved(page)
  await expect(stay).toBeVisible()
  await inDrawer(page, 'Energy and stand-by', async (inside) => {
    await inside
      .getByLabel(/^Its counter/)
      .fill([`${day(-23)} 0`, `${day(-1)} 100`, `${day(1)} 100`, `${day(180)} 200`].join('\n'))
    // Each calibration holds back to the one before it: 100 kWh times 1.04346, then 100 times 1.0204.
    await expect(inside.getByText(/206\.[34]\d kWh/)).toBeVisible()
    await expect(inside.getByRole('img', { name: /over 3 stretches/ })).toBeVisible()
  })
  await saved(page)
})

test('raw values of a stock unit are told apart with three snapshots, and not believed with two', async ({ page }) => {
  const n = await newUnit(page, 'Raw plug')
  await page.goto(`/units/${n}/meter`)
  await ready(page)
  await inDrawer(page, 'Which raw value is which', async (inside) => {
    const take = async (kind: string, is: 'on' | 'off', raw: string, watts?: string) => {
      await inside.getByLabel('With it').selectOption({ label: kind })
      await inside.getByRole('group', { name: 'Its switch is' }).getByText(is, { exact: true }).click()
      if (watts) await inside.getByLabel('Its watts, where they are printed').fill(watts)
      await inside.getByLabel(/^All raw values/).fill(raw)
      await inside.getByRole('button', { name: /^Take down/ }).click()
    }
    await take('nothing plugged in', 'off', '1: false\n2: 0\n4: 0\n5: 0\n6: 2314\n7: 118')
    await take('a small charger', 'on', '1: true\n2: 0\n4: 98\n5: 101\n6: 2309\n7: 118')
    await expect(inside.getByText('Do not believe this yet: several answers fit as well.')).toBeVisible()
    await take('a heater or a lamp with a filament', 'on', '{"1":true,"2":0,"4":512,"5":1179,"6":2303,"7":119}', '120')
    await expect(inside.getByText(/Volts are 6, amperes 4, watts 5\./)).toBeVisible()
    await inside.getByRole('button', { name: 'Why' }).click()
    await expect(inside.getByText(/power factor 1\.000/)).toBeVisible()
  })
  await saved(page)
  await press(page, 'u')
})

test('practice: a virtual plug warms up, is read in one moment with the reference, and is held against what it hides', async ({
  page,
}) => {
  await page.goto('/practice')
  const room = page.getByRole('region', { name: 'Calibrate a plug' })
  const lamp = room.getByRole('button', { name: /^Work lamp/ })
  await lamp.click()
  await expect(lamp).toHaveAttribute('aria-pressed', 'true')
  await expect(room.getByText('still moving')).toBeVisible()
  await expect(room.getByText('steady', { exact: true })).toBeVisible({ timeout: 60_000 })
  await room.getByRole('button', { name: 'Take both now' }).click()
  await room.getByRole('button', { name: 'This is it' }).click()
  await expect(room.getByText(/every point was steady/)).toBeVisible()
  await expect(room.getByText(/none was kept to verify/)).toBeVisible()
  await expect(room.getByText(/0 zeros of five/)).toBeVisible()
})
