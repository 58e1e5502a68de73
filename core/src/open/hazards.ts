import type { UnitView } from '../unit/view'

/** What in an opened unit can hurt a hand: asked once at Open, shown at its place from then on (brief 07 §12). */
export const hazardKinds = ['capacitor', 'bare', 'hot', 'battery', 'spring', 'edge'] as const
export type HazardKind = (typeof hazardKinds)[number]

export interface Hazard {
  kind: HazardKind
  place: string
}

export const hazardWords: Record<HazardKind, { name: string; care: string }> = {
  capacitor: { name: 'A large capacitor', care: 'It holds its charge after the plug is out: wait, then measure.' },
  bare: {
    name: 'Bare mains parts within reach',
    care: 'Tabs, tracks and terminals are live whenever it is plugged in.',
  },
  hot: { name: 'A part that gets hot', care: 'Let it cool before a hand goes in.' },
  battery: {
    name: 'A cell or battery',
    care: 'It feeds the board with the plug out: take it out first, never short it.',
  },
  spring: { name: 'A spring under tension', care: 'Open towards the bench, not towards your face.' },
  edge: { name: 'Glass or a sharp edge', care: 'Gloves, and away from the eyes.' },
}

/** What is known of it: of this unit where somebody looked, else of its board; null while nobody has looked at either. */
export function hazardsOf(view: UnitView): readonly Hazard[] | null {
  const { hazards, hazardsLooked } = view.records.open.data
  return hazardsLooked ? hazards : (view.board?.hazards ?? null)
}

/** "a large capacitor (beside the relay)" for each, in their order. */
export const hazardList = (hazards: readonly Hazard[]): string =>
  hazards
    .map((h) => {
      const name = hazardWords[h.kind].name
      return `${name.charAt(0).toLowerCase()}${name.slice(1)}${h.place.trim() ? ` (${h.place.trim()})` : ''}`
    })
    .join(', ')
