import { randomUUID } from 'node:crypto'
import { eq } from 'drizzle-orm'
import { z } from 'zod'
import type { Change } from '../db/change'
import { command } from '../db/command'
import { Refused } from '../db/fault'
import { id, name } from '../db/fields'
import * as schema from '../db/schema'
import { holdUnit } from '../units/one'
import { keyToSeal, sealWith, unseal } from './seal'

/** Seals a secret of the whole place, and says where it lies. */
export async function siteSecret(c: Change, name: string, value: string): Promise<string> {
  const rowId = randomUUID()
  const { key, mark } = await keyToSeal(c.tx)
  const sealed = { ...sealWith(key, value, rowId), bound: true, sealedWith: mark }
  const row = await c.insert('secret', { name, keptIn: 'the app', id: rowId, ...sealed, createdAt: c.now })
  return row.id
}

const keepSecret = command(
  z.object({
    unitId: id,
    name,
    keptIn: z.string().trim().max(120).default(''),
    value: z.string().min(1).max(4000),
  }),
  async (c, { value, ...input }) => {
    await holdUnit(c, input.unitId)
    const rowId = randomUUID()
    const { key, mark } = await keyToSeal(c.tx)
    const sealed = { ...sealWith(key, value, rowId), bound: true, sealedWith: mark }
    const row = await c.insert('secret', { ...input, id: rowId, ...sealed, createdAt: c.now })
    await c.tell({ kind: 'secret-kept', unitId: input.unitId, sentence: `secret kept: ${input.name}` })
    return { id: row.id }
  },
)

const revealSecret = command(z.object({ secretId: id }), async (c, { secretId }) => {
  const [row] = await c.live('secret', eq(schema.secret.id, secretId))
  if (!row) throw new Refused('gone', 'There is no such secret.')
  await c.tell({ kind: 'secret-revealed', unitId: row.unitId, sentence: `secret shown: ${row.name}` })
  return { value: await unseal(c.tx, row) }
})

export const secretCommands = { 'keep-secret': keepSecret, 'reveal-secret': revealSecret }
