import { z } from 'zod'
import { inputCodes, type Outcome, parseInput, refuse } from '../edge/fault'
import { type Finding, finding } from '../edge/finding'
import { nth } from '../edge/nth'
import { addressNumber, isLocalMac, type MacRelation, macNumbers, macRelation, parseMac, relationOf } from './mac'
import { readTable, type SkipReason, type TableEntry, type TableFormat, tableFormats } from './tables'

const macField = z
  .string()
  .transform((text, context) => {
    const mac = parseMac(text.trim())
    if (mac === null)
      context.addIssue({ code: 'custom', message: `“${text}” is no MAC address.`, params: { code: 'input' } })
    return mac as string
  })
  .nullish()

export const MatchInput = z.object({
  tables: z.array(
    z.object({
      text: z.string().max(1_048_576),
      format: z.enum(['auto', ...tableFormats]).default('auto'),
      phase: z.enum(['before', 'after']).default('after'),
    }),
  ),
  units: z
    .array(
      z
        .object({
          id: z.string().min(1),
          apMac: macField,
          staMac: macField,
          family: z.string().nullish(),
          firmware: z.string().nullish(),
          nameSuffix: z.string().nullish(),
          hostname: z.string().nullish(),
        })
        .superRefine((unit, context) => {
          if (!unit.apMac && !unit.staMac && !unit.nameSuffix && !unit.hostname)
            refuse(context, 'empty', [], 'A unit needs a MAC, a name suffix or a host name to be found by.')
        }),
    )
    .max(500),
})
export type MatchInput = z.output<typeof MatchInput>
type Unit = MatchInput['units'][number]

export type MatchVerdict = 'sure' | 'likely' | 'unsure' | 'none'

export interface Candidate {
  mac: string | null
  ip: string | null
  hostname: string | null
  probability: number
  relation: MacRelation | null
  reasons: string[]
}

export interface NetworkEntry extends TableEntry {
  /** Not in the list from before; null when there was none. */
  new: boolean | null
  /** The locally administered bit is set; null without a MAC. */
  local: boolean | null
}

export interface UnitMatch {
  unit: string
  candidates: Candidate[]
  noneProbability: number
  verdict: MatchVerdict
}

export interface NetworkMatch {
  formats: TableFormat[]
  entries: NetworkEntry[]
  matches: UnitMatch[]
  batches: {
    family: string | null
    firmware: string | null
    units: string[]
    relation: Record<Exclude<MacRelation, 'other'> | 'mixed', number>
  }[]
  conflicts: { mac: string | null; units: string[] }[]
  newcomers: string[]
  gone: string[]
  skipped: { table: number; line: number; reason: SkipReason }[]
  findings: (Finding & { mac: string | null; units: string[] })[]
}

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
const slack = 1e-9

const letters = (text: string) => text.toLowerCase().replace(/[^a-z0-9]/g, '')
const plainName = (text: string) => letters(text.includes(' ') ? text : (text.split('.')[0] as string))
const keyOf = (e: TableEntry) => e.mac ?? e.ip ?? ''

function mergeEntries(tables: readonly TableEntry[][]): TableEntry[] {
  const merged: TableEntry[] = []
  const byMac = new Map<string, TableEntry>()
  for (const entry of tables.flat()) {
    if (entry.mac === null) continue
    const known = byMac.get(entry.mac)
    if (known) {
      known.ip = entry.ip ?? known.ip
      known.hostname = entry.hostname ?? known.hostname
    } else {
      const fresh = { ...entry }
      byMac.set(entry.mac, fresh)
      merged.push(fresh)
    }
  }
  const byIp = new Map<string, TableEntry>()
  for (const m of merged) if (m.ip !== null && !byIp.has(m.ip)) byIp.set(m.ip, m)
  for (const entry of tables.flat()) {
    if (entry.mac !== null) continue
    const known = entry.ip === null ? undefined : byIp.get(entry.ip)
    if (known) known.hostname = entry.hostname ?? known.hostname
    else {
      const fresh = { ...entry }
      if (fresh.ip !== null) byIp.set(fresh.ip, fresh)
      merged.push(fresh)
    }
  }
  return merged
}

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
const reasonsOf = (unit: Unit, relation: MacRelation | null, entry: NetworkEntry, compared: boolean): string[] => {
  const sought = soughtOf(unit)
  return [
    relation ?? '',
    byName(sought, entry).reason,
    byTail(unit, sought, entry).reason,
    byNewness(entry, compared).reason,
  ].filter(Boolean)
}

interface Cell {
  weight: number
  relation: MacRelation | null
}

interface Batch {
  members: number[]
  family: string | null
  firmware: string | null
}

