import { z } from 'zod'
import { electricKinds, PrintedRating } from '../../load/of-unit'
import { number, text } from '../../unit/fields'
import { recordKind } from '../../unit/record'
import { routeIds } from '../../unit/way'

/** What hangs on a unit (07 §4). `latch-unlocks`: the lock opens when its supply goes. */
export const loadKinds = [
  'lamp',
  'heater',
  'motor',
  'latch-unlocks',
  'latch-locks',
  'modem',
  'pump',
  'fan',
  'other',
] as const
export type LoadKind = (typeof loadKinds)[number]

/** What a person records at this step; everything has a default, so that an empty record is a valid one. */
const arriveRecord = z.object({
  route: z.enum(routeIds).nullable().default(null),
  triedAsSold: z.enum(['works', 'faulty']).nullable().default(null),
  ratedAmps: number,
  mainsVolts: number,
  loadWatts: number,
  /** What was paid for it as it came, in the money of the site. */
  paid: number,
  /** Where it was bought, and the lot on its box: one lot is mostly one revision. */
  seller: text(80),
  lot: text(80),
  /** What it will work; null while nobody has said, `undecided` when that is the answer. */
  load: z
    .enum([...loadKinds, 'undecided'])
    .nullable()
    .default(null),
  /** A latch: do people leave by what it locks? */
  wayOut: z.boolean().nullable().default(null),
  /** A latch on a way out: opens by hand from inside, without power and without the app. */
  opensByHand: z.boolean().nullable().default(null),
  /** A unit for fixed wiring: does it hang in it now? */
  mounted: z.boolean().nullable().default(null),
  /** What kind of load it is to a contact; null where its use tells, or nobody has said. */
  electric: z.enum(electricKinds).nullable().default(null),
  /** How long it is on at a time, in hours. */
  loadHours: number,
  /** Markings as they are printed on this unit; none where the board's count. */
  ratings: z.array(PrintedRating).max(12).default([]),
  /** An extension lead that it hangs on. */
  lead: z
    .object({ A: z.number().positive().max(100), wound: z.boolean() })
    .nullable()
    .default(null),
  /** Several relays on one small supply: how many, what a coil and the board beside them draw, what the supply gives, in mA. */
  coils: z.object({ count: number, mA: number, boardMA: number, supplyMA: number }).nullable().default(null),
  /** A latch: what it draws, from what, and how strongly it holds. */
  latch: z
    .object({ A: number, V: number, supplyA: number, flyback: z.boolean().default(false), holdN: number })
    .nullable()
    .default(null),
  note: text(2000),
})

export const record = recordKind(arriveRecord)
