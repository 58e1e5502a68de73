import { lx106Stock } from '../demo/binaries'
import {
  answer,
  card,
  expect,
  fetchedAhead,
  fileOf,
  fillAndSave,
  goOn,
  inDrawer,
  inWords,
  newUnit,
  press,
  ready,
  saved,
  test,
} from './bench'

/** A field that stands on the card at once. */
const suffix = 'End of its access point’s name'

test('two tabs on one thing: both versions stay on screen until one is chosen', async ({ page, context }) => {
  const n = await newUnit(page, 'Two tabs')
  await page.goto(`/units/${n}/join`)
  const other = await context.newPage()
  await other.goto(`/units/${n}/join`)
  // The right tab does not hear of what the left one saves: it was asleep, or its line is slow.
  await other.route('**/api/units/**', (r) => r.abort())
  await ready(other)
  await fillAndSave(page, suffix, 'from the left tab')
  await other.getByLabel(suffix).fill('from the right tab')
  await expect(other.getByRole('heading', { name: 'Two versions of this step' })).toBeVisible()
  // In words, field by field: here, or what was saved meanwhile.
  const field = other.getByRole('group', { name: 'the name suffix' })
  await expect(field.getByRole('radio', { name: /saved meanwhile from the left tab/ })).toBeVisible()
  await expect(field.getByRole('radio', { name: /here from the right tab/ })).toBeChecked()
  await other.getByRole('button', { name: 'Keep what is here' }).click()
  await saved(other)
  await page.reload()
  await expect(card(page).getByText('from the right tab')).toBeVisible()
})

test('two tabs on different fields of one record: both are kept, and nobody is asked', async ({ page, context }) => {
  const n = await newUnit(page, 'Two tabs, two fields')
  await page.goto(`/units/${n}/join`)
  const other = await context.newPage()
  await other.goto(`/units/${n}/join`)
  await other.route('**/api/units/**', (r) => r.abort())
  await ready(other)
  await fillAndSave(page, suffix, 'from the left tab')
  await other.getByLabel('MAC of its access point').fill('6a:11:22:33:44:50')
  await saved(other)
  await page.reload()
  await expect(card(page).getByText('6a:11:22:33:44:50, from the left tab')).toBeVisible()
})

test('the server goes away while somebody types: nothing is lost, not even by a reload', async ({ page, context }) => {
  const n = await newUnit(page, 'Lost server')
  await page.goto(`/units/${n}/join`)
  await context.route('**/api/commands/**', (r) => r.abort())
  await page.getByLabel(suffix).fill('typed into the void')
  await expect(page.getByText('The server does not answer.', { exact: true }).first()).toBeVisible()
  await page.reload()
  await expect(page.getByText('What you typed before is back.').first()).toBeVisible()
  await expect(page.getByText('typed into the void').or(page.getByLabel(suffix)).first()).toBeVisible()
  await context.unroute('**/api/commands/**')
  await saved(page)
  await page.reload()
  await expect(card(page).getByText('typed into the void')).toBeVisible()
})

test('undo takes back the last change, by its key', async ({ page }) => {
  const n = await newUnit(page, 'Undone')
  await page.goto(`/units/${n}/watch`)
  await page.goto(`/units/${n}/arrive`)
  await goOn(page)
  await answer(page, 'How does it get its firmware?', /Over wires, in place/)
  // What is answered within one moment is one change.
  await saved(page)
  await answer(page, /does it work/, 'It works')
  await saved(page)
  await expect(card(page).getByRole('heading', { name: 'What will it work?' })).toBeVisible()
  await press(page, 'u')
  await expect(card(page).getByRole('heading', { name: /does it work/ })).toBeVisible()
  // The log says what was taken back.
  await press(page, 'k')
  await expect(page.getByText(`${n} Arrive: tried as sold: works, taken back`).first()).toBeVisible()
})

test('names are text, whatever is in them', async ({ page }) => {
  const name = '<script>window.hit=1</script> ‏מנורה 🎭 O’Hara'
  const n = await newUnit(page, name)
  await expect(page.getByRole('heading', { level: 1 })).toHaveText(name)
  await page.goto('/network')
  await expect(page.getByRole('link', { name: new RegExp(`^${n} `) })).toContainText('<script>')
  expect(await page.evaluate(() => (window as unknown as { hit?: number }).hit)).toBeUndefined()
})

test('a taken number is refused, and what was typed stays', async ({ page }) => {
  await page.goto('/units/new')
  await page.getByLabel('Number on its case').fill('17')
  await page.getByLabel('What you call it for now').fill('A second seventeen')
  await page.getByRole('button', { name: 'It has arrived' }).click()
  await expect(page.getByText('Number 17 is on another case: Footlight plug, stage left.').first()).toBeVisible()
  await expect(page.getByLabel('What you call it for now')).toHaveValue('A second seventeen')
})

test('what is typed before the scripts of a page have come counts once they are there', async ({ page }) => {
  await page.route(/_next\/static\/chunks/, async (route) => {
    await new Promise((done) => setTimeout(done, 2000))
    await route.continue()
  })
  await page.goto('/units/new', { waitUntil: 'commit' })
  await page.getByLabel('Number on its case').fill('17')
  await page.getByLabel('What you call it for now').fill('A second seventeen')
  await page.getByRole('button', { name: 'It has arrived' }).click()
  await expect(page.getByText('Number 17 is on another case: Footlight plug, stage left.').first()).toBeVisible()
})

