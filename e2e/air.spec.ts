import { expect, inDrawer, putIn, ready, test } from './bench'

/** On the air: the demo's stand-in broker and units, heard by the listener, seen by the page as they speak. */

const row = (page: import('@playwright/test').Page, name: string) =>
  page.getByRole('list', { name: 'Units on the air' }).getByRole('listitem').filter({ hasText: name })

test('who is on the air is drawn, live, with who speaks and is in no plan', async ({ page }) => {
  await page.goto('/network')
  await expect(page.getByText(/listening to stand-in at 127\.0\.0\.1/)).toBeVisible()
  await expect(row(page, 'Ticket desk plug')).toBeVisible()
  await expect(page.getByText('yard/lantern/plug-4f21')).toBeVisible()
  const put = page.getByRole('listitem').filter({ hasText: 'yard/lantern/plug-90c7' })
  await put.getByRole('button', { name: 'Put away' }).click()
  await expect(put).toHaveCount(0)
})

test('a unit is switched by a press, says so itself, and another page sees it at once', async ({ page, context }) => {
  const other = await context.newPage()
  await other.goto('/network')
  const seen = row(other, 'Ticket desk plug')
  await expect(seen).toBeVisible()
  await page.goto('/units/1/watch')
  await ready(page)
  await inDrawer(page, 'On the air', async (inside) => {
    const now = async () => ((await inside.getByText(/^Channel 1:/).textContent()) ?? '').endsWith('on')
    await expect(inside.getByText(/^Channel 1:/)).toBeVisible()
    const was = await now()
    await inside.getByRole('button', { name: was ? 'Switch off' : 'Switch on' }).click()
    await expect(inside.getByRole('list', { name: 'Asked of it' }).getByRole('listitem').first()).toHaveText(
      /state \d+ ms later/,
    )
    await expect.poll(now).toBe(!was)
    await other.bringToFront()
    await expect(seen.getByText(was ? 'off' : 'on', { exact: true })).toBeVisible()
  })
})

test('what can hurt asks first, and nothing is sent until somebody is sure', async ({ page }) => {
  await page.goto('/units/2/watch')
  await ready(page)
  await inDrawer(page, 'On the air', async (inside) => {
    await inside.getByRole('button', { name: 'Switch on' }).click()
    const sure = inside.getByRole('alertdialog')
    await expect(sure).toContainText(/A heater comes on/)
    await expect(inside.getByRole('list', { name: 'Asked of it' })).toHaveCount(0)
    await sure.getByRole('button', { name: 'Leave it' }).click()
    await expect(sure).toHaveCount(0)
    await inside.getByRole('button', { name: 'Switch on' }).click()
    await sure.getByRole('button', { name: /^Somebody looks/ }).click()
    await expect(inside.getByRole('list', { name: 'Asked of it' })).toHaveText(/state \d+ ms later/)
  })
})

test('what the listener hears while a hub is tested is offered as what was seen', async ({ page, context }) => {
  await page.goto('/units/24/hub')
  await ready(page)
  const hub = page.getByRole('button', { name: /Mantel/ }).first()
  if (await hub.isVisible()) await hub.click()
  // Somebody switches it elsewhere: here, from its own page on the air.
  const elsewhere = await context.newPage()
  await elsewhere.goto('/units/24/watch')
  await ready(elsewhere)
  await inDrawer(elsewhere, 'On the air', async (inside) => {
    const first = inside.getByText(/^Channel 1:/)
    const on = ((await first.textContent()) ?? '').endsWith('on')
    await inside
      .getByRole('button', { name: on ? 'Switch off' : 'Switch on' })
      .first()
      .click()
    const sure = inside.getByRole('button', { name: /^Somebody looks/ })
    if (await sure.isVisible()) await sure.click()
    await expect(inside.getByRole('list', { name: 'Asked of it' })).toHaveText(/state \d+ ms later/)
  })
  await page.bringToFront()
  const heard = page.getByRole('list', { name: 'Heard on the air' })
  await expect(heard).toContainText(/channel 1 went/)
  await heard.getByRole('button', { name: 'Use it' }).first().click()
  await expect(page.getByRole('textbox', { name: 'What you saw' })).toHaveValue(/heard at .* channel 1 went/)
})

