/** Rings of an update on one line of time: who goes when, how each went, when the next ring may begin, and the nights that are left free. */

export interface RingUnit {
  number: number
  name: string
  start: number
  state: 'waiting' | 'begun' | 'ok' | 'failed' | 'look'
}
export interface RingLine {
  name: string
  status: 'pending' | 'done' | 'stopped' | 'held'
  notBefore: number
  units: readonly RingUnit[]
}

const left = 150
const width = 900
const [rowHeight, block] = [54, 30]
const dayMs = 86_400_000

const paint: Record<RingUnit['state'], { fill: string; ink: string; rim: string }> = {
  waiting: { fill: 'var(--sheet)', ink: 'var(--ink)', rim: 'var(--ink-3)' },
  begun: { fill: 'var(--ochre-soft)', ink: 'var(--ink)', rim: 'var(--ochre-line)' },
  look: { fill: 'var(--ochre-soft)', ink: 'var(--ink)', rim: 'var(--ochre-line)' },
  ok: { fill: 'var(--verdigris)', ink: 'var(--sheet)', rim: 'var(--verdigris)' },
  failed: { fill: 'var(--oxide)', ink: 'var(--sheet)', rim: 'var(--oxide)' },
}
const stateWords: Record<RingUnit['state'], string> = {
  waiting: 'waits',
  begun: 'begun',
  look: 'somebody has to look',
  ok: 'went well',
  failed: 'failed',
}
const statusWords = { pending: '', done: 'done', stopped: 'stopped', held: 'held' } as const

const two = (n: number) => String(n).padStart(2, '0')
const dayWords = (ms: number) =>
  new Date(ms).toLocaleDateString('en-GB', { weekday: 'short', day: 'numeric', month: 'short', timeZone: 'UTC' })

/** Blocks of one ring beside each other, never one on the other. */
function packed(units: readonly RingUnit[], x: (ms: number) => number): { unit: RingUnit; at: number }[] {
  let free = Number.NEGATIVE_INFINITY
  return units.map((unit) => {
    const at = Math.max(x(unit.start), free)
    free = at + block + 3
    return { unit, at }
  })
}

export function RingLines({
  rings,
  blackouts,
  now,
  chosen,
  onChoose,
}: {
  rings: readonly RingLine[]
  blackouts: readonly { from: number; to: number; what: string }[]
  now: number
  chosen: number | null
  onChoose: (number: number) => void
}) {
  const times = [now, ...rings.flatMap((r) => [r.notBefore, ...r.units.map((u) => u.start)])]
  const from = Math.min(...times) - dayMs / 4
  const most = Math.max(...rings.map((r) => r.units.length), 1)
  const to = Math.max(...times, from + dayMs) + dayMs / 2
  const room = width - left - Math.min(most * (block + 3), 400)
  const x = (ms: number) => left + ((ms - from) / (to - from)) * Math.max(room, 200)
  const height = rings.length * rowHeight + 34
  const firstDay = from - (from % dayMs) + dayMs
  const days = Array.from({ length: Math.ceil((to - firstDay) / dayMs) }, (_, i) => firstDay + i * dayMs)
  const every = Math.max(1, Math.ceil(days.length / 8))
  const words = rings
    .map(
      (r) =>
        `${r.name} ${statusWords[r.status]}: ${r.units.map((u) => `${two(u.number)} ${stateWords[u.state]}`).join(', ')}`,
    )
    .join('; ')
  return (
    <svg viewBox={`0 0 ${width} ${height}`} className="w-full min-w-[680px]" role="img" aria-label={words}>
      {days
        .filter((_, i) => i % every === 0)
        .map((d) => (
          <g key={d}>
            <path d={`M${x(d)} 24V${height}`} stroke="var(--rule-2)" />
            <text x={x(d)} y="16" textAnchor="middle" fontSize="12" fill="var(--ink-2)">
              {dayWords(d)}
            </text>
          </g>
        ))}
      {blackouts.map((b) => (
        <g key={b.from}>
          <rect
            x={x(b.from)}
            y="24"
            width={Math.max(3, x(b.to) - x(b.from))}
            height={height - 24}
            fill="var(--rule-2)"
          />
          <title>{b.what || 'left free'}</title>
        </g>
      ))}
      {rings.map((r, i) => {
        const y = 30 + i * rowHeight
        return (
          <g key={r.name}>
            <path d={`M0 ${y + rowHeight - 4}H${width}`} stroke="var(--rule-2)" />
            <text x="0" y={y + 18} fontSize="15" fontWeight="700" fill="var(--ink)">
              {r.name}
            </text>
            <text x="0" y={y + 36} fontSize="12" fill={r.status === 'stopped' ? 'var(--oxide)' : 'var(--ink-2)'}>
              {statusWords[r.status] || `${r.units.length} ${r.units.length === 1 ? 'unit' : 'units'}`}
            </text>
            <path
              d={`M${x(r.notBefore)} ${y + 2}v${block + 8}`}
              stroke="var(--ink-3)"
              strokeDasharray="3 3"
              strokeWidth="1.5"
            />
            {packed(r.units, x).map(({ unit, at }) => {
              const p = paint[unit.state]
              return (
                // biome-ignore lint/a11y/noStaticElementInteractions: the list below does the same for the keyboard
                <g key={unit.number} onClick={() => onChoose(unit.number)} style={{ cursor: 'pointer' }}>
                  <rect
                    x={at}
                    y={y + 5}
                    width={block}
                    height={block}
                    rx="6"
                    fill={p.fill}
                    stroke={chosen === unit.number ? 'var(--ink)' : p.rim}
                    strokeWidth={chosen === unit.number ? 3 : 1.8}
                  />
                  <text
                    x={at + block / 2}
                    y={y + 25}
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
            })}
          </g>
        )
      })}
      <path d={`M${x(now)} 24V${height}`} stroke="var(--oxide)" strokeWidth="1.5" />
      <text x={x(now)} y={height - 1} textAnchor="middle" fontSize="11" fill="var(--oxide)">
        now
      </text>
    </svg>
  )
}
