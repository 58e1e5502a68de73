import { unit as aUnit, board } from '../testing/a-unit'
import { attempt } from '../testing/an-attempt'
import { linkOverhead } from './attempts'
import { readsTried, triedOf, writesTried } from './tried'

describe('what was tried, counted', () => {
  test('nothing tried says nothing: no median, no failure, no way', () => {
    expect(triedOf([])).toEqual({
      count: 0,
      methods: [],
      adapters: [],
      ways: [],
      tools: [],
      minutes: null,
      tries: null,
      last: null,
      story: null,
      overheads: {},
    })
  })
  test('two units on one board: 9 and 4 min, the first one at its second try, after another adapter', () => {
    const tried = triedOf([
      attempt({ unitNumber: 2, minutes: 4, entry: 'button', tool: 'flashline', system: 'Debian' }),
      attempt({ unitNumber: 1, entry: 'button' }),
      attempt({
        unitNumber: 1,
        entry: 'button',
        adapter: 'Adapter 1',
        outcome: 'no-answer',
        at: 'then',
        message: 'no',
      }),
    ])
    expect(tried.count).toBe(3)
    expect(tried.minutes).toBe(6.5)
    expect(tried.tries).toBe(1.5)
    expect(tried.last).toEqual({ outcome: 'no-answer', unitNumber: 1, at: 'then', message: 'no' })
    expect(tried.story).toEqual({ outcome: 'no-answer', times: 1, helped: [{ what: 'another adapter', times: 1 }] })
    expect(tried.adapters.map((r) => [r.key, r.done, r.tries])).toEqual([
      ['Adapter 2', 2, 2],
      ['Adapter 1', 0, 1],
    ])
    expect(tried.tools.map((r) => [r.key, r.tries])).toEqual([['flashline, on Debian', 1]])
  })
  test('one that was called off is a try, and no failure', () => {
    const tried = triedOf([attempt({ outcome: 'cancelled', message: 'tea' }), attempt({})])
    expect(tried.last).toBe(null)
    expect(tried.story).toBe(null)
    expect(tried.adapters[0]).toMatchObject({ done: 1, tries: 2 })
  })
  test('of many ways the four best stand, and every adapter has its overhead', () => {
    const many = [...Array(9).keys()].flatMap((i) =>
      [...Array(10).keys()].map((k) =>
        attempt({ adapter: `A${i}`, outcome: k < i ? 'done' : 'no-answer', seconds: 50 + i, bytes: 512_000 }),
      ),
    )
    const tried = triedOf(many)
    expect(tried.adapters.map((r) => r.key)).toEqual(['A8', 'A7', 'A6', 'A5'])
    expect(Object.keys(tried.overheads)).toHaveLength(8)
    for (const [adapter, overhead] of Object.entries(tried.overheads))
      expect(overhead).toBe(linkOverhead(many, adapter))
  })
  test('a hundred attempts with long messages come down to less than a twentieth of themselves', () => {
    const many = [...Array(100).keys()].map((i) =>
      attempt({ id: `${i}`, unitNumber: i % 30, message: 'x'.repeat(400) }),
    )
    expect(JSON.stringify(triedOf(many)).length * 20).toBeLessThan(JSON.stringify(many).length)
  })
})

describe('where it is counted', () => {
  const own = { attempts: [attempt({})], reads: [attempt({ action: 'read' }), attempt({ action: 'read' })] }
  const unit = aUnit({}, { ...own, board })
  test('on the unit itself, as long as nobody knows its board, or the board was not counted', () => {
    expect(readsTried({ ...unit, board: null }).count).toBe(2)
    expect(writesTried({ ...unit, board: null }).count).toBe(1)
    expect(readsTried(unit).count).toBe(2)
  })
  test('on its board, where that was counted: other units of it teach too', () => {
    const tried = { reads: triedOf([...own.reads, ...own.reads]), writes: triedOf([]) }
    const on = { ...unit, board: { ...board, tried } }
    expect(readsTried(on).count).toBe(4)
    expect(writesTried(on).count).toBe(0)
  })
})
