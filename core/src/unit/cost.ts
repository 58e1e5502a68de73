import { z } from 'zod'

/**
 * What units cost: money paid and minutes at the bench, from the record. Nothing is estimated here: what nobody wrote down
 * is left out and said to be.
 */

/** What a kWh costs from a day on. */
export const priceShape = z.object({ from: z.iso.date(), perKWh: z.number().min(0).max(1000) })
export type EnergyPrice = z.infer<typeof priceShape>

/** The money of a site: its sign, what an hour at the bench counts for (null where work is not counted in money), its energy. */
export const moneyShape = z.object({
  currency: z.string().trim().max(8),
  hourWorth: z.number().min(0).max(10_000).nullable(),
  prices: z.array(priceShape).max(100).default([]),
})
export type Money = z.infer<typeof moneyShape>

const noMoney: Money = { currency: '', hourWorth: null, prices: [] }

/** Stored money as it can be used. */
export function readMoney(value: unknown): Money {
  const read = moneyShape.safeParse(value)
  return read.success ? read.data : noMoney
}

/** Prices in the order of their days, one for each day: the later entry counts. */
export const pricesInOrder = (prices: readonly EnergyPrice[]): EnergyPrice[] =>
  [...new Map(prices.map((p) => [p.from, p])).values()].sort((a, b) => (a.from < b.from ? -1 : 1))

/** What the proven units of a route took, each a median: minutes at the bench of all of them, money paid of those with a price. */
export type RouteCost = {
  units: number
  /** Of units that never came so far, how many died. */
  died: number
  minutes: number
  /** Minutes of each proven unit, in the order they were begun. */
  taken: number[]
  paid: number | null
  priced: number
}

/** "9.50 €"; without a sign, the bare number. */
export const moneyWords = (amount: number, { currency }: Money): string =>
  `${amount.toFixed(2)}${currency ? ` ${currency}` : ''}`

/** Paid and worked together, in money; null where no price was written down, or an hour counts for nothing known. */
export const inAll = (paid: number | null, minutes: number | null, { hourWorth }: Money): number | null =>
  paid === null || minutes === null || hourWorth === null ? null : paid + (minutes / 60) * hourWorth

/** "the last 3: 52 min and 9.50 €, 19.90 € in all": what the units of a route took; empty where there are none. */
export function costWords(cost: RouteCost | undefined, money: Money): string {
  if (!cost || cost.units === 0) return ''
  const paid = cost.paid === null ? 'nobody wrote a price down' : moneyWords(cost.paid, money)
  const all = inAll(cost.paid, cost.minutes, money)
  const who = cost.units === 1 ? 'the last one' : `the last ${cost.units}`
  return `${who}: ${Math.round(cost.minutes)} min, ${paid}${all === null ? '' : `; ${moneyWords(all, money)} with the work`}`
}
