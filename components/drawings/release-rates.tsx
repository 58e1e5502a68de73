import type { Survival } from '@fresh-coat/core/fleet/survival'

const width = 900
const left = 130
const row = 34
const room = width - left - 150

/** Restarts a day of each release, with how sure that is, against the most that is taken. */
export function ReleaseRates({ survival, most }: { survival: Survival; most: number }) {
  const shown = survival.releases.filter((r) => r.rate !== null)
  const top = Math.max(most * 1.6, ...shown.map((r) => Math.min(r.upper ?? 0, most * 4)))
  const x = (rate: number) => left + Math.min(1, rate / top) * room
  const height = shown.length * row + 30
  const perDay = (n: number | null) => (n === null ? '' : n.toPrecision(2))
  return (
    <svg
      viewBox={`0 0 ${width} ${height}`}
      className="w-full min-w-[560px]"
      role="img"
      aria-label={shown
        .map(
          (r) =>
            `${r.version}: ${r.restarts} restarts in ${Math.round(r.days)} unit-days, ${perDay(r.lower)} to ${perDay(r.upper)} a day`,
        )
        .join('. ')}
    >
      <path d={`M${x(most)} 4V${height - 22}`} stroke="var(--oxide)" strokeWidth="2" strokeDasharray="5 5" />
      <text x={x(most)} y={height - 6} fontSize="12" textAnchor="middle" fill="var(--ink-2)">
        at most {most} a day
      </text>
      {shown.map((r, i) => {
        const y = i * row + 20
        const mine = r.version === survival.of
        return (
          <g key={r.version}>
            <text
              x={left - 14}
              y={y + 5}
              textAnchor="end"
              fontSize="15"
              fontWeight={mine ? 800 : 400}
              fill="var(--ink)"
            >
              {r.version}
            </text>
            <path
              d={`M${x(r.lower ?? 0)} ${y}H${x(r.upper ?? 0)}`}
              stroke={mine ? 'var(--prussian)' : 'var(--ink-3)'}
              strokeWidth="9"
              strokeLinecap="round"
              opacity="0.45"
            />
            <circle cx={x(r.rate ?? 0)} cy={y} r="6.5" fill={mine ? 'var(--prussian)' : 'var(--ink-3)'} />
            <text x={width - 4} y={y + 5} textAnchor="end" fontSize="13" fill="var(--ink-2)">
              {r.restarts} in {r.days < 10 ? r.days.toFixed(1) : Math.round(r.days)} unit-days
            </text>
          </g>
        )
      })}
    </svg>
  )
}
