import { z } from 'zod'
import { text } from '../../unit/fields'
import { recordKind } from '../../unit/record'

/** What a person records at this step; everything has a default, so that an empty record is a valid one. */
const proveRecord = z.object({
  powerCut: z
    .object({
      seconds: z.number().finite().min(0),
      cameBack: z.enum(['as wanted', 'otherwise']),
      rejoinSeconds: z.number().finite().min(0).nullable(),
    })
    .nullable()
    .default(null),
  note: text(1000),
})

export const record = recordKind(proveRecord)
