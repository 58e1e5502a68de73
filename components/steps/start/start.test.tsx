/** @jest-environment jsdom */
import type { StepData } from '@fresh-coat/core/unit/records'
import { cleanup, screen, within } from '@testing-library/react'
import { answer, ask, next, noWorld, onTheBench, press, type } from '@/components/testing/on-the-bench'
import { StartSurface } from './surface'

jest.mock('next/dynamic', () => jest.requireActual('@/components/testing/at-once'))
beforeEach(noWorld)
afterEach(cleanup)

const around = { identify: { decision: { family: 'LX106' as const, reason: 'read on the chip' } } }
const lay = (data: Partial<StepData['start']> = {}) => onTheBench('start', StartSurface, { data, around })
const fromFlash =
  '\r\n ets Jan  8 2013,rst cause:2, boot mode:(3,6)\r\nload 0x40100000, len 2408, room 16\r\ntail 8\r\n'
const inLoader = '\r\n ets Jan  8 2013,rst cause:2, boot mode:(1,6)\r\n'
/** The stages of the rail with how they stand. */
const rail = () => screen.getByRole('img', { name: /How far it got/ }).getAttribute('aria-label') ?? ''

describe('a first start', () => {
  test('the strap is asked about first, and “no” leaves it open', async () => {
    const bench = lay()
    expect(ask()).toMatch(/Is the jumper off/)
    await answer('No')
    expect(bench.record().strapFree).toBe(false)
    expect(ask()).toMatch(/Is the jumper off/)
    await answer('Yes, BOOT is free')
    expect(ask()).toBe('Power on from 3.3 V: what does it print?')
  })
  test('a boot text from flash is enough; nobody has to say what was seen', async () => {
    const bench = lay({ strapFree: true })
    await type(/^Boot text/, fromFlash)
    expect(screen.getByText('It runs what is in its flash.')).toBeTruthy()
    expect(bench.record().seenBy).toBeNull()
    await next()
    expect(ask()).not.toMatch(/what does it print/)
  })
  test('a unit in its loader does not run, whatever light was seen before', async () => {
    lay({ strapFree: true, log: inLoader })
    expect(screen.queryByText('It runs what is in its flash.')).toBeNull()
    expect(screen.getByText(/serial download/)).toBeTruthy()
    expect(ask()).toMatch(/what does it print/)
  })
  test('what was seen otherwise counts as seen, and is told as such', async () => {
    const bench = lay({ strapFree: true })
    await answer('Its access point is there')
    expect(bench.record().seenBy).toBe('access point')
    expect(rail()).toMatch(/Runs/)
  })
})

test('what it answered is its word, newest kept, and the name of its access point can be corrected', async () => {
  const answerOf = (what: string, severity: 'ok' | 'watch') => ({
    what,
    said: 'state',
    heard: 'x',
    words: `${what} is well`,
    severity,
    at: '2026-11-24T10:00:00Z',
  })
  const bench = lay({ answers: [answerOf('status', 'ok'), answerOf('relay-on', 'watch')] as never, apName: 'yard-7' })
  await press(/What it says of itself: yard-7/)
  const list = within(screen.getByRole('list', { name: 'What it answered' }))
  expect(list.getAllByRole('listitem')).toHaveLength(2)
  expect(screen.getByText(/a relay counts as heard when somebody heard it/)).toBeTruthy()
  await type('Name of its access point', 'yard-9')
  expect(bench.record().apName).toBe('yard-9')
})

test('after another write what was seen before is not shown as seen, and a look begins anew', async () => {
  const attempts = [{ outcome: 'done', at: '2026-11-24T10:00:00Z', sha256: 'other-image-0', firmware: 'Plainsong' }]
  const bench = onTheBench('start', StartSurface, {
    data: { log: fromFlash, strapFree: true, on: 'first-image-' },
    around,
    view: { attempts: attempts as never },
  })
  expect(screen.queryByText('It runs what is in its flash.')).toBeNull()
  expect(screen.getByText(/What was seen before was the start of another image/)).toBeTruthy()
  expect(ask()).toMatch(/Is the jumper off/)
  await answer('Yes, BOOT is free')
  expect(bench.record()).toMatchObject({ log: '', strapFree: true, on: 'other-image-' })
  expect(ask()).toBe('Power on from 3.3 V: what does it print?')
})
