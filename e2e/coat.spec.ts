import { lx6App, lx6Stock, lx106Image, lx106Stock } from '../demo/binaries'
import {
  answer,
  card,
  done,
  expect,
  fileOf,
  inDrawer,
  inWords,
  newUnit,
  press,
  putIn,
  ready,
  saved,
  test,
} from './bench'

const run = Date.now().toString(36)
const boot =
  '\r\n ets Jan  8 2013,rst cause:1, boot mode:(3,6)\r\n\r\nload 0x40100000, len 31728, room 16\r\nPlainsong up\r\n'

test('an unproven mode is patched, written with both hands full, silent at first, then seen starting and proven', async ({
  page,
}) => {
  const n = await newUnit(page, `Patched ${run}`, 'Harkle Bridge usb')
  const at = (step: string) => new RegExp(`/units/${n}/${step}$`)
  await page.goto(`/units/${n}/backup`)
  await inDrawer(page, 'There will be no backup', async (drawer) => {
    await drawer.getByRole('button', { name: 'There will be no backup' }).click()
    await drawer.getByLabel(/In a sentence/).fill('The owner has a second one of these.')
  })
  await saved(page)

  await page.goto(`/units/${n}/check`)
  await putIn(card(page).locator('input[type=file]'), fileOf(`plainsong-${run}-dio.bin`, lx106Image('DIO', 31)))
  // Warnings come one at a time; each is answered by its digit.
  const heading = card(page).getByRole('heading').first()
  const nextWarning = async () => {
    const asked = await heading.textContent()
    await press(page, '1')
    await expect(heading).not.toHaveText(asked ?? '')
  }
  await expect(card(page).getByRole('button', { name: /I know, and go on/ })).toBeVisible()
  while (!/DIO has not been seen starting/.test((await heading.textContent()) ?? '')) await nextWarning()
  await inWords(page, 'Firmware and version', (w) => w.getByLabel('You want the build').selectOption('small'))
  await card(page).getByRole('button', { name: 'Make a DOUT copy' }).click()
  await expect(page.getByText('DIO has not been seen starting on this board.')).toHaveCount(0)
  await expect(page.getByRole('img', { name: /-dout\.bin, / })).toBeVisible()
  await expect(heading).not.toHaveText(/DIO/)
  while (
    (await card(page)
      .getByRole('button', { name: /I know, and go on/ })
      .count()) > 0
  )
    await nextWarning()
  await done(page, 'Check the image', at('write'))

  await page.locator('body').press('b')
  const hands = page.getByRole('dialog', { name: 'Both hands full' })
  await expect(hands.getByText('Armed. Start your tool, and press.')).toBeVisible()
  await page.keyboard.press('Space')
  await expect(hands.getByText(/Hold still/)).toBeVisible()
  await page.keyboard.press('Space')
  await page.keyboard.press('2')
  await expect(hands.getByText(/It is logged\. Power off/)).toBeVisible()
  await page.keyboard.press('Enter')
  await page.keyboard.press('Enter')
  await page.keyboard.press('1')
  await expect(hands).toBeHidden()
  await expect(page.getByText('equal by digest').first()).toBeVisible()
  await inDrawer(page, 'Log another attempt', async (drawer) => {
    await drawer.getByRole('button', { name: 'No start' }).click()
    await drawer.getByRole('button', { name: 'Log this attempt' }).click()
  })
  await expect(page.getByText(/Wrote and checked, but silent/)).toBeVisible()
  await answer(page, /How did it go/, 'Done')
  await page.getByText('Equal', { exact: true }).click()
  await page.getByLabel('Writing took').fill('44')
  await page.getByRole('button', { name: 'Log this attempt' }).click()
  await done(page, 'Write', at('start'))
  await answer(page, /is the jumper off/i, 'Yes, BOOT is free')
  await page.getByLabel('Boot text, as the console shows it').fill(boot)
  await done(page, 'First start', at('join'))
  await page.goto('/boards')
  await page.getByRole('link', { name: /Harkle Bridge usb/ }).click()
  await expect(page.getByText('DOUT').first()).toBeVisible()
})

test('an update in two steps is planned, walked, and remembered', async ({ page }) => {
  await page.goto('/units/2/watch')
  await expect(page.getByText(/9\.5\.0 is out/)).toBeVisible()
  await inDrawer(page, 'What should run', async (drawer) => {
    await drawer.getByLabel('Should run').selectOption('9.5.0/full')
    await expect(drawer.getByText('It takes 2 steps: finish them in one sitting.')).toBeVisible()
  })
  // The way stands on the card until it is walked.
  await card(page).getByRole('button', { name: 'It reports 9.4.1/small' }).click()
  await card(page).getByRole('button', { name: 'It reports 9.5.0/full' }).click()
  await expect(card(page).getByText('Nothing waits on you')).toBeVisible()
  await saved(page)
  await page.reload()
  await expect(page.getByText('Plainsong 9.5.0/full').first()).toBeVisible()
  await expect(page.getByText(/as the unit reported it/).first()).toBeVisible()
  await inDrawer(page, 'What it ran: 3 on record', (drawer) =>
    expect(drawer.getByRole('listitem')).toHaveText([
      /9\.5\.0\/full/,
      /9\.4\.1\/small/,
      /9\.4\.1\/full.*last good write/,
    ]),
  )
})

