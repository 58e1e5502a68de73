import { z } from 'zod'
import { number, text } from '../../unit/fields'
import { recordKind } from '../../unit/record'

const Installed = z.object({
  firmware: z.string().max(60),
  version: z.string().max(40),
  build: z.string().max(60),
  /** How that is known: the last good write, what the unit reports, or a person. */
  how: z.enum(['written', 'reported', 'said']),
  at: z.iso.datetime({ offset: true }),
})

/** What a unit was once noted to run: nothing of it is lost when something newer is noted. */
const Ran = Installed.extend({
  target: z.enum(['main', 'radio']),
  /** Main firmware that ran beside a radio's program; empty when it was not known. */
  host: z.string().max(120).default(''),
})

/** Notes of what ran that a record holds; every one of them is an event as well. */
export const mostRan = 500

/** What a person records at this step; everything has a default, so that an empty record is a valid one. */
const watchRecord = z.object({
  note: text(2000),
  ran: z.array(Ran).max(mostRan).default([]),
  /** The main program first; a radio co-processor is a target of its own. */
  installed: Installed.nullable().default(null),
  radio: Installed.nullable().default(null),
  /** Which of the two the person is bringing up to date. */
  target: z.enum(['main', 'radio']).default('main'),
  /** How it takes updates; null: as its layout and family say. */
  scheme: z.enum(['single', 'dual']).nullable().default(null),
  radioBytes: number,
  radioWanted: z
    .object({ version: z.string().max(40), build: z.string().max(60) })
    .nullable()
    .default(null),
  updateEnd: number,
  slotBytes: number,
  wanted: z
    .object({ version: z.string().max(40), build: z.string().max(60) })
    .nullable()
    .default(null),
  allowDowngrade: z.boolean().default(false),
  /** Steps of the way that were walked and checked. */
  walked: z.array(z.string().max(120)).max(20).default([]),
})

export const record = recordKind(watchRecord, {
  series: { ran: (r: { target: string; at: string }) => `${r.target} ${r.at}` },
})
