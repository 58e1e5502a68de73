import { nth } from '../edge/nth'
import { type MacRelation, macNumbers, macRelation, relationOf } from './mac'
import type { NetworkEntry, MatchUnit as Unit } from './match-shapes'

/** How much an entry of the network weighs for a unit: relation of the MACs, alone or as a batch, name, tail, newness (brief 05 §2). */

type Row = Record<MacRelation, number>
const row = (same: number, local: number, minus: number, plus: number, other: number): Row => ({
  same,
  'local-bit': local,
  'minus-one': minus,
  'plus-one': plus,
  other,
})

/** P(relation | family) of the station's MAC to the access point's: starting values, to be refined from matched units. */
const apLx106 = row(0.02, 0.95, 0.005, 0.005, 0.02)
const apExtended = row(0.03, 0.1, 0.83, 0.01, 0.03)
const apArm = row(0.45, 0.25, 0.12, 0.12, 0.06)
const apRows: Record<string, Row> = {
  LX106: apLx106,
  LX6: apExtended,
  LX7: apExtended,
  RV32: apExtended,
  'ARM968-A': apArm,
  'ARM968-B': apArm,
  CM3: apArm,
}
const apUnknown = row(0.15, 0.45, 0.25, 0.1, 0.05)
const staRow = row(0.96, 0.01, 0.005, 0.005, 0.02)
const byChance = row(1e-6, 1e-6, 1e-3, 1e-3, 1)
/** Chance of a relation that an entry has to two units of one batch: no coincidence. */
const sharedChance = 1e-3
const hypotheses = ['same', 'local-bit', 'minus-one', 'plus-one'] as const
const mixedPrior = 0.05

const letters = (text: string) => text.toLowerCase().replace(/[^a-z0-9]/g, '')
const plainName = (text: string) => letters(text.includes(' ') ? text : (text.split('.')[0] as string))

const rowFor = (unit: Unit): Row => (unit.staMac ? staRow : (apRows[unit.family ?? ''] ?? apUnknown))

const entryNames = new WeakMap<NetworkEntry, string>()
/** Worked out once per entry: it is compared with every unit. */
function entryName(entry: NetworkEntry): string {
  const known = entryNames.get(entry) ?? (entry.hostname ? plainName(entry.hostname) : '')
  entryNames.set(entry, known)
  return known
}

interface Sought {
  suffix: string
  wanted: string
}
const soughtOf = (unit: Unit): Sought => ({
  suffix: letters(unit.nameSuffix ?? ''),
  wanted: unit.hostname ? plainName(unit.hostname) : '',
})

const nothing = { reason: '', by: 1 }
function byName({ suffix, wanted }: Sought, entry: NetworkEntry): { reason: string; by: number } {
  const name = entryName(entry)
  if (name === '') return nothing
  if (wanted && name === wanted) return { reason: 'name-exact', by: 1000 }
  if (suffix.length >= 3 && name.endsWith(suffix)) return { reason: 'name-suffix', by: suffix.length >= 4 ? 300 : 30 }
  return wanted || suffix.length >= 3 ? { reason: 'name-differs', by: 0.5 } : nothing
}
function byTail(unit: Unit, { suffix }: Sought, entry: NetworkEntry): { reason: string; by: number } {
  if (unit.apMac || unit.staMac || !entry.mac || !/^(?:[0-9a-f]{4}|[0-9a-f]{6})$/.test(suffix)) return nothing
  const tail = Number.parseInt(entry.mac.replaceAll(':', '').slice(-suffix.length), 16)
  const size = 16 ** suffix.length
  const distance = (tail - Number.parseInt(suffix, 16) + size) % size
  if (distance === 0) return { reason: 'mac-tail', by: 1000 }
  return distance === 1 || distance === size - 1
    ? { reason: 'mac-tail-near', by: 100 }
    : { reason: 'mac-tail-other', by: 0.3 }
}
function byNewness(entry: NetworkEntry, compared: boolean): { reason: string; by: number } {
  if (!compared) return nothing
  return entry.new ? { reason: 'new', by: 8 } : { reason: 'was-there', by: 0.1 }
}
/** Name, tail and newness: everything but the MAC relation. */
const otherFactor = (unit: Unit, sought: Sought, entry: NetworkEntry, compared: boolean): number =>
  byName(sought, entry).by * byTail(unit, sought, entry).by * byNewness(entry, compared).by
/** Why an entry weighs what it weighs: worked out for the few that are shown. */
export const reasonsOf = (
  unit: Unit,
  relation: MacRelation | null,
  entry: NetworkEntry,
  compared: boolean,
): string[] => {
  const sought = soughtOf(unit)
  return [
    relation ?? '',
    byName(sought, entry).reason,
    byTail(unit, sought, entry).reason,
    byNewness(entry, compared).reason,
  ].filter(Boolean)
}

export interface Cell {
  weight: number
  relation: MacRelation | null
}

