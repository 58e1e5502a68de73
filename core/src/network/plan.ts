import { z } from 'zod'
import { inputCodes, type Outcome, parseInput, refuse } from '../edge/fault'
import { type Finding, finding } from '../edge/finding'
import { slugOf, slugWith } from '../topics/slug'
import { type ExportFormat, exportOf } from './exports'
import { parseMac } from './mac'

/** Which address each unit has, for good: inside the subnet, outside the pool, nobody else's (brief 05 §3). */

export interface AddressSpan {
  from: number
  to: number
}
export type Why = 'kept' | 'own' | 'group' | 'spill' | 'general' | 'duplicate' | 'no-address'
export interface Assignment {
  id: string
  number: number
  ip: string | null
  mac: string
  hostname: string
  group: string | null
  why: Why
}
export type NetConflict =
  | { code: 'dup-mac' | 'no-address'; unit: string }
  | { code: 'dup-hostname'; unit: string; hostname: string }
  | { code: 'outside' | 'reserved' | 'in-pool' | 'duplicate' | 'taken'; unit: string; ip: string }
  | { code: 'group-full'; unit: string; group: string }
  | { code: 'group-in-pool'; group: string }
/** A unit that keeps an address of the pool, which the server promised to it. */
export interface OwnInPool {
  unit: string
  number: number
  ip: string
}
/** Who has which address. */
export interface PlacedNet {
  assignments: Assignment[]
  conflicts: NetConflict[]
  /** By their numbers. */
  own: OwnInPool[]
}
export type NetFinding = Finding & Record<string, unknown>
export interface NetPlan extends Pick<PlacedNet, 'assignments' | 'conflicts'> {
  findings: NetFinding[]
  exports: Record<ExportFormat, string>
}

const longestHostname = 63
const octet = '(25[0-5]|2[0-4][0-9]|1[0-9]{2}|[1-9]?[0-9])'
const ipv4 = new RegExp(`^${octet}\\.${octet}\\.${octet}\\.${octet}$`)
export function readIp(text: string): number | null {
  const m = ipv4.exec(text.trim())
  return m ? ((Number(m[1]) * 256 + Number(m[2])) * 256 + Number(m[3])) * 256 + Number(m[4]) : null
}
export const ipText = (n: number): string => `${n >>> 24}.${(n >>> 16) & 255}.${(n >>> 8) & 255}.${n & 255}`

export interface Subnet extends AddressSpan {
  prefix: number
}
/** A network with no bit of a host in it; null otherwise. */
export function readSubnet(text: string): Subnet | null {
  const [address = '', prefixText = ''] = text.split('/')
  const from = readIp(address)
  if (from === null || !/^(3[0-2]|[12]?[0-9])$/.test(prefixText) || text.split('/').length !== 2) return null
  const prefix = Number(prefixText)
  const size = 2 ** (32 - prefix)
  return from % size === 0 ? { from, to: from + size - 1, prefix } : null
}

const isIn = (n: number, span: AddressSpan | null): boolean => span !== null && n >= span.from && n <= span.to

/** What a lease line would read as a time or a word instead of a name. */
const notAName = /^([0-9]+[smhdw]?|infinite|ignore)$/
const hostForm = /^[a-z0-9]+(-[a-z0-9]+)*$/
export const isHostname = (name: string): boolean =>
  hostForm.test(name) && name.length <= longestHostname && !notAName.test(name)

export interface PlannedUnit {
  id: string
  number: number
  mac: string
  hostname: string | null
  group: string | null
  ip: number | null
}
interface Room {
  subnet: Subnet
  gateway: number | null
  pool: AddressSpan | null
  taken: readonly { ip: number; mac: string | null }[]
  groups: readonly ({ id: string } & AddressSpan)[]
}

