import { dayWords } from '@fresh-coat/core/edge/day'
import type { EnergyInterval } from '@fresh-coat/core/metering/energy'

const width = 480
const height = 150
const foot = 24
const most = 120

/** Each stretch as a bar, as wide as it lasted: full what it was, the line across it what was counted. */
export function EnergyBars({ intervals }: { intervals: readonly EnergyInterval[] }) {
  const shown = intervals.slice(-most)
  const from = Date.parse(shown[0]?.from ?? '')
  const until = Date.parse(shown.at(-1)?.to ?? '')
  const perDay = (kWh: number, i: EnergyInterval) =>
    kWh / Math.max(1 / 24, (Date.parse(i.to) - Date.parse(i.from)) / 86_400_000)
  const highest = Math.max(1e-9, ...shown.flatMap((i) => [perDay(i.kWh, i), perDay(i.corrected, i)]))
  const x = (at: string) => ((Date.parse(at) - from) / Math.max(1, until - from)) * width
  const y = (value: number) => (height - foot) * (1 - value / highest)
  return (
    <svg
      viewBox={`0 0 ${width} ${height}`}
      className="w-full"
      role="img"
      aria-label={`Energy per day over ${intervals.length} stretches, at most ${highest.toPrecision(2)} kWh a day.`}
    >
      {shown.map((i) => {
        const [left, right] = [x(i.from), x(i.to)]
        const top = y(perDay(i.corrected, i))
        return (
          <g key={i.from}>
            <rect
              x={left}
              y={top}
              width={Math.max(1, right - left - 1)}
              height={height - foot - top}
              fill="var(--verdigris)"
            />
            <path
              d={`M${left} ${y(perDay(i.kWh, i))}H${Math.max(left + 1, right - 1)}`}
              stroke="var(--ink)"
              strokeWidth="2"
            />
          </g>
        )
      })}
      <path d={`M0 ${height - foot}H${width}`} stroke="var(--ink)" />
      <text x={0} y={height - 7} fontSize="12" fill="var(--ink-2)">
        {dayWords(shown[0]?.from.slice(0, 10) ?? '')}
      </text>
      <text x={width} y={height - 7} textAnchor="end" fontSize="12" fill="var(--ink-2)">
        {dayWords(shown.at(-1)?.to.slice(0, 10) ?? '')}, at most {highest.toPrecision(2)} kWh a day
      </text>
    </svg>
  )
}
