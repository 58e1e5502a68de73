import { badAddresses, badBodies } from './bodies'
import { doors } from './doors'
import { badUploads, bentFiles, floods } from './files'
import { badLines } from './lines'
import { poisonedNames } from './names'
import { outages, starts } from './outages'
import { ownServer } from './server'
import type { Tally } from './tally'

/**
 * bin/test attack [WORD…]: attacks on a server of its own, on loopback, bounded: bad bodies for every command and route, bent
 * files, command lines, poisoned names, kills and outages, foreign names. Exit code 1 when something gave way.
 */
const attacks: Record<string, () => Promise<Tally>> = {
  bodies: () => badBodies(10_000),
  addresses: badAddresses,
  uploads: () => badUploads(300),
  files: () => bentFiles(2000),
  floods,
  lines: () => badLines(500),
  doors,
  names: poisonedNames,
  outages,
  starts,
}
/** These need no server. */
const alone = new Set(['files', 'floods', 'lines'])

const wanted = process.argv.slice(2).filter((word) => word in attacks)
const list = wanted.length > 0 ? wanted : Object.keys(attacks)
const server = list.every((word) => alone.has(word)) ? null : await ownServer()
let faults = 0
try {
  for (const word of list) {
    const tally = await (attacks[word] as () => Promise<Tally>)()
    tally.print()
    faults += tally.faults.length
  }
} finally {
  await server?.end()
}
process.exit(faults > 0 ? 1 : 0)
