import { stepIds } from '@fresh-coat/core/unit/way'
import { z } from 'zod'

/** Fields that commands of several nouns take. */
export const name = z.string().trim().min(1).max(120)
export const place = z.string().trim().max(120)
export const unitNumber = z.number().int().min(1).max(99_999)
export const id = z.uuid()
export const version = z.number().int().min(0)
export const stepId = z.enum(stepIds)