class Planner {
  readonly conflicts: NetConflict[] = []
  readonly own: OwnInPool[] = []
  private readonly used = new Map<number, string>()
  private readonly takenBy = new Map<number, string | null>()
  private readonly promises = new Map<string, number[]>()
  /** Where the search for a free address goes on: none below it is free, and none becomes so again. */
  private readonly next = new Map<AddressSpan, number>()
  constructor(private readonly room: Room) {
    for (const t of room.taken) {
      this.takenBy.set(t.ip, t.mac)
      if (t.mac === null) continue
      const others = this.promises.get(t.mac)
      if (others) others.push(t.ip)
      else this.promises.set(t.mac, [t.ip])
    }
    for (const g of room.groups)
      if (room.pool && g.from <= room.pool.to && g.to >= room.pool.from)
        this.conflicts.push({ code: 'group-in-pool', group: g.id })
  }
  private reserved(ip: number): boolean {
    const { subnet, gateway } = this.room
    const ends = subnet.prefix <= 30 && (ip === subnet.from || ip === subnet.to)
    return ends || ip === gateway
  }
  private promised(ip: number, mac: string): boolean {
    return this.takenBy.get(ip) === mac
  }
  private wrong(ip: number, mac: string): 'outside' | 'reserved' | 'in-pool' | 'duplicate' | 'taken' | null {
    if (!isIn(ip, this.room.subnet)) return 'outside'
    if (this.reserved(ip)) return 'reserved'
    if (isIn(ip, this.room.pool) && !this.promised(ip, mac)) return 'in-pool'
    if (this.used.has(ip)) return 'duplicate'
    return this.takenBy.has(ip) && !this.promised(ip, mac) ? 'taken' : null
  }
  private take(ip: number, unit: PlannedUnit): number {
    this.used.set(ip, unit.id)
    if (isIn(ip, this.room.pool)) this.own.push({ unit: unit.id, number: unit.number, ip: ipText(ip) })
    return ip
  }
  /** Its address of before, where it may stay. */
  keep(unit: PlannedUnit): number | null {
    if (unit.ip === null) return null
    const code = this.wrong(unit.ip, unit.mac)
    if (code === null) return this.take(unit.ip, unit)
    this.conflicts.push({ code, unit: unit.id, ip: ipText(unit.ip) })
    return null
  }
  private free(ip: number): boolean {
    return !this.reserved(ip) && !isIn(ip, this.room.pool) && !this.used.has(ip) && !this.takenBy.has(ip)
  }
  private lowest(span: AddressSpan, skip: readonly AddressSpan[]): number | null {
    for (let ip = this.next.get(span) ?? span.from; ip <= span.to; ip++) {
      const around = skip.find((s) => isIn(ip, s)) ?? (isIn(ip, this.room.pool) ? this.room.pool : null)
      if (around) ip = around.to
      else if (this.free(ip)) {
        this.next.set(span, ip)
        return ip
      }
    }
    this.next.set(span, span.to + 1)
    return null
  }
  private promisedTo(unit: PlannedUnit): number | null {
    const mine = (this.promises.get(unit.mac) ?? [])
      .filter((ip) => this.wrong(ip, unit.mac) === null)
      .sort((a, b) => Number(isIn(a, this.room.pool)) - Number(isIn(b, this.room.pool)) || a - b)
    return mine[0] ?? null
  }
  find(unit: PlannedUnit): { ip: number | null; why: Why } {
    const own = this.promisedTo(unit)
    if (own !== null) return { ip: this.take(own, unit), why: 'own' }
    const group = this.room.groups.find((g) => g.id === unit.group)
    if (group) {
      const ip = this.lowest(group, [])
      if (ip !== null) return { ip: this.take(ip, unit), why: 'group' }
      this.conflicts.push({ code: 'group-full', unit: unit.id, group: group.id })
    }
    const ip = this.lowest(this.room.subnet, this.room.groups)
    if (ip !== null) return { ip: this.take(ip, unit), why: group ? 'spill' : 'general' }
    this.conflicts.push({ code: 'no-address', unit: unit.id })
    return { ip: null, why: 'no-address' }
  }
}

/** What its id gives where nobody named it. */
function hostnameOf({ id, number }: PlannedUnit): string {
  const fromId = slugOf(id, longestHostname)
  return fromId === '' || notAName.test(fromId) ? `unit-${number}` : fromId
}

/** A host name for each, in their order; the later one of two alike gets its number. */
function hostnamesOf(units: readonly PlannedUnit[], conflicts: NetConflict[]): string[] {
  const used = new Set<string>()
  return units.map((u) => {
    const wanted = u.hostname ?? hostnameOf(u)
    let name = wanted
    if (used.has(name)) {
      conflicts.push({ code: 'dup-hostname', unit: u.id, hostname: wanted })
      for (let n = 1; used.has(name); n++) {
        const end = n === 1 ? `-${u.number}` : `-${u.number}-${n}`
        name = slugWith(wanted, end, longestHostname)
      }
    }
    used.add(name)
    return name
  })
}

