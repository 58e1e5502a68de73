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
