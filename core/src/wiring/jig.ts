import { z } from 'zod'
import { type Outcome, parseInput, refusal, refuse, strictCodes } from '../edge/fault'
import { type PadRole, padRoles } from './wiring'

/** Straight plug or jig: can the adapter's row go onto the pads as it is, and if not, what joins them. */

const mostPins = 12
const row = z.array(z.string().max(16)).superRefine((pins, context) => {
  if (pins.length > mostPins) refuse(context, 'range', [], `${pins.length} in a row: at most ${mostPins} are planned.`)
})
const face = z.enum(['top', 'bottom'])
const pitch = z.number().positive().max(50).default(2.54)

export const JigInput = z.object({
  adapter: row,
  pads: row.superRefine((pads, context) =>
    pads.forEach((role, i) => {
      if (!(padRoles as readonly string[]).includes(role))
        refuse(context, 'unknown-role', [i], `"${role}" isn't a pad role: ${padRoles.join(', ')}.`)
    }),
  ),
  pitchAdapter: pitch,
  pitchPads: pitch,
  padsSeenFrom: face.default('top'),
  plugFace: face.default('top'),
  labelledFrom: z.enum(['adapter', 'target']).default('adapter'),
  power: z.enum(['adapter3v3', 'bench']).default('adapter3v3'),
})
export type JigInput = z.infer<typeof JigInput>

export interface Mate {
  /** Index in the adapter's row as given. */
  adapter: number
  /** Index in the pads as seen from the plug face. */
  pad: number
}
export interface StraightPlug {
  orientation: 'forward' | 'reversed'
  /** Pin k of the (turned) row lies over pad offset + k. */
  offset: number
  /** Adapter pins to bend away and insulate. */
  bend: number[]
  mates: Mate[]
}
export interface JigWire extends Mate {
  role: PadRole
  /** Bottom: bare, soldered along the board. Top: insulated, over the others. */
  layer: 'top' | 'bottom'
}
export interface Jig {
  cols: number
  rows: number
  adapterReversed: boolean
  crossings: number
  topWires: number
  wires: JigWire[]
}
export interface JigPlan {
  padsInView: PadRole[]
  straight: StraightPlug | null
  jig: Jig | null
  reason: 'straight' | 'order' | 'pitch'
}

/** Pitches that differ by less than this over the row still mate: half a hundredth of a millimetre a pin. */
const samePitch = (a: number, b: number) => Math.abs(a - b) < 0.005

/** The adapter pin that belongs on a pad: TX and RX cross, unless the adapter is labelled from the target's side. */
export const partnerOf = (role: PadRole, labelledFrom: 'adapter' | 'target'): string =>
  labelledFrom === 'adapter' && role === 'TX' ? 'RX' : labelledFrom === 'adapter' && role === 'RX' ? 'TX' : role

function straightPlug(plan: JigInput, pads: readonly PadRole[], needed: readonly PadRole[]): StraightPlug | null {
  const m = plan.adapter.length
  const n = pads.length
  const found: StraightPlug[] = []
  for (const orientation of ['forward', 'reversed'] as const)
    for (let offset = 1 - m; offset < n; offset++) {
      const mates: Mate[] = []
      for (let k = 0; k < m; k++) {
        const adapter = orientation === 'forward' ? k : m - 1 - k
        const pad = offset + k
        const role = pads[pad]
        if (role && needed.includes(role) && partnerOf(role, plan.labelledFrom) === plan.adapter[adapter])
          mates.push({ adapter, pad })
      }
      if (!needed.every((role) => mates.some((mate) => pads[mate.pad] === role))) continue
      const bend = plan.adapter.map((_, i) => i).filter((i) => !mates.some((mate) => mate.adapter === i))
      found.push({ orientation, offset, bend, mates })
    }
  // Fewest bent pins; forward before reversed and small offsets first, as they were found.
  return found.reduce<StraightPlug | null>(
    (best, plug) => (best === null || plug.bend.length < best.bend.length ? plug : best),
    null,
  )
}

export interface Lead {
  role: PadRole
  adapter: number
  pad: number
  /** Position on the socket, which may sit turned round. */
  at: number
}
const cross = (a: Lead, b: Lead) => (a.at - b.at) * (a.pad - b.pad) < 0
export const crossingsOf = (leads: readonly Lead[]) =>
  leads.reduce((n, a, i) => n + leads.slice(i + 1).filter((b) => cross(a, b)).length, 0)

/** The largest set of leads none of which cross; of several, the first in the order of the leads. */
export function largestFlatSet(leads: readonly Lead[]): Lead[] {
  const choose = (from: number, taken: Lead[], size: number): Lead[] | null => {
    if (taken.length === size) return taken
    for (let i = from; i < leads.length; i++) {
      const lead = leads[i] as Lead
      if (taken.some((t) => cross(t, lead))) continue
      const whole = choose(i + 1, [...taken, lead], size)
      if (whole) return whole
    }
    return null
  }
  for (let size = leads.length; size > 0; size--) {
    const set = choose(0, [], size)
    if (set) return set
  }
  return []
}