function batchesOf(units: readonly Unit[]): Batch[] {
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
function batchCells(
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

function plainCells(unit: Unit, entries: readonly NetworkEntry[], compared: boolean): Cell[] {
  const known = unit.staMac ?? unit.apMac
  const table = rowFor(unit)
  const sought = soughtOf(unit)
  return entries.map((entry) => {
    const relation = known && entry.mac ? macRelation(entry.mac, known) : null
    const mac = relation ? table[relation] / byChance[relation] : 1
    return { weight: mac * otherFactor(unit, sought, entry, compared), relation }
  })
}

/** @param taken entries that others claim: they weigh nothing here */
function judge(
  cells: readonly Cell[],
  inBatch: boolean,
  taken: ReadonlySet<number> = new Set(),
): { verdict: MatchVerdict; p: number[]; none: number } {
  let sum = 1
  for (const [j, c] of cells.entries()) if (!taken.has(j)) sum += c.weight
  const p = new Array<number>(cells.length)
  let best = 0
  let second = 0
  cells.forEach((c, j) => {
    const one = taken.has(j) ? 0 : c.weight / sum
    p[j] = one
    if (one > best) {
      second = best
      best = one
    } else if (one > second) second = one
  })
  const heaviest = best * sum
  let verdict: MatchVerdict = 'none'
  if (best >= 0.95 - slack && best >= 20 * second - slack) verdict = 'sure'
  else if (best >= (inBatch ? 0.9 : 0.6) - slack) verdict = 'likely'
  else if (best >= 0.2 - slack || heaviest >= 8 - slack) verdict = 'unsure'
  return { verdict, p, none: 1 / sum }
}

const indexOfGreatest = (list: readonly number[]): number => {
  let at = 0
  list.forEach((x, i) => {
    if (x > nth(list, at)) at = i
  })
  return at
}

const ninth = (x: number) => Math.round(x * 1e9)

/** Which of the devices on the network is which unit, and why. */
export function matchNetwork(input: unknown): Outcome<NetworkMatch> {
  const parsed = parseInput(MatchInput, input, inputCodes)
  if (!parsed.ok) return parsed
  const { tables, units } = parsed.value
  const read = tables.map((t) => readTable(t.text, t.format))
  const phase = (which: 'before' | 'after') => read.filter((_, i) => tables[i]?.phase === which).map((r) => r.entries)
  const before = mergeEntries(phase('before'))
  const compared = tables.some((t) => t.phase === 'before')
  const beforeKeys = new Set(before.flatMap((e) => [e.mac, e.ip].filter((x) => x !== null)))
  const after = mergeEntries(phase('after'))
  const entries = after.map(
    (e): NetworkEntry => ({
      ...e,
      new: compared ? !beforeKeys.has(keyOf(e)) : null,
      local: e.mac === null ? null : isLocalMac(e.mac),
    }),
  )
  const afterKeys = new Set(entries.map(keyOf))

  const cells: Cell[][] = []
  const inBatch = units.map(() => false)
  const batches: NetworkMatch['batches'] = []
  for (const batch of batchesOf(units)) {
    const { cells: found, relation } = batchCells(batch, units, entries, compared)
    for (const [i, list] of found) cells[i] = list
    if (batch.members.length < 2) continue
    for (const i of batch.members) inBatch[i] = true
    const [same, local, minus, plus, mixed] = relation as [number, number, number, number, number]
    batches.push({
      family: batch.family,
      firmware: batch.firmware,
      units: batch.members.map((i) => (units[i] as Unit).id),
      relation: { same, 'local-bit': local, 'minus-one': minus, 'plus-one': plus, mixed },
    })
  }

  // Who is in no batch is weighed alone.
  for (const [i, unit] of units.entries()) cells[i] ??= plainCells(unit, entries, compared)
  const first = cells.map((list, i) => judge(list, inBatch[i] as boolean))
  const claimed = new Set(first.flatMap((j) => (j.verdict === 'sure' ? [indexOfGreatest(j.p)] : [])))
  const matches = units.map((unit, i): UnitMatch & { top: number } => {
    const list = nth(cells, i)
    let judged = first[i] as ReturnType<typeof judge>
    if (judged.verdict !== 'sure') judged = judge(list, inBatch[i] as boolean, claimed)
    const order = entries
      .map((_, j) => j)
      .filter((j) => nth(judged.p, j) >= 0.001)
      .sort(
        (a, b) =>
          ninth(nth(judged.p, b)) - ninth(nth(judged.p, a)) ||
          addressNumber(entries[a]?.ip ?? '255.255.255.255') - addressNumber(entries[b]?.ip ?? '255.255.255.255'),
      )
    return {
      unit: unit.id,
      candidates: order.slice(0, 5).map((j): Candidate => {
        const entry = nth(entries, j)
        const { mac, ip, hostname } = entry
        const { relation } = nth(list, j)
        const reasons = reasonsOf(unit, relation, entry, compared)
        return { mac, ip, hostname, probability: nth(judged.p, j), relation, reasons }
      }),
      noneProbability: judged.none,
      verdict: judged.verdict,
      top: judged.verdict === 'none' ? -1 : (order[0] ?? -1),
    }
  })

  const conflicts: NetworkMatch['conflicts'] = []
  const claims = new Map<number, string[]>()
  for (const m of matches) claims.set(m.top, [...(claims.get(m.top) ?? []), m.unit])
  entries.forEach((entry, j) => {
    const claimants = claims.get(j) ?? []
    if (claimants.length > 1) conflicts.push({ mac: entry.mac, units: claimants })
  })
  return {
    ok: true,
    value: {
      formats: read.map((r) => r.format),
      entries,
      matches: matches.map(({ top: _, ...m }) => m),
      batches,
      conflicts,
      newcomers: entries.filter((e) => e.new).map(keyOf),
      gone: compared ? before.map(keyOf).filter((k) => !afterKeys.has(k)) : [],
      skipped: read.flatMap((r, table) => r.skipped.map((s) => ({ table, ...s }))),
      findings: conflicts.map((c) => ({
        ...finding(
          'same-entry',
          'watch',
          `The entry ${c.mac ?? ''} fits ${c.units.join(' and ')} best.`,
          'One device cannot be two units.',
          'Make one of them blink, or power one off and read the list again.',
        ),
        ...c,
      })),
    },
  }
}

/** What to try when a unit was not found. */
export const notFoundAdvice = [
  'Power it again and wait for a lease.',
  'Look for its own access point: it may not have joined.',
  'Check that the network has 2.4 GHz and does not isolate its clients.',
]
