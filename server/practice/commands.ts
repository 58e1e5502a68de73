import { families } from '@fresh-coat/core/families/families'
import { z } from 'zod'
import { command } from '../db/command'
import * as schema from '../db/schema'

const keepPractice = command(
  z.object({
    kind: z.enum(['rehearsal', 'pad hunt', 'pin search', 'calibration']),
    family: z.enum(families),
    score: z.number().int().min(0).max(100),
    data: z.record(z.string(), z.unknown()),
  }),
  async (c, { data, ...input }) => {
    // No event: practice never appears in the history of real work.
    const [row] = await c.tx
      .insert(schema.practice)
      .values({ ...input, data, at: c.now })
      .returning()
    return { id: row?.id }
  },
)

export const practiceCommands = { 'keep-practice': keepPractice }
