import type { PadRole } from '@fresh-coat/core/wiring/wiring'

export interface DrawnPad {
  /** Index in the record, which counts from the parts side. */
  index: number
  role: PadRole
  /** How sure, 0 to 1; null when it was set by hand. */
  sure: number | null
  square: boolean
  /** What is printed on the board beside it; shown below the role. */
  label: string
  conflict: boolean
}

/** Pads in rows as they lie before the person, the first one square; a ring tells how sure each is. */
export function PadField({
  pads,
  rows,
  face,
  chosen,
  onChoose,
}: {
  pads: readonly DrawnPad[]
  rows: number
  face: 'top' | 'bottom'
  chosen?: number | null
  onChoose?: (index: number) => void
}) {
  const columns = Math.ceil(pads.length / rows)
  const pitchX = 84
  const pitchY = 112
  const width = columns * pitchX + 40
  const height = rows * pitchY + 36
  const name = (role: PadRole) => (role === 'UNKNOWN' ? '?' : role)
  return (
    <svg
      viewBox={`0 0 ${width} ${height}`}
      className="w-full"
      style={{ maxWidth: Math.max(220, width * 1.05), maxHeight: 140 * rows }}
      role="img"
      aria-label={`Pads from the ${face === 'top' ? 'parts' : 'solder'} side: ${pads.map((p) => (p.role === 'UNKNOWN' ? 'not known' : p.role)).join(', ')}`}
    >
      <rect
        x="1"
        y="1"
        width={width - 2}
        height={height - 2}
        rx="10"
        fill="var(--board)"
        stroke="var(--verdigris)"
        strokeWidth="1.5"
      />
      <text x="12" y={height - 8} fontSize="13" fill="var(--ink-2)">
        {face === 'top' ? 'parts side' : 'solder side, turned like a page'}
      </text>
      {pads.map((pad, at) => {
        const x = 20 + pitchX / 2 + (at % columns) * pitchX
        const y = 44 + Math.floor(at / columns) * pitchY
        const known = pad.role !== 'UNKNOWN'
        const ring = 2 * Math.PI * 25
        return (
          <g
            key={pad.index}
            {...(onChoose ? { onClick: () => onChoose(pad.index), style: { cursor: 'pointer' } } : {})}
          >
            {chosen === pad.index && (
              <rect x={x - 38} y={y - 34} width="76" height="102" rx="9" fill="var(--sheet)" opacity="0.75" />
            )}
            {pad.sure !== null && (
              <circle
                cx={x}
                cy={y}
                r="25"
                fill="none"
                stroke={pad.conflict ? 'var(--oxide)' : 'var(--verdigris)'}
                strokeWidth="4"
                strokeDasharray={`${ring * pad.sure} ${ring}`}
                transform={`rotate(-90 ${x} ${y})`}
              />
            )}
            {pad.square ? (
              <rect x={x - 16} y={y - 16} width="32" height="32" fill="var(--copper)" stroke="#7a5d15" />
            ) : (
              <circle cx={x} cy={y} r="16" fill="var(--copper)" stroke="#7a5d15" />
            )}
            <circle cx={x} cy={y} r="7" fill="var(--sheet)" stroke="#7a5d15" />
            <text
              x={x}
              y={y + 46}
              textAnchor="middle"
              className="pin"
              style={{ fontSize: 17 }}
              fontWeight="700"
              fill={known ? 'var(--ink)' : 'var(--ink-3)'}
            >
              {name(pad.role)}
            </text>
            <text
              x={x - 34}
              y={y - 20}
              textAnchor="middle"
              className="pin"
              style={{ fontSize: 13 }}
              fill="var(--ink-3)"
            >
              {pad.index + 1}
            </text>
            {pad.label && (
              <text x={x} y={y + 62} textAnchor="middle" fontSize="13" fill="var(--ink-2)">
                {pad.label.slice(0, 8)}
              </text>
            )}
          </g>
        )
      })}
    </svg>
  )
}
