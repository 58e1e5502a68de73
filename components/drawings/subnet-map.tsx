import { ipText, readIp, readSubnet, type Subnet } from '@fresh-coat/core/network/plan'
import { isDrawable, type PlacedUnit } from '@fresh-coat/core/network/site-board'
import { useId } from 'react'

/** Every address of a network: what the router gives out, ranges of places, others, and each unit where it is and where it goes. */

const columns = 32
const [w, h] = [30, 24]

interface Ends {
  from: string
  to: string
}

const [left, top] = [46, 2]

/** Where an address stands; of one of another network, nowhere. */
function placesOf(net: Subnet) {
  const at = (n: number) => ({
    x: left + ((n - net.from) % columns) * w,
    y: top + Math.floor((n - net.from) / columns) * h,
  })
  const centre = (ip: string | null): { x: number; y: number } | null => {
    const n = ip === null ? null : readIp(ip)
    if (n === null || n < net.from || n > net.to) return null
    const { x, y } = at(n)
    return { x: x + w / 2, y: y + h / 2 }
  }
  return { at, centre }
}

/** The part of a span that lies in the network, a piece for each row that it touches. */
function piecesOf(net: Subnet, span: Ends) {
  const [first, last] = [readIp(span.from), readIp(span.to)]
  if (first === null || last === null) return []
  const [from, to] = [Math.max(0, first - net.from), Math.min(net.to, last) - net.from]
  const rows = Array.from({ length: Math.ceil((net.to - net.from + 1) / columns) }, (_, row) => row)
  return rows.flatMap((row) => {
    const [a, b] = [Math.max(from, row * columns), Math.min(to, row * columns + columns - 1)]
    return a > b ? [] : [{ x: left + (a % columns) * w, y: top + row * h, width: (b - a + 1) * w, height: h }]
  })
}

/** A kind of address as a pattern of its boxes: hundreds of boxes would be most of the page. */
function Boxes({ id, fill, stroke, thick }: { id: string; fill: string; stroke: string; thick: number }) {
  return (
    <pattern id={id} x={left} y={top} width={w} height={h} patternUnits="userSpaceOnUse">
      <rect x="1" y="1" width={w - 3} height={h - 3} rx="4" fill={fill} stroke={stroke} strokeWidth={thick} />
    </pattern>
  )
}

/** What the router gives out, the ranges of places, and others. */
function Ground({
  net,
  pool,
  groups,
  others,
}: {
  net: Subnet
  pool: Ends
  groups: readonly Ends[]
  others: readonly Point[]
}) {
  const [free, given, grouped] = [useId(), useId(), useId()]
  const all = { from: ipText(net.from), to: ipText(net.to) }
  const kinds: [string, readonly Ends[]][] = [
    [free, [all]],
    [given, [pool]],
    [grouped, groups],
  ]
  return (
    <>
      <defs>
        <Boxes id={free} fill="var(--sheet-2)" stroke="var(--rule-2)" thick={1} />
        <Boxes id={given} fill="var(--rule)" stroke="var(--rule-2)" thick={1} />
        <Boxes id={grouped} fill="none" stroke="var(--prussian)" thick={1.6} />
      </defs>
      {kinds.map(([id, spans]) =>
        spans.flatMap((span, i) =>
          piecesOf(net, span).map((piece) => <rect key={`${id} ${i} ${piece.y}`} {...piece} fill={`url(#${id})`} />),
        ),
      )}
      {others.map(({ x, y }) => (
        <circle key={`${x} ${y}`} cx={x - 0.5} cy={y} r="4" fill="var(--ink-3)" />
      ))}
    </>
  )
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
  const size = net.to - net.from + 1
  const rows = Array.from({ length: Math.ceil(size / columns) }, (_, row) => net.from + row * columns)
  const words = units.map((u) => `unit ${u.number} ${u.planned ? `at ${u.planned}` : 'without a place'}`).join('; ')
  const placed = units.map((unit) => ({ unit, from: centre(unit.now), to: centre(unit.planned) }))
  return (
    <svg
      viewBox={`0 0 ${columns * w + 50} ${rows.length * h + 6}`}
      className="w-full min-w-[640px]"
      role="img"
      aria-label={`Addresses of ${subnet}: ${words}`}
    >
      <Ground net={net} pool={pool} groups={groups} others={[...new Set(taken)].flatMap((ip) => centre(ip) ?? [])} />
      {rows.map((n) => (
        <RowName key={n} n={n} y={at(n).y} octets={size > 256 ? 2 : 1} />
      ))}
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