const said: Record<NetConflict['code'], [message: string, next: string]> = {
  'dup-mac': ['Another unit has this MAC.', 'One of the two was noted wrong, or its address was cloned.'],
  'no-address': ['No address is left for it.', 'Make the pool smaller, or the network larger.'],
  'dup-hostname': ['Another unit has this host name: its number is added.', 'Give it a name of its own.'],
  outside: ['Its address is outside the network.', 'It gets a new one.'],
  reserved: ['Its address belongs to the network itself or the gateway.', 'It gets a new one.'],
  'in-pool': ['Its address lies in the pool: the server may give it to somebody else.', 'It gets a new one.'],
  duplicate: ['Another unit has this address.', 'It gets a new one.'],
  taken: ['Something else has this address.', 'It gets a new one.'],
  'group-full': ['No address is left in its group.', 'It gets one elsewhere; make the range larger.'],
  'group-in-pool': ['The range of the group touches the pool: those addresses are skipped.', 'Move one of the two.'],
}
const grave: ReadonlySet<string> = new Set(['no-address', 'dup-mac'])

/** What a conflict is to a reader. */
export function conflictFinding(conflict: NetConflict): NetFinding {
  const [message, next] = said[conflict.code]
  return {
    ...finding(conflict.code, grave.has(conflict.code) ? 'error' : 'watch', message, '', next),
    ...conflict,
  }
}
export const ownFinding = ({ unit, ip }: OwnInPool): NetFinding => ({
  ...finding('own-in-pool', 'ok', 'It has an address of the pool that the server promised to it.', '', ''),
  unit,
  ip,
})

interface Place {
  ip: number | null
  why: Why
}
const nowhere: Place = { ip: null, why: 'duplicate' }

/** Units by their numbers; a plan run on its own result changes nothing. */
export function planNet(room: Room, given: readonly PlannedUnit[]): PlacedNet {
  const units = [...given].sort((a, b) => a.number - b.number)
  const planner = new Planner(room)
  const { conflicts } = planner
  const macs = new Set<string>()
  const isDouble = units.map((u) => {
    if (macs.has(u.mac)) conflicts.push({ code: 'dup-mac', unit: u.id })
    const double = macs.has(u.mac)
    macs.add(u.mac)
    return double
  })
  const names = hostnamesOf(units, conflicts)
  // Who may stay is asked of all before anybody new is given a place.
  const kept = units.map((u, i): Place | null => {
    if (isDouble[i]) return nowhere
    const ip = planner.keep(u)
    return ip === null ? null : { ip, why: 'kept' }
  })
  const assignments = units.map((u, i): Assignment => {
    const { ip, why } = kept[i] ?? planner.find(u)
    return {
      id: u.id,
      number: u.number,
      ip: ip === null ? null : ipText(ip),
      mac: u.mac,
      hostname: names[i] as string,
      group: u.group,
      why,
    }
  })
  return { assignments, conflicts, own: [...planner.own].sort((a, b) => a.number - b.number) }
}

