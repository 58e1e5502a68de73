import { type LearningCurve, minutesAt } from '@fresh-coat/core/calculators/learning'

const width = 900
const height = 190
const left = 56
const top = 16
const bottom = 30
const ahead = 5

/** Minutes of each unit as it was made, the curve through them, and where the next ones would lie on it. */
export function LearningDots({ name, taken, curve }: { name: string; taken: readonly number[]; curve: LearningCurve }) {
  const count = taken.length + ahead
  const most = Math.max(...taken, curve.first) * 1.08
  const x = (n: number) => left + ((n - 0.5) / count) * (width - left - 20)
  const y = (minutes: number) => top + (1 - minutes / most) * (height - top - bottom)
  const line = (from: number, to: number) =>
    Array.from({ length: 41 }, (_, i) => from + ((to - from) * i) / 40)
      .map((n, i) => `${i === 0 ? 'M' : 'L'}${x(n).toFixed(1)} ${y(minutesAt(curve, n)).toFixed(1)}`)
      .join('')
  const next = minutesAt(curve, taken.length + 1)
  const mark = most > 100 ? 50 : most > 40 ? 20 : 10
  return (
    <svg
      viewBox={`0 0 ${width} ${height}`}
      className="w-full min-w-[560px]"
      role="img"
      aria-label={`${name}: ${taken.map((m) => Math.round(m)).join(', ')} minutes; the next would take ${Math.round(next)}`}
    >
      {Array.from({ length: Math.floor(most / mark) + 1 }, (_, i) => i * mark).map((m) => (
        <g key={m}>
          <path d={`M${left} ${y(m)}H${width - 10}`} stroke="var(--rule)" strokeWidth="1" />
          <text x={left - 8} y={y(m) + 4} textAnchor="end" fontSize="12" fill="var(--ink-2)">
            {m}
            {m === 0 ? ' min' : ''}
          </text>
        </g>
      ))}
      <path d={line(1, taken.length)} fill="none" stroke="var(--prussian)" strokeWidth="2.5" />
      <path
        d={line(taken.length, count)}
        fill="none"
        stroke="var(--prussian)"
        strokeWidth="2"
        strokeDasharray="2 6"
        strokeLinecap="round"
      />
      {taken.map((minutes, i) => (
        <circle
          key={i}
          cx={x(i + 1)}
          cy={y(minutes)}
          r="5"
          fill="var(--sheet)"
          stroke="var(--prussian)"
          strokeWidth="2.5"
        />
      ))}
      <text
        x={x(taken.length + 1)}
        y={y(next) - 12}
        fontSize="13"
        fontWeight="700"
        fill="var(--ink)"
        textAnchor="middle"
      >
        next {Math.round(next)} min
      </text>
      <text x={x(1)} y={height - 8} fontSize="12" fill="var(--ink-2)" textAnchor="middle">
        first
      </text>
      <text x={x(taken.length)} y={height - 8} fontSize="12" fill="var(--ink-2)" textAnchor="middle">
        {taken.length}th
      </text>
    </svg>
  )
}
