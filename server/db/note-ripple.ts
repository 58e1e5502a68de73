import type { Tx } from './client'
import * as schema from './schema'
import type { RippleKind } from './tables'

/** Notes that something shared changed. Always a row of its own: one that is being carried through may have passed a unit by. */
export async function noteRipple(tx: Tx, kind: RippleKind, ref: string): Promise<void> {
  await tx.insert(schema.ripple).values({ kind, ref })
}
