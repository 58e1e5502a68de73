import type { Page } from '@playwright/test'
import { card, expect, goOn, inDrawer, newUnit, press, ready, saved, test } from './bench'
import { unplugged } from './hands'

/** Cure, by whole journeys: unknown pins to a confirmed template, rules worked out and mended, a curtain put right. */

/** Goes to a control by Tab alone, as hands without a mouse do, and presses it. */
async function tabTo(page: Page, name: string, times = 1): Promise<void> {
  const wanted = card(page).getByRole('button', { name, exact: true })
  for (let i = 0; i < 60 && !(await wanted.evaluate((e) => e === document.activeElement)); i++)
    await page.keyboard.press('Tab')
  for (let i = 0; i < times; i++) await page.keyboard.press('Enter')
}

const relays = ['GPIO4', 'GPIO5', 'GPIO12', 'GPIO14']

test('an unknown board with four relays is searched by keys alone, and confirmed in a second sitting', async ({
  page,
}) => {
  const n = await newUnit(page, 'Four for the pit')
  await goOn(page)
  await page.goto(`/units/${n}/identify`)
  await inDrawer(page, 'Decide, with your reason', async (drawer) => {
    await drawer.getByRole('button', { name: 'Decide without more checks' }).click()
    await drawer.getByLabel('Family').selectOption('LX106')
    await drawer.getByLabel(/^Reason/).fill('its lid says so, and it answers as one')
  })
  await saved(page)
  await page.goto(`/units/${n}/pins`)
  await ready(page)
  await press(page, '2')
  await unplugged(page)
  await page
    .getByRole('textbox', { name: /current limit|Limit/i })
    .first()
    .fill('400')
  await page.keyboard.press('Enter')
  await expect(card(page).getByRole('button', { name: 'Find pins by trials' })).toBeVisible()
  await tabTo(page, 'Find pins by trials')
  await tabTo(page, 'Relays that click: one more', 4)
  await expect(card(page).getByText(/half of them at a time/)).toBeVisible()
  await press(page, 'b')
  for (const heading of [/Pulled up/, /Pulled down/, /Hold a button/]) {
    await expect(card(page).getByRole('heading', { name: heading })).toBeVisible()
    await press(page, 'Enter')
  }
  let before: string[] = []
  for (let i = 0; i < 90; i++) {
    const heading = (await card(page).getByRole('heading').first().textContent()) ?? ''
    if (!/ on$|is off$/.test(heading)) break
    const on: string[] = heading.match(/GPIO\d+/g) ?? []
    const heard = relays.some((r) => on.includes(r) !== before.includes(r))
    before = on
    await press(page, heard ? '1' : '2')
    await expect(page.getByRole('img', { name: new RegExp(`^${i + 1} trials\\.`) })).toBeVisible()
  }
  await expect(card(page).getByRole('heading', { name: 'This is what was found' })).toBeVisible()
  const found = card(page).getByRole('list', { name: 'Found' })
  for (const relay of relays) await expect(found.getByText(new RegExp(`${relay}\\s+a relay`))).toBeVisible()
  await press(page, 'Enter')
  await expect(card(page).getByRole('heading', { name: 'Set the trial functions back' })).toBeVisible()
  await press(page, '1')
  for (const relay of relays)
    await expect(page.getByRole('button', { name: new RegExp(`^${relay}: relay \\d, seen`) })).toBeVisible()
  await saved(page)
  // Its power was cycled: each is seen once more, and is confirmed.
  await page.getByRole('button', { name: /^Sitting: change/ }).click()
  await page.getByRole('button', { name: /Power was cycled/ }).click()
  await page.keyboard.press('Escape')
  for (const relay of relays) {
    await expect(card(page).getByRole('heading', { name: `${relay}: see a relay do its work` })).toBeVisible()
    await press(page, '1')
    await expect(page.getByRole('button', { name: new RegExp(`^${relay}: relay \\d, confirmed`) })).toBeVisible()
  }
  await saved(page)
})

