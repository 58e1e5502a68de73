import { z } from 'zod'

/** Readings before any power, by the id of their check: ohms, or null for over range. */
export const refitField = z
  .object({
    readings: z.record(z.string().max(12), z.number().min(0).max(1e9).nullable()).default({}),
    /** Checks whose reading looked a thousand times off, and was said to be right. */
    sure: z.array(z.string().max(12)).max(100).default([]),
  })
  .default({ readings: {}, sure: [] })
export type RefitRecord = z.output<typeof refitField>
