import type { TwoRowsPlan } from '@fresh-coat/core/wiring/two-rows'
import type { PadRole } from '@fresh-coat/core/wiring/wiring'
import { leadInk } from './lead-ink'

/** In millimetres, one unit is one millimetre on paper. */
const hole = 2.54
const margin = 4
const names = 7
const hundredths = (mm: number) => Math.round(mm * 100) / 100

function Word({ x, y, text, up }: { x: number; y: number; text: string; up: boolean }) {
  return (
    <text
      x={x}
      y={y}
      style={{ fontSize: '1.9px' }}
      textAnchor={up ? 'start' : 'end'}
      dominantBaseline="central"
      transform={`rotate(-90 ${x} ${y})`}
      className="pin"
      fontWeight="600"
      fill="var(--ink)"
    >
      {text}
    </text>
  )
}

/** Heights of the three rows of contacts: the near row lies next to the socket, which stands above row 0 or below row 1. */
function heights(plan: TwoRowsPlan, socket: boolean) {
  const gap = plan.gap * hole
  const toSocket = socket ? (plan.rows - 1 - plan.gap) * hole : 0
  const top = margin + names
  const upper = plan.near === 0 ? top + toSocket : top
  const lower = upper + gap
  return {
    rows: [upper, lower] as const,
    socket: plan.near === 0 ? top : lower + toSocket,
    height: hundredths(top + toSocket + gap + names + margin),
  }
}

type Rows = readonly [readonly PadRole[], readonly PadRole[]]

/** The pin that is fed from elsewhere: it is there all the same, and no wire of the adapter goes to it. */
function supplyOf(plan: TwoRowsPlan, rows: Rows): { row: number; column: number } | null {
  if (plan.wires.some((w) => w.role === '3V3')) return null
  const row = rows.findIndex((r) => r.includes('3V3'))
  return row < 0 ? null : { row, column: (rows[row] as readonly PadRole[]).indexOf('3V3') }
}

/** What colours each pin: the lead that goes to it. */
function inksOf(plan: TwoRowsPlan, rows: Rows): (row: number, column: number) => string {
  const supply = supplyOf(plan, rows)
  return (row, column) => {
    const wire = plan.wires.find((w) => w.row === row && w.column === column)
    if (wire) return leadInk(wire.role)
    return supply?.row === row && supply.column === column ? leadInk('3V3') : 'var(--sheet)'
  }
}

/** A pin of the two rows; the first of all is square. @param up where its name stands, null: it has none */
function RowPin({
  x,
  y,
  ink,
  first,
  role,
  up,
}: {
  x: number
  y: number
  ink: string
  first: boolean
  role: PadRole
  up: boolean | null
}) {
  const rim = { fill: ink, stroke: 'var(--ink)', strokeWidth: 0.2 }
  return (
    <g>
      {first ? (
        <rect x={x - 0.9} y={y - 0.9} width="1.8" height="1.8" {...rim} />
      ) : (
        <circle cx={x} cy={y} r="0.9" {...rim} />
      )}
      {up !== null && <Word x={x} y={y + (up ? -1.8 : 1.8)} text={role === 'UNKNOWN' ? '–' : role} up={up} />}
    </g>
  )
}

/** A pin of the adapter's socket, whose first is marked on the side away from the rows' names. */
function SocketPin({
  x,
  y,
  name,
  first,
  above,
}: {
  x: number
  y: number
  name: string
  first: boolean
  above: boolean
}) {
  return (
    <g>
      <rect x={x - 1} y={y - 1} width="2" height="2" fill="var(--sheet)" stroke="var(--ink)" strokeWidth="0.25" />
      {first && <path d={`M${x - 1} ${y + (above ? 1.7 : -1.7)} h2`} stroke="var(--ink)" strokeWidth="0.5" />}
      <Word x={x} y={y + (above ? -2 : 2)} text={name} up={above} />
    </g>
  )
}

function Wire({
  wire,
  from,
  to,
}: {
  wire: TwoRowsPlan['wires'][number]
  from: [number, number]
  to: [number, number]
}) {
  return (
    <line
      x1={from[0]}
      y1={from[1]}
      x2={to[0]}
      y2={to[1]}
      stroke={leadInk(wire.role)}
      strokeWidth={wire.layer === 'top' ? 0.8 : 0.6}
      strokeDasharray={wire.layer === 'bottom' ? '1.2 0.6' : undefined}
      strokeLinecap="round"
    />
  )
}

/**
 * Two rows of pins with what belongs on each: as a plug, whose leads go loose to the adapter, or as a jig with the adapter's
 * socket. From the parts side, or turned for the side that is soldered.
 */
export function TwoRowsDrawing({
  plan,
  rows,
  adapter,
  side,
  pitchPads,
  pitchAdapter,
  socket,
  print = false,
}: {
  plan: TwoRowsPlan
  rows: Rows
  adapter: readonly string[]
  side: 'parts' | 'solder'
  pitchPads: number
  pitchAdapter: number
  /** With the adapter's socket: a jig; without: a plug. */
  socket: boolean
  print?: boolean
}) {
  const across = Math.max((rows[0].length - 1) * pitchPads, socket ? (adapter.length - 1) * pitchAdapter : 0, hole)
  const width = hundredths(across + 2 * margin)
  const at = heights(plan, socket)
  const mirror = (x: number) => (side === 'solder' ? width - x : x)
  const xPad = (column: number) => mirror(margin + column * pitchPads)
  const place = (index: number) => (plan.adapterReversed ? adapter.length - 1 - index : index)
  const xPin = (index: number) => mirror(margin + place(index) * pitchAdapter)
  const inkOf = inksOf(plan, rows)
  // Beside a socket there is no room outside: the near row's names stand between the rows.
  const upOf = (row: number, role: PadRole): boolean | null => {
    const inside = socket && row === plan.near
    return !inside || (plan.gap >= 3 && role !== 'UNKNOWN') ? (row === 0) !== inside : null
  }
  const wires = plan.wires.map((w) => `${w.role} at row ${w.row + 1}, pin ${w.column + 1}`).join('; ')
  return (
    <svg
      viewBox={`0 0 ${width} ${at.height}`}
      {...(print
        ? { width: `${width}mm`, height: `${at.height}mm` }
        : { className: 'w-full', style: { maxWidth: width * 11 } })}
      role="img"
      aria-label={`${socket ? 'Jig' : 'Plug'} of two rows from the ${side} side: ${wires}`}
      xmlns="http://www.w3.org/2000/svg"
    >
      <rect
        x="0.3"
        y="0.3"
        width={width - 0.6}
        height={at.height - 0.6}
        rx="1.6"
        fill="var(--board)"
        stroke="var(--verdigris)"
        strokeWidth="0.25"
      />
      {socket &&
        plan.wires.map((w) => (
          <Wire key={w.role} wire={w} from={[xPin(w.adapter), at.socket]} to={[xPad(w.column), at.rows[w.row]]} />
        ))}
      {rows.flatMap((row, r) =>
        row.map((role, column) => (
          <RowPin
            key={`${r} ${column}`}
            x={xPad(column)}
            y={at.rows[r] as number}
            ink={inkOf(r, column)}
            first={r === 0 && column === 0}
            role={role}
            up={upOf(r, role)}
          />
        )),
      )}
      {socket &&
        adapter.map((name, index) => (
          <SocketPin
            key={`${index} ${name}`}
            x={xPin(index)}
            y={at.socket}
            name={name}
            first={index === 0}
            above={plan.near === 0}
          />
        ))}
    </svg>
  )
}
