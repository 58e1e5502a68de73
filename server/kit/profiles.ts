import { count } from 'drizzle-orm'
import type { Db } from '../db/client'
import { profile } from '../db/schema'

const release = (version: string, build: string, bytes: number, more: object = {}) => ({
  version,
  build,
  family: 'LX106',
  bytes,
  gzBytes: null,
  acceptsGzip: false,
  minFrom: null,
  minHost: null,
  layout: null,
  stop: false,
  note: '',
  ...more,
})

/** Three made-up firmware profiles as editable data; the user adds their own. */
const shipped = [
  {
    name: 'Plainsong',
    data: {
      families: ['LX106', 'LX6'],
      setupAddress: '192.168.4.1',
      about: 'Small and plain, for plugs and switches.',
      releases: [
        release('3.1.0', 'small', 330_000),
        release('3.1.0', 'full', 545_000),
        release('6.0.0', 'small', 338_000, { stop: true, note: 'Settings are converted here.' }),
        release('6.0.0', 'full', 580_000, { stop: true, note: 'Settings are converted here.' }),
        release('9.4.1', 'small', 351_000, { minFrom: '6.0.0' }),
        release('9.4.1', 'full', 438_304, { minFrom: '6.0.0' }),
        release('9.5.0', 'small', 356_000, { minFrom: '6.0.0' }),
        release('7.4', 'radio', 214_000, { minHost: '9.0' }),
        release('7.5', 'radio', 219_000, { minHost: '9.5.0' }),
        release('9.5.0', 'full', 641_000, { minFrom: '6.0.0', gzBytes: 415_000 }),
      ],
    },
  },
  {
    name: 'Lattice',
    data: {
      families: ['LX6', 'LX7', 'RV32'],
      setupAddress: '10.44.0.1',
      about: 'For boards with many outputs.',
      releases: [
        release('2.3.0', 'full', 480_336, { family: 'LX6' }),
        release('2.4.0', 'full', 1_204_000, { family: 'LX6' }),
        release('3.0.0', 'full', 1_610_000, { family: 'LX6', layout: 'wide', note: 'Needs larger slots.' }),
      ],
    },
  },
  {
    name: 'Skiff',
    data: {
      families: ['ARM968-A', 'ARM968-B', 'CM3'],
      setupAddress: '192.168.19.1',
      about: 'For the families without a boot strap.',
      startOffsets: { CM3: 0x10000 },
    },
  },
]

/** Puts the shipped profiles into a database that has none. */
export async function shipProfiles(db: Db): Promise<void> {
  const [row] = await db.select({ n: count() }).from(profile)
  if (row?.n === 0) await db.insert(profile).values(shipped)
}
