import { answer, card, expect, inDrawer, newUnit, press, ready, saved, test } from './bench'

test('presses of a unit’s button are counted along, and the right count is told from one too many', async ({
  page,
}) => {
  await page.goto('/units/7/join')
  await ready(page)
  await inDrawer(page, 'Its first join', async (inside) => {
    const along = inside.getByRole('region', { name: 'By its button' })
    const key = along.getByRole('button').first()
    await key.focus()
    for (let i = 0; i < 4; i++) await page.keyboard.press('Space')
    await expect(along.getByText('That is enough: no more.')).toBeVisible()
    await expect(along.getByText(/Counted right\. Its light flickers/)).toBeVisible()
    for (let i = 0; i < 5; i++) await page.keyboard.press('Space')
    await expect(along.getByText(/5 presses: one too many/)).toBeVisible()
    await expect(along.getByText(/Touch nothing for \d+ s/)).toBeVisible()
  })
})

test('a list that nobody can read by itself is read once its columns are pressed, and the unit found in it', async ({
  page,
}) => {
  const n = await newUnit(page, 'Column lamp')
  await page.goto(`/units/${n}/join`)
  await ready(page)
  await card(page).getByLabel('MAC of its access point').fill('ba:3c:d0:77:2f:9a')
  await card(page).getByLabel('End of its access point’s name').fill('2F9A')
  await card(page).getByRole('button', { name: /^Next/ }).click()
  const rows = ['Wer|Kennung|Wo', 'Lampe|b83cd0772f9a!|192.168.71.201', 'Kasse|782e410b5d12!|192.168.71.131']
  await card(page).getByLabel('List after it joined', { exact: true }).fill(rows.join('\n'))
  await inDrawer(page, 'Which column is what', async (inside) => {
    await inside.getByRole('button', { name: 'Column 2: nothing' }).click()
    await inside.getByRole('button', { name: 'Column 3: nothing' }).click()
    await inside.getByRole('button', { name: 'Column 3: MAC' }).click()
    // The press that made the third the MAC took it from the second.
    await inside.getByRole('button', { name: 'Column 2: nothing' }).click()
    await expect(inside.getByRole('button', { name: 'Column 2: MAC' })).toBeVisible()
    await expect(inside.getByRole('button', { name: 'Column 3: address' })).toBeVisible()
  })
  await card(page).getByRole('button', { name: /^Next/ }).click()
  await answer(page, 'Is it 192.168.71.201?', 'It is this one')
  await expect(page.getByText('b8:3c:d0:77:2f:9a').first()).toBeVisible()
  await saved(page)
})

test('a drill that went otherwise stands with the behaviour until it goes as predicted', async ({ page }) => {
  await page.goto('/units/24/prove')
  await ready(page)
  const drawer = /^What else may go away/
  await inDrawer(page, drawer, async (inside) => {
    const wifi = inside.getByRole('region', { name: 'The Wi-Fi off for 10 minutes' })
    await expect(wifi.getByText(/button still works/).first()).toBeVisible()
    const sure = wifi.getByLabel(/Its load is off or unplugged/)
    if (await sure.isVisible()) await sure.check()
    await wifi.getByLabel('What went otherwise').fill('channel 2 went dark')
    await wifi.getByRole('button', { name: 'It did otherwise' }).click()
    await expect(wifi.getByText(/otherwise.*channel 2 went dark/)).toBeVisible()
  })
  await saved(page)
  await expect(page.getByText(/it did otherwise than its rules say\. channel 2 went dark/)).toBeVisible()
  await inDrawer(page, drawer, async (inside) => {
    const wifi = inside.getByRole('region', { name: 'The Wi-Fi off for 10 minutes' })
    const sure = wifi.getByLabel(/Its load is off or unplugged/)
    if (await sure.isVisible()) await sure.check()
    await wifi.getByRole('button', { name: 'As predicted' }).click()
    await expect(wifi.getByText('as predicted', { exact: true })).toBeVisible()
  })
  await expect(page.getByText(/it did otherwise than its rules say/)).toHaveCount(0)
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
  await page.keyboard.press('Space')
  await expect.poll(dayOf).toBe(before + 7 * 86_400_000)
  await page.getByText('Units that are special').click()
  const after = page.getByLabel('Only after').nth(3)
  await after.fill('99')
  await expect(page.getByText('Not in this update: 99')).toBeVisible()
  await after.fill('6')
  await page.getByRole('button', { name: 'Plan it' }).click()
  // 04 waits for 06 now: it goes to the ring of 06, and behind it.
  await expect(page.getByRole('img', { name: /The rest.*06.*04/ })).toBeVisible()
})

