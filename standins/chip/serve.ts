import { ChipSpec } from './chip-spec'
import { serveChip } from './served'

/** A virtual chip behind a bridge, until it is ended: `node --import tsx standins/chip/serve.ts '{"family":"LX6",…}'` prints its port. */
const rate = 115_200
const { port } = await serveChip(ChipSpec.parse(JSON.parse(process.argv[2] ?? '{}')), rate)
process.stdout.write(`${port}\n`)
