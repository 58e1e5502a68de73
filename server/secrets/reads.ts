import { and, eq, isNull } from 'drizzle-orm'
import type { Source } from '../db/client'
import * as schema from '../db/schema'

export interface SecretRow {
  id: string
  unitId: string | null
  name: string
  keptIn: string
  createdAt: string
}

/** Names of a unit's secrets; never their values. */
export async function secretsOf(source: Source, unitId: string): Promise<SecretRow[]> {
  const { secret } = schema
  const rows = await source
    .select({
      id: secret.id,
      unitId: secret.unitId,
      name: secret.name,
      keptIn: secret.keptIn,
      createdAt: secret.createdAt,
    })
    .from(secret)
    .where(and(eq(secret.unitId, unitId), isNull(secret.struckAt)))
  return rows.map((r) => ({ ...r, createdAt: r.createdAt.toISOString() }))
}
