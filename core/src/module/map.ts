import { z } from 'zod'
import { inputCodes, type Outcome, parseInput, refuse } from '../edge/fault'
import { families } from '../families/families'
import { type RefitEdge, type RefitRole, refitEdges } from '../refit/refit'
import { type PadRole, padRoles } from '../wiring/wiring'

/**
 * A module: the small board with chip, antenna and contacts along its edges, that turns up in many products. Its contact
 * map is kit of its own; a board that names its module has the module's contacts as its pads (brief 07 §1).
 */
export const contactRoles = [...padRoles, 'EN', 'NC'] as const
export type ContactRole = (typeof contactRoles)[number]

export const mostContacts = 40

const Contact = z.object({
  n: z.number().superRefine((n, context) => {
    if (!Number.isInteger(n) || n < 1) refuse(context, 'range', [], 'A contact has a whole number from 1.')
  }),
  role: z.enum(contactRoles),
  /** The chip's pin behind it, where it is known. */
  pin: z.string().trim().max(12).nullish(),
})
const Edge = z.object({ side: z.enum(refitEdges), contacts: z.array(Contact).min(1) })

export const ModuleMap = z.object({
  family: z.enum(families),
  edges: z
    .array(Edge)
    .min(1)
    .superRefine((edges, context) => {
      const seenSides = new Set<string>()
      const seen = new Set<number>()
      for (const [e, { side, contacts }] of edges.entries()) {
        if (seenSides.has(side)) refuse(context, 'conflict', [e, 'side'], `The ${side} edge is there twice.`)
        seenSides.add(side)
        for (const [i, { n }] of contacts.entries()) {
          if (seen.has(n)) refuse(context, 'conflict', [e, 'contacts', i, 'n'], `Contact ${n} is there twice.`)
          seen.add(n)
        }
      }
      if (seen.size > mostContacts)
        refuse(context, 'range', [], `${seen.size} contacts: a module has at most ${mostContacts}.`)
    }),
  pitchMm: z.number().positive().max(50),
  /** Its contacts are soldered to its carrier; no header is meant for it. */
  headerless: z.boolean().nullish(),
})
export type ModuleMap = z.output<typeof ModuleMap>

export interface ModuleContact {
  n: number
  role: ContactRole
  pin: string | null
  edge: RefitEdge
}

/** A module of the kit. */
export interface KitModule extends ModuleMap {
  id: string
  name: string
}

/** @param input a contact map; refusals `input`, `range`, `empty`, and `conflict` for a contact or an edge twice */
export const readModuleMap = (input: unknown): Outcome<ModuleMap> => parseInput(ModuleMap, input, inputCodes)

/** Every contact with its edge, as they are given: an edge's contacts lie in their order, from the top or from the left. */
export const contactsOf = (map: Pick<ModuleMap, 'edges'>): ModuleContact[] =>
  map.edges.flatMap(({ side, contacts }) =>
    contacts.map((c) => ({ n: c.n, role: c.role, pin: c.pin ?? null, edge: side })),
  )

/** The contacts as the meter meets them before power; their roles are those of the refit check. */
export const refitContactsOf = (map: Pick<ModuleMap, 'edges'>) =>
  contactsOf(map).map(({ n, role, edge }) => ({ n, role: role as RefitRole, edge }))

/** What a contact is to a lead; null where none goes. Enable is reset where the module has no reset of its own. */
function padRoleIn(map: Pick<ModuleMap, 'edges'>): (role: ContactRole) => PadRole | null {
  const hasReset = contactsOf(map).some((c) => c.role === 'RST')
  return (role) => (role === 'EN' ? (hasReset ? null : 'RST') : role === 'NC' ? null : role)
}

/** What each contact is to a lead, by its number; null where none goes. */
export const padRolesBy = (map: Pick<ModuleMap, 'edges'>): Map<number, PadRole | null> => {
  const roleOf = padRoleIn(map)
  return new Map(contactsOf(map).map((c) => [c.n, roleOf(c.role)]))
}

