import { z } from 'zod'
import { number, text } from '../../unit/fields'
import { recordKind } from '../../unit/record'
import { routeIds } from '../../unit/way'

/** What a person records at this step; everything has a default, so that an empty record is a valid one. */
const arriveRecord = z.object({
  route: z.enum(routeIds).nullable().default(null),
  triedAsSold: z.enum(['works', 'faulty']).nullable().default(null),
  ratedAmps: number,
  mainsVolts: number,
  loadWatts: number,
  note: text(2000),
})

export const record = recordKind(arriveRecord)
