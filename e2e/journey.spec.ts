import { lx106Image, lx106Stock } from '../demo/binaries'
import { boardPhoto } from '../demo/pictures'
import { done, expect, fileOf, gate, newUnit, saved, test } from './bench'

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

  await page.getByText('Over wires, in place').click()
  await page.getByText('It works', { exact: true }).click()
  await page.getByLabel('It will work').selectOption('heater')
  await page.getByLabel('What it will carry').fill('1 200')
  await expect(page.getByText('1 200 W at 230 V is 5.2 A of 10 A.').first()).toBeVisible()
  await done(page, 'Arrive', at('open'))

  // What the board knows is filled in; only this unit's own is asked.
  await expect(page.getByLabel('Terminal 1, as printed or placed')).toHaveValue('brown, next to the fuse')
  await gate(page, 'Unplugged')
  // The wait is a clock: before its time only a reading below 30 V ends it.
  await expect(page.getByRole('timer')).toContainText('since “unplugged”')
  await page.getByRole('textbox', { name: /^Measured/ }).fill('42')
  await expect(page.getByRole('button', { name: /^Measured before the time/ })).toBeDisabled()
  await page.getByRole('textbox', { name: /^Measured/ }).fill('0.4')
  await page.getByRole('button', { name: /^Measured before the time/ }).click()
  await expect(page.getByText('Waited and measured, confirmed today').first()).toBeVisible()
  // Of a known board one photo is enough; the plan is there to be ticked.
  await expect(page.getByText('Still wanted: board top.')).toBeVisible()
  await page.locator('input[type=file]').setInputFiles(photo)
  await expect(page.getByRole('img', { name: 'board top' }).first()).toBeVisible()
  await page.getByRole('checkbox', { name: /4 clips, along the seam; needs 1 and 2 first/ }).click()
  await expect(page.getByText('Step 3 needs step 1 first.').first()).toBeVisible()
  for (const name of [/2 screws, corners of the face/, /1 screw, middle, under the sticker/])
    await page.getByRole('checkbox', { name }).click()
  await expect(page.getByText('Step 3 needs step 1 first.')).toHaveCount(0)
  await done(page, 'Open', at('identify'))

  await page.getByLabel('Crystal, MHz').selectOption('26')
  await page.getByLabel('Boot text and its rate').selectOption('cause_74880')
  await page.getByLabel('Printed on the chip').fill('pw 106 a7')
  await expect(page.getByText(/Met before: LX106 × \d+\./)).toBeVisible()
  await page.getByRole('button', { name: 'Take it as evidence' }).click()
  await expect(page.getByText('Identified').first()).toBeVisible()
  await done(page, 'Identify', at('pads'))
  await done(page, 'Find the pads', at('wire'))

  await page
    .getByLabel('Adapter', { exact: true })
    .selectOption({ label: 'Bench adapter, two grounds (3.3 V, 700 mA)' })
  await expect(page.getByText(/Turned round, it goes straight on\. Bend away and insulate GND \(pin 5\)/)).toBeVisible()
  await page.getByLabel('Adapter', { exact: true }).selectOption({ label: 'Adapter 2, six pins (3.3 V, 250 mA)' })
  await expect(page.getByText(/Bursts of the radio need a capacitor of about 750 µF/).first()).toBeVisible()
  await page.getByText('Bench supply', { exact: true }).click()
  await expect(page.getByText(/Bursts of the radio/).first()).toBeHidden()
  await expect(
    page.getByRole('img', { name: /Wiring: GND to GND, black; RX to TX, green; TX to RX, yellow/ }),
  ).toBeVisible()
  await done(page, 'Wire', at('backup'))

  await page.getByLabel('Flash chip id, three bytes').fill('68 40 14')
  await page.locator('input[type=file]').first().setInputFiles(firstRead)
  await expect(page.getByText('read1.bin').first()).toBeVisible()
  await page.locator('input[type=file]').nth(1).setInputFiles(secondRead)
  await expect(page.getByText('The two reads are equal, byte for byte.').first()).toBeVisible()
  const download = page.waitForEvent('download')
  await page.getByRole('link', { name: 'Save it as it came' }).first().click()
  const stream = await (await download).createReadStream()
  const pieces: Buffer[] = []
  for await (const piece of stream) pieces.push(piece as Buffer)
  expect(Buffer.concat(pieces).equals(Buffer.from(stock))).toBe(true)
  await done(page, 'Back up', at('check'))

  // The wrong mode first: it is stopped at the question, not after the write.
  await page.locator('input[type=file]').setInputFiles(fileOf('plainsong-1m-qio.bin', lx106Image('QIO', 21)))
  await page.getByText('Two', { exact: true }).click()
  await expect(
    page.getByText(/QIO cannot work here: it would write and verify, and then never start/).first(),
  ).toBeVisible()
  await expect(page.getByRole('button', { name: 'Check the image: done' })).toBeDisabled()
  await page.locator('input[type=file]').setInputFiles(fileOf('plainsong-1m-dout.bin', lx106Image('DOUT', 21)))
  await expect(page.getByText('It may go in.').first()).toBeVisible()
  await page.getByLabel('Firmware', { exact: true }).selectOption('Plainsong')
  await page.getByLabel('Version').fill('9.4.1')
  await done(page, 'Check the image', at('write'))

  // Each read that was kept has ended the gate.
  await gate(page, 'Unplugged')
  await page.getByLabel('Minutes at the bench').fill('11')
  await page.getByRole('button', { name: 'Log this attempt' }).click()
  await expect(page.getByText('equal by digest').first()).toBeVisible()
  await done(page, 'Write', at('start'))
  // A new act, a new look at the plug: the attempt has ended the gate.
  await gate(page, 'Unplugged')

  await page.getByLabel('Boot text, as the console shows it').fill('CCCCCCCC')
  await expect(page.getByText('loader waiting', { exact: true }).first()).toBeVisible()
  await page.getByLabel('Boot text, as the console shows it').fill(boot)
  await expect(page.getByText('It runs what is in its flash.').first()).toBeVisible()
  await page.getByText('The jumper is off and no button holds BOOT').click()
  await done(page, 'First start', at('join'))

  await page.getByLabel('MAC of its access point').fill('6A-11-22-33-44-50')
  await page
    .getByLabel('List after it joined')
    .fill('1779220000 68:11:22:33:44:50 192.168.71.77 plainsong-4450 *\n1779220001 68:11:22:33:44:70 192.168.71.78 * *')
  await expect(page.getByText('MAC differs in the local bit').first()).toBeVisible()
  await page.getByRole('button', { name: 'It is this one' }).click()
  await expect(page.getByLabel('Address', { exact: true })).toHaveValue('192.168.71.77')
  await done(page, 'Join Wi-Fi', at('pins'))
  await page.getByText('The adapter', { exact: true }).click()
  // What the board taught is inherited: one pin seen here makes it this unit's own.
  await expect(page.getByText('inherited', { exact: true }).first()).toBeVisible()
  await page.getByRole('button', { name: 'GPIO12: seen, it agrees' }).click()
  await done(page, 'Pins', at('close'))

  await page.getByLabel('Back, of 2').fill('2')
  await page.getByLabel('Back, of 1').fill('1')
  await expect(page.getByText(/button cap.*not back: the case is not closed/).first()).toBeVisible()
  await page.getByLabel('Back, of 4').fill('4')
  await page.getByText('button cap is back in').click()
  await page.getByText('light pipe is back in').click()
  await done(page, 'Close up', at('behaviour'))

  await gate(page, 'Closed and free of wires')
  await page.getByText('As before').click()
  await page.getByText('Tried on the unit').click()
  await done(page, 'Behaviour', at('meter'))

  // The only reference meter of the workshop is chosen.
  await expect(page.getByLabel('Reference meter')).not.toHaveValue('')
  await page.getByText('Warmed up 5 minutes or more').click()
  await page
    .getByLabel('Or paste pairs')
    .fill('58.1 60.2\n115.9 120.4\n481.0 500.9\n961.8 1001.2\n1844.6 1921.0\n58.0 60.1\n722.4 751.6')
  await page.getByRole('button', { name: 'Take them' }).click()
  await page.getByLabel('p7: used to').selectOption('verify')
  await page.getByLabel('Readings with the relay off').fill('0 0,1 0 0,2 0,1')
  await expect(page.getByText('1.04161').first()).toBeVisible()
  await page.getByRole('button', { name: 'Save this calibration' }).click()
  await expect(page.getByText('Within its limits.').first()).toBeVisible()
  await done(page, 'Meter', at('name'))

  await page.getByText('Reserved in the DHCP server for this MAC').click()
  await done(page, 'Name and address', at('hub'))

  await page.getByLabel('Hub', { exact: true }).selectOption({ label: 'Mantel' })
  await page.getByLabel('What you saw').fill('the desk lamp went on and off')
  await page.getByRole('button', { name: 'hub to unit: seen' }).click()
  await expect(page.getByText('Hub → unit seen at the load.').first()).toBeVisible()
  await page.getByLabel('What you saw').fill('Mantel showed the press')
  await page.getByRole('button', { name: 'button to hub: seen' }).click()
  await done(page, 'Hub', at('prove'))

  await page.getByLabel('Supply was off for').fill('12')
  await page.getByText('As wanted', { exact: true }).click()
  await done(page, 'Prove', at('watch'))
  await expect(page.getByRole('heading', { name: 'In service' })).toBeVisible()

  // Another address later: the hub tests no longer stand, and the Bench says so.
  await page.goto(`/units/${n}/join`)
  await page.getByLabel('Address', { exact: true }).fill('192.168.71.177')
  await saved(page)
  await page.goto('/')
  await expect(
    page.getByText('Hub: The address changed: it was 192.168.71.77, it is now 192.168.71.177.'),
  ).toBeVisible()
})

