/** @jest-environment jsdom */
import { pinsOfChannel } from '@fresh-coat/core/steps/behaviour/facts'
import { type Records, unit } from '@fresh-coat/core/testing/a-unit'
import type { StepData } from '@fresh-coat/core/unit/records'
import { act, cleanup, fireEvent, screen, within } from '@testing-library/react'
import { answer, ask, askAbout, noWorld, onTheBench, press, type } from '@/components/testing/on-the-bench'
import { BehaviourSurface } from './surface'

jest.mock('next/dynamic', () => jest.requireActual('@/components/testing/at-once'))
beforeEach(noWorld)
afterEach(cleanup)

type Data = StepData['behaviour']
const pins = [
  { pin: 'GPIO12', fn: 'relay', ch: 1, active: 'high' },
  { pin: 'GPIO0', fn: 'button', ch: 1, active: 'low' },
]
const around = {
  pins: { template: { format: 'fresh-coat/pin-template', version: 1, board: 'P1', family: 'LX106', pins } },
} as unknown as Records
const lay = (data: Partial<Data> = {}, more: Records = {}) =>
  onTheBench('behaviour', BehaviourSurface, { data, around: { ...around, ...more } })
const hold = { id: 'hold it', when: { input: 'button', event: 'hold' }, do: [{ set: 'off', ch: 1 }] } as never

describe('an output', () => {
  test('is set first, then tried on the unit; another setting is tried anew', async () => {
    const bench = lay()
    expect(ask()).toBe('After a power cut, channel 1 is')
    await answer('Off')
    expect(ask()).toMatch(/^Channel 1, on the unit: does it switch/)
    await answer('Yes, tried')
    expect(bench.record().channels).toEqual([
      { ch: 1, onPower: 'off', tried: true, triedOn: pinsOfChannel(unit(around), 1) },
    ])
    await askAbout('Channel 1')
    await answer('As before')
    expect(bench.record().channels[0]).toMatchObject({ onPower: 'last', tried: false })
  })
  test('that was tried on other pins is asked about again', () => {
    lay({ channels: [{ ch: 1, onPower: 'off', tried: true, triedOn: 'GPIO5 relay high' }] })
    expect(ask()).toMatch(/^Channel 1, on the unit: does it switch/)
  })
  test('“no, not as set” leaves it open', async () => {
    const bench = lay({ channels: [{ ch: 1, onPower: 'off', tried: false }] })
    await answer('No, not as set')
    expect(bench.record().channels[0]?.tried).toBe(false)
    expect(ask()).toMatch(/^Channel 1, on the unit/)
  })
})

describe('rules', () => {
  const drawer = () => within(screen.getByRole('dialog'))
  test('another timing of an input: what it sets off was not tried with it', async () => {
    const bench = lay({ rules: [hold], triedRules: ['hold it', 'another'] })
    await press('Presses and holds')
    await act(
      async () =>
        void fireEvent.change(drawer().getAllByLabelText('Held from')[0] as Element, { target: { value: '800' } }),
    )
    expect(bench.record().inputs[0]).toMatchObject({ id: 'button', holdMs: 800 })
    expect(bench.record().triedRules).toEqual(['another'])
  })
  test('the usual ones again: nothing of them was tried', async () => {
    const bench = lay({ rules: [hold], triedRules: ['hold it'] })
    await press(/^Rules: 1, 1 tried/)
    await act(async () => void fireEvent.click(drawer().getByRole('button', { name: 'The usual ones again' })))
    expect(bench.record()).toMatchObject({ rules: null, triedRules: [] })
  })
  test('a new rule has an id that no other has, and the record can be saved', async () => {
    const bench = lay({ rules: [hold] })
    await press(/^Rules: 1/)
    for (let i = 0; i < 3; i++)
      await act(async () => void fireEvent.click(drawer().getByRole('button', { name: 'Add a rule' })))
    const ids = bench.record().rules?.map((r) => r.id) ?? []
    expect(new Set(ids).size).toBe(4)
  })
})

test('without an output nothing is worked out, and it is said why', () => {
  onTheBench('behaviour', BehaviourSurface)
  expect(screen.getByText('The pin template has no outputs yet.')).toBeTruthy()
})

test('what it did otherwise is kept with its own words', async () => {
  const bench = lay()
  await press('Did it do otherwise?')
  await type(/^What the unit did otherwise/, 'it clicked twice')
  expect(bench.record().differs).toBe('it clicked twice')
  expect(screen.getByRole('button', { name: 'It did otherwise', hidden: true })).toBeTruthy()
})
