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
  hubHeard,
  hubSeen,
  inDrawer,
  inWords,
  newUnit,
  press,
  saved,
  test,
} from './bench'

// Names of this run: a second run on the same database must not clash with the first.
const run = Date.now().toString(36)
const boot =
  '\r\n ets Jan  8 2013,rst cause:1, boot mode:(3,6)\r\n\r\nload 0x40100000, len 31728, room 16\r\nPlainsong 9.4.1 on its way\r\n'
const stock = lx106Stock(99)
const firstRead = fileOf('read1.bin', stock)
const secondRead = fileOf('read2.bin', stock)
const photo = fileOf('board.png', boardPhoto(4, 1))

test('a unit of a known board, from its sealed case to in service', async ({ page }) => {
  const n = await newUnit(page, `Prompt desk ${run}`, 'Pellworth P1 rev C')
  const at = (step: string) => new RegExp(`/units/${n}/${step}$`)

  // What the board knows is filled in; only this unit's own is asked, one thing at a time.
  await expect(card(page).getByText('Over wires, in place')).toBeVisible()
  await answer(page, /does it work/, 'It works')
  await answer(page, 'What will it work?', 'A heater')
  await askFor(page, 'carries')
  await page.getByLabel('What it will carry').fill('1 200')
  await expect(page.getByText('1 200 W at 230 V is 5.22 A of 10 A, its case: 52 %.').first()).toBeVisible()
  await goOn(page)
  await done(page, 'Arrive', at('open'))

  await expect(page.getByRole('region', { name: 'Terminals' })).toContainText('brown, next to the fuse')
  await gate(page, 'Unplugged')
  // The wait is a clock: before its time only a reading below 30 V ends it.
  await expect(page.getByRole('timer')).toContainText('since “unplugged”')
  await page.getByRole('textbox', { name: /^Measured/ }).fill('42')
  await expect(page.getByRole('button', { name: /^Measured before the time/ })).toBeDisabled()
  await page.getByRole('textbox', { name: /^Measured/ }).fill('0.4')
  await page.getByRole('button', { name: /^Measured before the time/ }).click()
  await expect(page.getByText('Waited and measured, confirmed today').first()).toBeVisible()
  // Of a known board one photo is enough; the plan is there to be ticked.
  await expect(card(page).getByText('Still wanted: board top.')).toBeVisible()
  await page.locator('input[type=file]').setInputFiles(photo)
  await expect(card(page).getByRole('img', { name: 'board top' }).first()).toBeVisible()
  await goOn(page)
  const out = (name: RegExp) => page.getByRole('button', { name }).click()
  await out(/4 clips, along the seam after 1 and 2/)
  await expect(page.getByText('Step 3 needs step 1 first.').first()).toBeVisible()
  await answer(page, /Out next: 2 screws, corners of the face/, 'It is out')
  await answer(page, /Out next: 1 screw, middle, under the sticker/, 'It is out')
  await expect(page.getByText('Step 3 needs step 1 first.')).toHaveCount(0)
  await done(page, 'Open', at('identify'))

  // A part of the drawing is pressed, and asked about.
  await page.getByRole('button', { name: 'Crystal', exact: true }).click()
  await answer(page, 'What stands on the crystal?', '26 MHz')
  await askFor(page, 'Boot text')
  await answer(page, /while it starts/, /“rst cause”, 74 880/)
  await page.getByRole('button', { name: 'The chip', exact: true }).click()
  await page.getByLabel('Printed on the chip').fill('pw 106 a7')
  await expect(page.getByText(/Met before: LX106 × \d+\./)).toBeVisible()
  await page.getByRole('button', { name: 'Take it as evidence' }).click()
  await expect(page.getByText('Identified').first()).toBeVisible()
  await done(page, 'Identify', at('pads'))
  await done(page, 'Find the pads', at('wire'))

  await askFor(page, 'Adapter')
  await answer(page, 'Which adapter?', /Bench adapter, two grounds/)
  await expect(page.getByText(/Turned round, it goes straight on\. Bend away and insulate GND \(pin 5\)/)).toBeVisible()
  await askFor(page, 'Adapter')
  await answer(page, 'Which adapter?', /Adapter 2, six pins/)
  await expect(page.getByText(/Bursts of the radio need a capacitor of about 750 µF/).first()).toBeVisible()
  await inWords(page, '3.3 V comes from', (w) => w.getByText('Bench supply', { exact: true }).click())
  await expect(page.getByText(/Bursts of the radio/).first()).toBeHidden()
  await expect(
    page.getByRole('group', { name: /Wiring of .*: GND to GND, black; RX to TX, green; TX to RX, yellow/ }),
  ).toBeVisible()
  // A lead is ticked by its digit on the card, or on the drawing.
  await press(page, '1')
  await expect(page.getByRole('checkbox', { name: /to pad GND, black/ })).toBeChecked()
  await expect(page.getByRole('button', { name: 'Wire: done' })).toBeDisabled()
  await answer(page, /to pad/, /The other 2 are on too/)
  await done(page, 'Wire', at('backup'))

  await inWords(page, 'Flash chip id', (w) => w.getByLabel('Flash chip id, three bytes').fill('68 40 14'))
  const read = (which: 'first' | 'second') => page.getByLabel(new RegExp(`: the ${which} read$`))
  await read('first').setInputFiles(firstRead)
  await expect(page.getByText(/read1\.bin/).first()).toBeVisible()
  await gate(page, 'Unplugged')
  await read('second').setInputFiles(secondRead)
  await expect(page.getByText('The two reads are equal, byte for byte.').first()).toBeVisible()
  await inDrawer(page, 'First read', async (drawer) => {
    const download = page.waitForEvent('download')
    await drawer.getByRole('link', { name: 'Save it as it came' }).click()
    const stream = await (await download).createReadStream()
    const pieces: Buffer[] = []
    for await (const piece of stream) pieces.push(piece as Buffer)
    expect(Buffer.concat(pieces).equals(Buffer.from(stock))).toBe(true)
  })
  await done(page, 'Back up', at('check'))

  // The wrong mode first: it is stopped at the question, not after the write.
  await card(page)
    .locator('input[type=file]')
    .setInputFiles(fileOf('plainsong-1m-qio.bin', lx106Image('QIO', 21)))
  await inWords(page, 'Data lines to the flash', (w) => w.getByText('Two', { exact: true }).click())
  await expect(
    page.getByText(/QIO cannot work here: it would write and verify, and then never start/).first(),
  ).toBeVisible()
  await expect(page.getByRole('button', { name: 'Check the image: done' })).toBeDisabled()
  await inDrawer(page, 'Another image', (drawer) =>
    drawer.locator('input[type=file]').setInputFiles(fileOf('plainsong-1m-dout.bin', lx106Image('DOUT', 21))),
  )
  await expect(page.getByText('It may go in.').first()).toBeVisible()
  await inWords(page, 'Firmware and version', async (w) => {
    await w.getByLabel('Firmware', { exact: true }).selectOption('Plainsong')
    await w.getByLabel('Version').fill('9.4.1')
  })
  await done(page, 'Check the image', at('write'))

  // Each read that was kept has ended the gate.
  await gate(page, 'Unplugged')
  await answer(page, /How did it go/, 'Done')
  // Nobody is taken to have checked it.
  await expect(page.getByRole('button', { name: 'Log this attempt' })).toBeDisabled()
  await page.getByText('Equal', { exact: true }).click()
  await page.getByLabel('Minutes at the bench').fill('11')
  await page.getByRole('button', { name: 'Log this attempt' }).click()
  await expect(page.getByText('equal by digest').first()).toBeVisible()
  await done(page, 'Write', at('start'))
  // A new act, a new look at the plug: the attempt has ended the gate.
  await gate(page, 'Unplugged')

  await answer(page, /is the jumper off/i, 'Yes, BOOT is free')
  await page.getByLabel('Boot text, as the console shows it').fill('CCCCCCCC')
  await expect(page.getByText('loader waiting', { exact: true }).first()).toBeVisible()
  await page.getByLabel('Boot text, as the console shows it').fill(boot)
  await expect(page.getByText('It runs what is in its flash.').first()).toBeVisible()
  await done(page, 'First start', at('join'))

  await page.getByLabel('MAC of its access point').fill('6A-11-22-33-44-50')
  await goOn(page)
  await page
    .getByLabel('List after it joined')
    .fill('1779220000 68:11:22:33:44:50 192.168.71.77 plainsong-4450 *\n1779220001 68:11:22:33:44:70 192.168.71.78 * *')
  await expect(page.getByText(/MAC differs in the local bit/).first()).toBeVisible()
  await goOn(page)
  await answer(page, 'Is it 192.168.71.77?', 'It is this one')
  await expect(page.getByRole('button', { name: 'Address: change' })).toHaveText('192.168.71.77')
  await done(page, 'Join Wi-Fi', at('pins'))
  await answer(page, /What powers it/, 'The adapter')
  // What the board taught is inherited: one pin seen here makes it this unit's own.
  await expect(page.getByRole('button', { name: /GPIO12: relay 1, inherited/ })).toBeVisible()
  await page.getByRole('button', { name: /GPIO12: relay 1/ }).click()
  await answer(page, /GPIO12: see a relay do its work/, 'Seen, it agrees')
  await done(page, 'Pins', at('close'))

  // The way back, one thing after the other.
  await answer(page, /Back in now: button cap/, 'It is back')
  await expect(page.getByText(/light pipe.*not back: the case is not closed/).first()).toBeVisible()
  await answer(page, /Back in now: light pipe/, 'It is back')
  await answer(page, /Back in now: 4 clips/, 'All 4 are back')
  await answer(page, /Back in now: 1 screw/, 'It is back')
  await answer(page, /Back in now: 2 screws/, 'One more is back')
  await answer(page, /Back in now: 2 screws/, 'All 2 are back')
  await done(page, 'Close up', at('behaviour'))

  await gate(page, 'Closed and free of wires')
  await answer(page, /After a power cut, channel 1/, 'As before')
  await answer(page, /does it switch, and come up as set/, 'Yes, tried')
  await done(page, 'Behaviour', at('meter'))

  // The only reference meter of the workshop is chosen; a point is taken on the card, the rest pasted.
  await expect(page.getByRole('button', { name: 'Reference meter: change' })).toContainText('Outlet meter')
  await inWords(page, 'Load', (w) => w.getByText('Warmed up 5 minutes or more').click())
  await page.getByLabel('The unit shows').fill('58.1')
  await page.getByLabel('The reference shows').fill('60.2')
  await page.getByLabel('The reference shows').press('Enter')
  await inDrawer(page, 'Paste pairs', async (drawer) => {
    await drawer
      .getByLabel('Pairs, one a line')
      .fill('115.9 120.4\n481.0 500.9\n961.8 1001.2\n1844.6 1921.0\n58.0 60.1\n722.4 751.6')
    await drawer.getByRole('button', { name: 'Take them' }).click()
  })
  await page.getByRole('button', { name: 'in words' }).click()
  await page.getByLabel('p7: used to').selectOption('verify')
  await inDrawer(page, 'Readings at zero', (drawer) =>
    drawer.getByLabel('Readings with the relay off').fill('0 0,1 0 0,2 0,1'),
  )
  await expect(page.getByText('1.04161').first()).toBeVisible()
  await page.getByRole('button', { name: 'Save this calibration' }).click()
  await expect(page.getByText('Everything for this step is there.').first()).toBeVisible()
  await done(page, 'Meter', at('name'))

  await answer(page, /address reserved/, 'Yes, reserved for this MAC')
  await done(page, 'Name and address', at('hub'))

  await hubHeard(page)
  await done(page, 'Hub', at('prove'))

  await answer(page, 'How did it come back?', 'As wanted')
  // What else may go away was predicted from its rules; it did so.
  await inDrawer(page, 'What else may go away', async (inside) => {
    const broker = inside.getByRole('region', { name: 'The broker off for a minute' })
    await expect(broker.getByText(/Gone meanwhile: the hub, voice and automations/)).toBeVisible()
    const sure = broker.getByLabel(/Its load is off or unplugged/)
    if (await sure.isVisible()) await sure.check()
    await broker.getByRole('button', { name: 'As predicted' }).click()
    await expect(broker.getByText('as predicted', { exact: true })).toBeVisible()
  })
  await done(page, 'Prove', at('watch'))
  await expect(page.getByRole('heading', { name: 'In service' })).toBeVisible()
  await expect(page.getByRole('article', { name: `What was proven of unit ${n}` })).toContainText('In service since')

  // Another address later: the hub tests no longer stand, and the Bench says so.
  await page.goto(`/units/${n}/join`)
  await inWords(page, 'Address', (w) => w.getByLabel('Address', { exact: true }).fill('192.168.71.177'))
  await saved(page)
  await page.goto('/')
  await expect(
    page.getByText('The address changed: it was 192.168.71.77, it is now 192.168.71.177.').first(),
  ).toBeVisible()
})

