import { heard, heardClashes } from '@fresh-coat/core/topics/spoken'
import { and, eq, isNull, ne, or } from 'drizzle-orm'
import type { Tx } from '../db/client'
import * as schema from '../db/schema'

/** Which other units' spoken names are confused with this one's, compared once after a name changed. */
export async function renewClashes(tx: Tx, unitId: string): Promise<void> {
  const { nameClash, unit } = schema
  await tx.delete(nameClash).where(or(eq(nameClash.a, unitId), eq(nameClash.b, unitId)))
  const [row] = await tx
    .select()
    .from(unit)
    .where(and(eq(unit.id, unitId), isNull(unit.struckAt)))
  if (!row) return
  const others = await tx
    .select({ id: unit.id, number: unit.number, spoken: unit.spoken })
    .from(unit)
    .where(and(ne(unit.id, unitId), isNull(unit.struckAt)))
  const mine = heard(row.spoken)
  const pairs = others.flatMap((other) => {
    const [a, b] = row.number < other.number ? [row.id, other.id] : [other.id, row.id]
    return heardClashes(mine, heard(other.spoken)).map((code) => ({ a, b, code }))
  })
  // A default name of thousands of units is one thing to say, not thousands.
  if (pairs.length > 0) await tx.insert(nameClash).values(pairs.slice(0, 200)).onConflictDoNothing()
}