test('an app alone goes into a partition of the layout that was read, and what the chip starts is said', async ({
  page,
}) => {
  const n = await newUnit(page, `Sliced ${run}`, 'Quoinsby Q4 12 V')
  await page.goto(`/units/${n}/backup`)
  await putIn(page.getByLabel(/: the first read$/), fileOf(`unit-${run}.bin`, lx6Stock(77)))
  await expect(page.getByRole('img', { name: /^Chip map: 1024 sectors/ })).toBeVisible()
  await expect(page.getByRole('button', { name: 'First read', exact: true })).toBeVisible()

  await page.goto(`/units/${n}/check`)
  await putIn(card(page).locator('input[type=file]'), fileOf(`lattice-app-${run}.bin`, lx6App('2.4.0', 78)))
  // Parts that stay on the chip are not erased with it.
  await expect(page.getByRole('button', { name: 'Erase: change' })).toHaveText('only its own sectors erased')
  await expect(page.getByText(/version 2\.4\.0, of a firmware nobody named/)).toBeVisible()
  await inDrawer(page, 'The partition it goes into', async (drawer) => {
    await expect(drawer.getByText('As it was read from the chip')).toBeVisible()
    await drawer.getByLabel('Into the partition').selectOption('slot-b')
  })
  const offset = page.getByRole('button', { name: 'Write at offset: change' })
  await expect(offset).toHaveText('0x190000')
  await inWords(page, 'Write at offset', (w) => w.getByLabel('Write at offset').fill('0x20000'))
  await expect(page.getByText(/belongs at 0x10000, not at 0x20000/).first()).toBeVisible()
  await saved(page)
})

test('a lost backup: the copy of a twin can be put back, with what that clones', async ({ page }) => {
  await page.goto('/units/9/backup')
  await inDrawer(page, 'Put the stock firmware back', async (drawer) => {
    await drawer.getByLabel('The copy to put back').selectOption('4')
    await expect(drawer.getByText('Address and calibration of unit 4 would be cloned.')).toBeVisible()
    await expect(drawer.getByRole('link', { name: 'unit004_read1.bin' })).toBeVisible()
    await expect(drawer.getByRole('button', { name: /Put back today/ })).toHaveCount(0)
  })
})

test('a read that stays on one’s own disk: noted, compared by hash, and checked before it is used', async ({
  page,
}) => {
  const n = await newUnit(page, `On disk ${run}`, 'Harkle Bridge usb')
  await page.goto(`/units/${n}/backup`)
  await page.getByLabel(/Leave the bytes on my disk/).check()
  await saved(page)
  // A read that failed counts as well, and says what to try.
  await inDrawer(page, 'A read that did not work', async (drawer) => {
    await drawer.getByText('Lost midway', { exact: true }).click()
    await drawer.getByLabel('Rate', { exact: true }).fill('460800')
    await drawer.getByRole('button', { name: 'Log this read' }).click()
  })
  await expect(page.getByText(/Half the rate, 230.400 baud/)).toBeVisible()
  const stock = fileOf(`unit-${run}-read.bin`, lx106Stock(87))
  for (const [which, name] of [
    ['first', 'First read'],
    ['second', 'Second read'],
  ] as const) {
    await page.getByLabel(new RegExp(`: the ${which} read$`)).setInputFiles(stock)
    await inDrawer(page, name, (drawer) => expect(drawer.getByText(/its bytes are on your disk only/)).toBeVisible())
  }
  await expect(page.getByText('The two reads are equal, byte for byte.')).toBeVisible()
  await expect(page.getByText(/Half the rate/)).toHaveCount(0)
  await inDrawer(page, /Reads so far: \d+/, async (drawer) => {
    await drawer.getByRole('button', { name: 'Add a note' }).last().click()
    await drawer.getByLabel('Note on this attempt').fill('The clip had slipped.')
    await drawer.getByRole('button', { name: 'Keep the note' }).click()
    await expect(drawer.getByRole('cell', { name: /The clip had slipped/ })).toBeVisible()
  })
  await inDrawer(page, 'Put the stock firmware back', async (drawer) => {
    const check = drawer.locator('input[type=file]')
    await check.setInputFiles(stock)
    await expect(drawer.getByText('byte for byte what was read')).toBeVisible()
    await check.setInputFiles(fileOf(`unit-${run}-other.bin`, lx106Stock(88)))
    await expect(drawer.getByText('Do not write it.')).toBeVisible()
  })
})

