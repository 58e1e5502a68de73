import { spawn } from 'node:child_process'
import type { Page } from '@playwright/test'
import { answer, card, expect, gate, inDrawer, newUnit, ready, saved, test } from './bench'
import { hands, plugIn } from './virtual-port'

/** A small chip, so that a whole read takes seconds. */
const chip = { family: 'LX6', flashBytes: 2 ** 18, flashId: '204012', strap: 'free', mac: '02:4c:59:10:20:44' }

/** Both gates in front of work at the pads. */
async function dead(page: Page): Promise<void> {
  await gate(page, 'Unplugged')
  await card(page).getByRole('textbox').first().fill('3')
  await card(page)
    .getByRole('button', { name: /Measured before/ })
    .click()
}
/** A new unit at Back up, with its gates confirmed. */
async function atBackup(page: Page, name: string, board?: string): Promise<void> {
  const n = await newUnit(page, name, board)
  await page.goto(`/units/${n}/backup`)
  await ready(page)
  await dead(page)
}
/** Power off, BOOT held, power on. */
async function intoLoader(page: Page): Promise<void> {
  await hands(page, 'off')
  await hands(page, 'hold')
  await hands(page, 'on')
}

test('the stock firmware is read twice from the page, over a slip in the middle, and kept', async ({ page }) => {
  await plugIn(page, { ...chip, faults: [{ unplug: { after: 120_000 } }] })
  await atBackup(page, 'Reads itself')
  await card(page)
    .getByRole('button', { name: /Read it here, twice/ })
    .click()
  // It runs its program, and that is said; nothing is pressed when it answers at last.
  await expect(card(page).getByText(/It started its firmware/)).toBeVisible()
  await intoLoader(page)
  // The wire slips: nothing is lost, and the same port goes on once the unit answers again.
  await expect(card(page).getByText('The line was lost. Nothing else is.')).toBeVisible({ timeout: 150_000 })
  await card(page)
    .getByRole('button', { name: /Choose the port and go on/ })
    .click()
  await expect(card(page).getByText('Read, and kept.')).toBeVisible({ timeout: 150_000 })
  await expect(page.getByText('equal', { exact: true })).toBeVisible()
  await expect(page.getByText(/204012, so it has 256 KiB/)).toBeVisible()
  await saved(page)
})

test('a stranger’s chip is not read: the record knows another one', async ({ page }) => {
  await plugIn(page, { ...chip, strap: 'held' })
  await atBackup(page, 'Not this one', 'Pellworth P1 rev C')
  await card(page)
    .getByRole('button', { name: /Read it here, twice/ })
    .click()
  await expect(card(page).getByText(/The record says LX106, the chip is LX6/)).toBeVisible()
  await expect(card(page).getByText(/Not read/)).toBeVisible()
})

test('the same over a serial bridge that a person named, from the machine that runs the app', async ({ page }) => {
  const bridge = spawn('node', [
    '--import',
    'tsx',
    'standins/chip/serve.ts',
    JSON.stringify({ ...chip, strap: 'held' }),
  ])
  const port = await new Promise<string>((done) => bridge.stdout.once('data', (line) => done(String(line).trim())))
  await atBackup(page, 'Behind a bridge')
  await inDrawer(page, 'Where the adapter hangs', async (inside) => {
    await inside.getByLabel(/Or a serial bridge/).fill(`127.0.0.1:${port}`)
    await inside.getByRole('button', { name: 'Use this bridge' }).click()
    await expect(inside.getByText(`the bridge 127.0.0.1:${port}`)).toBeVisible()
  })
  await card(page)
    .getByRole('button', { name: /Read it here, twice/ })
    .click()
  await expect(card(page).getByText(/Read 1 of 2/)).toBeVisible()
  // Its rate is what the bridge was set to: nothing asks the chip for another.
  await expect(card(page).getByText(/115.200 baud/)).toBeVisible()
  await expect(card(page).getByText(/KiB\/s/)).toBeVisible()
  await card(page).getByRole('button', { name: /^Stop/ }).click()
  await expect(card(page).getByText('Stopped.')).toBeVisible()
  bridge.kill()
})

