import { type Heard, heard, heardClashes } from '@fresh-coat/core/topics/spoken'
import { and, eq, isNull, or, sql } from 'drizzle-orm'
import type { Tx } from '../db/client'
import * as schema from '../db/schema'

const mostPairs = 200
const atOnce = 250
const mostRemembered = 50_000
const remembered = new Map<string, Heard>()

/** How a form sounds, worked out once per process. */
function heardOf(form: string): Heard {
  const known = remembered.get(form) ?? heard(form)
  if (remembered.size >= mostRemembered) remembered.clear()
  remembered.set(form, known)
  return known
}

/** Which other units' spoken names are confused with this one's, compared once after a name changed. */
export async function renewClashes(tx: Tx, unitId: string): Promise<void> {
  const { nameClash, unit } = schema
  await tx.delete(nameClash).where(or(eq(nameClash.a, unitId), eq(nameClash.b, unitId)))
  const [row] = await tx
    .select()
    .from(unit)
    .where(and(eq(unit.id, unitId), isNull(unit.struckAt)))
  if (!row) return
  // As the driver has them: there may be thousands, and a mapper in between takes as long as the read itself.
  const found = await tx.execute(sql`select id, number, spoken from unit where struck_at is null and id <> ${unitId}`)
  const others = found.rows as unknown as { id: string; number: number; spoken: string }[]
  const mine = heardOf(row.spoken)
  const pairs: { a: string; b: string; code: string }[] = []
  // A default name of thousands of units is one thing to say, not thousands.
  for (let from = 0; from < others.length && pairs.length < mostPairs; from += atOnce) {
    for (const other of others.slice(from, from + atOnce)) {
      const [a, b] = row.number < other.number ? [row.id, other.id] : [other.id, row.id]
      for (const code of heardClashes(mine, heardOf(other.spoken))) pairs.push({ a, b, code })
    }
    // Whoever waits for a page comes in between.
    await new Promise((go) => setImmediate(go))
  }
  if (pairs.length > 0) await tx.insert(nameClash).values(pairs.slice(0, mostPairs)).onConflictDoNothing()
}
