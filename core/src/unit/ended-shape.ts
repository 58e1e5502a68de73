import { z } from 'zod'
import { type Ended, endings } from './ended'

/** How an ending is kept, read back. */
const endedShape = z.object({ how: z.enum(endings), on: z.iso.date(), why: z.string().max(500) })

/** Null when nothing, or nothing that can be read, is kept. */
export const readEnded = (value: unknown): Ended | null => endedShape.safeParse(value).data ?? null
