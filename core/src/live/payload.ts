import { utf8 } from '../bytes/text'

/** What comes over the air is data of strangers: looked at before anything believes it (brief 05 §5). */

export const mostPayloadBytes = 65_536
export const mostTopicBytes = 200
const mostNesting = 32
const mostKeys = 2000
/** So much of a refused payload is kept to look at. */
const keptOfRefused = 200

export type RefusedBecause = 'too-large' | 'topic' | 'utf8' | 'json' | 'nesting' | 'keys'

/** How deep a JSON text nests and how many keys it has at most, without building it. */
function measured(text: string): { depth: number; keys: number } {
  let [depth, deepest, keys] = [0, 0, 0]
  let inText = false
  for (let i = 0; i < text.length; i++) {
    const c = text[i]
    if (inText) {
      if (c === '\\') i++
      else if (c === '"') inText = false
    } else if (c === '"') inText = true
    else if (c === '{' || c === '[') deepest = Math.max(deepest, ++depth)
    else if (c === '}' || c === ']') depth--
    else if (c === ':') keys++
  }
  return { depth: deepest, keys }
}

export type Payload = { ok: true; text: string } | { ok: false; because: RefusedBecause }

/**
 * The text of a message, or why nobody reads it.
 * @param decode UTF-8, strictly; null where the bytes are none
 */
export function textOf(topic: string, bytes: Uint8Array, decode: (bytes: Uint8Array) => string | null): Payload {
  if (topic.length > mostTopicBytes || utf8(topic).length > mostTopicBytes) return { ok: false, because: 'topic' }
  if (bytes.length > mostPayloadBytes) return { ok: false, because: 'too-large' }
  const text = decode(bytes)
  return text === null ? { ok: false, because: 'utf8' } : { ok: true, text }
}

/** The JSON value of a text, or why it is none that is read. */
export function jsonOf(text: string): { ok: true; value: unknown } | { ok: false; because: RefusedBecause } {
  const { depth, keys } = measured(text)
  if (depth > mostNesting) return { ok: false, because: 'nesting' }
  if (keys > mostKeys) return { ok: false, because: 'keys' }
  try {
    return { ok: true, value: JSON.parse(text) }
  } catch {
    return { ok: false, because: 'json' }
  }
}

/** The first bytes of what was refused, as text in which nothing acts: escapes for all that is not plain ASCII. */
export const escaped = (bytes: Uint8Array): string =>
  [...bytes.subarray(0, keptOfRefused)]
    .map((b) =>
      b >= 0x20 && b < 0x7f && b !== 0x5c ? String.fromCharCode(b) : `\\x${b.toString(16).padStart(2, '0')}`,
    )
    .join('')

/** What a JSON Pointer (RFC 6901) finds; undefined where it finds nothing. Names of prototypes are data like any others. */
export function pointed(value: unknown, pointer: string): unknown {
  if (pointer === '') return value
  let at = value
  for (const part of pointer.slice(1).split('/')) {
    const name = part.replaceAll('~1', '/').replaceAll('~0', '~')
    if (Array.isArray(at)) at = /^(0|[1-9]\d*)$/.test(name) ? at[Number(name)] : undefined
    else if (typeof at === 'object' && at !== null && Object.hasOwn(at, name))
      at = (at as Record<string, unknown>)[name]
    else return undefined
  }
  return at
}
