import type { Page } from '@playwright/test'
import { lx106Image, lx106Stock } from '../demo/binaries'
import { boardPhoto } from '../demo/pictures'
import {
  answer,
  askFor,
  card,
  done,
  expect,
  fileOf,
  gate,
  goOn,
  inDrawer,
  inWords,
  newUnit,
  press,
  putIn,
  ready,
  saved,
  test,
} from './bench'
import { unplugged } from './hands'

const stock = lx106Stock(77)
const boot =
  '\r\n ets Jan  8 2013,rst cause:1, boot mode:(3,6)\r\n\r\nload 0x40100000, len 31728, room 16\r\nPlainsong 9.4.1 on its way\r\n'

/** The bench view, one instruction after the other: what is measured is typed, the rest is done. */
async function measure(page: Page, ohms: (what: string) => string): Promise<string[]> {
  await press(page, 'f')
  const dialog = page.getByRole('dialog')
  const counter = dialog.getByText(/^\d+ \/ \d+$/)
  await expect(counter).toBeVisible()
  const count = Number(((await counter.textContent()) ?? '').split('/')[1])
  const told: string[] = []
  for (let i = 1; i <= count; i++) {
    await expect(counter).toHaveText(`${i} / ${count}`)
    const what = (await dialog.locator('p.font-title').first().textContent()) ?? ''
    told.push(what)
    const field = dialog.getByRole('textbox')
    if ((await field.count()) > 0) {
      await field.fill(ohms(what))
      await field.press('Enter')
    } else await dialog.press('Space')
  }
  await expect(dialog).toHaveCount(0)
  return told
}

/** Answers a question that its board may have answered already, on a second run on the same database. */
async function answerAnew(page: Page, name: string, ask: string, label: string | RegExp): Promise<void> {
  await ready(page)
  if (!(await card(page).getByRole('heading', { name: ask }).isVisible())) await askFor(page, name)
  await answer(page, ask, label)
}

