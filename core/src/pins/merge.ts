import { diffTemplates } from './diff'
import type { PinTemplate, TemplatePin } from './template'
import { naturalOrder } from './words'

/** Two templates of a family brought together, difference by difference. What comes from the other board is copied knowledge: assumed. */

export interface MergeChoice {
  id: string
  kind: 'moved' | 'gone' | 'new' | 'differs'
  fn: TemplatePin['fn']
  ch: number | null
  /** Where it is in ours; null for what only theirs has. */
  ours: string | null
  /** Where it is in theirs; null for what only ours has. */
  theirs: string | null
  /** Of what differs at one pin: which fields, and how they read there. */
  fields: { field: 'active' | 'pull' | 'start'; ours: string; theirs: string }[]
}

const chOf = (p: TemplatePin): number | null => p.ch ?? null

/** What theirs would change in ours, each to be taken or left. */
export function mergeChoices(ours: PinTemplate, theirs: PinTemplate): MergeChoice[] {
  const diff = diffTemplates(ours, theirs)
  const differs = new Map<string, MergeChoice['fields']>()
  for (const c of diff.changed)
    differs.set(c.pin, [...(differs.get(c.pin) ?? []), { field: c.field, ours: c.from, theirs: c.to }])
  const movedTo = new Set(diff.moved.map((m) => m.to))
  const at = (pin: string) => theirs.pins.find((p) => p.pin === pin && p.fn !== 'unused')
  const choice = (
    kind: MergeChoice['kind'],
    { fn, ch }: Pick<MergeChoice, 'fn' | 'ch'>,
    from: string | null,
    to: string | null,
  ): MergeChoice => ({
    id: [kind, fn, ch ?? '', from ?? '', to ?? ''].join(' '),
    kind,
    fn,
    ch,
    ours: from,
    theirs: to,
    fields: to === null ? [] : (differs.get(to) ?? []),
  })
  return [
    ...diff.moved.map((m) => choice('moved', m, m.from, m.to)),
    ...diff.added.map((p) => choice('new', p, null, p.pin)),
    ...diff.removed.map((p) => choice('gone', p, p.pin, null)),
    ...[...differs.keys()].flatMap((pin) => {
      const p = at(pin)
      return p && !movedTo.has(pin) ? [choice('differs', { fn: p.fn, ch: chOf(p) }, pin, pin)] : []
    }),
  ]
}

const isOf = (choice: MergeChoice, p: TemplatePin) => p.fn === choice.fn && chOf(p) === choice.ch
/** Nobody has seen it on this board. */
const bare = ({ evidence: _, confidence: __, ...p }: TemplatePin): TemplatePin => p

export interface Merged {
  template: PinTemplate
  /** What had to give way at a pin that something else was taken to. */
  displaced: TemplatePin[]
}

/**
 * Ours with the chosen differences of theirs. Pins that nothing was taken for keep their evidence; a pin holds one function, so
 * what was at a place that something else is taken to gives way, unless it is taken elsewhere itself.
 */
export function mergeTemplates(ours: PinTemplate, theirs: PinTemplate, taken: readonly MergeChoice[]): Merged {
  const leaves = (p: TemplatePin) => taken.some((c) => c.ours === p.pin && isOf(c, p))
  const comes = taken.flatMap((c) => theirs.pins.find((p) => p.pin === c.theirs && isOf(c, p)) ?? [])
  const targets = new Set(comes.map((p) => p.pin))
  const stays = ours.pins.filter((p) => !leaves(p))
  const idle = (p: TemplatePin) => p.fn === 'unused' || p.fn === 'spare'
  const kept = stays.filter((p) => !targets.has(p.pin))
  const displaced = stays.filter((p) => targets.has(p.pin) && !idle(p))
  const pins = [...kept, ...comes.map(bare)].sort((a, b) => naturalOrder(a.pin, b.pin))
  return { template: { ...ours, pins }, displaced }
}
