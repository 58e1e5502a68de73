import { drive } from '@fresh-coat/core/link/drive'
import { newLine } from '@fresh-coat/core/link/flow'
import { identify } from '@fresh-coat/core/link/identity'
import { readFlash } from '@fresh-coat/core/link/reading'
import { linkTime } from '@fresh-coat/core/link/time'
import { type Recorded, ReplayLink, recording } from '../link/replay'
import { ChipSpec } from '../standins/chip/chip-spec'
import { VirtualLink } from '../standins/chip/virtual-link'

/**
 * The link's own work: a read of a virtual chip is recorded, and played back without the chip. What that takes is all that the app adds
 * to the time on the line; the line's time is that of the virtual clock, held against what is said before a read.
 */
const bytes = 262_144
const cases = [
  ['LX6', 'read-rom', 460_800],
  ['RV32', 'read-rom', 115_200],
  ['LX106', 'read-registers', 115_200],
] as const
const ids = { LX6: '204012', RV32: '204012', LX106: '684012' } as const
const latencyMs = 1

console.log('reading 256 KiB: time on the line, as said before, and what the app adds')
for (const [family, action, rate] of cases) {
  const spec = ChipSpec.parse({ family, flashBytes: bytes, flashId: ids[family], latencyMs })
  const virtual = new VirtualLink(spec, rate)
  const lines: Recorded[] = []
  const link = recording(virtual, (l) => lines.push(l))
  const run = async (over: Parameters<typeof drive>[1]) => {
    const line = newLine(rate, 404)
    const who = await drive(identify(line, 20), over)
    await drive(readFlash(line, who, 0, bytes), over)
  }
  await run(link)
  const onLine = virtual.now() / 1000
  const said = linkTime({ family, action, bytes, rate, latencyMs })
  const replays: number[] = []
  for (let i = 0; i < 3; i++) {
    const from = performance.now()
    await run(new ReplayLink(lines))
    replays.push((performance.now() - from) / 1000)
  }
  const own = Math.min(...replays)
  const expected = said.ok ? said.value.seconds : Number.NaN
  console.log(
    `${family.padEnd(6)} ${String(rate).padStart(7)} baud: ${onLine.toFixed(1)} s on the line, said ${expected.toFixed(1)} s (${(100 * (onLine / expected - 1)).toFixed(1)} %), the app adds ${own.toFixed(2)} s: ${((100 * own) / onLine).toFixed(2)} %`,
  )
}
