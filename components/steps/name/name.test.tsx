/** @jest-environment jsdom */
import type { Records } from '@fresh-coat/core/testing/a-unit'
import type { StepData } from '@fresh-coat/core/unit/records'
import { cleanup, screen } from '@testing-library/react'
import { answer, ask, askAbout, noWorld, onTheBench, press, type } from '@/components/testing/on-the-bench'
import { NameSurface } from './surface'

jest.mock('next/dynamic', () => jest.requireActual('@/components/testing/at-once'))
beforeEach(noWorld)
afterEach(cleanup)

const around: Records = { join: { address: '192.168.71.9', mac: '44:b7:d0:31:0a:0f' } } as never
const lay = (data: Partial<StepData['name']> = {}, view: object = {}) =>
  onTheBench('name', NameSurface, { data, around, view: { topic: null, ...view } })

describe('how its address is kept', () => {
  test('each way ends the others: an address is not reserved and fixed in the unit at once', async () => {
    const bench = lay()
    expect(ask()).toBe('Is its address reserved in the DHCP server?')
    expect(document.body.textContent).toContain('For the MAC 44:b7:d0:31:0a:0f')
    await answer('Yes, reserved')
    expect(bench.record()).toMatchObject({ reserved: true, kept: null })
    await askAbout('Address')
    await answer('Fixed in the unit')
    expect(bench.record()).toMatchObject({ reserved: false, kept: 'fixed' })
    await askAbout('Address')
    await answer('It is found by its name')
    expect(bench.record()).toMatchObject({ reserved: false, kept: 'lookup' })
  })
  test('“no” keeps the question', async () => {
    const bench = lay()
    await answer('No')
    expect(bench.record()).toMatchObject({ reserved: false, kept: null })
    expect(ask()).toBe('Is its address reserved in the DHCP server?')
  })
})

describe('what it is called', () => {
  test('a name that another has too is asked again, and nobody owns the bare one', () => {
    lay({ reserved: true }, { slugClash: 'Units 3 and 7 would have the same topic.' })
    expect(ask()).toBe('What do people call it?')
    expect(screen.getByText(/nobody owns the bare name/)).toBeTruthy()
  })
  test('a pinned slug is small letters, and an empty one follows the name', async () => {
    const bench = lay()
    await press('Slug: change')
    await type('Pin the slug', 'Glue-Pot')
    expect(bench.record().pinned).toBe('glue-pot')
    await type('Pin the slug', '')
    expect(screen.getByText('follows its name')).toBeTruthy()
  })
  test('in service it is said that its topic stays', () => {
    lay({}, { inService: true })
    expect(screen.getByText(/In service its topic stays as it is/)).toBeTruthy()
  })
})
