import { type Outcome, refusal } from '../edge/fault'
import { type FamilyFacts, factsOf, isKnownFamily, type KnownFamily, knownFamilies } from '../families/families'

/** A family's loader in ROM, as far as we can talk to it. */
export interface Rom {
  family: KnownFamily
  link: FamilyFacts['link']
}

/** @param path where the family stands in the input; refusals `missing`, `type`, `unknown-family` */
export function romOf(family: unknown, path: string): Outcome<Rom> {
  if (family === undefined || family === null) return refusal('missing', path, `The field ${path} is missing.`)
  if (typeof family !== 'string') return refusal('type', path, `The field ${path} must be a text.`)
  if (!isKnownFamily(family))
    return refusal(
      'unknown-family',
      path,
      `There is no link to a family called "${family}": ${knownFamilies.join(', ')}.`,
    )
  return { ok: true, value: { family, link: factsOf(family).link } }
}

export const objectOf = (value: unknown): Record<string, unknown> | null =>
  typeof value === 'object' && value !== null && !Array.isArray(value) ? (value as Record<string, unknown>) : null
