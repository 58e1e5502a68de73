'use client'
import type { PadRole } from '@fresh-coat/core/wiring/wiring'
import type { KeyboardEvent } from 'react'
import { wrapped } from './case-drawing'

export interface DrawnPad {
  /** Index in the record, which counts from the parts side. */
  index: number
  role: PadRole
  /** The role that comes next, while both may be so; it is named beside the first. */
  or?: PadRole | null
  /** How sure, 0 to 1; null when it was set by hand. */
  sure: number | null
  square: boolean
  /** What is printed on the board beside it. */
  label: string
  conflict: boolean
  /** What was read here, short. */
  notes?: readonly string[]
}

const roleWord = (role: PadRole) => (role === 'UNKNOWN' ? '?' : role)
const pitchX = 128
const ring = 2 * Math.PI * 38

/** The pad itself with its ring: how sure the role is. */
function Pad({ pad, x, y }: { pad: DrawnPad; x: number; y: number }) {
  return (
    <>
      {pad.sure !== null && (
        <>
          <circle cx={x} cy={y} r="38" fill="none" stroke="var(--rule)" strokeWidth="6" />
          <circle
            cx={x}
            cy={y}
            r="38"
            fill="none"
            stroke={pad.conflict ? 'var(--oxide)' : pad.sure >= 0.9 ? 'var(--verdigris)' : 'var(--prussian)'}
            strokeWidth="6"
            strokeDasharray={`${ring * pad.sure} ${ring}`}
            transform={`rotate(-90 ${x} ${y})`}
          />
        </>
      )}
      {pad.square ? (
        <rect x={x - 28} y={y - 28} width="56" height="56" fill="var(--copper)" stroke="#7a5d15" />
      ) : (
        <circle cx={x} cy={y} r="29" fill="var(--copper)" stroke="#7a5d15" />
      )}
      <circle cx={x} cy={y} r="12" fill="var(--sheet)" stroke="#7a5d15" />
    </>
  )
}

/** What stands below a pad: its print, and what was read. */
const linesOf = (pad: DrawnPad): string[] =>
  [...(pad.label ? [`“${pad.label}”`] : []), ...(pad.notes ?? [])].flatMap((note) => wrapped(note, 17, 2))

function PadColumn({
  pad,
  x,
  y,
  chosen,
  height,
  notes,
}: {
  pad: DrawnPad
  x: number
  y: number
  chosen: boolean
  height: number
  notes: number
}) {
  const known = pad.role !== 'UNKNOWN'
  const lines = linesOf(pad).slice(0, notes)
  const role = pad.or ? `${roleWord(pad.role)} or ${roleWord(pad.or)}` : roleWord(pad.role)
  return (
    <>
      {chosen && (
        <rect
          x={x - 62}
          y={y - 76}
          width="124"
          height={height}
          rx="12"
          fill="var(--sheet)"
          stroke="var(--ochre-line)"
          strokeWidth="3"
        />
      )}
      <text x={x} y={y - 52} textAnchor="middle" className="pin" style={{ fontSize: 15 }} fill="var(--ink-2)">
        {pad.index + 1}
      </text>
      <Pad pad={pad} x={x} y={y} />
      <text
        x={x}
        y={y + 72}
        textAnchor="middle"
        className="pin"
        style={{ fontSize: role.length > 8 ? 17 : 22 }}
        fontWeight="700"
        fill={known ? 'var(--ink)' : 'var(--ink-3)'}
      >
        {role}
      </text>
      {lines.map((line, i) => (
        <text key={`${i} ${line}`} x={x} y={y + 98 + i * 19} textAnchor="middle" fontSize="14.5" fill="var(--ink-2)">
          {line}
        </text>
      ))}
    </>
  )
}

const arrows: { [key: string]: number } = { ArrowLeft: -1, ArrowRight: 1 }

/** Pads in rows as they lie before the person, the first one square; a ring tells how sure each is. */
export function PadField({
  pads,
  rows,
  face,
  chosen,
  onChoose,
  about = '',
}: {
  pads: readonly DrawnPad[]
  rows: number
  face: 'top' | 'bottom'
  chosen?: number | null
  onChoose?: (index: number) => void
  /** What stands at the top of the board: pitch, where the antenna is. */
  about?: string
}) {
  const columns = Math.max(1, Math.ceil(pads.length / rows))
  const most = rows === 1 ? 5 : rows === 2 ? 2 : 1
  const notes = Math.min(most, Math.max(0, ...pads.map((p) => linesOf(p).length)))
  const rowHeight = 172 + notes * 19
  const width = Math.max(3, columns) * pitchX + 40
  const height = rows * rowHeight + 44
  const left = 20 + (width - 40 - columns * pitchX) / 2
  const move = (e: KeyboardEvent) => {
    const by = arrows[e.key]
    if (!by || !onChoose) return
    e.preventDefault()
    const at = pads.findIndex((p) => p.index === chosen)
    const next = pads[Math.min(pads.length - 1, Math.max(0, at + by))]
    if (next) onChoose(next.index)
  }
  return (
    <svg
      viewBox={`0 0 ${width} ${height}`}
      className="min-h-0 w-full flex-1"
      style={{ maxHeight: rows === 1 ? 380 : undefined }}
      {...(onChoose ? { role: 'application', tabIndex: 0, onKeyDown: move } : { role: 'img' })}
      aria-label={`Pads from the ${face === 'top' ? 'parts' : 'solder'} side: ${pads.map((p) => (p.role === 'UNKNOWN' ? 'not known' : p.role)).join(', ')}${onChoose ? '; arrows choose one' : ''}`}
    >
      <rect
        x="2"
        y="2"
        width={width - 4}
        height={height - 4}
        rx="14"
        fill="var(--board)"
        stroke="var(--verdigris)"
        strokeWidth="2"
      />
      <text x="22" y="30" className="pin" style={{ fontSize: 14.5 }} fill="var(--ink-2)">
        {[face === 'top' ? 'parts side' : 'solder side, turned like a page', about].filter(Boolean).join(' · ')}
      </text>
      {pads.map((pad, at) => (
        <g
          key={pad.index}
          data-pad={pad.index + 1}
          {...(onChoose ? { onClick: () => onChoose(pad.index), style: { cursor: 'pointer' } } : {})}
        >
          <PadColumn
            pad={pad}
            x={left + pitchX / 2 + (at % columns) * pitchX}
            y={122 + Math.floor(at / columns) * rowHeight}
            chosen={chosen === pad.index}
            height={rowHeight - 14}
            notes={notes}
          />
        </g>
      ))}
    </svg>
  )
}
