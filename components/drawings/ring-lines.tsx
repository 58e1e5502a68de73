import { dayWriter } from '@fresh-coat/core/edge/day'

/** Rings of an update on one line of time: who goes when, how each went, when the next ring may begin, and the nights that are left free. */

/** A unit in its ring: when it is its turn, ms, and how its update went. */
interface RingUnit {
  number: number
  start: number | null
  how: { state: 'waiting' | 'begun' | 'ok' | 'failed' | 'look' }
}
interface RingLine {
  ring: string
  status: 'pending' | 'done' | 'stopped' | 'held'
  notBefore: number
  end: number
  /** How many there are in it. */
  all: number
  /** The first of them. */
  units: readonly RingUnit[]
}
type State = RingUnit['how']['state']

const left = 150
const width = 900
const [rowHeight, block] = [54, 30]
const dayMs = 86_400_000

const paint: Record<State, { fill: string; ink: string; rim: string }> = {
  waiting: { fill: 'var(--sheet)', ink: 'var(--ink)', rim: 'var(--ink-3)' },
  begun: { fill: 'var(--ochre-soft)', ink: 'var(--ink)', rim: 'var(--ochre-line)' },
  look: { fill: 'var(--ochre-soft)', ink: 'var(--ink)', rim: 'var(--ochre-line)' },
  ok: { fill: 'var(--verdigris)', ink: 'var(--sheet)', rim: 'var(--verdigris)' },
  failed: { fill: 'var(--oxide)', ink: 'var(--sheet)', rim: 'var(--oxide)' },
}
const stateWords: Record<State, string> = {
  waiting: 'waits',
  begun: 'begun',
  look: 'somebody has to look',
  ok: 'went well',
  failed: 'failed',
}
const statusWords = { pending: '', done: 'done', stopped: 'stopped', held: 'held' } as const

const two = (n: number) => String(n).padStart(2, '0')
const dayWords = dayWriter({ weekday: 'short', day: 'numeric', month: 'short' })

const [step, aLine] = [block + 3, 12]
/** A ring shows so many lines of blocks, and says how many more it has. */
const mostLines = 4

interface Placed {
  unit: RingUnit
  at: number
  line: number
}

/** Blocks of one ring beside each other, never one on the other nor beyond the edge: those that find no room go on below. */
function packed(units: readonly RingUnit[], x: (ms: number) => number): Placed[] {
  let [free, line] = [Number.NEGATIVE_INFINITY, 0]
  return units.slice(0, aLine * mostLines).map((unit) => {
    let at = Math.max(x(unit.start ?? 0), free)
    if (at > width - block) {
      line++
      at = Math.min(x(unit.start ?? 0), width - step * aLine)
    }
    free = at + step
    return { unit, at, line }
  })
}

type Blackout = { from: number; to: number; what: string }
type ToX = (ms: number) => number

/** The stretch of time that is drawn: all rings and now, with a little before and more behind. */
function stretchOf(rings: readonly RingLine[], now: number): { from: number; to: number; x: ToX } {
  const times = [now, ...rings.flatMap((r) => [r.notBefore, r.end])]
  const [first, last] = times.reduce(([a, b], t) => [Math.min(a, t), Math.max(b, t)] as const, [now, now] as const)
  const from = first - dayMs / 4
  const to = Math.max(last, from + dayMs) + dayMs / 2
  const most = rings.reduce((n, r) => Math.max(n, r.all), 1)
  const room = width - left - Math.min(most, aLine) * step
  return { from, to, x: (ms) => left + ((ms - from) / (to - from)) * Math.max(room, 200) }
}

interface Row {
  ring: RingLine
  blocks: Placed[]
  y: number
}

/** Rings below each other, each as high as its blocks are. */
function rowsOf(rings: readonly RingLine[], x: ToX, top: number): { rows: Row[]; height: number } {
  let y = top
  const rows = rings.map((ring) => {
    const row = { ring, blocks: packed(ring.units, x), y }
    y += rowHeight + (row.blocks.at(-1)?.line ?? 0) * (block + 4)
    return row
  })
  return { rows, height: y + 4 }
}

const inWords = (rings: readonly RingLine[]): string =>
  rings
    .map((r) => {
      const units = r.units.slice(0, aLine * mostLines).map((u) => `${two(u.number)} ${stateWords[u.how.state]}`)
      const more = r.all > aLine * mostLines ? ` and ${r.all - aLine * mostLines} more` : ''
      return `${r.ring} ${statusWords[r.status]}: ${units.join(', ')}${more}`
    })
    .join('; ')

