import { ipText, readIp, readSubnet, type Subnet } from '@fresh-coat/core/network/plan'
import { isDrawable, type PlacedUnit } from '@fresh-coat/core/network/site-board'

/** Every address of a network: what the router gives out, ranges of places, others, and each unit where it is and where it goes. */

const columns = 32
const [w, h] = [30, 24]

interface Ends {
  from: string
  to: string
}
const isWithin = (n: number, span: Ends): boolean => {
  const [from, to] = [readIp(span.from), readIp(span.to)]
  return from !== null && to !== null && n >= from && n <= to
}

/** Where an address stands; of one of another network, nowhere. */
function placesOf(net: Subnet) {
  const at = (n: number) => ({
    x: 46 + ((n - net.from) % columns) * w,
    y: 2 + Math.floor((n - net.from) / columns) * h,
  })
  const centre = (ip: string | null): { x: number; y: number } | null => {
    const n = ip === null ? null : readIp(ip)
    if (n === null || n < net.from || n > net.to) return null
    const { x, y } = at(n)
    return { x: x + w / 2, y: y + h / 2 }
  }
  return { at, centre }
}

/** What begins a row of them: the end of its first address. */
function RowName({ n, y, octets }: { n: number; y: number; octets: number }) {
  return (
    <text x="40" y={y + 16} textAnchor="end" className="pin" fontSize="11" fill="var(--ink-2)">
      .
      {ipText(n)
        .split('.')
        .slice(4 - octets)
        .join('.')}
    </text>
  )
}

/** An address: given out by the router, in the range of a place, another's. */
function Cell({
  x,
  y,
  given,
  grouped,
  other,
}: {
  x: number
  y: number
  given: boolean
  grouped: boolean
  other: boolean
}) {
  return (
    <>
      <rect
        x={x + 1}
        y={y + 1}
        width={w - 3}
        height={h - 3}
        rx="4"
        fill={given ? 'var(--rule)' : 'var(--sheet-2)'}
        stroke={grouped ? 'var(--prussian)' : 'var(--rule-2)'}
        strokeWidth={grouped ? 1.6 : 1}
      />
      {other && <circle cx={x + w / 2 - 0.5} cy={y + h / 2} r="4" fill="var(--ink-3)" />}
    </>
  )
}

interface Point {
  x: number
  y: number
}

/** From where a unit is to where it is to be. */
function Move({ from, to }: { from: Point; to: Point }) {
  return (
    <g>
      <path
        d={`M${from.x} ${from.y}L${to.x} ${to.y}`}
        stroke="var(--ochre-line)"
        strokeWidth="2"
        strokeDasharray="5 4"
      />
      <rect
        x={from.x - w / 2 + 2}
        y={from.y - h / 2 + 2}
        width={w - 4}
        height={h - 4}
        rx="4"
        fill="none"
        stroke="var(--ochre-line)"
        strokeWidth="2"
      />
    </g>
  )
}

function UnitCell({ number, at: { x, y }, stays }: { number: number; at: Point; stays: boolean }) {
  return (
    <g>
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
        {String(number).padStart(2, '0')}
      </text>
    </g>
  )
}

export function SubnetMap({
  subnet,
  pool,
  groups,
  taken,
  units,
}: {
  subnet: string
  pool: Ends
  groups: readonly ({ place: string } & Ends)[]
  taken: readonly string[]
  units: readonly PlacedUnit[]
}) {
  const net = readSubnet(subnet)
  if (!net || !isDrawable(subnet))
    return <p className="text-ink-2">A network of this size is not drawn; its list stands below.</p>
  const { at, centre } = placesOf(net)
  const others = new Set(taken.map(readIp))
  const size = net.to - net.from + 1
  const words = units.map((u) => `unit ${u.number} ${u.planned ? `at ${u.planned}` : 'without a place'}`).join('; ')
  const placed = units.map((unit) => ({ unit, from: centre(unit.now), to: centre(unit.planned) }))
  return (
    <svg
      viewBox={`0 0 ${columns * w + 50} ${Math.ceil(size / columns) * h + 6}`}
      className="w-full min-w-[640px]"
      role="img"
      aria-label={`Addresses of ${subnet}: ${words}`}
    >
      {Array.from({ length: size }, (_, i) => {
        const n = net.from + i
        const { x, y } = at(n)
        return (
          <g key={n}>
            {i % columns === 0 && <RowName n={n} y={y} octets={size > 256 ? 2 : 1} />}
            <Cell
              {...{ x, y }}
              given={isWithin(n, pool)}
              grouped={groups.some((g) => isWithin(n, g))}
              other={others.has(n)}
            />
          </g>
        )
      })}
      {placed.map(
        ({ unit, from, to }) =>
          from && to && unit.now !== unit.planned && <Move key={`move ${unit.number}`} from={from} to={to} />,
      )}
      {placed.map(
        ({ unit, to }) =>
          to && <UnitCell key={unit.number} number={unit.number} at={to} stays={unit.now === unit.planned} />,
      )}
    </svg>
  )
}
