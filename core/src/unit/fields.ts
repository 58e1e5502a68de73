import { z } from 'zod'

/** What a person records at each step. Everything has a default, so that an empty record is a valid one. */
export const text = (max = 500) => z.string().max(max).default('')

export const number = z.number().finite().nullable().default(null)

export const answer = z.enum(['yes', 'no', 'unknown'])

export const share = z.number().min(0).max(1)

/** As long as a record keeps of what a look rested on. */
export const mostRests = 1000
