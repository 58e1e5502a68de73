import type { ConsoleWords } from '@fresh-coat/core/link/questions'
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

/** What Plainsong can be asked over its console, in its own words. */
const plainsongConsole: ConsoleWords = {
  rate: 115_200,
  ends: 'crlf',
  accessPoint: ['air of my own: {name}'],
  questions: [
    { what: 'status', say: 'how goes it', answers: ['it goes {how}, awake {seconds:int} s'], withinMs: 3000 },
    { what: 'version', say: 'which coat', answers: ['coat {name} {version}'], withinMs: 3000 },
    { what: 'restart', say: 'sing again', answers: ['singing again'], withinMs: 8000 },
    { what: 'relay-on', say: 'relay {n:int} on', answers: ['relay {n:int} is {state:on|off}'], withinMs: 3000 },
    { what: 'relay-off', say: 'relay {n:int} off', answers: ['relay {n:int} is {state:on|off}'], withinMs: 3000 },
    { what: 'level', say: 'look at pad {n:int}', answers: ['pad {n:int} reads {state:high|low}'], withinMs: 3000 },
    { what: 'drive', say: 'pad {n:int} high', answers: ['pad {n:int} is {state:high|low}'], withinMs: 3000 },
    { what: 'rest', say: 'pad {n:int} low', answers: ['pad {n:int} is {state:high|low}'], withinMs: 3000 },
  ],
}

/** Three made-up firmware profiles as editable data; the user adds their own. */
const shipped = [
  {
    name: 'Plainsong',
    data: {
      families: ['LX106', 'LX6'],
      setupAddress: '192.168.4.1',
      console: plainsongConsole,
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