test('a unit that died waits for nobody, is found among those given up, and may be taken up again', async ({
  page,
}) => {
  const n = await newUnit(page, 'Broken lamp')
  await press(page, 'k')
  await page.getByText('This unit goes no further').click()
  await expect(page.getByRole('button', { name: 'Give it up' })).toBeDisabled()
  await page.getByLabel('What it died of').fill('a pad came off with the wire')
  await page.getByRole('button', { name: 'Give it up' }).click()
  await page.keyboard.press('Escape')
  const given = page.getByRole('region', { name: 'Given up' })
  await expect(given.getByRole('heading', { name: /a pad came off with the wire/ })).toBeVisible()
  await page.goto('/units?coat=ended')
  await expect(page.getByRole('link', { name: /Broken lamp/ })).toContainText('given up')
  await page.goto('/')
  await expect(page.getByRole('link', { name: /Broken lamp/ })).toHaveCount(0)
  await page.goto(`/units/${n}`)
  await given.getByRole('button', { name: 'Take it up again' }).click()
  await expect(given).toHaveCount(0)
})

test('everything due stands on its day, and leaves as a calendar', async ({ page }) => {
  await page.goto('/')
  await page.getByRole('link', { name: 'Everything due, by its day' }).click()
  await expect(page.getByRole('region', { name: 'Over' }).getByRole('link', { name: /04 Heater plug/ })).toBeVisible()
  await expect(page.getByRole('table', { name: 'Six weeks' })).toBeVisible()
  const file = page.waitForEvent('download')
  await page.getByRole('link', { name: 'Into a calendar' }).click()
  const text = await (await file).createReadStream().then(async (s) => {
    const pieces: Buffer[] = []
    for await (const piece of s) pieces.push(piece as Buffer)
    return Buffer.concat(pieces).toString()
  })
  expect(text).toMatch(/^BEGIN:VCALENDAR\r\n/)
  expect(text).toMatch(/SUMMARY:04 Heater plug\\, props store: Meter re-check\r\n/)
})

test('a hub that stands in works a fresh unit both ways, and what was heard of it is the evidence', async ({
  page,
}) => {
  test.setTimeout(120_000)
  const n = await newUnit(page, 'Stand-in lamp')
  // A unit that nobody has heard yet comes on the air under its topic.
  await page.goto(`/units/${n}/hub`)
  await ready(page)
  const hub = card(page).getByRole('button', { name: /Mantel/ })
  if (await hub.isVisible()) await hub.click()
  const seen = page.getByRole('textbox', { name: 'What you saw' })
  const heard = page.getByRole('list', { name: 'Heard on the air' })
  await inDrawer(page, 'A hub that stands in', async (inside) => {
    await inside.getByRole('button', { name: /let it come on the air/ }).click()
    await expect(inside.getByText(/within seconds/)).toBeVisible()
    // The listener learns of a new unit within seconds: until then what it says is nobody's.
    await expect(async () => {
      await inside.getByRole('button', { name: /^Switch it on/ }).click()
      await inside.getByRole('button', { name: /^Switch it off/ }).click()
      await expect(page.locator('[aria-label="Heard on the air"]')).toContainText(/channel 1 went/, { timeout: 2000 })
    }).toPass({ timeout: 30_000 })
  })
  await heard.getByRole('button', { name: 'Use it' }).first().click()
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
  await inDrawer(page, 'A hub that stands in', async (inside) => {
    for (const to of [/^Switch it on/, /^Switch it off/, /^Switch it on/])
      await inside.getByRole('button', { name: to }).click()
    await inside.getByRole('button', { name: 'What does it show?' }).click()
    await expect(inside.getByText(/shows channel 1: (on|off)/)).toBeVisible()
  })
  await expect(heard).toContainText(/set (on|off) from outside at .* channel 1 says so \d+ ms later/, {
    timeout: 15_000,
  })
  await heard
    .getByRole('listitem')
    .filter({ hasText: 'from outside' })
    .first()
    .getByRole('button', { name: 'Use it' })
    .click()
  await expect(seen).toHaveValue(/^heard: set (on|off) from outside at .* ms later$/)
  await answer(page, /from the hub/, 'Seen')
  await inDrawer(page, 'A hub that stands in', (inside) =>
    inside.getByRole('button', { name: 'Press its button' }).click(),
  )
  await expect(heard).toContainText(/press at 1/, { timeout: 15_000 })
  await heard
    .getByRole('listitem')
    .filter({ hasText: 'press at 1' })
    .first()
    .getByRole('button', { name: 'Use it' })
    .click()
  await answer(page, /Press its button/, 'Seen')
  await answer(page, /Fire every automation/, 'None uses it')
  await expect(page.getByRole('img', { name: /both ways: stands/ })).toBeVisible()
})