/** Every way to give each needed role a pad and a pin: several GND pins or pads are as good as each other. */
function leadChoices(
  plan: JigInput,
  pads: readonly PadRole[],
  needed: readonly PadRole[],
  reversed: boolean,
): Lead[][] {
  const places = (list: readonly string[], name: string, all: boolean) => {
    const at = list.flatMap((x, i) => (x === name ? [i] : []))
    return all ? at : at.slice(0, 1)
  }
  return needed.reduce<Lead[][]>(
    (sets, role) =>
      sets.flatMap((set) =>
        places(plan.adapter, partnerOf(role, plan.labelledFrom), role === 'GND').flatMap((adapter) =>
          places(pads, role, role === 'GND').map((pad) => [
            ...set,
            { role, adapter, pad, at: reversed ? plan.adapter.length - 1 - adapter : adapter },
          ]),
        ),
      ),
    [[]],
  )
}

function designJig(plan: JigInput, pads: readonly PadRole[], needed: readonly PadRole[]): Jig {
  let best: { leads: Lead[]; reversed: boolean; crossings: number } | null = null
  for (const reversed of [false, true])
    for (const leads of leadChoices(plan, pads, needed, reversed)) {
      const crossings = crossingsOf(leads)
      if (best === null || crossings < best.crossings) best = { leads, reversed, crossings }
    }
  const { leads, reversed, crossings } = best as NonNullable<typeof best>
  const bottom = largestFlatSet(leads)
  return {
    cols: Math.max(pads.length, plan.adapter.length),
    rows: crossings === 0 ? 3 : 4,
    adapterReversed: reversed,
    crossings,
    topWires: leads.length - bottom.length,
    wires: [...leads]
      .sort((a, b) => a.pad - b.pad)
      .map((lead) => ({
        role: lead.role,
        adapter: lead.adapter,
        pad: lead.pad,
        layer: bottom.includes(lead) ? 'bottom' : 'top',
      })),
  }
}

const neededOf = ({ power }: JigInput): PadRole[] => [
  'GND',
  'TX',
  'RX',
  ...(power === 'bench' ? [] : (['3V3'] as const)),
]

/** The first that lacks a role, and what it lacks; null: nothing does. */
function missingIn(plan: JigInput): { in: 'pads' | 'adapter'; what: string } | null {
  const needed = neededOf(plan)
  const pad = needed.find((role) => !plan.pads.includes(role))
  if (pad) return { in: 'pads', what: pad }
  const pin = needed.map((role) => partnerOf(role, plan.labelledFrom)).find((pin) => !plan.adapter.includes(pin))
  return pin === undefined ? null : { in: 'adapter', what: pin }
}

/** The pads as the plug meets them. */
function inView({ pads, plugFace, padsSeenFrom }: JigInput): PadRole[] {
  const given = pads as PadRole[]
  return plugFace === padsSeenFrom ? given : [...given].reverse()
}
const fitsOver = (plan: JigInput): boolean => samePitch(plan.pitchAdapter, plan.pitchPads)

/** Straight plug of rows that the app knows itself, of which there are many; null also where a row is not planned. */
export function straightOf(plan: JigInput): StraightPlug | null {
  const tooLong = Math.max(plan.adapter.length, plan.pads.length) > mostPins
  return tooLong || missingIn(plan) || !fitsOver(plan) ? null : straightPlug(plan, inView(plan), neededOf(plan))
}

/**
 * Straight plug with the fewest bent pins, or else a jig with the fewest crossing wires.
 * Refusals: `range` (more than 12), `unknown-role`, `missing-role` (pads), `missing-pin` (adapter), `missing`, `type`.
 */
export function planJig(input: unknown): Outcome<JigPlan> {
  const parsed = parseInput(JigInput, input, strictCodes)
  if (!parsed.ok) return parsed
  const plan = parsed.value
  const missing = missingIn(plan)
  if (missing?.in === 'pads') return refusal('missing-role', '/pads', `The pads have no ${missing.what}.`)
  if (missing) return refusal('missing-pin', '/adapter', `The adapter has no ${missing.what} pin.`)
  const [padsInView, needed, fits] = [inView(plan), neededOf(plan), fitsOver(plan)]
  const straight = fits ? straightPlug(plan, padsInView, needed) : null
  return {
    ok: true,
    value: {
      padsInView,
      straight,
      jig: straight ? null : designJig(plan, padsInView, needed),
      reason: straight ? 'straight' : fits ? 'order' : 'pitch',
    },
  }
}
