import { ipText, readIp, readSubnet } from '@fresh-coat/core/network/plan'
import { isDrawable, type PlacedUnit } from '@fresh-coat/core/network/site-board'

/** Every address of a network: what the router gives out, ranges of places, others, and each unit where it is and where it goes. */

const columns = 32
const [w, h] = [30, 24]

export function SubnetMap({
  subnet,
  pool,
  groups,
  taken,
  units,
}: {
  subnet: string
  pool: { from: string; to: string }
  groups: readonly { place: string; from: string; to: string }[]
  taken: readonly string[]
  units: readonly PlacedUnit[]
}) {
  const net = readSubnet(subnet)
  if (!net || !isDrawable(subnet))
    return <p className="text-ink-2">A network of this size is not drawn; its list stands below.</p>
  const within = (n: number, span: { from: string; to: string }) => {
    const [from, to] = [readIp(span.from), readIp(span.to)]
    return from !== null && to !== null && n >= from && n <= to
  }
  const at = (n: number) => ({
    x: 46 + ((n - net.from) % columns) * w,
    y: 2 + Math.floor((n - net.from) / columns) * h,
  })
  const others = new Set(taken.map(readIp))
  const size = net.to - net.from + 1
  const rows = Math.ceil(size / columns)
  const moves = units.filter((u) => u.now !== null && u.planned !== null && u.now !== u.planned)
  const words = units.map((u) => `unit ${u.number} ${u.planned ? `at ${u.planned}` : 'without a place'}`).join('; ')
  const centre = (ip: string) => {
    const { x, y } = at(readIp(ip) ?? net.from)
    return [x + w / 2, y + h / 2] as const
  }
  const inNet = (ip: string | null) => {
    const n = ip === null ? null : readIp(ip)
    return n !== null && n >= net.from && n <= net.to
  }
  return (
    <svg
      viewBox={`0 0 ${columns * w + 50} ${rows * h + 6}`}
      className="w-full min-w-[640px]"
      role="img"
      aria-label={`Addresses of ${subnet}: ${words}`}
    >
      {Array.from({ length: size }, (_, i) => {
        const n = net.from + i
        const { x, y } = at(n)
        const given = within(n, pool)
        const group = groups.some((g) => within(n, g))
        return (
          <g key={n}>
            {i % columns === 0 && (
              <text x="40" y={y + 16} textAnchor="end" className="pin" fontSize="11" fill="var(--ink-2)">
                .
                {ipText(n)
                  .split('.')
                  .slice(size > 256 ? 2 : 3)
                  .join('.')}
              </text>
            )}
            <rect
              x={x + 1}
              y={y + 1}
              width={w - 3}
              height={h - 3}
              rx="4"
              fill={given ? 'var(--rule)' : 'var(--sheet-2)'}
              stroke={group ? 'var(--prussian)' : 'var(--rule-2)'}
              strokeWidth={group ? 1.6 : 1}
            />
            {others.has(n) && <circle cx={x + w / 2 - 0.5} cy={y + h / 2} r="4" fill="var(--ink-3)" />}
          </g>
        )
      })}
      {moves.map((u) => {
        if (!inNet(u.now) || !inNet(u.planned)) return null
        const [x1, y1] = centre(u.now as string)
        const [x2, y2] = centre(u.planned as string)
        return (
          <g key={`move ${u.number}`}>
            <path d={`M${x1} ${y1}L${x2} ${y2}`} stroke="var(--ochre-line)" strokeWidth="2" strokeDasharray="5 4" />
            <rect
              x={x1 - w / 2 + 2}
              y={y1 - h / 2 + 2}
              width={w - 4}
              height={h - 4}
              rx="4"
              fill="none"
              stroke="var(--ochre-line)"
              strokeWidth="2"
            />
          </g>
        )
      })}
      {units.map((u) => {
        if (!inNet(u.planned)) return null
        const [x, y] = centre(u.planned as string)
        const stays = u.now === u.planned
        return (
          <g key={u.number}>
            <rect
              x={x - w / 2 + 1}
              y={y - h / 2 + 1}
              width={w - 3}
              height={h - 3}
              rx="4"
              fill={stays ? 'var(--ok-soft)' : 'var(--ochre-soft)'}
              stroke="var(--ink)"
              strokeWidth="1.8"
            />
            <text
              x={x - 0.5}
              y={y + 4.5}
              textAnchor="middle"
              className="pin"
              fontSize="12"
              fontWeight="700"
              fill="var(--ink)"
            >
              {String(u.number).padStart(2, '0')}
            </text>
          </g>
        )
      })}
    </svg>
  )
}
