import { type Finding, finding } from '../edge/finding'
import help from './opening-help.json'

/** How a board opens and closes again: its fasteners in order, what each needs first, and what is still missing. */

export const fastenerKinds = [
  'screw',
  'clip',
  'glue',
  'heat_seal',
  'press_fit',
  'terminal_wire',
  'solder_joint',
] as const
export type FastenerKind = (typeof fastenerKinds)[number]
export const hidingPlaces = ['none', 'sticker', 'foot', 'label', 'cap'] as const
export const restoreWays = ['same', 'glue', 'new_part'] as const

export interface OpeningItem {
  id: string
  kind: FastenerKind
  count: number
  driver: string
  place: string
  hiddenUnder: (typeof hidingPlaces)[number]
  note: string
  restore: (typeof restoreWays)[number]
  /** Ids of items that come out before this one. */
  requires: string[]
}

/** A fastener nobody has described yet. */
export const blankItem = (id: string): OpeningItem => ({
  id,
  kind: 'screw',
  count: 1,
  driver: '',
  place: '',
  hiddenUnder: 'none',
  note: '',
  restore: 'same',
  requires: [],
})

const kindNames: Record<FastenerKind, [string, string]> = {
  screw: ['screw', 'screws'],
  clip: ['clip', 'clips'],
  glue: ['glued seam', 'glued seams'],
  heat_seal: ['heat-sealed seam', 'heat-sealed seams'],
  press_fit: ['press fit', 'press fits'],
  terminal_wire: ['terminal wire', 'terminal wires'],
  solder_joint: ['solder joint', 'solder joints'],
}
export const countedName = (kind: FastenerKind, n: number): string => `${n} ${kindNames[kind][n === 1 ? 0 : 1]}`
export const kindName = (kind: FastenerKind): string => kindNames[kind][0]

/** "2 screws, corners of the face, under the sticker, PH1" */
export function itemSentence(item: OpeningItem): string {
  return [
    countedName(item.kind, item.count),
    item.place,
    item.hiddenUnder === 'none' ? '' : `under the ${item.hiddenUnder}`,
    item.driver,
  ]
    .filter(Boolean)
    .join(', ')
}

/** Photos that a unit of a board nobody has opened before needs, taken before anything is separated. */
export const photoTags = [
  'outside_rating_label',
  'terminals_with_legend',
  'seam_before',
  'board_top',
  'board_bottom',
  'wire_positions',
] as const
export type PhotoTag = (typeof photoTags)[number]

/** What people meet on the way in, and what to do then: facts as data. */
export const openingHelp = help as { finding: string; judgement: string }[]

const words = (list: readonly string[]) =>
  list.length < 2 ? list.join('') : `${list.slice(0, -1).join(', ')} and ${list.at(-1)}`

/** An order that cannot be followed: "Step 4 needs step 2 first." */
export function orderConflicts(items: readonly OpeningItem[], taken: readonly string[] = []): Finding[] {
  const at = new Map(items.map((item, i) => [item.id, i]))
  return items.flatMap((item, i) =>
    item.requires.flatMap((id): Finding[] => {
      const first = at.get(id)
      if (first === undefined) return []
      const outTooEarly = taken.includes(item.id) && !taken.includes(id)
      if (first < i && !outTooEarly) return []
      return [
        finding(
          'order-conflict',
          'error',
          `Step ${i + 1} needs step ${first + 1} first.`,
          outTooEarly ? 'It is ticked as out, and the one it needs is not.' : 'It stands after the one that needs it.',
          'Move it in the list, or correct the tick.',
        ),
      ]
    }),
  )
}

/** A case that was separated before anybody wrote down what its terminals are. */
export function legendFindings(state: {
  taken: readonly string[]
  noTerminals: boolean
  terminals: readonly { place: string; legend: string }[]
  photoTags: readonly string[]
  /** Units of this board whose legends are on record: then the record counts. */
  boardKnown: boolean
}): Finding[] {
  if (state.noTerminals || state.taken.length === 0) return []
  const typed = state.terminals.filter((t) => t.place.trim() !== '').length >= 2
  const photographed = state.boardKnown || state.photoTags.includes('terminals_with_legend')
  if (typed && photographed) return []
  return [
    finding(
      'legend-not-recorded',
      'error',
      'Record which terminal is line and which is neutral before taking the cover off.',
      [
        typed ? '' : 'The order of the terminals is not typed in.',
        photographed ? '' : 'There is no photo of the legend.',
      ]
        .filter(Boolean)
        .join(' '),
      'Once the cover is off nothing on the board says which is which.',
    ),
  ]
}

export interface ClosingState {
  /** Fastener id → how many are back. */
  restored: Readonly<Record<string, number>>
  partsBack: readonly string[]
  clipsBroken: number
  /** When the glue was applied and how long it sets; null when nothing is glued. */
  gluedAt: string | null
  glueHours: number | null
}

/** What keeps a case from counting as closed. Blocks every mains step. */
export function closingFindings(
  items: readonly OpeningItem[],
  parts: readonly string[],
  closing: ClosingState,
  now: string,
): Finding[] {
  const out: Finding[] = []
  const missing = new Map<FastenerKind, number>()
  const tooMany: string[] = []
  for (const item of items) {
    const back = closing.restored[item.id] ?? 0
    if (back < item.count) missing.set(item.kind, (missing.get(item.kind) ?? 0) + item.count - back)
    if (back > item.count) tooMany.push(`${back - item.count} more ${kindNames[item.kind][1]} than came out`)
  }
  const loose = parts.filter((p) => !closing.partsBack.includes(p))
  const left = [...[...missing].map(([kind, n]) => countedName(kind, n)), ...loose.map((p) => `the ${p}`)]
  const many = left.length > 1 || [...missing.values()].some((n) => n > 1)
  if (left.length > 0)
    out.push(
      finding(
        'not-closed',
        'error',
        `${words(left)} ${many ? 'are' : 'is'} not back: the case is not closed.`,
        'What came out and what is back do not agree.',
        'Put them back, or correct the count.',
      ),
    )
  if (tooMany.length > 0)
    out.push(finding('not-closed', 'error', `${words(tooMany)}.`, '', 'Count again: one of the two numbers is wrong.'))
  const clips = items.filter((i) => i.kind === 'clip').reduce((n, i) => n + i.count, 0)
  if (clips > 0 && closing.clipsBroken * 3 > clips)
    out.push(
      finding(
        'clips-broken',
        'error',
        'More than a third of the clips are broken.',
        `${closing.clipsBroken} of ${clips}.`,
        'Repair the case before it goes on the mains.',
      ),
    )
  const glued = items.some((i) => i.restore === 'glue')
  if (glued && left.length === 0) {
    const from = closing.gluedAt ? Date.parse(closing.gluedAt) : Number.NaN
    if (Number.isNaN(from) || closing.glueHours === null)
      out.push(
        finding(
          'glue-not-timed',
          'error',
          'The glue is not timed.',
          'This case is only safe again when its glue has set.',
          'Write down when it was glued and how long it sets.',
        ),
      )
    else {
      const hoursLeft = (from + closing.glueHours * 3_600_000 - Date.parse(now)) / 3_600_000
      if (hoursLeft > 0)
        out.push(
          finding(
            'glue-not-set',
            'error',
            `The glue sets for another ${hoursLeft < 1 ? `${Math.ceil(hoursLeft * 60)} min` : `${hoursLeft.toFixed(1)} h`}.`,
            `It needs ${closing.glueHours} h.`,
            'Leave it clamped; no mains before that.',
          ),
        )
    }
  }
  return out
}