test('a file of the vault described as a release goes on the list of its firmware', async ({ page }) => {
  await page.goto('/images')
  await putIn(page.locator('input[type=file]'), fileOf(`plainsong-${run}-new.bin`, lx106Image('DOUT', 79)))
  await page.getByRole('link', { name: `plainsong-${run}-new.bin` }).click()
  await page.waitForURL(/images\/[0-9a-f-]+$/)
  await page.locator('summary', { hasText: /came from|release/i }).click()
  await page.getByLabel('Firmware', { exact: true }).selectOption('Plainsong')
  await page.getByLabel('Release', { exact: true }).fill('9.9/full')
  await page.getByRole('button', { name: 'Note it' }).click()
  const put = page.getByRole('button', { name: 'Put it on the list' })
  await expect(page.getByText(/is not on the list of Plainsong yet: no way to it/)).toBeVisible()
  await put.click()
  await expect(put).toHaveCount(0)
  await page.goto('/images/firmware')
  await page.locator('summary', { hasText: 'Plainsong' }).click()
  await expect(page.getByRole('row', { name: /9\.9\/full/ }).getByRole('link')).toHaveText(`plainsong-${run}-new.bin`)
})

test('the bytes of a dump: keys are covered until they are shown on purpose, and that is noted', async ({ page }) => {
  await page.goto('/images')
  await page
    .locator('li')
    .filter({ hasText: 'Glue-pot plug, spare' })
    .getByRole('link', { name: /read 1/ })
    .click()
  await page.waitForURL(/images\/.+/)
  await page.getByLabel('Find text, or 0x bytes').fill('ssid')
  await page.getByRole('button', { name: 'Find', exact: true }).click()
  await expect(page.getByText(/\d found:/)).toBeVisible()
  await expect(page.getByText('••').first()).toBeVisible()
  await page.getByRole('button', { name: 'Show them on purpose; it is noted' }).click()
  await expect(page.getByText('••')).toHaveCount(0)
  await page.getByText('Text in it').click()
  await page.getByLabel('That holds').fill('unit-9')
  await page.getByRole('button', { name: 'List it' }).click()
  await expect(page.getByText('1 shown.')).toBeVisible()
  await expect(page.getByText(/•{4,}.*"dev":"unit-9"/)).toBeVisible()
  await page.getByRole('slider').fill('100')
  await expect(page.getByText(/Sector 100 of 256, at 0x64000/)).toBeVisible()
  await page.goto('/units/9/backup')
  await ready(page)
  await press(page, 'k')
  await expect(page.getByText(/bytes at 0x[0-9A-F]+ shown unmasked/).first()).toBeVisible()
})

test('two reads beside each other: which bytes, whose they are', async ({ page }) => {
  await page.goto('/images')
  await page
    .locator('li')
    .filter({ hasText: 'Glue-pot plug, spare' })
    .getByRole('link', { name: /read 1/ })
    .click()
  await page.waitForURL(/images\/[0-9a-f-]+$/)
  const other = page.getByLabel('Compare it with')
  await other.selectOption(await other.locator('option', { hasText: '09 read 2' }).getAttribute('value'))
  await page.getByRole('button', { name: 'Compare', exact: true }).click()
  await expect(page.getByText(/2 of 256 sectors differ at 0x3000, 0x90000/)).toBeVisible()
  await expect(page.getByRole('cell', { name: 'the program at 0x0' })).toBeVisible()
})

test('a release of one’s own: kept, and bad versions are refused', async ({ page }) => {
  await page.goto('/images/firmware')
  await page.locator('summary', { hasText: 'Skiff' }).click()
  const form = page.locator('details[open]')
  await form.getByLabel('Version', { exact: true }).fill('two')
  await form.getByLabel('Bytes', { exact: true }).fill('700000')
  await expect(form.getByRole('button', { name: 'Put it on the list' })).toBeDisabled()
  await form.getByLabel('Version', { exact: true }).fill('2.4')
  await form.getByLabel('Family', { exact: true }).selectOption('CM3')
  await form.getByRole('button', { name: 'Put it on the list' }).click()
  await form.getByRole('button', { name: 'Save this firmware' }).click()
  await expect(page.getByText('ARM968-A, ARM968-B, CM3 · 1 release')).toBeVisible()
})

test('pins that the stock firmware names are offered as assumed, with the place they came from', async ({ page }) => {
  await page.goto('/units/7/pins')
  await ready(page)
  await inDrawer(page, 'Named in its stock backup', async (drawer) => {
    await expect(drawer.getByText('relay1_gpio":12')).toBeVisible()
    // Its password stands beside them in the file.
    await expect(drawer.getByText('limelight')).toHaveCount(0)
    await expect(drawer.getByText('in the list already').first()).toBeVisible()
  })
})
