import { z } from 'zod'
import { text } from '../../unit/fields'
import { recordKind } from '../../unit/record'

const column = z.number().int().min(0).max(60).nullable()

/** What a person records at this step; everything has a default, so that an empty record is a valid one. */
const joinRecord = z.object({
  apMac: text(40),
  nameSuffix: text(40),
  before: z.string().max(1_048_576).default(''),
  after: z.string().max(1_048_576).default(''),
  address: text(60),
  mac: text(40),
  /** Which of the unit’s secrets are told to it: ids, or nothing. */
  wifiSecret: text(40),
  secondSecret: text(40),
  brokerSecret: text(40),
  /** Which column of the list is what, where a person said so. */
  columns: z.object({ mac: column, address: column, name: column }).nullable().default(null),
  confirmedBy: z.enum(['match', 'blink', 'by hand']).nullable().default(null),
})

export const record = recordKind(joinRecord, { texts: ['before', 'after'] })
