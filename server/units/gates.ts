import type { GateId } from '@fresh-coat/core/unit/way'
import { and, eq, inArray, isNull } from 'drizzle-orm'
import type { Change } from '../db/change'
import * as schema from '../db/schema'

/** Ends confirmations: what comes next may find the unit in another state. */
export async function clearGates(
  c: Change,
  unitId: string,
  which: readonly GateId[],
  clearedBy: 'attempt' | 'opposite' | 'reopened',
): Promise<void> {
  const { gate } = schema
  const open = await c.live(
    'gate',
    and(eq(gate.unitId, unitId), isNull(gate.clearedAt), inArray(gate.gate, [...which])),
  )
  for (const row of open) await c.update('gate', row.id, null, { clearedAt: c.now, clearedBy })
}