interface Batch {
  members: number[]
  family: string | null
  firmware: string | null
}

export function batchesOf(units: readonly Unit[]): Batch[] {
  const groups = new Map<string, Batch>()
  units.forEach((unit, i) => {
    if (!unit.apMac || unit.staMac) return
    const family = unit.family && unit.family in apRows ? unit.family : null
    const firmware = unit.firmware ?? null
    const key = JSON.stringify([family, firmware])
    const group = groups.get(key) ?? { members: [], family, firmware }
    group.members.push(i)
    groups.set(key, group)
  })
  return [...groups.values()]
}

const logSum = (logs: readonly number[]): number => {
  const top = Math.max(...logs)
  return top === Number.NEGATIVE_INFINITY ? top : top + Math.log(logs.reduce((s, x) => s + Math.exp(x - top), 0))
}

/**
 * Weights of all entries for the units of one batch: how AP and station MAC differ belongs to family and firmware, so the
 * prior of the relation counts once for the batch. A unit alone gets exactly the plain table.
 */
export function batchCells(
  batch: Batch,
  units: readonly Unit[],
  entries: readonly NetworkEntry[],
  compared: boolean,
): { cells: Map<number, Cell[]>; relation: number[] } {
  const members = batch.members.map((i) => units[i] as Unit)
  const macs = entries.map((e) => (e.mac ? macNumbers(e.mac) : null))
  const relations = members.map((u) => {
    const own = macNumbers(u.apMac as string)
    return macs.map((m) => (m ? relationOf(m, own) : null))
  })
  const related = entries.map(() => 0)
  for (const r of relations)
    r.forEach((relation, j) => {
      if (relation !== null && relation !== 'other') related[j] = nth(related, j) + 1
    })
  const shared = related.map((n) => n >= 2)
  const table = rowFor(members[0] as Unit)
  const prior = [...hypotheses.map((r) => ((1 - mixedPrior) * table[r]) / (1 - table.other)), mixedPrior]

  const macFactor = (h: number, relation: MacRelation | null, j: number): number => {
    if (relation === null) return 1
    if (relation === 'other') return table.other / byChance.other
    const chance = shared[j] ? sharedChance : byChance[relation]
    if (h === hypotheses.length) return table[relation] / chance
    return relation === hypotheses[h] ? (1 - table.other) / chance : 0
  }
  const others = members.map((u) => {
    const sought = soughtOf(u)
    return Float64Array.from(entries, (e) => otherFactor(u, sought, e, compared))
  })
  // Entries that are no kin of a unit weigh the same whatever the relation is: thousands of them, and few others.
  const kin = relations.map((r) => r.flatMap((relation, j) => (relation === null || relation === 'other' ? [] : [j])))
  const plain = relations.map((r, u) =>
    Float64Array.from(r, (relation, j) =>
      relation === null || relation === 'other' ? macFactor(0, relation, j) * (others[u]?.[j] ?? 0) : 0,
    ),
  )
  const kinWeights = kin.map((list, u) =>
    prior.map((_, h) => list.map((j) => macFactor(h, relations[u]?.[j] ?? null, j) * (others[u]?.[j] ?? 0))),
  )
  const logE = kinWeights.map((byH, u) => {
    const alike = nth(plain, u).reduce((a, b) => a + b, 0)
    return byH.map((ws) => Math.log(1 + alike + ws.reduce((a, b) => a + b, 0)))
  })

  const cells = new Map<number, Cell[]>()
  batch.members.forEach((index, u) => {
    const logH = prior.map((p, h) => Math.log(p) + logE.reduce((s, e, v) => (v === u ? s : s + nth(e, h)), 0))
    const total = logSum(logH)
    const share = logH.map((lh) => Math.exp(lh - total))
    const list = entries.map((_, j): Cell => ({ weight: plain[u]?.[j] ?? 0, relation: relations[u]?.[j] ?? null }))
    nth(kin, u).forEach((j, n) => {
      const cell = nth(list, j)
      cell.weight = share.reduce((s, hr, h) => s + hr * (kinWeights[u]?.[h]?.[n] ?? 0), 0)
    })
    cells.set(index, list)
  })
  const logAll = prior.map((p, h) => Math.log(p) + logE.reduce((s, e) => s + nth(e, h), 0))
  const total = logSum(logAll)
  return { cells, relation: logAll.map((x) => Math.exp(x - total)) }
}

export function plainCells(unit: Unit, entries: readonly NetworkEntry[], compared: boolean): Cell[] {
  const known = unit.staMac ?? unit.apMac
  const table = rowFor(unit)
  const sought = soughtOf(unit)
  return entries.map((entry) => {
    const relation = known && entry.mac ? macRelation(entry.mac, known) : null
    const mac = relation ? table[relation] / byChance[relation] : 1
    return { weight: mac * otherFactor(unit, sought, entry, compared), relation }
  })
}
