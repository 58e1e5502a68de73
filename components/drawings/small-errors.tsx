interface Point {
  x: number
  before: number | null
  after: number | null
  verify: boolean
}

const width = 180
const height = 96
const pad = 10
const [least, most] = [3, 3000]
const x = (watts: number) =>
  pad + ((width - 2 * pad) * Math.log(Math.min(most, Math.max(least, watts)) / least)) / Math.log(most / least)

/** A calibration small enough to stand beside others: squares what the unit said, dots what it says after, on one scale for all. */
export function SmallErrors({ points, spanPct, label }: { points: readonly Point[]; spanPct: number; label: string }) {
  const y = (pct: number) => height / 2 - (Math.max(-spanPct, Math.min(spanPct, pct)) / spanPct) * (height / 2 - pad)
  return (
    <svg viewBox={`0 0 ${width} ${height}`} className="w-full" role="img" aria-label={label}>
      <path d={`M${pad} ${height / 2}H${width - pad}`} stroke="var(--ink)" strokeWidth="1" />
      {points.map((p) => (
        <g key={`${p.x} ${p.before} ${p.verify}`}>
          {p.before !== null && (
            <rect
              x={x(p.x) - 3.5}
              y={y(p.before) - 3.5}
              width="7"
              height="7"
              fill="none"
              stroke="var(--ochre-line)"
              strokeWidth="2"
            />
          )}
          {p.after !== null && (
            <circle
              cx={x(p.x)}
              cy={y(p.after)}
              r="3.5"
              fill={p.verify ? 'var(--sheet)' : 'var(--ink)'}
              stroke="var(--ink)"
              strokeWidth="1.5"
            />
          )}
        </g>
      ))}
    </svg>
  )
}

/** The scale that holds all of them, in per cent. */
export const spanOf = (plots: readonly { points: readonly Point[] }[]): number =>
  Math.max(2, ...plots.flatMap((p) => p.points.flatMap((q) => [Math.abs(q.before ?? 0), Math.abs(q.after ?? 0)])))
