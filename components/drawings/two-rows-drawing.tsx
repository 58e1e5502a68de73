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
  rows: readonly [readonly PadRole[], readonly PadRole[]]
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
  const used = (row: 0 | 1, column: number) => plan.wires.find((w) => w.row === row && w.column === column)
  // Fed from elsewhere: its pin is there all the same, and no wire of the adapter goes to it.
  const supply = plan.wires.some((w) => w.role === '3V3')
    ? null
    : ([0, 1] as const).flatMap((r) => (rows[r].includes('3V3') ? [{ row: r, column: rows[r].indexOf('3V3') }] : []))[0]
  const inkOf = (row: 0 | 1, column: number) => {
    const wire = used(row, column)
    if (wire) return leadInk(wire.role)
    return supply?.row === row && supply.column === column ? leadInk('3V3') : 'var(--sheet)'
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
          <line
            key={w.role}
            x1={xPin(w.adapter)}
            y1={at.socket}
            x2={xPad(w.column)}
            y2={at.rows[w.row]}
            stroke={leadInk(w.role)}
            strokeWidth={w.layer === 'top' ? 0.8 : 0.6}
            strokeDasharray={w.layer === 'bottom' ? '1.2 0.6' : undefined}
            strokeLinecap="round"
          />
        ))}
      {rows.map((row, r) =>
        row.map((role, column) => {
          const ink = inkOf(r as 0 | 1, column)
          // Beside a socket there is no room outside: the near row's names stand between the rows.
          const inside = socket && r === plan.near
          const named = !inside || (plan.gap >= 3 && role !== 'UNKNOWN')
          const up = (r === 0) !== inside
          const [x, y] = [xPad(column), at.rows[r] as number]
          return (
            <g key={`${r} ${column}`}>
              {r === 0 && column === 0 ? (
                <rect
                  x={x - 0.9}
                  y={y - 0.9}
                  width="1.8"
                  height="1.8"
                  fill={ink}
                  stroke="var(--ink)"
                  strokeWidth="0.2"
                />
              ) : (
                <circle cx={x} cy={y} r="0.9" fill={ink} stroke="var(--ink)" strokeWidth="0.2" />
              )}
              {named && <Word x={x} y={y + (up ? -1.8 : 1.8)} text={role === 'UNKNOWN' ? '–' : role} up={up} />}
            </g>
          )
        }),
      )}
      {socket &&
        adapter.map((name, index) => (
          <g key={`${index} ${name}`}>
            <rect
              x={xPin(index) - 1}
              y={at.socket - 1}
              width="2"
              height="2"
              fill="var(--sheet)"
              stroke="var(--ink)"
              strokeWidth="0.25"
            />
            {index === 0 && (
              <path
                d={`M${xPin(0) - 1} ${at.socket + (plan.near === 0 ? 1.7 : -1.7)} h2`}
                stroke="var(--ink)"
                strokeWidth="0.5"
              />
            )}
            <Word x={xPin(index)} y={at.socket + (plan.near === 0 ? -2 : 2)} text={name} up={plan.near === 0} />
          </g>
        ))}
    </svg>
  )
}
