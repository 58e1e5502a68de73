/** @jest-environment jsdom */
import type { Records } from '@fresh-coat/core/testing/a-unit'
import { cleanup, screen } from '@testing-library/react'
import { answer, ask, askAbout, noWorld, onTheBench, type } from '@/components/testing/on-the-bench'
import { ProveSurface } from './surface'

jest.mock('next/dynamic', () => jest.requireActual('@/components/testing/at-once'))
beforeEach(noWorld)
afterEach(cleanup)
const around: Records = {
  arrive: { load: 'lamp' },
  behaviour: { channels: [{ ch: 1, onPower: 'off', tried: true }] },
} as Records
const lay = (data: object = {}) => onTheBench('prove', ProveSurface, { data, around, view: { topic: null } })

describe('the last proof', () => {
  test('how long it was off is not how it came back: that is still asked', async () => {
    const bench = lay()
    expect(ask()).toBe('How did it come back?')
    await askAbout('Off for')
    await type('Supply was off for', '30')
    expect(bench.record().powerCut).toMatchObject({ seconds: 30, cameBack: null })
    expect(screen.queryByText(/came back as wanted/)).toBeNull()
  })
  test('one press says it, with what it was cut', async () => {
    const bench = lay()
    await answer('As wanted')
    expect(bench.record().powerCut).toMatchObject({ seconds: 10, cameBack: 'as wanted' })
    expect(bench.record().powerCut?.on).toContain('1 off')
  })
  test('a cut from before another setting is asked for again', () => {
    lay({ powerCut: { seconds: 12, cameBack: 'as wanted', rejoinSeconds: 3, on: 'Plainsong | 1 on | ' } })
    expect(ask()).toBe('How did it come back?')
  })
})
