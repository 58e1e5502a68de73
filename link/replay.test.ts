import { LineLost } from '@fresh-coat/core/link/byte-link'
import { drive } from '@fresh-coat/core/link/drive'
import { newLine } from '@fresh-coat/core/link/flow'
import { identify } from '@fresh-coat/core/link/identity'
import { readFlash } from '@fresh-coat/core/link/reading'
import { ChipSpec, type Fault } from '@/standins/chip/chip-spec'
import { VirtualLink } from '@/standins/chip/virtual-link'
import { Diverged, type Recorded, ReplayLink, recordedLines, recording } from './replay'

const spec = (faults: Fault[] = []) =>
  ChipSpec.parse({ family: 'LX6', flashBytes: 2 ** 18, flashId: '204012', lines: 'circuit', faults })

async function session(link: Parameters<typeof drive>[1]) {
  const line = newLine(115_200, 400)
  const who = await drive(identify(line, 20), link)
  const sectors: number[] = []
  await drive(readFlash(line, who, 0, 8192), link, { onBytes: (at) => sectors.push(at) })
  return { who, sectors, counts: line.counts.exchanges }
}
async function recorded(faults: Fault[] = []) {
  const lines: Recorded[] = []
  const out = await session(recording(new VirtualLink(spec(faults), 115_200), (l) => lines.push(l)))
  return { out, lines: recordedLines(lines.map((l) => JSON.stringify(l)).join('\n')) }
}

test.each<[string, Fault[]]>([
  ['a clean line', []],
  ['an answer that was lost', [{ fault: 'lose', answer: 30 }]],
  ['a byte that was dropped', [{ fault: 'drop', to: 'host', at: 900 }]],
])('%s, played back, comes to the same with no chip behind it', async (_, faults) => {
  const { out, lines } = await recorded(faults)
  const replay = new ReplayLink(lines)
  expect(await session(replay)).toEqual(out)
  expect(replay.over).toBe(true)
})

test('a flow that does otherwise is stopped at the line where it does', async () => {
  const { lines } = await recorded()
  const at = lines.findIndex((l, i) => i > 10 && 'out' in l)
  const other = lines.map((l, i) => (i === at ? { t: l.t, out: 'c000c0' } : l))
  const cause = await session(new ReplayLink(other)).catch((c) => c)
  expect(cause).toBeInstanceOf(Diverged)
  expect((cause as Diverged).line).toBe(at + 1)
})

test('a line that was lost is lost again', async () => {
  const { lines } = await recorded()
  const cut: Recorded[] = [...lines.slice(0, 20), { t: 99, lost: 'unplugged' }]
  const cause = await session(new ReplayLink(cut)).catch((c) => c)
  expect(cause instanceof LineLost || cause instanceof Diverged).toBe(true)
})

test('a recording that is cut in half says so', () => {
  expect(() => recordedLines('{"t":1,"out":"c0"}\n{"t":2,"in":')).toThrow(SyntaxError)
})
