import { andMore, firstOfKind, worstFirst } from '../edge/alike'
import type { Finding } from '../edge/finding'
import { type SomeUnits, someOf } from '../edge/some'
import { type Beginning, type ExportFormat, exportBegins } from './exports'
import { type Assignment, conflictFinding, ownFinding, type PlacedNet, readSubnet, type Why } from './plan'
import { planOfSite, type SitePlan, type SiteUnit } from './site-plan'

/** The address plan of a site as a page shows it: of thousands of units what is drawn, and how many there are. */

export interface PlacedUnit {
  number: number
  name: string
  /** Where it is; null where nobody knows. */
  now: string | null
  /** Where the plan puts it; null where it found no place. */
  planned: string | null
}
export interface AddressRow extends PlacedUnit {
  id: string
  why: Why
  hostname: string
  mac: string
}
export interface AddressBoard {
  /** Why it cannot be planned; empty: it is. */
  fault: string
  all: number
  moves: number
  /** Those that stand in a drawing of every address; none where the network is too large for one. */
  drawn: PlacedUnit[]
  /** Those that move first. */
  rows: AddressRow[]
  found: Finding[]
  exports: Record<ExportFormat, Beginning>
  /** Without a MAC: nothing can be promised to them. */
  waiting: SomeUnits
}
/** How much a page shows of each. */
export interface AddressesShown {
  rows: number
  /** With more findings than these, alike ones are one. */
  found: number
  lines: number
  inWords: number
}

/** A larger network is not drawn address by address. */
const mostCells = 1024
export const isDrawable = (subnet: string): boolean => {
  const net = readSubnet(subnet)
  return net !== null && net.to - net.from < mostCells
}

const two = (n: number): string => String(n).padStart(2, '0')

/** A finding of one unit begins with which. */
function named(f: Finding, of: ReadonlyMap<string, SiteUnit>): Finding {
  const unit = 'unit' in f && typeof f.unit === 'string' ? of.get(f.unit) : undefined
  return unit ? { ...f, message: `${two(unit.number)} ${unit.name}: ${f.message}` } : f
}

/** What is to be said of a plan; with more than `most` things, alike ones are one: thousands are not written out first. */
function findingsOf({ conflicts, own }: PlacedNet, most: number): Finding[] {
  if (conflicts.length + own.length <= most) return [...conflicts.map(conflictFinding), ...own.map(ownFinding)]
  return [
    ...firstOfKind(conflicts, (c) => c.code).map(({ first, more }) => andMore(conflictFinding(first), more)),
    ...firstOfKind(own, () => '').map(({ first, more }) => andMore(ownFinding(first), more)),
  ].sort(worstFirst)
}

/** Those that move first, each by its number. */
function inOrder(assignments: readonly Assignment[], moving: readonly Assignment[], most: number): Assignment[] {
  if (assignments.length <= most) return [...assignments]
  if (moving.length >= most) return moving.slice(0, most)
  const move = new Set(moving)
  return [...moving, ...assignments.filter((a) => !move.has(a))].slice(0, most)
}

function shownOf(
  plan: PlacedNet,
  units: readonly SiteUnit[],
  site: SitePlan,
  most: AddressesShown,
): Omit<AddressBoard, 'fault' | 'waiting'> {
  const { assignments } = plan
  const begins = (format: ExportFormat) => exportBegins(format, assignments, site.leaseTime || null, most.lines)
  const of = new Map(units.map((u) => [u.id, u]))
  const nowOf = (a: Assignment) => of.get(a.id)?.address || null
  const moving = assignments.filter((a) => nowOf(a) !== a.ip)
  const placed = (a: Assignment): PlacedUnit => ({
    number: a.number,
    name: of.get(a.id)?.name ?? '',
    now: nowOf(a),
    planned: a.ip,
  })
  return {
    all: assignments.length,
    moves: moving.length,
    drawn: isDrawable(site.subnet) ? assignments.filter((a) => a.ip !== null).map(placed) : [],
    rows: inOrder(assignments, moving, most.rows).map(
      (a): AddressRow => ({ ...placed(a), id: a.id, why: a.why, hostname: a.hostname, mac: a.mac }),
    ),
    found: findingsOf(plan, most.found).map((f) => named(f, of)),
    exports: { dnsmasq: begins('dnsmasq'), isc: begins('isc'), csv: begins('csv') },
  }
}

const none = { text: '', lines: 0 }
const nothing: Omit<AddressBoard, 'fault' | 'waiting'> = {
  ...{ all: 0, moves: 0, drawn: [], rows: [], found: [] },
  exports: { dnsmasq: none, isc: none, csv: none },
}

/** Null while no network is written down. */
export function addressBoard(site: SitePlan, units: readonly SiteUnit[], most: AddressesShown): AddressBoard | null {
  const outcome = planOfSite(site, units)
  if (!outcome) return null
  const waiting = someOf(
    units.filter((u) => u.mac === ''),
    most.inWords,
  )
  if (!outcome.ok)
    return { ...nothing, fault: outcome.faults[0]?.message ?? 'This network cannot be planned.', waiting }
  return { ...shownOf(outcome.value, units, site, most), fault: '', waiting }
}
