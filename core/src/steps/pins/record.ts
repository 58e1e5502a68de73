import { z } from 'zod'
import { PinTemplate, withCurrentNames } from '../../pins/template'
import { recordKind } from '../../unit/record'

/** What a person records at this step; everything has a default, so that an empty record is a valid one. */
const pinsRecord = z.object({
  template: PinTemplate.nullable().default(null),
  /** What powers the unit while its pins are tried; the gates follow from it. Null while nobody has said. */
  power: z.enum(['adapter', 'rail', 'mains']).nullable().default(null),
  sitting: z.number().int().min(1).max(1000).default(1),
})

export const record = recordKind(pinsRecord, {
  // Functions of a pulse-output meter had other names.
  upgrades: [(old) => ({ ...old, template: withCurrentNames(old.template ?? null) })],
})
