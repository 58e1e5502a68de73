import type { LoadCheck } from '@fresh-coat/core/load/check'
import { decidingPart, type UnitLoad } from '@fresh-coat/core/load/of-unit'

const width = 480
const left = 92
const rowHeight = 30
const room = width - left - 60
const short = (a: number) => `${Number(a.toPrecision(3))} A`

/** Each part by what it bears, with the current of the load across all of them; the part that is least decides. */
export function RatingBars({ parts, check }: { parts: UnitLoad['parts']; check: LoadCheck }) {
  const most = Math.max(check.totalA * 1.1, ...parts.map((b) => b.amps))
  const x = (a: number) => left + (a / most) * room
  const height = parts.length * rowHeight + 34
  const long = check.limit.deratedA < check.limit.A
  return (
    <svg
      viewBox={`0 0 ${width} ${height}`}
      className="w-full"
      role="img"
      aria-label={`The load takes ${short(check.totalA)}. ${parts.map((b) => `${b.name} bears ${short(b.amps)}`).join('; ')}.`}
    >
      {parts.map((b, i) => {
        const y = i * rowHeight + 6
        const decides = b.name === decidingPart(check)
        return (
          <g key={`${b.name} ${b.amps}`}>
            <text
              x={left - 8}
              y={y + 15}
              textAnchor="end"
              fontSize="13"
              fontWeight={decides ? 700 : 400}
              fill="var(--ink)"
            >
              {b.name}
            </text>
            <rect
              x={left}
              y={y}
              width={Math.max(2, x(b.amps) - left)}
              height={rowHeight - 10}
              rx="3"
              fill={b.amps < check.totalA ? 'var(--oxide)' : decides ? 'var(--verdigris)' : 'var(--unpainted)'}
              stroke="var(--ink)"
              strokeWidth={decides ? 1.5 : 0.5}
            />
            {decides && long && (
              <path
                d={`M${x(check.limit.deratedA)} ${y - 2}v${rowHeight - 6}`}
                stroke="var(--ink)"
                strokeDasharray="3 3"
              />
            )}
            <text x={x(b.amps) + 6} y={y + 15} className="pin" fontSize="13" fill="var(--ink)">
              {short(b.amps)}
            </text>
          </g>
        )
      })}
      <path d={`M${x(check.totalA)} 0V${height - 22}`} stroke="var(--ink)" strokeWidth="2.5" />
      <text
        x={Math.min(x(check.totalA), width - 80)}
        y={height - 7}
        textAnchor="middle"
        fontSize="13"
        fontWeight="700"
        fill="var(--ink)"
      >
        the load, {short(check.totalA)}
      </text>
    </svg>
  )
}
