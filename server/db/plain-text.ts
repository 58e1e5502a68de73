import type { Fault } from '@fresh-coat/core/edge/fault'

/** Half of a character that takes two, without its other half: no text that can be stored or shown. */
const loneSurrogate = /[\uD800-\uDBFF](?![\uDC00-\uDFFF])|(?<![\uD800-\uDBFF])[\uDC00-\uDFFF]/

const deepest = 64
/** More entries than any record has: a list of all readings, pins and fasteners of a unit has some hundreds. */
const mostEntries = 20_000

/** The first text in an input that cannot be stored, or a nesting nobody types; null when all is well. */
export function plainText(input: unknown, path = '', depth = 0, seen = { entries: 0 }): Fault | null {
  if (depth > deepest) return { code: 'depth', path, message: `It is nested more than ${deepest} levels deep.` }
  if (typeof input === 'string') {
    if (input.includes('\0'))
      return { code: 'text', path, message: 'The text holds NUL characters: paste it as text, not as bytes.' }
    if (loneSurrogate.test(input))
      return { code: 'text', path, message: 'The text holds half of a character: copy it again.' }
    return null
  }
  if (typeof input !== 'object' || input === null) return null
  for (const [key, value] of Object.entries(input)) {
    if (++seen.entries > mostEntries)
      return { code: 'entries', path, message: `It has more than ${mostEntries} entries.` }
    const odd = plainText(key, `${path}/…`, depth + 1, seen) ?? plainText(value, `${path}/${key}`, depth + 1, seen)
    if (odd) return odd
  }
  return null
}
