import { z } from 'zod'
import { type Outcome, parseInput, refusal, shapeCodes } from '../edge/fault'
import { activeLevel, type PinFunction, PinTemplate, type TemplatePin } from './template'
import { naturalOrder } from './words'

/** What two templates of a family have in common, and what not (brief 03 §1). */

export interface PinPlace {
  pin: string
  fn: PinFunction
  ch: number | null
}
export interface PinMoved {
  fn: PinFunction
  ch: number | null
  from: string
  to: string
}
export interface PinChanged {
  pin: string
  field: 'active' | 'pull' | 'start'
  from: string
  to: string
}
export interface PinsDiff {
  same: boolean
  moved: PinMoved[]
  added: PinPlace[]
  removed: PinPlace[]
  changed: PinChanged[]
  meta: { pin: string; field: 'note' | 'evidence' | 'confidence' }[]
}

const channelOf = (p: TemplatePin): number | null => p.ch ?? null
/** A function on a channel; none is channel 0. */
const roleOf = (p: TemplatePin): string => `${p.fn} ${p.ch ?? 0}`
const placeOf = (p: TemplatePin): PinPlace => ({ pin: p.pin, fn: p.fn, ch: channelOf(p) })

const compared = {
  active: (p: TemplatePin): string => activeLevel(p),
  pull: (p: TemplatePin): string => p.pull ?? 'none',
  start: (p: TemplatePin): string => p.start ?? 'off',
} as const
const asWritten = ['note', 'evidence', 'confidence'] as const

function compare(a: TemplatePin, b: TemplatePin, out: PinsDiff): void {
  for (const field of Object.keys(compared) as (keyof typeof compared)[]) {
    const [from, to] = [compared[field](a), compared[field](b)]
    if (from !== to) out.changed.push({ pin: b.pin, field, from, to })
  }
  for (const field of asWritten)
    if (JSON.stringify(a[field] ?? null) !== JSON.stringify(b[field] ?? null)) out.meta.push({ pin: b.pin, field })
}

/** Takes the pairs out of two lists, one for one, that `same` finds. */
function pairs(
  left: TemplatePin[],
  right: TemplatePin[],
  same: (a: TemplatePin, b: TemplatePin) => boolean,
): [TemplatePin, TemplatePin][] {
  const found: [TemplatePin, TemplatePin][] = []
  for (const a of [...left]) {
    const b = right.find((r) => same(a, r))
    if (!b) continue
    left.splice(left.indexOf(a), 1)
    right.splice(right.indexOf(b), 1)
    found.push([a, b])
  }
  return found
}

const used = (t: PinTemplate): TemplatePin[] => t.pins.filter((p) => p.fn !== 'unused')

/** From `a` to `b`, of one family: what stayed and differs, what moved, what came and went. */
export function diffTemplates(a: PinTemplate, b: PinTemplate): PinsDiff {
  const [left, right] = [used(a), used(b)]
  const out: PinsDiff = { same: false, moved: [], added: [], removed: [], changed: [], meta: [] }
  for (const [p, q] of pairs(left, right, (x, y) => x.pin === y.pin && roleOf(x) === roleOf(y))) compare(p, q, out)
  const once = (list: TemplatePin[], p: TemplatePin) => list.filter((x) => roleOf(x) === roleOf(p)).length === 1
  const single = new Set([...left].filter((p) => once(left, p) && once(right, p)).map(roleOf))
  for (const [p, q] of pairs(left, right, (x, y) => roleOf(x) === roleOf(y) && single.has(roleOf(x)))) {
    out.moved.push({ fn: p.fn, ch: channelOf(p), from: p.pin, to: q.pin })
    compare(p, q, out)
  }
  out.removed = left.map(placeOf)
  out.added = right.map(placeOf)
  const byPin = (x: { pin: string }, y: { pin: string }) => naturalOrder(x.pin, y.pin)
  out.moved.sort((x, y) => naturalOrder(x.from, y.from))
  for (const list of [out.added, out.removed, out.changed, out.meta] as { pin: string }[][]) list.sort(byPin)
  out.same = [out.moved, out.added, out.removed, out.changed].every((l) => l.length === 0)
  return out
}

/** `pins diff`: two templates; another family is refused. */
export function diffPins(input: unknown): Outcome<PinsDiff> {
  const parsed = parseInput(z.object({ a: PinTemplate, b: PinTemplate }), input, shapeCodes)
  if (!parsed.ok) return parsed
  const { a, b } = parsed.value
  return a.family === b.family
    ? { ok: true, value: diffTemplates(a, b) }
    : refusal('family', '/b/family', `${b.family} cannot be compared with ${a.family}.`)
}
