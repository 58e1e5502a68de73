import { z } from 'zod'
import type { Outcome } from '../edge/fault'
import { slugOf } from '../topics/slug'
import { parseMac } from './mac'
import { isHostname, netPlanOfKnown, type PlacedNet, type PlannedUnit, readIp, readSubnet } from './plan'

/** The address plan of a site: its network as a person wrote it down, and its units, through `net plan` (brief 05 §3). */

const address = z
  .string()
  .trim()
  .refine((text) => text === '' || readIp(text) !== null, 'It is no address, like 192.168.71.1.')
  .default('')
const span = z.object({ from: address, to: address }).default({ from: '', to: '' })
export const sitePlanShape = z.object({
  subnet: z
    .string()
    .trim()
    .refine((text) => text === '' || readSubnet(text) !== null, 'It is no network, like 192.168.71.0/24.')
    .default(''),
  gateway: address,
  /** What the router gives out by itself. */
  pool: span,
  leaseTime: z
    .string()
    .trim()
    .regex(/^([0-9]+[smhdw]?|infinite)?$/)
    .default('12h'),
  /** A range for the units of a place. */
  groups: z
    .array(z.object({ place: z.string().trim().min(1).max(120), from: address, to: address }))
    .max(60)
    .default([]),
  /** Addresses of others: an address, a MAC where it is known, whose it is; one to a line. */
  taken: z.string().max(20_000).default(''),
})
export type SitePlan = z.infer<typeof sitePlanShape>
export const noSitePlan: SitePlan = sitePlanShape.parse({})

export interface SiteUnit {
  id: string
  number: number
  name: string
  place: string
  mac: string
  address: string
  /** Its own level of its topic: its host name too. */
  slug: string
}
export interface Taken {
  ip: string
  mac: string | null
  what: string
}

/** The lines of what others have; a line without an address is named and not guessed. */
export function readTaken(text: string): { taken: Taken[]; unread: string[] } {
  const out: ReturnType<typeof readTaken> = { taken: [], unread: [] }
  for (const raw of text.split('\n')) {
    const line = raw.trim()
    if (line === '') continue
    const [ip = '', ...rest] = line.split(/[\s,;]+/)
    const mac = parseMac(rest[0] ?? '')
    if (readIp(ip) === null) out.unread.push(line)
    else out.taken.push({ ip, mac, what: (mac ? rest.slice(1) : rest).join(' ') })
  }
  return out
}

/** A place as a group of the plan. */
const groupOf = (place: string): string => slugOf(place) || 'place'

/** What a lease list would take for a time or a word is left to the plan. */
const hostOf = (slug: string): string | null => (/^[a-z]/.test(slug) && isHostname(slug) ? slug : null)

/** Null while no network is written down. Units without a MAC cannot be planned, and are left out. */
export function planOfSite(site: SitePlan, units: readonly SiteUnit[]): Outcome<PlacedNet> | null {
  if (site.subnet === '') return null
  const groups = site.groups
    .filter((g) => g.from !== '' && g.to !== '')
    .map((g) => ({ id: groupOf(g.place), from: g.from, to: g.to }))
  const known = new Set(groups.map((g) => g.id))
  // There are few places, and thousands of units in them.
  const groupAt = new Map([...new Set(units.map((u) => u.place))].map((place) => [place, groupOf(place)]))
  const inGroup = (place: string): string | null => {
    const group = groupAt.get(place)
    return group !== undefined && known.has(group) ? group : null
  }
  const planned = units.flatMap((u): PlannedUnit[] => {
    const mac = parseMac(u.mac)
    if (mac === null) return []
    const { id, number } = u
    return [{ id, number, mac, hostname: hostOf(u.slug), group: inGroup(u.place), ip: readIp(u.address) }]
  })
  return netPlanOfKnown(
    {
      subnet: site.subnet,
      gateway: site.gateway || null,
      pool: site.pool.from !== '' && site.pool.to !== '' ? site.pool : null,
      taken: readTaken(site.taken).taken.map(({ ip, mac }) => ({ ip, mac })),
      groups,
    },
    planned,
  )
}