test('the stock firmware is put back over a bridge; the supply gives way, the page is loaded anew, and it is finished', async ({
  page,
}) => {
  const bridge = spawn('node', [
    '--import',
    'tsx',
    'standins/chip/serve.ts',
    JSON.stringify({
      ...chip,
      family: 'RV32',
      strap: 'held',
      faults: [{ fault: 'brownout', block: 90, strap: 'free' }],
    }),
  ])
  const port = await new Promise<string>((done) => bridge.stdout.once('data', (line) => done(String(line).trim())))
  await atBackup(page, 'Goes back')
  await inDrawer(page, 'Where the adapter hangs', async (inside) => {
    await inside.getByLabel(/Or a serial bridge/).fill(`127.0.0.1:${port}`)
    await inside.getByRole('button', { name: 'Use this bridge' }).click()
  })
  // Its two reads come from another tool.
  const read = {
    name: 'stock.bin',
    mimeType: 'application/octet-stream',
    buffer: Buffer.from(Array.from({ length: 2 ** 18 }, (_, i) => (i * 7 + (i >> 9)) & 0xff)),
  }
  for (const which of ['first', 'second']) await page.getByLabel(new RegExp(`: the ${which} read$`)).setInputFiles(read)
  await expect(page.getByText('The two reads are equal, byte for byte.')).toBeVisible()
  const back = 'Put the stock firmware back'
  await inDrawer(page, back, async (inside) => {
    await expect(inside.getByText(/confirm the gate of this step first/)).toBeVisible()
  })
  await gate(page, 'Unplugged')
  await page.locator('[data-part="sheet"]').getByRole('button', { name: back }).click()
  await page.getByRole('dialog').getByRole('button', { name: 'Write it back here' }).click()
  await page.keyboard.press('Escape')
  await expect(card(page).getByText(/^Half written: bring it/)).toBeVisible({ timeout: 150_000 })
  await card(page).getByRole('button', { name: 'Put this away' }).click()
  await saved(page)
  // What was begun is known to a page that is loaded anew.
  await page.reload()
  await ready(page)
  await gate(page, 'Unplugged')
  await page.locator('[data-part="sheet"]').getByRole('button', { name: back }).click()
  await page.getByRole('dialog').getByRole('button', { name: 'Finish writing it back' }).click()
  await page.keyboard.press('Escape')
  await expect(card(page).getByText('Written, and equal by digest.')).toBeVisible({ timeout: 150_000 })
  bridge.kill()
})