test('files that are no good: said in words, nothing stored', async ({ page }) => {
  await page.goto('/units/13/backup')
  await ready(page)
  const drop = page.getByLabel(/: the first read$/)
  await drop.setInputFiles(fileOf('huge.bin', Buffer.alloc(50_000_000, 1)))
  await expect(
    page.getByText(/This file has 50\s000\s000 bytes; at most 16 MiB can be a flash file/).first(),
  ).toBeVisible()
  await drop.setInputFiles(fileOf('empty.bin', ''))
  await expect(page.getByText('The file is empty.').first()).toBeVisible()
  await drop.setInputFiles(fileOf('half.bin', lx106Stock(1).subarray(0, 500_001)))
  await expect(page.getByText('500001 bytes are not whole sectors of 4096.').first()).toBeVisible()
  await expect(page.getByRole('button', { name: 'Back up: done' })).toBeDisabled()
  await page.goto('/units/13/open')
  await inDrawer(page, /^Photos/, async (drawer) => {
    await drawer.locator('input[type=file]').setInputFiles(fileOf('letter.jpg', 'dear reader'))
    await expect(drawer.getByText('This is no picture that can be shown').first()).toBeVisible()
  })
  await page.goto('/images')
  await page.locator('input[type=file]').setInputFiles(fileOf('notes.txt', 'dear reader, this is a letter'))
  await page.getByRole('link', { name: 'notes.txt' }).click()
  await expect(page.getByText('There is no header that we know.').first()).toBeVisible()
})

test('numbers that are none: the field says so and the last good value is kept', async ({ page }) => {
  await page.goto('/units/7/meter')
  await ready(page)
  await press(page, 'v')
  await page.getByRole('button', { name: 'Add a point' }).click()
  for (const [text, fault] of [
    ['NaN', 'This is not a number.'],
    ['Infinity', 'This is not a number.'],
    ['-5', 'At least 0.'],
    ['12abc', 'This is not a number.'],
  ] as const) {
    await page.getByLabel('p1: unit shows').fill(text)
    await expect(page.getByText(fault).first()).toBeVisible()
  }
  await page.getByLabel('p1: unit shows').fill('58,1')
  await expect(page.getByText('This is not a number.').first()).toBeHidden()
})

test('what is typed right behind the key that finds belongs to find, and never answers the card', async ({ page }) => {
  await page.goto('/units/23/identify')
  await ready(page)
  const asked = await card(page).getByRole('heading').first().textContent()
  await press(page, '/')
  await page.keyboard.type('18')
  await page.keyboard.press('Enter')
  await page.waitForURL(/\/units\/18\//)
  await page.goto('/units/23/identify')
  await ready(page)
  await expect(card(page).getByRole('heading').first()).toHaveText(asked ?? '')
  // Opened and closed at once: the page hears keys again.
  await press(page, 'k')
  await expect(page.getByRole('dialog')).toBeVisible()
  await page.keyboard.press('Escape')
  await expect(page.getByRole('dialog')).toBeHidden()
  await press(page, '/')
  await expect(page.getByLabel('Find a number, name, pad, file or address')).toBeFocused()
})

test('find by number, and go on by keys alone', async ({ page }) => {
  await page.goto('/')
  await press(page, '/')
  await page.getByLabel('Find a number, name, pad, file or address').fill('17')
  await expect(page.getByRole('option', { name: /17 Footlight plug, stage left/ })).toBeVisible()
  await page.keyboard.press('Enter')
  await page.waitForURL(/\/units\/17\//)
  await press(page, ']')
  await page.waitForURL(/\/units\/18\//)
  await press(page, '?')
  await expect(page.getByRole('dialog', { name: 'Keys' })).toBeVisible()
  await page.keyboard.press('Escape')
  await page.goto('/units')
  await press(page, 'n')
  await page.waitForURL('/units/new')
})

test('a secret is masked until it is shown on purpose, and the log says that it was', async ({ page }) => {
  await page.goto('/units/21/hub')
  await expect(page.getByText('made-up-local-key-21')).toHaveCount(0)
  expect(await page.content()).not.toContain('made-up-local-key-21')
  await inDrawer(page, /^Secrets/, async (drawer) => {
    await drawer.getByRole('button', { name: 'Show Local key' }).click()
    await expect(drawer.getByText('made-up-local-key-21').first()).toBeVisible()
  })
  await page.reload()
  await ready(page)
  await press(page, 'k')
  await expect(page.getByText('secret shown: Local key').first()).toBeVisible()
  await expect(page.getByText('made-up-local-key-21')).toHaveCount(0)
})

test('another page cannot send commands, and refused ones change nothing', async ({ request }) => {
  const foreign = await request.post('/api/commands/add-hub', {
    headers: { origin: 'http://elsewhere.invalid' },
    data: { name: 'x' },
  })
  expect(foreign.status()).toBe(403)
  const unknown = await request.post('/api/commands/drop-everything', { data: {} })
  expect(unknown.status()).toBe(404)
  const bad = await request.post('/api/commands/create-unit', { data: { number: 'NaN', name: '' } })
  expect(bad.status()).toBe(422)
  expect((await bad.json()).error.faults.length).toBeGreaterThan(1)
})

test('with the line cut, words, drawers and everything that opens on a key still open', async ({ page, context }) => {
  await page.goto('/units/8/hub')
  await ready(page)
  await fetchedAhead(page)
  await context.setOffline(true)
  await inWords(page, 'Hub', async (inside) => expect(inside.getByLabel('Hub', { exact: true })).toBeVisible())
  await inDrawer(page, 'Voice and plain requests', (inside) =>
    expect(inside.getByRole('heading', { name: /spoken name/ })).toBeVisible(),
  )
  for (const key of ['k', 't', '?', 'w']) {
    await press(page, key)
    await expect(page.getByRole('dialog')).toBeVisible()
    await page.keyboard.press('Escape')
    await expect(page.getByRole('dialog')).toHaveCount(0)
  }
  await context.setOffline(false)
})
