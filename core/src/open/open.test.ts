import { type Discharge, dischargeOf, judgeIsolation } from './isolation'

describe('how long to wait before touching', () => {
  const seconds = (c: number, r: number | null) => (dischargeOf(c, r) as Discharge).seconds
  test('worked examples at 230 V', () => {
    expect(seconds(10, 470e3)).toBeCloseTo(11.2, 2)
    expect(seconds(10, null)).toBeCloseTo(238.3, 1)
    expect(seconds(0.33, 1e6)).toBeCloseTo(0.787, 3)
    expect((dischargeOf(10, null) as Discharge).joules).toBeCloseTo(0.529, 3)
  })
  test('never less than five minutes', () => {
    expect((dischargeOf(0.33, 1e6) as Discharge).waitSeconds).toBe(300)
    expect((dischargeOf(10, null) as Discharge).waitSeconds).toBeCloseTo(476.7, 0)
  })
  test.each([
    [0, 1],
    [-1, null],
    [Number.NaN, 5],
    [1, 0],
  ])('%p µF, %p Ω is refused', (c, r) => expect(dischargeOf(c, r)).toMatchObject({ code: 'discharge-range' }))
})

describe('isolation', () => {
  const safe = {
    dropper: 'no',
    noTransformer: 'no',
    mainsSense: 'no',
    shuntOnMains: 'no',
    below1M: 'no',
    optocoupler: 'yes',
    gap: 'yes',
    above10M: 'yes',
  } as const
  test('one bad answer is enough', () =>
    expect(judgeIsolation({ ...safe, shuntOnMains: 'yes' }).verdict).toBe('non-isolated'))
  test('every answer in its favour: isolated', () => expect(judgeIsolation(safe).verdict).toBe('isolated'))
  test('one open question: unknown', () => {
    for (const id of Object.keys(safe)) expect(judgeIsolation({ ...safe, [id]: 'unknown' }).verdict).toBe('unknown')
    expect(judgeIsolation({}).verdict).toBe('unknown')
  })
})
