import { z } from 'zod'
import { utf8 } from '../bytes/text'
import { inputCodes, type Outcome, parseInput, refuse } from '../edge/fault'
import { type Family, families } from '../families/families'
import { isMulticastMac, parseMac } from '../network/mac'
import { outcomeOf, type PasteOutcome } from './outcome'
import { aHexNumber, aNumber, linesOf, literally, numberBefore, wholeBefore, word } from './words'

/** What a tool printed: the facts in it, each with its line. Nothing is guessed, and no tool is known by name. */
export const pasteKinds = [
  'mac',
  'flashId',
  'flashBytes',
  'crystalMHz',
  'rate',
  'offset',
  'bytes',
  'percent',
  'seconds',
  'family',
] as const
export type PasteKind = (typeof pasteKinds)[number]

export interface PasteFact {
  kind: PasteKind
  /** A number in the unit of the kind, a text, or null where two markings disagree. */
  value: string | number | null
  /** From 1. */
  line: number
}

export interface PasteReading {
  facts: PasteFact[]
  outcome: PasteOutcome | null
  /** The line that says how it ended; null where none does. */
  outcomeLine: number | null
  conflict: boolean
}

export interface KnownMarking {
  text: string
  family: Family
}

type Found = { value: string | number; line: number }

/** What one line says of one kind, in the order written. */
type LineReader = (line: string) => (string | number)[]

const has = {
  address: word('mac', 'address'),
  flash: word('flash', 'jedec'),
  sized: word('flash', 'size'),
  crystal: word('crystal', 'xtal'),
  clock: word('clock'),
  otherClock: word('flash', 'spi', 'cpu', 'bus'),
  failed: word('failed', 'error'),
  moved: word('wrote', 'written', 'write', 'read', 'verified'),
}
const numbersOf = (line: string, shape: RegExp): number[] =>
  [...line.matchAll(shape)].map((found) => Number(found[1])).filter(Number.isFinite)
const endOf = (found: RegExpExecArray): number => found.index + found[0].length

/** The first of `found` at or behind a place; places are asked in rising order, so a long line is walked once. */
function nextBehind(found: readonly RegExpExecArray[]): (from: number) => RegExpExecArray | undefined {
  let i = 0
  return (from) => {
    while (i < found.length && (found[i] as RegExpExecArray).index < from) i++
    return found[i]
  }
}

/** No seventh group on either side: `MAC:b8:…` has six, the letters in front are no group. */
const group = '[0-9a-f]{1,2}'
const sixGroups = new RegExp(
  `(?<![0-9a-z])(?<!(?<![0-9a-z])${group}[:-])(?:${group}[:-]){5}${group}(?![0-9a-z]|[:-]${group}(?![0-9a-z]))`,
  'gi',
)
/** Of a longer name in groups, as services have, the last one is no address. */
const otherMacs =
  /(?<![0-9a-z]|[0-9a-z][.-])(?:[0-9a-f]{4}\.[0-9a-f]{4}\.[0-9a-f]{4}|[0-9a-f]{12})(?![0-9a-z]|[.-][0-9a-z])/gi
const macs: LineReader = (line) => {
  if (!has.address.test(line)) return []
  return [...line.matchAll(sixGroups), ...line.matchAll(otherMacs)]
    .sort((a, b) => a.index - b.index)
    .flatMap((found) => parseMac(found[0]) ?? [])
    .filter((mac) => !isMulticastMac(mac))
}

const part = (digits: number) => `(?<![0-9A-Za-z])(?:0x)?([0-9a-f]{${digits}})(?![0-9A-Za-z])`
const parted = '[\\s,:-]+'
const threeBytes = new RegExp(
  `${part(2)}${parted}${part(2)}${parted}${part(2)}|${part(2)}${parted}${part(4)}|${part(6)}`,
  'i',
)
const idWord = word('id', 'jedec')
const flashIds: LineReader = (line) => {
  const id = has.flash.test(line) ? idWord.exec(line) : null
  const found = id && threeBytes.exec(line.slice(id.index + id[0].length))
  if (!found) return []
  const digits = found.slice(1).join('').toLowerCase()
  return [(digits.match(/../g) as string[]).join(' ')]
}

/** So written: `Mb` are bits. */
const sizeUnit: Record<string, number> = {
  K: 10,
  k: 10,
  KB: 10,
  kB: 10,
  KiB: 10,
  M: 20,
  MB: 20,
  MiB: 20, // 2^…
}
const aSize = new RegExp(numberBefore('(?<unit>[Kk]|KB|kB|KiB|M|MB|MiB)', true))
const [leastChip, mostChip] = [2 ** 18, 2 ** 28]
const flashSizes: LineReader = (line) => {
  if (!has.sized.test(line)) return []
  return [...line.matchAll(aSize)]
    .map((found) => Number(found[1]) * 2 ** (sizeUnit[found.groups?.unit ?? ''] ?? Number.NaN))
    .filter((bytes) => bytes >= leastChip && bytes <= mostChip && Number.isInteger(Math.log2(bytes)))
}

const crystals = new Set([24, 26, 32, 40])
const megahertz = numberBefore('MHz')
const crystalsOf: LineReader = (line) => {
  const told = has.crystal.test(line) || (has.clock.test(line) && !has.otherClock.test(line))
  return told ? numbersOf(line, megahertz).filter((n) => crystals.has(n)) : []
}