/**
 * Two edges that face each other as an upper and a lower row, seen from the parts side; null where there are no such two. A
 * module whose contacts stand left and right is turned to the left: its right edge comes to lie on top.
 */
export function facingRows(map: Pick<ModuleMap, 'edges'>): [PadRole[], PadRole[]] | null {
  const roleOf = padRoleIn(map)
  const row = (side: RefitEdge) =>
    map.edges.find((e) => e.side === side)?.contacts.map((c) => roleOf(c.role) ?? 'UNKNOWN')
  for (const [upper, lower] of [
    ['right', 'left'],
    ['top', 'bottom'],
  ] as const) {
    const rows = [row(upper), row(lower)] as const
    if (rows[0] && rows[1]) return [rows[0], rows[1]]
  }
  return null
}

/** What a lead can go to, in the order in which it matters. */
const wanted: readonly PadRole[] = ['GND', '3V3', 'TX', 'RX', 'BOOT', 'RST', '5V']

export interface ContactRow {
  /** Roles in the order of `contacts`. */
  pads: PadRole[]
  /** Contact numbers. */
  contacts: number[]
}

/**
 * The contacts that leads go to, as a row of pads of at most `most`: one of each role, then those of which nobody knows
 * role or pin, which are probed like any pad; in the order of the module's edges. Enable stands for reset where the module has no reset of its
 * own: pulled low, it restarts the chip.
 */
export function serialRow(map: Pick<ModuleMap, 'edges'>, most: number): ContactRow {
  const all = contactsOf(map)
  const roleOf = padRoleIn(map)
  const taken = new Set<number>()
  for (const role of wanted) {
    const first = all.find((c) => roleOf(c.role) === role)
    if (first && taken.size < most) taken.add(first.n)
  }
  for (const c of all) if (c.role === 'UNKNOWN' && c.pin === null && taken.size < most) taken.add(c.n)
  const row = all.filter((c) => taken.has(c.n))
  return { pads: row.map((c) => roleOf(c.role) as PadRole), contacts: row.map((c) => c.n) }
}

/** The contact that a tie goes to: by its role for the enable, by its pin for a strap; null where the map names none. */
export function contactOfPin(map: Pick<ModuleMap, 'edges'>, pin: string, enable: boolean): number | null {
  const all = contactsOf(map)
  const found =
    all.find((c) => c.pin?.toUpperCase() === pin.toUpperCase()) ??
    (enable ? all.find((c) => c.role === 'EN') : undefined)
  return found?.n ?? null
}

/**
 * Reads an edge as people write it down: "1 3V3, 2 EN, 3 GPIO15, 4 NC": number, role or pin, or both ("5 RX GPIO3").
 * What is no role is the name of a pin, and a contact nobody knows is "?". Without numbers they count on from `from`.
 */
export function readEdge(text: string, from: number): { n: number; role: ContactRole; pin: string | null }[] {
  let next = from
  return text
    .split(/[,;\n]+/)
    .map((part) => part.trim())
    .filter(Boolean)
    .map((part) => {
      const words = part.split(/\s+/)
      const n = /^\d+$/.test(words[0] as string) ? Number(words.shift()) : next
      next = n + 1
      const upper = words.map((w) => w.toUpperCase())
      const at = upper.findIndex((w) => (contactRoles as readonly string[]).includes(w))
      const role = at < 0 ? 'UNKNOWN' : (upper[at] as ContactRole)
      const pin = words.filter((_, i) => i !== at).find((w) => w !== '?') ?? null
      return { n, role, pin }
    })
}

/** The opposite of {@link readEdge}: an edge in words that read back the same. */
export const edgeWords = (contacts: ModuleMap['edges'][number]['contacts']): string =>
  contacts
    .map((c) =>
      [c.n, c.role === 'UNKNOWN' ? (c.pin ? '' : '?') : c.role, c.pin ?? ''].filter((w) => w !== '').join(' '),
    )
    .join(', ')
