/** @jest-environment jsdom */

import { closingQuestions } from '@fresh-coat/core/steps/close/questions'
import { board, type Records } from '@fresh-coat/core/testing/a-unit'
import type { StepData } from '@fresh-coat/core/unit/records'
import { cleanup, screen } from '@testing-library/react'
import { answer, ask, askAbout, next, noWorld, onTheBench, press, type } from '@/components/testing/on-the-bench'
import { CloseSurface } from './surface'

jest.mock('next/dynamic', () => jest.requireActual('@/components/testing/at-once'))
beforeEach(noWorld)
afterEach(cleanup)

const screws = {
  id: 'f1',
  kind: 'screw',
  count: 3,
  driver: 'PH1',
  place: 'back',
  hiddenUnder: 'none',
  note: '',
  restore: 'same',
  requires: [],
} as const
const opened: Records = { open: { fasteners: [screws], parts: ['lens'], taken: ['f1'] } } as never
const all = /0 left over/
const lay = (around: Records, data: Partial<StepData['close']> = {}, view: object = {}) =>
  onTheBench('close', CloseSurface, { around, data, view })

describe('what came off goes back', () => {
  test('counted one by one: three screws are back after the third, not before', async () => {
    const bench = lay(opened)
    expect(ask()).toBe('Back in now: lens')
    await answer('It is back')
    expect(bench.record().partsBack).toEqual(['lens'])
    for (const n of [1, 2]) {
      await answer('One more is back')
      expect(bench.record().restored).toEqual({ f1: n })
      expect(ask()).toMatch(/3 screws/)
      expect(screen.queryByText(all)).toBeNull()
    }
    await answer('One more is back')
    expect(ask()).not.toMatch(/^Back in now/)
  })
  test('all at once is somebody’s count, and parts are no fasteners', async () => {
    const bench = lay(opened)
    await press('All counted at once')
    await press(/I have counted/)
    expect(bench.record().restored).toEqual({ f1: 3 })
    expect(bench.record().partsBack).toEqual([])
  })
})

describe('where nothing was written down at Open', () => {
  test('nothing is said to be back before somebody counted', async () => {
    const bench = lay({})
    expect(screen.queryByText(all)).toBeNull()
    expect(ask()).toBe('How many fasteners came out?')
    await type('How many fasteners came out?', '4')
    await next()
    await type('How many fasteners are back?', '3')
    expect(screen.queryByText(all)).toBeNull()
    expect(screen.getAllByText(/4 fasteners came out, 3 are back/).length).toBeGreaterThan(0)
    expect(bench.record()).toMatchObject({ fastenersOut: 4, fastenersBack: 3, looseParts: null, unharmed: null })
  })
  test('none is nought, and it counts', async () => {
    const bench = lay(
      {},
      { fastenersOut: 0, fastenersBack: 0, looseParts: 0, unharmed: 'yes' },
      { board: { ...board, mains: false } },
    )
    expect(bench.record().looseParts).toBe(0)
    expect(screen.getAllByText(all).length).toBeGreaterThan(0)
  })
})

describe('the questions before any mains', () => {
  const built = { view: { route: 'built' as const }, around: { arrive: { route: 'built' } } as Records }
  test('each is asked, no answer is taken for given, and the unsafe one says what it means', async () => {
    const bench = onTheBench('close', CloseSurface, { ...built, data: { moduleBack: true } })
    expect(Object.keys(bench.record().answers)).toEqual([])
    expect(screen.queryByText('Every question before the mains is answered.')).toBeNull()
  })
  test('the safe answer differs from question to question: “yes” to all of them is not safe', () => {
    const view = { route: 'built', board, records: {} }
    const safe = closingQuestions({
      ...view,
      records: { open: { data: { forced: true } }, close: { data: {} } },
    } as never)
    expect(new Set(safe.map((q) => q.safe))).toEqual(new Set(['yes', 'no']))
  })
})

test('glue that was broken is glued, and set, before any mains', async () => {
  const glued = { ...screws, id: 'f2', kind: 'glue', count: 1, restore: 'glue' }
  const bench = lay({ open: { fasteners: [glued], parts: [], taken: ['f2'] } } as never, { restored: { f2: 1 } })
  await askAbout('Glue')
  await press('Glued just now')
  await type('It sets in', '24')
  expect(bench.record().glueHours).toBe(24)
  expect(Date.parse(bench.record().gluedAt ?? '')).toBeLessThanOrEqual(Date.now())
  expect(screen.queryByText(all)).toBeNull()
})
