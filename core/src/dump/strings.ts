import { coverMask } from './cover'

export interface FoundString {
  offset: number
  /** The text; what looks like a password or key is covered with •. */
  text: string
  covered: boolean
}

export interface StringsPage {
  strings: FoundString[]
  /** Where to go on; null at the end. */
  next: number | null
}

const longestShown = 200

/**
 * Runs of printable ASCII of at least `least` characters, a page at a time. Secrets are covered wherever they stand.
 * @param wanted only strings that hold this text, in any case; a covered part is never compared
 */
export function printableStrings(
  bytes: Uint8Array,
  from: number,
  least: number,
  most: number,
  wanted = '',
): StringsPage {
  const mask = coverMask(bytes)
  const strings: FoundString[] = []
  const needle = wanted.toLowerCase()
  const raw = Uint8Array.from(needle, (c) => c.charCodeAt(0))
  let i = from
  while (i < bytes.length) {
    let end = i
    while (end < bytes.length && (bytes[end] as number) >= 0x20 && (bytes[end] as number) <= 0x7e) end++
    // Text is made only of what may hold what is wanted: 16 MiB of text are some hundred thousand strings.
    if (end - i >= least && holds(bytes, i, Math.min(end, i + longestShown), raw)) {
      const shown = Math.min(end, i + longestShown)
      let text = ''
      let covered = false
      for (let at = i; at < shown; at++) {
        const hidden = mask[at] === 1
        covered ||= hidden
        text += hidden ? '•' : String.fromCharCode(bytes[at] as number)
      }
      if (needle === '' || text.toLowerCase().includes(needle)) strings.push({ offset: i, text, covered })
      if (strings.length === most) return { strings, next: end < bytes.length ? end : null }
    }
    i = end + 1
  }
  return { strings, next: null }
}

const lower = (b: number): number => (b >= 0x41 && b <= 0x5a ? b + 32 : b)

/** Do the bytes from..to hold these ones, in any case? */
function holds(bytes: Uint8Array, from: number, to: number, wanted: Uint8Array): boolean {
  const first = wanted[0]
  if (first === undefined) return true
  for (let i = from; i + wanted.length <= to; i++) {
    if (lower(bytes[i] as number) !== first) continue
    let k = 1
    while (k < wanted.length && lower(bytes[i + k] as number) === wanted[k]) k++
    if (k === wanted.length) return true
  }
  return false
}
