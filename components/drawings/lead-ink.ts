import { leadColours, type PadRole } from '@fresh-coat/core/wiring/wiring'

const inks: Record<string, string> = {
  black: '#12231f',
  red: '#b8402c',
  green: '#1f7a5c',
  yellow: '#c28a0c',
  blue: '#3563a8',
  white: '#8b9a95',
}
/** How a lead of this role is drawn: near the colour of the wire, legible on both themes. */
export const leadInk = (role: PadRole): string => inks[leadColours[role] ?? ''] ?? 'var(--ink-3)'

/** What a lead is rimmed with where it crosses another: a black one has a light rim, on a dark page too. */
export const leadRim = (role: PadRole): string => (leadColours[role] === 'black' ? 'var(--lead-rim)' : 'var(--sheet)')
