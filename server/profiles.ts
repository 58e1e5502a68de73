import { count } from 'drizzle-orm'
import type { Db } from './db'
import { profile } from './schema'

/** Three made-up firmware profiles as editable data; the user adds their own. */
const shipped = [
  {
    name: 'Plainsong',
    data: {
      families: ['LX106', 'LX6'],
      setupAddress: '192.168.4.1',
      about: 'Small and plain, for plugs and switches.',
    },
  },
  {
    name: 'Lattice',
    data: { families: ['LX6', 'LX7', 'RV32'], setupAddress: '10.44.0.1', about: 'For boards with many outputs.' },
  },
  {
    name: 'Skiff',
    data: {
      families: ['ARM968-A', 'ARM968-B', 'CM3'],
      setupAddress: '192.168.19.1',
      about: 'For the families without a boot strap.',
    },
  },
]

/** Puts the shipped profiles into a database that has none. */
export async function shipProfiles(db: Db): Promise<void> {
  const [row] = await db.select({ n: count() }).from(profile)
  if (row?.n === 0) await db.insert(profile).values(shipped)
}