test('a lamp whose module came off: its contacts from the kit, tied, kept, written, put back with a bridge, mended, closed', async ({
  page,
}) => {
  const n = await newUnit(page, 'Moon box lamp', 'Pellworth P1 rev D')
  const at = (step: string) => new RegExp(`/units/${n}/${step}$`)
  await askFor(page, 'Route')
  await answer(page, 'How does it get its firmware?', /module taken off/)
  await answer(page, /does it work/, 'It works')
  await answer(page, 'What will it work?', 'A lamp')
  await done(page, 'Arrive', at('open'))

  await unplugged(page)
  // Of a board that was opened before one photo is enough; what can hurt in it is known, and looked for once more.
  await page.locator('input[type=file]').setInputFiles(fileOf('moon-top.png', boardPhoto(5, 1)))
  await expect(card(page).getByText('The photos that are needed are there.')).toBeVisible()
  await askFor(page, 'Can hurt')
  await answer(page, 'What in it can hurt a hand?', 'A cell or battery')
  await answer(page, 'What in it can hurt a hand?', 'That is all of it')
  await expect(page.getByRole('button', { name: 'Open: done' })).toBeDisabled()
  await answer(page, /Out next: 3 screws/, 'It is out')
  await answer(page, 'Is the module off its board?', 'It is off')
  await done(page, 'Open', at('identify'))

  const see = async (name: string, label: string | RegExp) => {
    await askFor(page, name)
    await card(page).getByRole('button', { name: label }).first().click()
  }
  await page.getByRole('button', { name: 'Crystal', exact: true }).click()
  await answer(page, 'What stands on the crystal?', '26 MHz')
  await see('Boot text', /“rst cause”, 74 880/)
  await see('What answers', /C0 01 08/)
  await done(page, 'Identify', at('pads'))

  // The module is named: its contacts are the row, and only the meter proves its supply.
  // A second run on the same database finds that its board names it already.
  await ready(page)
  if (await card(page).getByRole('heading', { name: 'How many pads lie together?' }).isVisible()) {
    await answer(page, 'How many pads lie together?', 'Quoinsby W8 module')
    await expect(page.getByRole('button', { name: 'Find the pads: done' })).toBeDisabled()
  }
  await expect(page.getByRole('group', { name: /Quoinsby W8 module, parts side/ })).toBeVisible()
  await press(page, 'v')
  const cell = (pad: number, reading: string) => page.locator(`[data-cell="${pad} ${reading}"]:visible`)
  await cell(1, 'ohms_3v3').fill('0,3')
  await cell(1, 'cont_gnd').press('0')
  await cell(5, 'cont_gnd').press('1')
  await expect(page.getByText('may be powered')).toBeVisible()
  await done(page, 'Find the pads', at('wire'))

  // Off its board nothing holds enable and straps; each is tied at its contact.
  await answerAnew(page, 'Adapter', 'Which adapter?', /Adapter 2, six pins/)
  await answerAnew(page, 'Way in', 'Into download mode by what?', /Jumper/)
  await inWords(page, '3.3 V comes from', async (w) => {
    await w.getByText('My own regulator on the adapter’s 5V').click()
    await w.getByRole('button', { name: /Start from those of a common one/ }).click()
  })
  await expect(page.getByText(/mA on average, .* mA in bursts/)).toBeVisible()
  await expect(page.getByText('EN (contact 3) of the bare module floats.').first()).toBeVisible()
  await answer(page, 'EN (contact 3) to 3V3 through 10 kΩ', 'It is tied')
  await answer(page, 'GPIO15 (contact 15) to GND through 10 kΩ', 'It is tied')
  for (const lead of ['Regulator’s ground', 'Regulator’s output', 'Adapter 5V to the regulator’s input'])
    await answer(page, new RegExp(lead), 'It is joined')
  await expect(card(page).getByRole('heading', { name: /to GND, contact 16, black/ })).toBeVisible()
  await inDrawer(page, 'Plug or jig', async (drawer) => {
    await expect(drawer.getByText(/Nobody measured how far apart the rows are/)).toBeVisible()
  })
  await answer(page, /contact 16, black/, /All \d are on/)
  await done(page, 'Wire', at('backup'))

  await inWords(page, 'Flash chip id', (w) => w.getByLabel('Flash chip id, three bytes').fill('68 40 14'))
  const read = (which: 'first' | 'second') => page.getByLabel(new RegExp(`: the ${which} read$`))
  await read('first').setInputFiles(fileOf('moon1.bin', stock))
  await expect(page.getByText(/moon1\.bin/).first()).toBeVisible()
  await gate(page, 'Unplugged')
  await read('second').setInputFiles(fileOf('moon2.bin', stock))
  await expect(page.getByText('The two reads are equal, byte for byte.').first()).toBeVisible()
  await done(page, 'Back up', at('check'))
  await card(page)
    .locator('input[type=file]')
    .setInputFiles(fileOf('plainsong-moon.bin', lx106Image('DOUT', 41)))
  await expect(page.getByText('It may go in.').first()).toBeVisible()
  await inWords(page, 'Firmware and version', async (w) => {
    await w.getByLabel('Firmware', { exact: true }).selectOption('Plainsong')
    await w.getByLabel('Version').fill('9.4.1')
  })
  await done(page, 'Check the image', at('write'))
  await gate(page, 'Unplugged')
  await answer(page, /How did it go/, 'Done')
  await page.getByText('Equal', { exact: true }).click()
  await page.getByLabel('Minutes at the bench').fill('8')
  await page.getByRole('button', { name: 'Log this attempt' }).click()
  await expect(page.getByText('equal by digest').first()).toBeVisible()
  await done(page, 'Write', at('start'))
  await gate(page, 'Unplugged')
  await answer(page, /is the jumper off/i, 'Yes, BOOT is free')
  await page.getByLabel('Boot text, as the console shows it').fill(boot)
  await expect(page.getByText('It runs what is in its flash.').first()).toBeVisible()
  await done(page, 'First start', at('join'))

  // Put back: in its place, measured, closed, in that order.
  await page.goto(`/units/${n}/close`)
  await expect(page.getByText('The module goes in first; then its contacts are measured')).toBeVisible()
  const told = await measure(page, (what) =>
    what.includes('to its pad') ? '0.3' : what.includes('3V3 to GND') ? '410' : what.includes('9 (TX)') ? '0.7' : 'o',
  )
  expect(told.slice(0, 2)).toEqual(['Solder the module into its place.', 'Measure 3V3 to GND.'])
  await saved(page)
  await expect(page.getByText('These two are joined and should not be (9 and 10).').first()).toBeVisible()
  await expect(page.getByRole('button', { name: 'Close up: done' })).toBeDisabled()
  expect(await measure(page, () => 'o')).toContain('Measure 9 (TX) and 10 (RX).')
  await saved(page)
  await expect(page.getByText('These two are joined and should not be (9 and 10).')).toHaveCount(0)
  // What went back in was ticked in the bench view too.
  expect(told.some((t) => /^Put back 3 screws/.test(t))).toBe(true)
  await saved(page)
  await expect(page.getByRole('button', { name: 'Close up: done' })).toBeEnabled()
})

