import { inputCodes, type Outcome, parseInput } from '../edge/fault'
import { finding } from '../edge/finding'
import { nth } from '../edge/nth'
import { addressNumber, isLocalMac } from './mac'
import {
  type Candidate,
  MatchInput,
  type MatchVerdict,
  type NetworkEntry,
  type NetworkMatch,
  type UnitMatch,
} from './match-shapes'
import { batchCells, batchesOf, type Cell, plainCells, reasonsOf } from './match-weights'
import { readTable, type TableEntry } from './tables'

export * from './match-shapes'

const slack = 1e-9
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
      units: batch.members.map((i) => nth(units, i).id),
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