/** At most eight days, so that their names have room. */
function Days({ from, to, x, height }: { from: number; to: number; x: ToX; height: number }) {
  const first = from - (from % dayMs) + dayMs
  const days = Array.from({ length: Math.ceil((to - first) / dayMs) }, (_, i) => first + i * dayMs)
  const every = Math.max(1, Math.ceil(days.length / 8))
  return days
    .filter((_, i) => i % every === 0)
    .map((d) => (
      <g key={d}>
        <path d={`M${x(d)} 24V${height}`} stroke="var(--rule-2)" />
        <text x={x(d)} y="16" textAnchor="middle" fontSize="12" fill="var(--ink-2)">
          {dayWords(d)}
        </text>
      </g>
    ))
}

/** At the axis alone: a block is wider than its minutes, and would seem to stand in the evening behind it. */
function LeftFree({ from, to, what, x }: Blackout & { x: ToX }) {
  return (
    <g>
      <rect x={x(from)} y="24" width={Math.max(3, x(to) - x(from))} height="6" rx="2" fill="var(--ink-3)" />
      <text x={(x(from) + x(to)) / 2} y="44" textAnchor="middle" fontSize="12" fill="var(--ink-2)">
        {what || 'left free'}
      </text>
    </g>
  )
}

/** A unit on its ring: pressed, it is the one that is looked at. */
function Block({
  placed: { unit, at, line },
  y,
  chosen,
  onChoose,
}: {
  placed: Placed
  y: number
  chosen: boolean
  onChoose: () => void
}) {
  const top = y + 5 + line * (block + 4)
  const p = paint[unit.how.state]
  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: the list below does the same for the keyboard
    <g onClick={onChoose} style={{ cursor: 'pointer' }}>
      <rect
        x={at}
        y={top}
        width={block}
        height={block}
        rx="6"
        fill={p.fill}
        stroke={chosen ? 'var(--ink)' : p.rim}
        strokeWidth={chosen ? 3 : 1.8}
      />
      <text
        x={at + block / 2}
        y={top + 20}
        textAnchor="middle"
        className="pin"
        fontSize="13"
        fontWeight="700"
        fill={p.ink}
      >
        {two(unit.number)}
      </text>
    </g>
  )
}

/** A ring: how it stands, from when it may begin, and its units. @param foot where its row ends */
function Ring({
  row: { ring, blocks, y },
  foot,
  x,
  children,
}: {
  row: Row
  foot: number
  x: ToX
  children: React.ReactNode
}) {
  const more = ring.all - blocks.length
  return (
    <g>
      <path d={`M0 ${foot}H${width}`} stroke="var(--rule-2)" />
      <text x="0" y={y + 18} fontSize="15" fontWeight="700" fill="var(--ink)">
        {ring.ring}
      </text>
      <text x="0" y={y + 36} fontSize="12" fill={ring.status === 'stopped' ? 'var(--oxide)' : 'var(--ink-2)'}>
        {statusWords[ring.status] || `${ring.all} ${ring.all === 1 ? 'unit' : 'units'}`}
      </text>
      {more > 0 && (
        <text x="0" y={y + 54} fontSize="12" fill="var(--ink-2)">
          {more} not drawn
        </text>
      )}
      <path
        d={`M${x(ring.notBefore)} ${y + 2}v${block + 8}`}
        stroke="var(--ink-3)"
        strokeDasharray="3 3"
        strokeWidth="1.5"
      />
      {children}
    </g>
  )
}

export function RingLines({
  rings,
  blackouts,
  now,
  chosen,
  onChoose,
}: {
  rings: readonly RingLine[]
  blackouts: readonly Blackout[]
  now: number
  chosen: number | null
  onChoose: (number: number) => void
}) {
  const { from, to, x } = stretchOf(rings, now)
  const { rows, height } = rowsOf(rings, x, blackouts.length > 0 ? 52 : 30)
  return (
    <svg viewBox={`0 0 ${width} ${height}`} className="w-full min-w-[680px]" role="img" aria-label={inWords(rings)}>
      <Days {...{ from, to, x, height }} />
      {blackouts.map((b) => (
        <LeftFree key={b.from} {...b} x={x} />
      ))}
      {rows.map((row, i) => (
        <Ring key={row.ring.ring} row={row} foot={(rows[i + 1]?.y ?? height - 4) - 4} x={x}>
          {row.blocks.map((placed) => (
            <Block
              key={placed.unit.number}
              placed={placed}
              y={row.y}
              chosen={chosen === placed.unit.number}
              onChoose={() => onChoose(placed.unit.number)}
            />
          ))}
        </Ring>
      ))}
      <path d={`M${x(now)} 24V${height - 14}`} stroke="var(--oxide)" strokeWidth="1.5" />
      <text x={x(now)} y={height - 1} textAnchor="middle" fontSize="11" fill="var(--oxide)">
        now
      </text>
    </svg>
  )
}