test('a unit built from parts: nothing to open or keep; in its case every question is answered before the mains', async ({
  page,
}) => {
  const n = await newUnit(page, 'Built box')
  const at = (step: string) => new RegExp(`/units/${n}/${step}$`)
  await goOn(page)
  await answer(page, 'How does it get its firmware?', /Built from parts/)
  await answer(page, 'What will it work?', 'A lamp')
  await saved(page)
  // The way skips the case and the backup.
  await page.goto(`/units/${n}/identify`)
  await inDrawer(page, 'Decide, with your reason', async (drawer) => {
    await drawer.getByRole('button', { name: 'Decide without more checks' }).click()
    await drawer.getByLabel('Family').selectOption('LX106')
    await drawer.getByLabel(/^Reason/).fill('the module is new, and its maker says so')
  })
  await saved(page)
  await page.goto(`/units/${n}/pads`)
  await unplugged(page)
  await answer(page, 'How many pads lie together?', 'Quoinsby W8 module')
  await press(page, 'v')
  const cell = (pad: number, reading: string) => page.locator(`[data-cell="${pad} ${reading}"]:visible`)
  await cell(1, 'ohms_3v3').fill('0,3')
  await cell(1, 'cont_gnd').press('0')
  await cell(5, 'cont_gnd').press('1')
  await expect(page.getByText('may be powered')).toBeVisible()
  await saved(page)
  // It never had a stock firmware: that nobody kept one stops no write.
  await page.goto(`/units/${n}/check`)
  await putIn(card(page).locator('input[type=file]'), fileOf('plainsong-built.bin', lx106Image('DOUT', 43)))
  await expect(page.getByText('It may go in once every warning is answered.').first()).toBeVisible()
  await expect(page.getByText('Built from parts: there never was one.').first()).toBeVisible()

  await page.goto(`/units/${n}/close`)
  await answer(page, 'Is the module soldered into its place?', 'It is in')
  const told = await measure(page, (what) =>
    what.includes('to its pad') ? '0.3' : what.includes('3V3 to GND') ? '410' : 'o',
  )
  expect(told.every((t) => /^(Measure|Take every wire)/.test(t))).toBe(true)
  await saved(page)
  await goOn(page)
  for (const [ask, safe] of [
    [/polarity of the supply measured/, 'Yes'],
    [/at least 6 mm apart/, 'Yes'],
    [/held against pulling/, 'Yes'],
    [/conductors covered/, 'Yes'],
    [/fuse that fits/, 'Yes'],
  ] as const)
    await answer(page, ask, new RegExp(safe))
  // A bare end is never confirmed away.
  await answer(page, /bare wire end left/, /Yes/)
  await expect(page.getByText('A bare wire end is left.').first()).toBeVisible()
  await expect(page.getByRole('button', { name: 'Close up: done' })).toBeDisabled()
  await askFor(page, 'Asked: Is any bare')
  await answer(page, /bare wire end left/, /No/)
  await saved(page)
  await expect(page.getByRole('button', { name: 'Close up: done' })).toBeEnabled()
  await expect(page).toHaveURL(at('close'))
})
