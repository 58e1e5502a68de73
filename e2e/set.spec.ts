import { buildExtended, buildPartitions, buildSlotSelect, noise, twoSlotLayout } from '@fresh-coat/core/image/build'
import { lx6App } from '../demo/binaries'
import { answer, card, expect, fileOf, inDrawer, ready, saved, test } from './bench'

const loader = buildExtended({
  mode: 'DIO',
  sizeCode: 2,
  entry: 0x40080000,
  chipId: 0,
  segments: [{ address: 0x3fff0018, data: noise(18_000, 5) }],
})

test('four files for one LX6: placed by what is in them, judged together, made one, and written by parts', async ({
  page,
}) => {
  const files = [
    fileOf('program.bin', lx6App('2.0.0', 77)),
    fileOf('start.bin', loader),
    fileOf('slots.bin', buildSlotSelect(1)),
    fileOf('layout.bin', buildPartitions(twoSlotLayout)),
  ]
  await page.goto('/units/11/check')
  await ready(page)
  await inDrawer(page, 'Another image', (drawer) => drawer.locator('input[type=file]').setInputFiles(files))
  // Data of one sector say nothing of themselves: it is asked.
  await expect(card(page).getByRole('heading', { name: 'Where does slots.bin go?' })).toBeVisible()
  await expect(
    page.getByRole('img', {
      name: /start\.bin, \d+ bytes, at 0x1000; layout\.bin, 224 bytes, at 0x8000; program\.bin/,
    }),
  ).toBeVisible()
  const place = page.getByRole('textbox', { name: 'slots.bin' })
  await place.fill('0x10000')
  await expect(card(page).getByRole('heading', { name: /lies on/ })).toBeVisible()
  await place.fill('0xd000')
  await answer(page, 'They fit together', 'Make one file of them')
  await expect(page.getByRole('button', { name: 'Made of 4 files' })).toBeVisible()
  await expect(page.getByRole('img', { name: /unit11-4-files\.bin, \d+ bytes at 0x0/ })).toBeVisible()
  await saved(page)

  await page.goto('/units/11/write')
  await ready(page)
  await inDrawer(page, 'Write it by parts', (drawer) => drawer.getByText('By parts', { exact: true }).click())
  for (const [offset, name] of [
    ['0x1000', 'start.bin'],
    ['0x8000', 'layout.bin'],
    ['0xD000', 'slots.bin'],
    ['0x10000', 'program.bin'],
  ] as const)
    await expect(page.locator('dl').filter({ hasText: offset }).first()).toContainText(name)
})