const ip = z.string().transform((text, context) => {
  const n = readIp(text)
  if (n === null) refuse(context as never, 'input', [], `${text} is no IPv4 address.`)
  return n ?? 0
})
const span = { from: ip, to: ip }
const mac = z.string().transform((text, context) => {
  const read = parseMac(text)
  if (!read) refuse(context as never, 'input', [], `${text} is no MAC address.`)
  return read ?? ''
})
const Request = z
  .object({
    subnet: z.string().transform((text, context) => {
      const read = readSubnet(text)
      if (!read) refuse(context as never, 'input', [], 'A network is like 192.168.71.0/24.')
      return read ?? { from: 0, to: 2 ** 32 - 1, prefix: 0 }
    }),
    gateway: ip.nullish(),
    pool: z.object(span).nullish(),
    taken: z
      .array(z.object({ ip, mac: mac.nullish() }))
      .max(10_000)
      .nullish(),
    groups: z
      .array(z.object({ id: z.string().min(1), ...span }))
      .max(200)
      .nullish(),
    leaseTime: z
      .string()
      .regex(/^([0-9]+[smhdw]?|infinite)$/)
      .nullish(),
    units: z
      .array(
        z.object({
          id: z.string().min(1),
          number: z.number().int().min(0),
          mac,
          hostname: z
            .string()
            .superRefine((name, context) => {
              if (!isHostname(name))
                refuse(
                  context,
                  'input',
                  [],
                  'A host name has small letters, digits and inner hyphens, and is neither a time nor a word of lease lists.',
                )
            })
            .nullish(),
          group: z.string().nullish(),
          ip: ip.nullish(),
        }),
      )
      .max(5000),
  })
  .superRefine(({ subnet, gateway, pool, taken, groups, units }, context) => {
    const inside = (n: number | null | undefined, path: PropertyKey[]) => {
      if (n != null && !isIn(n, subnet)) refuse(context, 'range', path, `${ipText(n)} is outside the network.`)
    }
    inside(gateway, ['gateway'])
    for (const end of ['from', 'to'] as const) inside(pool?.[end], ['pool', end])
    if (pool && pool.from > pool.to) refuse(context, 'range', ['pool', 'to'], 'The pool ends before it begins.')
    for (const [i, t] of (taken ?? []).entries()) inside(t.ip, ['taken', i, 'ip'])
    const list = groups ?? []
    for (const [i, g] of list.entries()) {
      inside(g.from, ['groups', i, 'from'])
      inside(g.to, ['groups', i, 'to'])
      if (g.from > g.to) refuse(context, 'range', ['groups', i, 'to'], 'The range ends before it begins.')
      const before = list.slice(0, i)
      if (before.some((o) => o.id === g.id))
        refuse(context, 'conflict', ['groups', i, 'id'], `The group ${g.id} is there twice.`)
      if (before.some((o) => o.from <= g.to && o.to >= g.from))
        refuse(context, 'conflict', ['groups', i], `The range of ${g.id} overlaps another one.`)
    }
    const ids = new Set<string>()
    for (const [i, u] of units.entries()) {
      if (ids.has(u.id)) refuse(context, 'conflict', ['units', i, 'id'], `The id ${u.id} is used twice.`)
      ids.add(u.id)
      if (u.group != null && !list.some((g) => g.id === u.group))
        refuse(context, 'input', ['units', i, 'group'], `There is no group ${u.group}.`)
    }
  })

type Parsed = z.output<typeof Request>

const planned = ({ subnet, gateway, pool, taken, groups }: Parsed, units: readonly PlannedUnit[]): PlacedNet =>
  planNet(
    {
      subnet,
      gateway: gateway ?? null,
      pool: pool ?? null,
      taken: (taken ?? []).map((t) => ({ ip: t.ip, mac: t.mac ?? null })),
      groups: groups ?? [],
    },
    units,
  )

/** `net plan`: an address and a host name for each unit, and the lines that a server takes. */
export function netPlan(input: unknown): Outcome<NetPlan> {
  const parsed = parseInput(Request, input, inputCodes)
  if (!parsed.ok) return parsed
  const units = parsed.value.units.map((u) => ({
    ...u,
    hostname: u.hostname ?? null,
    group: u.group ?? null,
    ip: u.ip ?? null,
  }))
  const placed = planned(parsed.value, units)
  const list = (format: ExportFormat) => exportOf(format, placed.assignments, parsed.value.leaseTime ?? null)
  const { assignments, conflicts, own } = placed
  const findings = [...conflicts.map(conflictFinding), ...own.map(ownFinding)]
  const exports = { dnsmasq: list('dnsmasq'), isc: list('isc'), csv: list('csv') }
  return { ok: true, value: { assignments, conflicts, exports, findings } }
}

/**
 * The same for units that the app knows itself, of which there may be thousands: only the network is read with suspicion. Ids are unique,
 * MACs and host names some, groups those of the network. Its lists are written by whoever wants them.
 */
export function netPlanOfKnown(network: object, units: readonly PlannedUnit[]): Outcome<PlacedNet> {
  const parsed = parseInput(Request, { ...network, units: [] }, inputCodes)
  return parsed.ok ? { ok: true, value: planned(parsed.value, units) } : parsed
}
