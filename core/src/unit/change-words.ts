import type { PadReading, ReadingName } from '../pads/readings'
import { fieldInWords, valueInWords } from './in-words'
import type { StepId } from './way'

/** One thing that changed in a record: what it is, and what it is now. */
export interface Clause {
  subject: string
  now: string
}

const readingIs: Record<ReadingName, (value: unknown) => string> = {
  label: (v) => (v === '' ? 'nothing is printed' : `print “${v}”`),
  square: (v) => (v ? 'square' : 'round'),
  cont_gnd: (v) => (v ? 'beeps to ground' : 'silent to ground'),
  ohms_3v3: (v) => (v === 'open' ? 'open to 3.3 V' : `${v} Ω to 3.3 V`),
  button_gnd: (v) => (v ? 'beeps while held' : 'silent while held'),
  volts: (v) => `${v} V`,
  volts_10k: (v) => `${v} V with 10 kΩ`,
  dip: (v) => (v ? 'dips at power-up' : 'steady at power-up'),
  text: (v) => (v ? 'text comes out' : 'no text'),
}

const same = (a: unknown, b: unknown) => JSON.stringify(a ?? null) === JSON.stringify(b ?? null)

/** "pad 3: 3.3 V" for every pad of which a reading changed. */
function padClauses(before: readonly PadReading[], after: readonly PadReading[]): Clause[] {
  const count = Math.max(before.length, after.length)
  return Array.from({ length: count }, (_, i) => i).flatMap((i): Clause[] => {
    const [was, is] = [before[i] ?? {}, after[i] ?? {}]
    const changed = (Object.keys(readingIs) as ReadingName[]).filter((name) => !same(was[name], is[name]))
    if (changed.length === 0) return []
    const now = changed.map((name) => (is[name] === undefined ? 'a reading taken off' : readingIs[name](is[name])))
    return [{ subject: `pad ${i + 1}`, now: now.join(', ') }]
  })
}

const longest = 48
const cut = (text: string) => (text.length > longest ? `${text.slice(0, longest - 1)}…` : text)

/** Lists and records by how much is in them, all else by its value. */
function nowOf(value: unknown): string {
  if (Array.isArray(value) && value.some((x) => typeof x === 'object'))
    return value.length === 1 ? '1 entry' : `${value.length} entries`
  return cut(valueInWords(value))
}

/** What a save changed in the record of a step, in words: each field with what it is now. */
export function changeClauses(step: StepId, before: object, after: object): Clause[] {
  const [was, is] = [before as { [key: string]: unknown }, after as { [key: string]: unknown }]
  return Object.keys(is).flatMap((field): Clause[] => {
    if (same(was[field], is[field])) return []
    if (step === 'pads' && field === 'readings')
      return padClauses((was[field] ?? []) as PadReading[], (is[field] ?? []) as PadReading[])
    return [{ subject: fieldInWords(field).replace(/^the /, ''), now: nowOf(is[field]) }]
  })
}

const mostClauses = 3

/** "pad 3: 3.3 V; pad 4: beeps to ground" */
export function clausesInWords(clauses: readonly Clause[]): string {
  if (clauses.length === 0) return 'nothing new'
  const shown = clauses.slice(0, mostClauses).map((c) => `${c.subject}: ${c.now}`)
  const more = clauses.length - shown.length
  return `${shown.join('; ')}${more > 0 ? `; ${more} more` : ''}`
}
