import type { Jig, StraightPlug } from '@fresh-coat/core/wiring/jig'
import { leadColours, type PadRole } from '@fresh-coat/core/wiring/wiring'
import { leadInk } from './lead-ink'

/** All drawings here are in millimetres: one unit is one millimetre on paper. */
const boardPitch = 2.54

/** A pin name or role, upright beside its hole. */
function Name({ x, y, text, up }: { x: number; y: number; text: string; up: boolean }) {
  return (
    <text
      x={x}
      y={y}
      // In style, not as an attribute: the class for pins sets a size of its own.
      style={{ fontSize: '2px' }}
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

const margin = 4
const nameRoom = 5.5
/** Between the two headers: as many rows of holes as the plan says, exactly to scale. */
const between = (jig: Jig) => (jig.rows - 1) * boardPitch
const hundredths = (mm: number) => Math.round(mm * 100) / 100
const spanOf = (adapter: number, pads: number, pitchAdapter: number, pitchPads: number) =>
  Math.max((adapter - 1) * pitchAdapter, (pads - 1) * pitchPads, boardPitch)

/**
 * A jig on perfboard: the pad header on the lower edge, the adapter's socket on the upper one. Seen from the parts side,
 * or mirrored for the side that is soldered. Dashed: bare wire along the bottom; solid: insulated, on top.
 */
export function JigDrawing({
  jig,
  adapter,
  pads,
  side,
  pitchPads,
  pitchAdapter,
  print = false,
}: {
  jig: Jig
  adapter: readonly string[]
  pads: readonly PadRole[]
  side: 'parts' | 'solder'
  pitchPads: number
  pitchAdapter: number
  print?: boolean
}) {
  const widthMm = hundredths(spanOf(adapter.length, pads.length, pitchAdapter, pitchPads) + 2 * margin)
  const heightMm = hundredths(between(jig) + 2 * (margin + nameRoom))
  const row = jig.adapterReversed ? adapter.map((_, i) => adapter.length - 1 - i) : adapter.map((_, i) => i)
  const mirror = (x: number) => (side === 'solder' ? widthMm - x : x)
  const xPin = (place: number) => mirror(margin + place * pitchAdapter)
  const xPad = (place: number) => mirror(margin + place * pitchPads)
  const yPin = margin + nameRoom
  const yPad = yPin + between(jig)
  return (
    <svg
      viewBox={`0 0 ${widthMm} ${heightMm}`}
      {...(print
        ? { width: `${widthMm}mm`, height: `${heightMm}mm` }
        : { className: 'w-full', style: { maxWidth: widthMm * 12 } })}
      role="img"
      aria-label={`Jig from the ${side} side: ${jig.wires.map((w) => `adapter pin ${w.adapter + 1} ${adapter[w.adapter]} to pad ${w.pad + 1} ${w.role}, ${w.layer}`).join('; ')}`}
      xmlns="http://www.w3.org/2000/svg"
    >
      <rect
        x="0.3"
        y="0.3"
        width={widthMm - 0.6}
        height={heightMm - 0.6}
        rx="1.6"
        fill="var(--board)"
        stroke="var(--verdigris)"
        strokeWidth="0.25"
      />
      {Array.from({ length: jig.rows }, (_, r) =>
        Array.from({ length: jig.cols }, (_, c) => (
          <circle
            key={`${r}-${c}`}
            cx={mirror(margin + c * boardPitch)}
            cy={yPin + r * boardPitch}
            r="0.42"
            fill="none"
            stroke="var(--ink-3)"
            strokeWidth="0.12"
          />
        )),
      )}
      {jig.wires.map((w) => (
        <line
          key={w.role}
          x1={xPin(row.indexOf(w.adapter))}
          y1={yPin}
          x2={xPad(w.pad)}
          y2={yPad}
          stroke={leadInk(w.role)}
          strokeWidth={w.layer === 'top' ? 0.8 : 0.6}
          strokeDasharray={w.layer === 'bottom' ? '1.2 0.6' : undefined}
          strokeLinecap="round"
        />
      ))}
      {row.map((index, place) => (
        <g key={`a${index}`}>
          <rect
            x={xPin(place) - 1}
            y={yPin - 1}
            width="2"
            height="2"
            fill="var(--sheet)"
            stroke="var(--ink)"
            strokeWidth="0.25"
          />
          {index === 0 && <path d={`M${xPin(place) - 1} ${yPin - 1.8} h2`} stroke="var(--ink)" strokeWidth="0.5" />}
          <Name x={xPin(place)} y={yPin - 2.2} text={adapter[index] ?? ''} up />
        </g>
      ))}
      {pads.map((role, place) => (
        <g key={`p${place}`}>
          {place === 0 ? (
            <rect
              x={xPad(place) - 0.95}
              y={yPad - 0.95}
              width="1.9"
              height="1.9"
              fill="var(--copper)"
              stroke="var(--ink)"
              strokeWidth="0.2"
            />
          ) : (
            <circle cx={xPad(place)} cy={yPad} r="0.95" fill="var(--copper)" stroke="var(--ink)" strokeWidth="0.2" />
          )}
          <Name x={xPad(place)} y={yPad + 2.2} text={role === 'UNKNOWN' ? '–' : role} up={false} />
        </g>
      ))}
    </svg>
  )
}

/** An adapter's row lying straight over the pads: which pins go in, which are bent away. */
export function StraightDrawing({
  plug,
  adapter,
  pads,
}: {
  plug: StraightPlug
  adapter: readonly string[]
  pads: readonly PadRole[]
}) {
  const row = plug.orientation === 'reversed' ? adapter.map((_, i) => adapter.length - 1 - i) : adapter.map((_, i) => i)
  const left = Math.min(0, plug.offset)
  const right = Math.max(pads.length, plug.offset + adapter.length)
  const pitch = 58
  const width = (right - left) * pitch + 30
  const x = (place: number) => 15 + pitch / 2 + (place - left) * pitch
  return (
    <svg
      viewBox={`0 0 ${width} 172`}
      className="w-full"
      style={{ maxWidth: width * 1.05 }}
      role="img"
      aria-label={`Plug it straight on${plug.orientation === 'reversed' ? ', turned round' : ''}. Bend away and insulate: ${plug.bend.map((i) => `pin ${i + 1} ${adapter[i]}`).join(', ') || 'none'}.`}
    >
      <rect
        x={x(plug.offset) - 29}
        y="8"
        width={adapter.length * pitch}
        height="60"
        rx="8"
        fill="var(--sheet-2)"
        stroke="var(--ink-3)"
      />
      <rect
        x={x(0) - 29}
        y="104"
        width={pads.length * pitch}
        height="60"
        rx="8"
        fill="var(--board)"
        stroke="var(--verdigris)"
      />
      {row.map((index, k) => {
        const mate = plug.mates.find((m) => m.adapter === index)
        const at = x(plug.offset + k)
        return (
          <g key={index}>
            <text
              x={at}
              y="30"
              textAnchor="middle"
              className="pin"
              style={{ fontSize: 15 }}
              fontWeight="600"
              fill={mate ? 'var(--ink)' : 'var(--ink-3)'}
            >
              {adapter[index]}
            </text>
            {index === 0 && (
              <text x={at} y="48" textAnchor="middle" fontSize="10.5" fill="var(--ink-2)">
                pin 1
              </text>
            )}
            {mate ? (
              <path
                d={`M${at} 52 V122`}
                stroke={leadInk(pads[mate.pad] as PadRole)}
                strokeWidth="6"
                strokeLinecap="round"
              />
            ) : (
              <>
                <path
                  d={`M${at} 52 q0 20 20 24`}
                  fill="none"
                  stroke="var(--ink-3)"
                  strokeWidth="5"
                  strokeLinecap="round"
                />
                <text x={at + 4} y="93" textAnchor="middle" fontSize="11.5" fontWeight="600" fill="var(--ochre)">
                  bend
                </text>
              </>
            )}
          </g>
        )
      })}
      {pads.map((role, i) => (
        <g key={i}>
          {i === 0 ? (
            <rect x={x(i) - 11} y="118" width="22" height="22" fill="var(--copper)" stroke="#7a5d15" />
          ) : (
            <circle cx={x(i)} cy="129" r="11" fill="var(--copper)" stroke="#7a5d15" />
          )}
          <text
            x={x(i)}
            y="157"
            textAnchor="middle"
            className="pin"
            style={{ fontSize: 14 }}
            fontWeight="600"
            fill="var(--ink)"
          >
            {role === 'UNKNOWN' ? '?' : role}
          </text>
        </g>
      ))}
    </svg>
  )
}

export const wireWord = (role: PadRole): string => leadColours[role] ?? 'any colour'
