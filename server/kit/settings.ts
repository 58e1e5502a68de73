import { eq } from 'drizzle-orm'
import type { Change } from '../db/change'
import * as schema from '../db/schema'

/** Sets, changes or (with null) takes off a setting of the whole place. */
export async function keepSetting(c: Change, key: string, value: unknown): Promise<void> {
  const [row] = await c.live('setting', eq(schema.setting.key, key))
  if (row && value === null) await c.strike('setting', row.id)
  else if (row) await c.update('setting', row.id, null, { value })
  else if (value !== null) await c.insert('setting', { key, value })
}
