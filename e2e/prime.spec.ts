import { boardPhoto, png } from '../demo/pictures'
import { expect, fileOf, gate, newUnit, press, ready, saved, test } from './bench'

test('trouble: a symptom, two answers, the cause, and the board that remembers it', async ({ page }) => {
  const n = await newUnit(page, 'Silent one', 'Pellworth P1 rev C')
  await page.goto(`/units/${n}/wire`)
  await press(page, 't')
  await page.getByRole('button', { name: 'No answer from the loader' }).click()
  // Questions that need power stand behind the gate.
  await expect(page.getByText(/more need 3.3 V on the board/)).toBeVisible()
  await page.getByRole('button', { name: /^Yes: Does a new serial port appear/ }).click()
  await expect(page.getByRole('button', { name: /^Take back: Does a new serial port/ })).toBeVisible()
  await page.keyboard.press('Escape')
  await gate(page, 'Unplugged')
  await press(page, 't')
  await page.getByRole('button', { name: /^No: BOOT held at power-up/ }).click()
  await expect(page.getByRole('region', { name: 'Causes' }).getByText('TX and RX are exchanged')).toBeVisible()
  await page.getByRole('button', { name: 'It was this: TX and RX are exchanged' }).click()
  await expect(
    page.getByText(/tx and RX are exchanged, after 2 answers|TX and RX are exchanged/i).first(),
  ).toBeVisible()
  await page.keyboard.press('Escape')
  await page.goto('/boards')
  await page.getByRole('link', { name: /Pellworth P1 rev C/ }).click()
  await expect(page.getByText(/2 of \d+/).first()).toBeVisible()
})

test('the bench view: one instruction at a time, by space and backspace', async ({ page }) => {
  await page.goto('/units/17/wire')
  await ready(page)
  await press(page, 'f')
  const view = page.getByRole('dialog', { name: '17 Wire' })
  await expect(view).toBeVisible()
  const counter = view.getByText(/^\d+ \/ \d+$/)
  await expect(counter).toHaveText(/^1 \//)
  await page.keyboard.press('Space')
  await page.keyboard.press('Space')
  await expect(counter).toHaveText(/^3 \//)
  await page.keyboard.press('Backspace')
  await expect(counter).toHaveText(/^2 \//)
  // What is done there is ticked on the page behind it, and going back takes the tick off.
  const leads = view.getByText(/^Adapter .* to pad /)
  while (!(await leads.isVisible())) await page.keyboard.press('Space')
  const words = (await leads.textContent()) as string
  const lead = view.getByText(words, { exact: true })
  const pad = / to pad (\S+),/.exec(words)?.[1]
  await page.keyboard.press('Space')
  await expect(lead).toHaveCount(0)
  await page.keyboard.press('Backspace')
  await expect(lead).toBeVisible()
  await page.keyboard.press('Space')
  await page.keyboard.press('Escape')
  await expect(view).toBeHidden()
  await expect(page.getByRole('checkbox', { name: new RegExp(`to pad ${pad}`) })).toBeChecked()
  await saved(page)
})

test('practice: a clean hand sequence scores 100, a late strap says why, and no unit hears of it', async ({ page }) => {
  await page.goto('/practice')
  await page.keyboard.down('b')
  await page.waitForTimeout(300)
  await page.keyboard.press('p')
  await page.waitForTimeout(600)
  await page.keyboard.up('b')
  await page.keyboard.press('Enter')
  const judged = page.getByRole('region', { name: 'Judgement' })
  await expect(judged.getByText('100', { exact: true })).toBeVisible()
  await page.getByRole('button', { name: /Once more/ }).click()
  await page.keyboard.press('p')
  await page.waitForTimeout(300)
  await page.keyboard.down('b')
  await page.waitForTimeout(300)
  await page.keyboard.up('b')
  await page.keyboard.press('Enter')
  await expect(judged.getByText(/The strap was held only after it had been read/)).toBeVisible()
  await expect(page.getByRole('complementary', { name: 'Runs' }).getByText('rehearsal, LX106').first()).toBeVisible()
  await page.goto('/')
  await expect(page.getByText('rehearsal')).toHaveCount(0)
})

test('practice: the stand-in meter answers, and the row is judged against the hidden one', async ({ page }) => {
  await page.goto('/practice')
  await page.getByLabel('Board number').fill('8')
  for (let i = 1; i <= 4; i++) await page.getByRole('button', { name: `Pad ${i}, To GND: take the reading` }).click()
  await expect(page.getByText('2.0 min', { exact: true })).toBeVisible()
  await page.getByRole('button', { name: 'That is the row' }).click()
  await expect(page.getByText(/The advice alone needs .* min; you took 2.0/)).toBeVisible()
})

test('photos: marks placed by click and by keyboard; bad pictures are refused with a reason', async ({ page }) => {
  const n = await newUnit(page, 'Photographed', 'Pellworth P1 rev C')
  await page.goto(`/units/${n}/open`)
  const photos = () =>
    page
      .locator('[data-part="sheet"]')
      .getByRole('button', { name: /^Photos/ })
      .click()
  await ready(page)
  await photos()
  await page.locator('input[type=file]').setInputFiles(fileOf('top.png', boardPhoto(4, 1)))
  await page.getByText('Screw', { exact: true }).click()
  const stage = page.getByRole('region', { name: 'board top, with marks' })
  await stage.locator('img').click({ position: { x: 120, y: 80 } })
  await page.getByRole('textbox', { name: 'Screw' }).fill('under the sticker')
  await page.getByText('Chip', { exact: true }).click()
  await page.getByRole('button', { name: 'Chip by keyboard' }).click()
  const chip = page.getByRole('button', { name: 'Chip', exact: true })
  await chip.press('ArrowLeft')
  await chip.press('Shift+ArrowUp')
  await saved(page)
  await page.reload()
  await ready(page)
  await photos()
  await expect(page.getByRole('button', { name: 'Screw: under the sticker' })).toBeVisible()
  expect(await page.getByRole('button', { name: 'Chip', exact: true }).getAttribute('style')).toMatch(
    /left: ?49%; ?top: ?45%/,
  )

  const none = png(1, 1, () => [0, 0, 0])
  new DataView(none.buffer, none.byteOffset).setUint32(16, 0)
  await page.locator('input[type=file]').setInputFiles(fileOf('none.png', none))
  await expect(page.getByText('This picture has no pixels.').first()).toBeVisible()
  await page.locator('input[type=file]').setInputFiles(fileOf('cut.jpg', Buffer.from([0xff, 0xd8, 0xff, 0xe1, 0, 40])))
  await expect(page.getByText(/it breaks off at its start/).first()).toBeVisible()
  // 60 megapixels: made smaller here, and said.
  await page.locator('input[type=file]').setInputFiles(
    fileOf(
      'vast.png',
      png(9000, 6700, () => [90, 120, 100]),
    ),
  )
  await expect(page.getByText('vast.png had 60 megapixels; it is kept at 4096 × 3049.')).toBeVisible({
    timeout: 60_000,
  })
})

test('a case that is not closed keeps the mains gate shut', async ({ page }) => {
  const n = await newUnit(page, 'Half open', 'Pellworth P1 rev C')
  await page.goto(`/units/${n}/behaviour`)
  await page.getByRole('button', { name: /^Closed and free of wires/ }).click()
  await expect(page.getByText(/are not back: the case is not closed/).first()).toBeVisible()
  await expect(page.getByText('Closed and free of wires, confirmed today')).toHaveCount(0)
})