const [leastBaud, mostBaud] = [300, 5_000_000]
const isRate = (n: number) => Number.isInteger(n) && n >= leastBaud && n <= mostBaud
const anyBaud = /(?:baudrate|baud)(?![A-Za-z0-9])/gi
const baudBehind = numberBefore('baud|baudrate')
const anyNumber = new RegExp(aNumber, 'g')
const ratesOf: LineReader = (line) => {
  const words = [...line.matchAll(anyBaud)]
  if (words.length === 0 || has.failed.test(line)) return []
  // A number may touch its unit; a word alone may not touch anything.
  const before = new Map([...line.matchAll(baudBehind)].map((m) => [endOf(m), Number(m[1])]))
  const next = nextBehind([...line.matchAll(anyNumber)])
  return words.flatMap((found) => {
    const own = before.get(endOf(found))
    if (own !== undefined && isRate(own)) return [own]
    if (/[A-Za-z0-9]/.test(line[found.index - 1] ?? ' ') && own === undefined) return []
    const behind = Number(next(endOf(found))?.[1])
    return isRate(behind) ? [behind] : []
  })
}

const atWord = new RegExp(word('at').source, 'gi')
const anyHex = new RegExp(aHexNumber.source, 'gi')
const offsetsOf: LineReader = (line) => {
  if (!has.moved.test(line)) return []
  const next = nextBehind([...line.matchAll(anyHex)])
  return [...line.matchAll(atWord)]
    .map((found) => Number(next(endOf(found))?.[1]))
    .filter((offset) => Number.isSafeInteger(offset))
}

const countedBytes = wholeBefore('bytes')
const bytesOf: LineReader = (line) =>
  has.moved.test(line)
    ? [...line.matchAll(countedBytes)].map((found) => Number(found[1] ?? found[2])).filter(Number.isSafeInteger)
    : []

const percents = numberBefore('%')
const percentsOf: LineReader = (line) => numbersOf(line, percents).filter((n) => n <= 100)

const inSeconds = new RegExp(`(?<=(?<![A-Za-z0-9])in\\s*)${numberBefore('s|secs?|seconds?').source}`, 'gi')
const secondsOf: LineReader = (line) => numbersOf(line, inSeconds)

/** Each different value once, at its first line. */
function eachOnce(lines: readonly string[], reader: LineReader): Found[] {
  const first = new Map<string | number, number>()
  for (const [i, line] of lines.entries())
    for (const value of reader(line)) if (!first.has(value)) first.set(value, i + 1)
  return [...first].map(([value, line]) => ({ value, line }))
}

/** The last one said. */
function lastOf(lines: readonly string[], reader: LineReader): Found[] {
  for (let i = lines.length - 1; i >= 0; i--) {
    const value = reader(lines[i] as string).at(-1)
    if (value !== undefined) return [{ value, line: i + 1 }]
  }
  return []
}

const readers: { kind: PasteKind; of: typeof eachOnce; reader: LineReader }[] = [
  { kind: 'mac', of: eachOnce, reader: macs },
  { kind: 'flashId', of: eachOnce, reader: flashIds },
  { kind: 'flashBytes', of: eachOnce, reader: flashSizes },
  { kind: 'crystalMHz', of: eachOnce, reader: crystalsOf },
  { kind: 'rate', of: lastOf, reader: ratesOf },
  { kind: 'offset', of: eachOnce, reader: offsetsOf },
  { kind: 'bytes', of: eachOnce, reader: bytesOf },
  { kind: 'percent', of: lastOf, reader: percentsOf },
  { kind: 'seconds', of: lastOf, reader: secondsOf },
]

/** The family of the markings that stand in the text; where two disagree, null at the first line that does. */
function familyIn(
  lines: readonly string[],
  markings: readonly KnownMarking[],
): { facts: PasteFact[]; conflict: boolean } {
  const shapes = markings.map(({ text, family }) => ({ shape: word(literally(text)), family }))
  let first: { family: Family; line: number } | null = null
  for (const [i, line] of lines.entries())
    for (const { shape, family } of shapes) {
      if (!shape.test(line)) continue
      first ??= { family, line: i + 1 }
      if (family !== first.family) return { facts: [{ kind: 'family', value: null, line: i + 1 }], conflict: true }
    }
  return { facts: first ? [{ kind: 'family', value: first.family, line: first.line }] : [], conflict: false }
}

/**
 * Facts in the order of `pasteKinds`, then by line.
 * @param markings texts printed on chips and modules, with the family they turned out to be
 */
export function readPasteOf(text: string, markings: readonly KnownMarking[] = []): PasteReading {
  const lines = linesOf(text)
  const family = familyIn(lines, markings)
  const facts = readers.flatMap(({ kind, of, reader }) =>
    of(lines, reader).map(({ value, line }): PasteFact => ({ kind, value, line })),
  )
  const { outcome, line } = outcomeOf(lines)
  return { facts: [...facts, ...family.facts], outcome, outcomeLine: line, conflict: family.conflict }
}

/** The longest text, in bytes of UTF-8. */
export const longestPaste = 256 * 1024
/** A code point has four bytes at most: most texts are known to fit without counting. */
const fitsPaste = (text: string) => text.length * 3 <= longestPaste || utf8(text).length <= longestPaste

const Paste = z.object({
  text: z.string().superRefine((text, context) => {
    if (text.trim() === '') refuse(context, 'empty', [], 'There is nothing in the text.')
    else if (!fitsPaste(text)) refuse(context, 'range', [], 'The text has more than 256 KiB: paste the end of it.')
  }),
  markings: z
    .array(
      z.object({
        text: z.string().superRefine((text, context) => {
          if (text.trim() === '') refuse(context, 'input', [], 'A marking has no text.')
        }),
        family: z.enum(families),
      }),
    )
    .nullish(),
})

/** `paste read`. Faults: `input`, `range` (over 256 KiB), `empty` (blank). */
export function readPaste(input: unknown): Outcome<PasteReading> {
  const parsed = parseInput(Paste, input, inputCodes)
  if (!parsed.ok) return parsed
  return { ok: true, value: readPasteOf(parsed.value.text, parsed.value.markings ?? []) }
}