test('written from the page, lost in the middle, finished from its journal, and seen starting', async ({ page }) => {
  const lx106 = { family: 'LX106', flashBytes: 2 ** 20, flashId: '684014', strap: 'held', mac: '02:4c:59:10:20:45' }
  await plugIn(page, { ...lx106, faults: [{ fault: 'brownout', block: 60, strap: 'free' }] })
  await page.goto('/units/18/write')
  await ready(page)
  if (await page.getByRole('button', { name: /^Unplugged/ }).isVisible()) await dead(page)
  await card(page).getByText('A sample', { exact: true }).click()
  await expect(card(page).getByText(/has not been tried on a real unit/)).toBeVisible()
  await card(page).getByRole('button', { name: 'Write it here' }).click()
  const away = card(page).getByRole('button', { name: 'Put this away' })
  await expect(away).toBeVisible({ timeout: 150_000 })
  await expect(card(page).getByText(/^Half written: bring it/)).toBeVisible()
  await away.click()
  // An attempt that failed is logged, and the gate is asked anew.
  await gate(page, 'Unplugged')
  await expect(card(page).getByText(/of 429 KiB are confirmed/)).toBeVisible()
  // Another page of this browser, as after a reload, knows of it too.
  const other = await page.context().newPage()
  await other.goto(page.url())
  await expect(card(other).getByText(/of 429 KiB are confirmed/)).toBeVisible()
  // And so does one whose store was cleared: the server keeps it too.
  await other.evaluate(async () => {
    const request = indexedDB.open('fresh-coat-journals')
    const db = await new Promise<IDBDatabase>((opened) => {
      request.onsuccess = () => opened(request.result)
    })
    const clearing = db.transaction('journals', 'readwrite')
    clearing.objectStore('journals').clear()
    await new Promise((over) => {
      clearing.oncomplete = over
    })
    db.close()
  })
  await other.reload()
  await expect(card(other).getByText(/of 429 KiB are confirmed/)).toBeVisible()
  await other.close()
  await hands(page, 'off')
  await hands(page, 'hold')
  await hands(page, 'on')
  await card(page).getByText('A sample', { exact: true }).click()
  await card(page).getByRole('button', { name: 'Finish it here' }).click()
  await expect(card(page).getByText('Written, and a sample of it read back.')).toBeVisible({ timeout: 150_000 })
  await away.click()
  await expect(card(page).getByText(/are confirmed/)).toHaveCount(0)
  await page.getByRole('link', { name: /^Start/ }).click()
  await page.waitForURL(/start$/)
  await gate(page, 'Unplugged')
  await answer(page, /Is the jumper off/, 'Yes, BOOT is free')
  await hands(page, 'off')
  await hands(page, 'free')
  await card(page).getByRole('button', { name: 'Listen here' }).click()
  await expect(card(page).getByText('Free BOOT, power off and on')).toBeVisible()
  await hands(page, 'on')
  // It says what it says at the rate of its boot text, and that is the evidence.
  await expect(page.getByText(/hello from the new coat/).first()).toBeVisible()
  // It is asked what its firmware can be asked, at the rate of its program, and its answer is held against what was written.
  await expect(card(page).getByText(/115.200 baud/)).toBeVisible()
  await card(page).getByRole('button', { name: 'Which version?' }).click()
  await expect(card(page).getByText(/It (is|says) 9\.4\.1/)).toBeVisible()
  await expect(card(page).getByRole('button', { name: 'Relay on' })).toBeDisabled()
  await card(page).getByLabel('Number of the relay').fill('1')
  await card(page).getByRole('button', { name: 'Relay on' }).click()
  await expect(card(page).getByText(/relay 1 is on/)).toBeVisible()
  await page.getByRole('button', { name: 'With times' }).click()
  await expect(page.getByRole('log')).toContainText(/\d+\.\d\d › relay 1 on/)
  await page.getByRole('button', { name: 'Bytes' }).click()
  await expect(page.getByRole('log')).toContainText(/[0-9a-f]{6} ([0-9a-f]{2} ){8}/)
  await card(page).getByRole('button', { name: /^Stop/ }).click()
  await expect(page.getByText('It runs what is in its flash.')).toBeVisible()
  await inDrawer(page, /What it says of itself: plainsong-2045/, (inside) =>
    expect(inside.getByText(/relay 1 is on/)).toBeVisible(),
  )
  await saved(page)
  // What it calls its air is at hand where it joins.
  await page.goto('/units/18/join')
  await expect(page.getByText('plainsong-2045')).toBeVisible()
})

test('practice: a whole first flash on a virtual chip, with a supply that gives way in it', async ({ page }) => {
  await page.goto('/practice')
  const room = page.getByRole('region', { name: 'A whole first flash' })
  await room.getByText('LX6', { exact: true }).click()
  await room.getByText('the supply gives way while it writes').click()
  const power = room.getByRole('button', { name: /^Power/ })
  const boot = room.getByRole('button', { name: /^BOOT is/ })
  await room.getByRole('button', { name: 'Read it, twice' }).click()
  await expect(room.getByText(/It started its firmware/)).toBeVisible()
  await power.click()
  await boot.click()
  await power.click()
  await expect(room.getByText('Write the new one')).toBeVisible({ timeout: 150_000 })
  await room.getByRole('button', { name: 'Write it', exact: true }).click()
  const finish = room.getByRole('button', { name: 'Finish it from its journal' })
  await expect(finish).toBeVisible({ timeout: 150_000 })
  await finish.click()
  await power.click()
  await power.click()
  await expect(room.getByText('See it start')).toBeVisible({ timeout: 150_000 })
  await power.click()
  await boot.click()
  await room.getByRole('button', { name: 'Listen' }).click()
  await power.click()
  await expect(room.getByText(/hello from the new coat/)).toBeVisible()
  await expect(room.getByText('From its stock firmware to its first start')).toBeVisible()
})