test('a unit of an unknown board teaches it, and the next one is asked less', async ({ page }) => {
  const n = await newUnit(page, `Thunder sheet ${run}`)
  const at = (step: string) => new RegExp(`/units/${n}/${step}$`)

  await page.getByText('A board nobody has seen here').click()
  await page.getByLabel('Maker').fill('Tolliver')
  await page.getByLabel('Product').fill(`R1-${run}`)
  await page.getByLabel('Revision').fill('5 V')
  await page.getByText('Runs on mains').click()
  await page.getByRole('button', { name: 'Name this board' }).click()
  await expect(page.getByText(`It is a Tolliver R1-${run} 5 V.`).first()).toBeVisible()
  await page.getByText('Over wires, in place').click()
  await page.getByText('It works', { exact: true }).click()
  await page.getByLabel('It will work').selectOption('heater')
  await done(page, 'Arrive', at('open'))

  // Low voltage: no gates of the mains.
  await expect(page.getByRole('region', { name: /Gate:/ })).toHaveCount(0)
  await page.getByText('It has no terminals').click()
  await page.locator('input[type=file]').setInputFiles([photo, fileOf('top.png', boardPhoto(5, 2)), photo])
  await expect(page.getByText('The photos that are needed are there.')).toBeVisible()
  await page.getByRole('button', { name: 'Add a fastener' }).click()
  await page.getByLabel('Count').fill('3')
  await done(page, 'Open', at('identify'))

  await page.getByLabel('Crystal, MHz').selectOption('26')
  await page.getByLabel('Bluetooth advert seen').selectOption('yes')
  await page.getByLabel('Boot text and its rate').selectOption('cause_74880')
  await expect(
    page.getByText(/The rest says LX106, but this says otherwise: it fits .* times better\. One of these two is wrong/),
  ).toBeVisible()
  await expect(page.getByRole('button', { name: 'Identify: done' })).toBeDisabled()
  await page.getByLabel('Bluetooth advert seen').selectOption('no')
  await page.getByLabel('What answers the tool').selectOption('slip')
  await done(page, 'Identify', at('pads'))

  // Unmarked holes: entered by keyboard alone, as with a meter in the other hand.
  for (let i = 0; i < 5; i++) await page.getByRole('button', { name: 'Add a pad' }).click()
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
  await expect(page.getByText('Above 6 V: switch off, this is not a 3.3 V part of the board.').first()).toBeVisible()
  await cell(1, 'volts').fill('3,12')
  await cell(1, 'volts_10k').fill('0,58')
  await cell(1, 'dip').press('0')
  await cell(2, 'volts').fill('3,27')
  await cell(2, 'volts_10k').fill('3,24')
  await cell(2, 'dip').press('1')
  await cell(4, 'label').fill('IO0')
  await cell(0, 'volts').fill('0')
  await cell(3, 'volts').fill('3.3')
  await expect(page.getByText('settled', { exact: true })).toBeVisible()
  await expect(page.getByRole('img', { name: 'Pads from the parts side: GND, RX, TX, 3V3, BOOT' })).toBeVisible()
  await page.getByText('solder side', { exact: true }).first().click()
  await expect(page.getByRole('img', { name: 'Pads from the solder side: BOOT, 3V3, TX, RX, GND' })).toBeVisible()
  await page.getByText('parts side', { exact: true }).first().click()
  await expect(page.getByRole('button', { name: 'Find the pads: done' })).toBeDisabled()
  await page.locator('body').press('r')
  await page.getByText('2.54', { exact: true }).click()
  await done(page, 'Find the pads', at('wire'))

  await page
    .getByLabel('Adapter', { exact: true })
    .selectOption({ label: 'Old five-volt adapter (5 V, current not known)' })
  await page.getByLabel('Into download mode by').selectOption('jumper')
  await expect(page.getByText("The adapter's logic level of 5 V is too high for this part.").first()).toBeVisible()
  await expect(page.getByRole('button', { name: 'Wire: done' })).toBeDisabled()
  await page
    .getByLabel('Adapter', { exact: true })
    .selectOption({ label: 'Bench adapter, two grounds (3.3 V, 700 mA)' })
  // The row does not line up: a jig is designed, and printed to scale with its parts.
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
  await page.getByText('What its TX says through the reset').click()
  await page.getByText('115 200', { exact: true }).click()
  const capture = Buffer.from(
    '726c006c9c9e7c008c6ce07c020c0c0c8c0c6cec0c627c8e8202ec12927292620c8e628cf26e6e9e6c6e6e9ce2ec0c621c70ec8e6c726c726c',
    'hex',
  )
  await page.locator('input[type=file]').setInputFiles(fileOf('capture.bin', capture))
  await expect(page.getByText(/It was sent at 74 880 baud/)).toBeVisible()
  await page.getByRole('button', { name: 'Leave them out' }).click()
  await page.getByLabel('Or its text, pasted').fill('\r\n ets Jan  8 2013,rst cause:1, boot mode:(1,6)\r\n')
  await expect(page.getByText(/It is in download mode\./)).toBeVisible()
  await done(page, 'Wire', at('backup'))

  // Two reads that differ first; then the second is read again.
  const shaky = stock.slice()
  shaky[0x3005] = (shaky[0x3005] as number) ^ 0x81
  await page.locator('input[type=file]').first().setInputFiles(firstRead)
  await expect(page.getByText('read1.bin').first()).toBeVisible()
  await page.locator('input[type=file]').nth(1).setInputFiles(fileOf('shaky.bin', shaky))
  await expect(page.getByText('1 of 256 sectors differ at 0x3000.').first()).toBeVisible()
  await expect(page.getByRole('button', { name: 'Back up: done' })).toBeDisabled()
  await page.locator('input[type=file]').nth(1).setInputFiles(secondRead)
  await expect(page.getByText('The two reads are equal, byte for byte.').first()).toBeVisible()
  await done(page, 'Back up', at('check'))

  const vault = page.getByLabel('Or from the vault')
  await vault.selectOption(
    await vault.locator('option', { hasText: 'plainsong-lx106-1m-dio.bin' }).getAttribute('value'),
  )
  await expect(page.getByText('DIO has not been seen starting on this board.').first()).toBeVisible()
  await expect(page.getByRole('button', { name: 'Check the image: done' })).toBeDisabled()
  await page.getByText('I know, and go on').click()
  await done(page, 'Check the image', at('write'))

  await page.getByText('No answer', { exact: true }).click()
  await page.getByRole('button', { name: 'Log this attempt' }).click()
  await expect(page.getByText('The last attempt ended no-answer.').first()).toBeVisible()
  await page.getByText('Done', { exact: true }).click()
  await page.getByLabel('Minutes at the bench').fill('16')
  await page.getByRole('button', { name: 'Log this attempt' }).click()
  await done(page, 'Write', at('start'))

  await page.getByLabel('Boot text, as the console shows it').fill(boot)
  await page.getByText('The jumper is off and no button holds BOOT').click()
  await done(page, 'First start', at('join'))

  await page.getByLabel('Address', { exact: true }).fill('192.168.71.90')
  await done(page, 'Join Wi-Fi', at('pins'))
  await page.getByText('The adapter', { exact: true }).click()

  await page.getByLabel('Add a pin').selectOption('GPIO4')
  await page.getByLabel('GPIO4 channel').fill('1')
  await page.getByLabel('Add a pin').selectOption('GPIO15')
  await page.getByLabel('GPIO15 is', { exact: true }).selectOption('button')
  await expect(
    page.getByText('It idles high on a strap that must be low: the unit does not start.').first(),
  ).toBeVisible()
  await page.getByRole('button', { name: 'Remove GPIO15' }).click()
  await page.getByLabel('Add a pin').selectOption('GPIO0')
  await page.getByLabel('GPIO0 is', { exact: true }).selectOption('button')
  await page.getByLabel('GPIO0 pull').selectOption('up')
  for (const pin of ['GPIO4', 'GPIO0']) await page.getByRole('button', { name: `${pin}: seen, it agrees` }).click()
  await expect(page.getByText(/Not confirmed yet: GPIO4, GPIO0/).first()).toBeVisible()
  await page.getByRole('button', { name: 'Power was cycled: sitting 2' }).click()
  for (const pin of ['GPIO4', 'GPIO0']) await page.getByRole('button', { name: `${pin}: seen, it agrees` }).click()
  await done(page, 'Pins', at('close'))
  await page.getByLabel('Back, of 3').fill('3')
  await done(page, 'Close up', at('behaviour'))
  await page.getByText('Tried on the unit').click()
  await done(page, 'Behaviour', at('meter'))
  await done(page, 'Meter', at('name'))
  await page.getByText('Reserved in the DHCP server for this MAC').click()
  await done(page, 'Name and address', at('hub'))
  await page.getByLabel('Hub', { exact: true }).selectOption({ label: 'Mantel' })
  for (const direction of ['hub to unit', 'button to hub']) {
    await page.getByLabel('What you saw').fill('seen it')
    await page.getByRole('button', { name: `${direction}: seen` }).click()
    await expect(page.getByLabel('What you saw')).toHaveValue('')
  }
  await done(page, 'Hub', at('prove'))
  await page.getByLabel('Supply was off for').fill('12')
  await page.getByText('As wanted', { exact: true }).click()
  await done(page, 'Prove', at('watch'))

  // Another one of these: number and name count on, the route is known.
  await page.getByText('Another one of these').click()
  await expect(page.getByLabel('Its name')).toHaveValue(
    `Thunder sheet ${run} 2`.replace(/(\d+) 2$/, (_, d) => String(Number(d) + 1)),
  )
  await page.getByLabel('Its name').fill(`Rain box ${run}`)
  await page.getByRole('button', { name: 'It has arrived' }).click()
  await page.waitForURL(/\/units\/\d+\/arrive/)
  const next = Number(/units\/(\d+)/.exec(page.url())?.[1])
  await expect(page.getByRole('radio', { name: /Over wires, in place/ })).toBeChecked()
  await page.goto(`/units/${next}/pads`)
  await expect(page.getByRole('img', { name: 'Pads from the parts side: GND, RX, TX, 3V3, BOOT' })).toBeVisible()
  await page.goto(`/units/${next}/pins`)
  // What the first one taught is inherited, until somebody looks here.
  await expect(page.getByText('inherited', { exact: true })).toHaveCount(2)
  await page.getByRole('button', { name: 'GPIO4: seen, it agrees' }).click()
  await expect(page.getByText('confirmed', { exact: true })).toHaveCount(1)
  await page.goto('/boards')
  await page.getByRole('link', { name: new RegExp(`R1-${run}`) }).click()
  await expect(page.getByText(`from unit ${n}`).first()).toBeVisible()
})
