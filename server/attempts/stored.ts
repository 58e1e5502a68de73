import { holds } from '@fresh-coat/core/steps/wire/record'
import { type Attempt, attemptActions, attemptOutcomes } from '@fresh-coat/core/unit/view'
import { z } from 'zod'

/** An attempt as it was stored by any version: what an older one did not know is said as not known. */
const AttemptData = z.object({
  action: z.enum(attemptActions).default('write'),
  outcome: z.enum(attemptOutcomes).catch('cancelled'),
  sha256: z.string().catch(''),
  fileName: z.string().catch(''),
  verify: z.enum(['digest', 'readback', 'none']).catch('none'),
  verified: z.boolean().catch(false),
  minutes: z.number().catch(0),
  baud: z.number().catch(0),
  adapter: z.string().catch(''),
  message: z.string().catch(''),
  firmware: z.string().catch(''),
  real: z.boolean().nullish().catch(null),
  bytes: z.number().optional().catch(undefined),
  offset: z.number().nullish().catch(null),
  mode: z.string().nullish().catch(null),
  erase: z.enum(['chip', 'regions']).optional().catch(undefined),
  entry: z.string().nullish().catch(null),
  power: z.string().optional().catch(undefined),
  by: z.string().optional().catch(undefined),
  route: z.string().nullish().catch(null),
  logicV: z.number().nullish().catch(null),
  pads: z.array(z.string()).optional().catch(undefined),
  held: z.enum(holds).nullish().catch(null),
  notes: z
    .array(z.object({ at: z.string(), by: z.string(), text: z.string() }))
    .optional()
    .catch(undefined),
  seconds: z.number().nullish().catch(null),
  parts: z
    .array(z.object({ name: z.string(), offset: z.number(), bytes: z.number(), sha256: z.string() }))
    .optional()
    .catch(undefined),
  tool: z.string().optional().catch(undefined),
  system: z.string().optional().catch(undefined),
  wordsId: z.string().nullish().catch(null),
})

export type StoredAttempt = Omit<Attempt, 'id' | 'at' | 'unitNumber' | 'build' | 'table'>
export const attemptData = (data: unknown): StoredAttempt => AttemptData.parse(data ?? {})