test('a ring is taken to another day by keys, and a unit that rests on another goes after it', async ({ page }) => {
  await page.goto('/network/updates')
  const calendar = page.getByRole('region', { name: 'Calendar of rings' })
  const ring = calendar.getByRole('button', { name: /^The rest: / })
  await expect(ring).toBeVisible()
  // It may be drawn anew while it is asked.
  const dayOf = () => ring.evaluate((e) => Number((e.closest('[data-day]') as HTMLElement | null)?.dataset.day ?? 0))
  const before = await dayOf()
  await ring.focus()
  await page.keyboard.press('Space')
  await expect(ring).toHaveAttribute('aria-pressed', 'true')
  await page.keyboard.press('ArrowDown')
  await expect(ring).toHaveAttribute('style', /translate\(0px, [1-9]/)
  // Which day it is over is known a moment after it moved, and read out.
  const day = new Date(before + 7 * 86_400_000)
  await expect(calendar.getByRole('status')).toHaveText(
    new RegExp(
      `^The rest is over \\w+,? ${day.getUTCDate()} ${day.toLocaleString('en-GB', { month: 'long', timeZone: 'UTC' })}`,
    ),
  )
  await page.keyboard.press('Space')
  await expect.poll(dayOf).toBe(before + 7 * 86_400_000)
  await page.getByText('Units that are special').click()
  await page.getByLabel('Number of a unit').fill('4')
  await page.getByRole('button', { name: 'It is special' }).click()
  const after = page.getByLabel('Only after').last()
  await after.fill('99')
  await expect(page.getByText('Not in this update: 99')).toBeVisible()
  await after.fill('6')
  await page.getByRole('button', { name: 'Plan it' }).click()
  // 04 waits for 06 now: it goes to the ring of 06, and behind it.
  await expect(page.getByRole('img', { name: /The rest.*06.*04/ })).toBeVisible()
})

test('an update goes ring by ring; a canary that failed stops its ring and holds the others', async ({ page }) => {
  await page.goto('/network/updates')
  await expect(page.getByRole('heading', { name: /Plainsong to 9\.5\.0/ })).toBeVisible()
  const units = page.getByRole('list', { name: 'Units of the update' })
  await units.getByRole('button', { name: /05 Foyer lamp switch/ }).click()
  await expect(page.getByText(/The ring Trial comes first/)).toBeVisible()
  await units.getByRole('button', { name: /01 Ticket desk plug/ }).click()
  await page.getByRole('button', { name: 'Its update begins now' }).click()
  await expect(page.getByText(/begun; it has 5 min to come back/)).toBeVisible()
  await page.getByLabel('What you saw').fill('its relay clicks by itself')
  await page.getByRole('button', { name: 'It failed' }).click()
  await expect(page.getByText(/failed: its relay clicks by itself/)).toBeVisible()
  await expect(page.getByRole('img', { name: /Trial stopped: 01 failed; First ring held/ })).toBeVisible()
  await units.getByRole('button', { name: /05 Foyer lamp switch/ }).click()
  await expect(page.getByText('A ring before it has stopped.')).toBeVisible()
  await expect(page.getByRole('button', { name: 'Its update begins now' })).toBeDisabled()
})

test('everything leaves in one file, and the same file brought in once more changes nothing', async ({ page }) => {
  await page.goto('/kit')
  await page.getByText('Everything in one file').click()
  const saved = page.waitForEvent('download')
  await page.getByRole('button', { name: 'Save it as a file' }).click()
  const path = await (await saved).path()
  await putIn(page.getByLabel('The file'), path)
  await page.getByRole('button', { name: 'Bring it in' }).click()
  await expect(page.getByText('It was all here already: nothing changed.')).toBeVisible()
})
