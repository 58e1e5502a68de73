import { type Heard, heard, heardClashes } from '@fresh-coat/core/topics/spoken'
import { and, inArray, isNull, ne, or, sql } from 'drizzle-orm'
import type { Tx } from '../db/client'
import * as schema from '../db/schema'

const mostPairs = 200
const atOnce = 250
const mostRemembered = 50_000
const remembered = new Map<string, Heard>()
const { nameClash, unit } = schema

/** How a form sounds, worked out once per process. */
function heardOf(form: string): Heard {
  const known = remembered.get(form) ?? heard(form)
  if (remembered.size >= mostRemembered) remembered.clear()
  remembered.set(form, known)
  return known
}

/** Every spoken form there is, as one text: thousands of rows take longer to come than to be compared. */
async function formsOf(tx: Tx): Promise<string[]> {
  const found = await tx.execute(
    sql`select coalesce(json_agg(spoken), '[]')::text as forms from unit where struck_at is null`,
  )
  return JSON.parse((found.rows as unknown as { forms: string }[])[0]?.forms ?? '[]')
}

/** The forms that this one is confused with; its own is among them. A default name of thousands is one thing to say, not thousands. */
async function alikeForms(form: string, forms: readonly string[]): Promise<Set<string>> {
  const mine = heardOf(form)
  const alike = new Set<string>()
  for (let from = 0; from < forms.length && alike.size <= mostPairs; from += atOnce) {
    for (const other of forms.slice(from, from + atOnce))
      if (heardClashes(mine, heardOf(other)).length > 0) alike.add(other)
    // Whoever waits for a page comes in between.
    await new Promise((go) => setImmediate(go))
  }
  return alike
}

async function pairsOf(tx: Tx, mine: { id: string; number: number; spoken: string }, alike: ReadonlySet<string>) {
  const others = await tx
    .select({ id: unit.id, number: unit.number, spoken: unit.spoken })
    .from(unit)
    .where(and(inArray(unit.spoken, [...alike]), ne(unit.id, mine.id), isNull(unit.struckAt)))
    .limit(mostPairs)
  return others.flatMap((other) => {
    const [a, b] = mine.number < other.number ? [mine.id, other.id] : [other.id, mine.id]
    return heardClashes(heardOf(mine.spoken), heardOf(other.spoken)).map((code) => ({ a, b, code }))
  })
}

/** Which other units' spoken names are confused with those of these, compared once after their names changed. */
export async function renewClashes(tx: Tx, unitIds: readonly string[]): Promise<void> {
  const ids = [...unitIds]
  // Whoever comes later, perhaps of another process, reads what is the newest then, and has the last word.
  await tx.execute(sql`select pg_advisory_xact_lock(hashtext('name_clash'))`)
  await tx.delete(nameClash).where(or(inArray(nameClash.a, ids), inArray(nameClash.b, ids)))
  const changed = await tx
    .select({ id: unit.id, number: unit.number, spoken: unit.spoken })
    .from(unit)
    .where(and(inArray(unit.id, ids), isNull(unit.struckAt)))
  if (changed.length === 0) return
  const forms = await formsOf(tx)
  for (const one of changed) {
    const pairs = await pairsOf(tx, one, await alikeForms(one.spoken, forms))
    if (pairs.length > 0) await tx.insert(nameClash).values(pairs.slice(0, mostPairs)).onConflictDoNothing()
  }
}
