import fc from 'fast-check'
import { costWords, inAll, moneyWords, readMoney } from './cost'

const yard = { currency: '€', hourWorth: 12, prices: [] }

test('a route says minutes, money and both together', () => {
  expect(costWords({ units: 3, died: 0, minutes: 52.4, taken: [], paid: 9.5, priced: 2 }, yard)).toBe(
    'the last 3: 52 min, 9.50 €; 19.98 € with the work',
  )
  expect(
    costWords(
      { units: 1, died: 0, minutes: 40, taken: [], paid: 9.5, priced: 1 },
      { currency: '', hourWorth: null, prices: [] },
    ),
  ).toBe('the last one: 40 min, 9.50')
})

test('a price that nobody wrote down is said to be missing, never counted as nothing', () => {
  expect(costWords({ units: 2, died: 0, minutes: 30, taken: [], paid: null, priced: 0 }, yard)).toBe(
    'the last 2: 30 min, nobody wrote a price down',
  )
  expect(inAll(null, 30, yard)).toBeNull()
  expect(inAll(9.5, null, yard)).toBeNull()
  expect(inAll(0, 30, yard)).toBe(6)
})

test('a route that nobody went yet says nothing', () => {
  expect(costWords(undefined, yard)).toBe('')
})

test('stored money that does not parse is no money, and what does comes back as it was', () => {
  for (const bad of [null, 3, {}, { currency: 1, hourWorth: 2 }, { currency: '€', hourWorth: -1 }])
    expect(readMoney(bad)).toEqual({ currency: '', hourWorth: null, prices: [] })
  expect(readMoney(yard)).toEqual(yard)
})

test('in all is never below what was paid, and rises with price, minutes and the hour', () => {
  const some = fc.double({ min: 0, max: 1000, noNaN: true })
  fc.assert(
    fc.property(some, some, some, (paid, minutes, hourWorth) => {
      const all = inAll(paid, minutes, { currency: '', hourWorth, prices: [] }) as number
      expect(all).toBeGreaterThanOrEqual(paid)
      expect(inAll(paid + 1, minutes, { currency: '', hourWorth, prices: [] })).toBeGreaterThan(all)
      expect(inAll(paid, minutes + 1, { currency: '', hourWorth, prices: [] })).toBeGreaterThanOrEqual(all)
    }),
  )
  expect(moneyWords(1 / 3, yard)).toBe('0.33 €')
})
