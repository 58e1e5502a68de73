import type { PadRole } from '@fresh-coat/core/wiring/wiring'

/** A row of pads seen from the parts side: the first is square, the others are round. */
export function PadRow({ pads }: { pads: readonly PadRole[] }) {
  if (pads.length === 0)
    return (
      <p className="rounded-[10px] border border-dashed border-rule p-4 text-ink-2">
        No pad yet. Add as many as the row has, then say what each is.
      </p>
    )
  const width = pads.length * 84 + 40
  return (
    <svg
      viewBox={`0 0 ${width} 104`}
      className="max-h-[120px] w-full max-w-[720px]"
      role="img"
      aria-label={`Pads from the parts side: ${pads.join(', ')}`}
    >
      <rect
        x="1"
        y="1"
        width={width - 2}
        height="102"
        rx="10"
        fill="var(--board)"
        stroke="var(--verdigris)"
        strokeWidth="1.5"
      />
      {pads.map((role, i) => {
        const x = 20 + 42 + i * 84
        const known = role !== 'UNKNOWN'
        return (
          <g key={i}>
            {i === 0 ? (
              <rect x={x - 17} y={20} width="34" height="34" fill="var(--copper)" stroke="#7a5d15" />
            ) : (
              <circle cx={x} cy={37} r="17" fill="var(--copper)" stroke="#7a5d15" />
            )}
            <circle cx={x} cy={37} r="7.5" fill="var(--sheet)" stroke="#7a5d15" />
            <text
              x={x}
              y={82}
              textAnchor="middle"
              className="pin"
              fontSize="17"
              fontWeight="600"
              fill={known ? 'var(--ink)' : 'var(--ink-3)'}
            >
              {known ? role : '?'}
            </text>
          </g>
        )
      })}
    </svg>
  )
}