test('a rule of the night plug that never turns it on is seen before it hangs, and mended', async ({ page }) => {
  await page.goto('/units/15/pins')
  await ready(page)
  await inDrawer(page, 'As text', async (inside) => {
    await inside.getByLabel('Bring in a pin template').fill(
      JSON.stringify({
        format: 'fresh-coat/pin-template',
        version: 1,
        board: 'Pellworth N1 night',
        family: 'CM3',
        pins: [
          { pin: 'PB15', fn: 'relay', ch: 1 },
          { pin: 'PB7', fn: 'button', ch: 1, pull: 'up' },
        ],
      }),
    )
    await inside.getByRole('button', { name: 'Use it for this board' }).click()
  })
  await saved(page)
  await page.goto('/units/15/behaviour')
  await ready(page)
  await press(page, 'v')
  const outcome = page.getByRole('table')
  await expect(outcome.getByText('channel 1 on').first()).toBeVisible()
  const change = async (from: RegExp, to: string) => {
    await inDrawer(page, /^Rules: \d/, async (inside) => {
      const rule = inside.getByRole('list', { name: 'Rules' }).getByRole('listitem').filter({ hasText: from }).first()
      await rule.getByRole('button', { name: /: does 1/ }).click()
      await page.getByRole('group', { name: 'It is to' }).getByText(to, { exact: true }).click()
      await page.keyboard.press('Escape')
    })
  }
  await change(/flip/, 'turn off')
  await expect(outcome.getByText('channel 1 on')).toHaveCount(0)
  await change(/turn off/, 'flip')
  await expect(outcome.getByText('channel 1 on').first()).toBeVisible()
  await saved(page)
})

test('a curtain that runs the wrong way: two questions name what is crossed, one press swaps it', async ({ page }) => {
  await page.goto('/units/24/behaviour')
  await ready(page)
  await inDrawer(page, 'Time the motor', async (inside) => {
    const ask = async (group: string, what: string) =>
      inside.getByRole('group', { name: group }).getByText(what, { exact: true }).click()
    await ask('The hub says open', 'it closes')
    await ask('The wall’s upper button is pressed', 'it closes')
    await expect(inside.getByText(/The outputs are crossed/)).toBeVisible()
    await inside.getByRole('link', { name: 'Pins' }).click()
  })
  await page.waitForURL(/pins$/)
  await ready(page)
  const reopen = page.getByRole('button', { name: /^Reopen/ })
  if (await reopen.isVisible()) await reopen.click()
  await inDrawer(page, /^Motors: 2/, async (inside) => {
    const first = inside.getByRole('region', { name: 'Motor 1' })
    await expect(first).toContainText(/channel 1 opens, channel 2 closes; never both at once/)
    await first.getByRole('button', { name: /swap open and close/ }).click()
    await expect(first).toContainText(/channel 2 opens, channel 1 closes; never both at once/)
    await first.getByRole('button', { name: /swap open and close/ }).click()
  })
  await saved(page)
})

test('another board’s pins are drawn beside this one’s, and one difference is taken', async ({ page }) => {
  await page.goto('/units/19/pins')
  await ready(page)
  await inDrawer(page, 'Another board’s pins', async (inside) => {
    await inside.getByRole('button', { name: /Harkle Duo/ }).click()
    const rows = inside.getByRole('list', { name: 'Where they differ' }).getByRole('listitem')
    const sensing = rows.filter({ hasText: /^.*GPIO14: mains sensing/ })
    await expect(sensing).toHaveCount(1)
    await sensing.getByRole('checkbox', { name: 'Add it' }).check()
    await inside.getByRole('button', { name: 'Take it' }).click()
    await expect(sensing).toHaveCount(0)
  })
  await expect(
    page.getByRole('button', { name: /^GPIO14: mains-sensing input|^GPIO14: .*assumed/ }).first(),
  ).toBeVisible()
  await press(page, 'u')
})

test('what a unit is told of the air stands in one paste, and its secret only when asked for', async ({ page }) => {
  await page.goto('/units/1/join')
  await ready(page)
  await inDrawer(page, /^Secrets/, async (inside) => {
    await inside.getByLabel('Secret', { exact: true }).fill('Wi-Fi password')
    await inside.getByLabel('Value').fill('paper moon 27')
    await inside.getByRole('button', { name: 'Keep', exact: true }).click()
    await expect(inside.getByText('Wi-Fi password').first()).toBeVisible()
  })
  await inDrawer(page, 'Connection sheet', async (inside) => {
    await inside.getByLabel('Password of the network').selectOption({ label: 'Wi-Fi password' })
    await expect(inside.getByText(/air Lantern Yard key •••/)).toBeVisible()
    await inside.getByRole('button', { name: 'Fill in its secrets here' }).click()
    await expect(inside.getByText(/air Lantern Yard key paper moon 27/)).toBeVisible()
    await inside.getByRole('button', { name: 'Cover them again' }).click()
    await expect(inside.getByText(/key •••/)).toBeVisible()
  })
})