test('a unit of an unknown board teaches it, and the next one is asked less', async ({ page }) => {
  const n = await newUnit(page, `Thunder sheet ${run}`)
  const at = (step: string) => new RegExp(`/units/${n}/${step}$`)

  await card(page).getByText('Nobody has seen it here: name it').click()
  await page.getByLabel('Maker').fill('Tolliver')
  await page.getByLabel('Product').fill(`R1-${run}`)
  await page.getByLabel('Revision').fill('5 V')
  await page.getByText('Runs on mains').click()
  await page.getByRole('button', { name: 'Name this board' }).click()
  await expect(page.getByLabel('Board', { exact: true })).not.toHaveValue('')
  await goOn(page)
  await answer(page, 'How does it get its firmware?', /Over wires, in place/)
  await answer(page, /does it work/, 'It works')
  await answer(page, 'What will it work?', 'A heater')
  await done(page, 'Arrive', at('open'))

  // Low voltage: no gates of the mains.
  await expect(page.getByRole('form', { name: /Gate:/ })).toHaveCount(0)
  await card(page)
    .getByText(/It has none/)
    .click()
  await goOn(page)
  await page.locator('input[type=file]').setInputFiles([photo, fileOf('top.png', boardPhoto(5, 2)), photo])
  await expect(card(page).getByText('The photos that are needed are there.')).toBeVisible()
  await inDrawer(page, 'Correct the plan', async (drawer) => {
    await drawer.getByRole('button', { name: 'Add a fastener' }).click()
    await drawer.getByLabel('Count').fill('3')
  })
  await done(page, 'Open', at('identify'))

  await page.getByRole('button', { name: 'Crystal', exact: true }).click()
  await answer(page, 'What stands on the crystal?', '26 MHz')
  const see = async (name: string, label: string | RegExp) => {
    await askFor(page, name)
    await card(page).getByRole('button', { name: label }).first().click()
  }
  await see('Bluetooth', /^1 ?yes|yes$/)
  await see('Boot text', /“rst cause”, 74 880/)
  await expect(page.getByText(/the rest says LX106, but this fits .* times better/).first()).toBeVisible()
  await expect(page.getByRole('button', { name: 'Identify: done' })).toBeDisabled()
  await see('Bluetooth', /no$/)
  await see('What answers', /C0 01 08/)
  await done(page, 'Identify', at('pads'))

  // Unmarked holes: entered by keyboard alone, as with a meter in the other hand.
  await answer(page, 'How many pads lie together?', '5 pads')
  await press(page, 'v')
  const cell = (pad: number, reading: string) => page.locator(`[data-cell="${pad} ${reading}"]:visible`)
  for (const [pad, key] of ['1', '0', '0', '0', '0'].entries()) await cell(pad, 'cont_gnd').press(key)
  await expect(page.getByText('no power yet')).toBeVisible()
  await expect(cell(1, 'volts')).toHaveCount(0)
  await cell(3, 'ohms_3v3').fill('0,4')
  await cell(1, 'ohms_3v3').fill('o')
  await cell(2, 'ohms_3v3').fill('o')
  await cell(4, 'ohms_3v3').fill('10k1')
  await cell(4, 'button_gnd').press('1')
  await expect(page.getByText('may be powered')).toBeVisible()
  // 40 V on a 3.3 V pad: stop, said at once, kept, and left out of the answer.
  await cell(1, 'volts').fill('40')
  await expect(page.getByText(/Above 6 V: switch off, this is not a 3.3 V part of the board\./).first()).toBeVisible()
  await cell(1, 'volts').fill('3,12')
  await cell(1, 'volts_10k').fill('0,58')
  await cell(1, 'dip').press('0')
  await cell(2, 'volts').fill('3,27')
  await cell(2, 'volts_10k').fill('3,24')
  await cell(2, 'dip').press('1')
  await cell(4, 'label').fill('IO0')
  await cell(0, 'volts').fill('0')
  await cell(3, 'volts').fill('3.3')
  await expect(card(page).getByRole('heading', { name: 'The row is clear. Take it?' })).toBeVisible()
  await page.getByRole('button', { name: 'as a drawing' }).click()
  const row = (side: string, roles: string) =>
    expect(page.getByRole('application', { name: new RegExp(`Pads from the ${side} side: ${roles}`) })).toBeVisible()
  await row('parts', 'GND, RX, TX, 3V3, BOOT')
  await inWords(page, 'Side', (w) => w.getByText('solder side', { exact: true }).click())
  await row('solder', 'BOOT, 3V3, TX, RX, GND')
  await inWords(page, 'Side', (w) => w.getByText('parts side', { exact: true }).click())
  await expect(page.getByRole('button', { name: 'Find the pads: done' })).toBeDisabled()
  await press(page, '1')
  await inWords(page, 'Pitch', (w) => w.getByText('2.54', { exact: true }).click())
  await done(page, 'Find the pads', at('wire'))

  await answer(page, 'Which adapter?', /Old five-volt adapter/)
  await answer(page, 'Into download mode by what?', /Jumper from BOOT to ground/)
  await expect(card(page).getByText("The adapter's logic level of 5 V is too high for this part.")).toBeVisible()
  await expect(page.getByRole('button', { name: 'Wire: done' })).toBeDisabled()
  await askFor(page, 'Adapter')
  await answer(page, 'Which adapter?', /Bench adapter, two grounds/)
  // The row does not line up: a jig is designed, and printed to scale with its parts.
  await page.locator('[data-part="sheet"]').getByRole('button', { name: 'Plug or jig' }).click()
  await expect(page.getByText(/On a jig 1 pair crosses: 1 insulated wire on top/)).toBeVisible()
  await saved(page)
  await page.getByRole('link', { name: 'Print it 1:1, with its parts' }).click()
  await expect(
    page.getByRole('img', { name: /Jig from the solder side: adapter pin 1 GND to pad 1 GND/ }),
  ).toBeVisible()
  await expect(page.getByText('A push button from BOOT to GND, on the jig itself')).toBeVisible()
  const jig = page.locator('#jig-parts svg')
  // 7 pins at 2.54 mm and a margin of 4 mm on both sides, 1:1.
  expect(await jig.getAttribute('width')).toBe('23.24mm')
  const file = page.waitForEvent('download')
  await page.getByRole('button', { name: 'Save as SVG' }).click()
  expect((await file).suggestedFilename()).toMatch(/^jig-unit\d+-parts-side\.svg$/)
  await page.getByRole('link', { name: 'Back to Wire' }).click()
  await page.waitForURL(at('wire'))
  // A capture read at the wrong rate is recognised.
  await inDrawer(page, 'What its TX says', async (drawer) => {
    await drawer.getByText('115 200', { exact: true }).click()
    const capture = Buffer.from(
      '726c006c9c9e7c008c6ce07c020c0c0c8c0c6cec0c627c8e8202ec12927292620c8e628cf26e6e9e6c6e6e9ce2ec0c621c70ec8e6c726c726c',
      'hex',
    )
    await drawer.locator('input[type=file]').setInputFiles(fileOf('capture.bin', capture))
    await expect(drawer.getByText(/It was sent at 74\s880 baud/)).toBeVisible()
    await drawer.getByRole('button', { name: 'Leave them out' }).click()
    await drawer.getByLabel('Its text, pasted').fill('\r\n ets Jan  8 2013,rst cause:1, boot mode:(1,6)\r\n')
    await expect(drawer.getByText(/It is in download mode\./)).toBeVisible()
  })
  await answer(page, /to pad/, /All \d are on/)
  await done(page, 'Wire', at('backup'))

  // Two reads that differ first; then the second is read again.
  const shaky = stock.slice()
  shaky[0x3005] = (shaky[0x3005] as number) ^ 0x81
  const read = (which: 'first' | 'second') => page.getByLabel(new RegExp(`: the ${which} read$`))
  await read('first').setInputFiles(firstRead)
  await expect(page.getByText(/read1\.bin/).first()).toBeVisible()
  await read('second').setInputFiles(fileOf('shaky.bin', shaky))
  await expect(page.getByText('1 of 256 sectors differ at 0x3000.').first()).toBeVisible()
  await expect(page.getByRole('button', { name: 'Back up: done' })).toBeDisabled()
  await expect(card(page).getByRole('heading', { name: 'The two reads differ. Read again.' })).toBeVisible()
  await read('second').setInputFiles(secondRead)
  await expect(page.getByText('The two reads are equal, byte for byte.').first()).toBeVisible()
  await done(page, 'Back up', at('check'))

  const vault = page.getByLabel('From the vault', { exact: true })
  await vault.selectOption(
    await vault.locator('option', { hasText: 'plainsong-lx106-1m-dio.bin' }).getAttribute('value'),
  )
  await expect(card(page).getByText('DIO has not been seen starting on this board.')).toBeVisible()
  await expect(page.getByRole('button', { name: 'Check the image: done' })).toBeDisabled()
  await card(page)
    .getByRole('button', { name: /I know, and go on/ })
    .click()
  await done(page, 'Check the image', at('write'))

  await answer(page, /How did it go/, 'No answer')
  await page.getByRole('button', { name: 'Log this attempt' }).click()
  await expect(page.locator('[data-part="verdict"]').getByText('No answer')).toBeVisible()
  await answer(page, /How did it go/, 'Done')
  await page.getByText('Equal', { exact: true }).click()
  await page.getByLabel('Minutes at the bench').fill('16')
  await page.getByRole('button', { name: 'Log this attempt' }).click()
  await done(page, 'Write', at('start'))

  await answer(page, /is the jumper off/i, 'Yes, BOOT is free')
  await page.getByLabel('Boot text, as the console shows it').fill(boot)
  await done(page, 'First start', at('join'))

  await inWords(page, 'Address', (w) => w.getByLabel('Address', { exact: true }).fill('192.168.71.90'))
  await done(page, 'Join Wi-Fi', at('pins'))
  await answer(page, /What powers it/, 'The adapter')

  // A pin is pressed in the drawing and said on the card; what speaks against it stands at the pin.
  const pin = (id: string) => page.getByRole('button', { name: new RegExp(`^${id}: `) }).first()
  await pin('GPIO4').click()
  await answer(page, 'What does GPIO4 do?', 'a relay')
  await inWords(page, 'GPIO4 channel', (w) => w.getByLabel('GPIO4 channel').fill('1'))
  await pin('GPIO15').click()
  await answer(page, 'What does GPIO15 do?', 'a button')
  await expect(
    card(page).getByText(/It idles high on a strap that must be low: the unit does not start\./),
  ).toBeVisible()
  await card(page).getByRole('button', { name: 'Nobody knows what it does' }).click()
  await pin('GPIO0').click()
  await answer(page, 'What does GPIO0 do?', 'a button')
  await inWords(page, 'GPIO0 pull', (w) => w.getByLabel('GPIO0 pull').selectOption('up'))
  const seeBoth = async () => {
    for (const id of ['GPIO4', 'GPIO0']) {
      await pin(id).click()
      await answer(page, new RegExp(`${id}: see`), 'Seen, it agrees')
    }
  }
  await seeBoth()
  await expect(card(page).getByText(/Not confirmed yet: GPIO4, GPIO0/)).toBeVisible()
  await inWords(page, 'Sitting', (w) => w.getByRole('button', { name: 'Power was cycled: sitting 2' }).click())
  await seeBoth()
  await done(page, 'Pins', at('close'))
  await answer(page, /Back in now: 3 screws/, 'All 3 are back')
  await done(page, 'Close up', at('behaviour'))
  await answer(page, /After a power cut, channel 1/, 'Off')
  await answer(page, /does it switch, and come up as set/, 'Yes, tried')
  await done(page, 'Behaviour', at('meter'))
  await done(page, 'Meter', at('name'))
  await answer(page, /address reserved/, 'Yes, reserved for this MAC')
  await done(page, 'Name and address', at('hub'))
  await hubSeen(page, 'seen it')
  await done(page, 'Hub', at('prove'))
  await answer(page, 'How did it come back?', 'As wanted')
  await done(page, 'Prove', at('watch'))

  // Another one of these: number and name count on, the route is known.
  await press(page, 'k')
  await page.getByText('Another one of these').click()
  await expect(page.getByLabel('Its name')).toHaveValue(
    `Thunder sheet ${run} 2`.replace(/(\d+) 2$/, (_, d) => String(Number(d) + 1)),
  )
  await page.getByLabel('Its name').fill(`Rain box ${run}`)
  await page.getByRole('button', { name: 'It has arrived' }).click()
  await page.waitForURL((url) => /\/units\/\d+\/arrive/.test(url.pathname) && !url.pathname.startsWith(`/units/${n}/`))
  const next = Number(/units\/(\d+)/.exec(page.url())?.[1])
  await expect(card(page).getByText('Over wires, in place')).toBeVisible()
  await page.goto(`/units/${next}/pads`)
  await row('parts', 'GND, RX, TX, 3V3, BOOT')
  await page.goto(`/units/${next}/pins`)
  // What the first one taught is inherited, until somebody looks here.
  await expect(page.getByRole('button', { name: /, inherited/ })).toHaveCount(2)
  await answer(page, /What powers it/, 'The adapter')
  await pin('GPIO4').click()
  await answer(page, /GPIO4: see/, 'Seen, it agrees')
  await expect(page.getByRole('button', { name: /, confirmed/ })).toHaveCount(1)
  await page.goto('/boards')
  await page.getByRole('link', { name: new RegExp(`R1-${run}`) }).click()
  await expect(page.getByText(`From unit ${n}`).first()).toBeVisible()
})
