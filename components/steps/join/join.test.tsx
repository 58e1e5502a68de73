/** @jest-environment jsdom */
import type { Candidate, UnitMatch } from '@fresh-coat/core/network/match-shapes'
import type { StepData } from '@fresh-coat/core/unit/records'
import { cleanup, screen } from '@testing-library/react'
import { ask, next, noWorld, onTheBench, press, type } from '@/components/testing/on-the-bench'
import { JoinSurface, taker } from './surface'

jest.mock('next/dynamic', () => jest.requireActual('@/components/testing/at-once'))
beforeEach(noWorld)
afterEach(cleanup)

const lay = (data: Partial<StepData['join']> = {}, more: object = {}) =>
  onTheBench('join', JoinSurface, { data, view: { topic: null }, ...more })

describe('an address, and by what it is known', () => {
  test('one that is typed is by hand, also over one that a match was sure of', async () => {
    const bench = lay({ address: '192.168.71.9', confirmedBy: 'match' })
    await press('Address: change')
    await type('Address', '192.168.71.10')
    expect(bench.record()).toMatchObject({ address: '192.168.71.10', confirmedBy: 'by hand' })
  })
  test('what is no MAC is said, and keeps the question', async () => {
    const bench = lay()
    expect(ask()).toBe('Which MAC has its access point?')
    await type('MAC of its access point', 'ba:3c')
    await next()
    expect(bench.record().apMac).toBe('ba:3c')
    // Nothing of it counts as said.
    expect(screen.queryByRole('list', { name: 'Said so far' })).toBeNull()
  })
  test('the end of the name that was heard at its start is offered, and taken by a press', async () => {
    const bench = lay({}, { around: { start: { apName: 'plug-1E9A' } } })
    await press(/^Take 1E9A/)
    expect(bench.record().nameSuffix).toBe('1E9A')
    expect(screen.queryByRole('button', { name: /^Take 1E9A/ })).toBeNull()
  })
  test('a list without anything to find it by says what is needed', () => {
    lay({ after: '192.168.71.9 dev wlan0 lladdr 44:b7:d0:31:0a:0f REACHABLE' })
    expect(screen.getByText(/A MAC or a name suffix is needed/)).toBeTruthy()
  })
})

describe('one that is taken from the list', () => {
  const candidate = { ip: '192.168.71.9', mac: '44:b7:d0:31:0a:0f' } as Candidate
  const taken = (verdict: UnitMatch['verdict'], said: 'blink' | 'by hand', at = 0) => {
    const patched: object[] = []
    const record = { patch: (part: object) => patched.push(part) }
    taker({ record } as never, { verdict } as UnitMatch, said)(candidate, at)
    return patched[0]
  }
  test('is a match only where the match is sure, and it is the first', () => {
    expect(taken('sure', 'by hand')).toEqual({
      address: '192.168.71.9',
      mac: '44:b7:d0:31:0a:0f',
      confirmedBy: 'match',
    })
    expect(taken('sure', 'by hand', 1)).toMatchObject({ confirmedBy: 'by hand' })
  })
  test('blinked only where somebody says so: a press on the drawing is by hand', () => {
    expect(taken('likely', 'blink')).toMatchObject({ confirmedBy: 'blink' })
    expect(taken('likely', 'by hand')).toMatchObject({ confirmedBy: 'by hand' })
  })
})
