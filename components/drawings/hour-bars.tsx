import { amount } from '@/components/paint/paint'

/** Watts of a day, hour by hour, and of a month, day by day. An hour without a reading is a gap and no zero. */

export interface HourBar {
  hour: number
  messages: number
  meanW: number | null
  mostW: number
}

const hourMs = 3_600_000
const dayMs = 24 * hourMs
const [width, height] = [560, 90]

interface Bar {
  from: number
  mean: number | null
  most: number
}

function Bars({ bars, label, ends }: { bars: readonly Bar[]; label: string; ends: [string, string] }) {
  const most = Math.max(0, ...bars.map((b) => b.most))
  const scale = Math.max(1, most)
  const pitch = width / bars.length
  const known = bars.filter((b) => b.mean !== null)
  const mean = known.length > 0 ? known.reduce((sum, b) => sum + (b.mean ?? 0), 0) / known.length : null
  const words =
    mean === null
      ? `${label}: nothing was measured`
      : `${label}: ${amount(Math.round(mean))} W on average, ${amount(Math.round(most))} W at most`
  return (
    <figure className="grid gap-1">
      <figcaption className="text-[0.93rem] text-ink-2">{words}</figcaption>
      <svg viewBox={`0 0 ${width} ${height + 16}`} className="w-full" role="img" aria-label={words}>
        <path d={`M0 ${height}H${width}`} stroke="var(--rule)" />
        {bars.map((b, i) =>
          b.mean === null ? null : (
            <g key={b.from}>
              <rect
                x={i * pitch + 1}
                y={height - (b.most / scale) * height}
                width={Math.max(1, pitch - 2)}
                height={(b.most / scale) * height}
                fill="var(--sheet-2)"
                stroke="var(--rule)"
              />
              <rect
                x={i * pitch + 1}
                y={height - (b.mean / scale) * height}
                width={Math.max(1, pitch - 2)}
                height={(b.mean / scale) * height}
                fill="var(--prussian)"
              />
            </g>
          ),
        )}
        <text x="0" y={height + 13} fontSize="11" fill="var(--ink-2)">
          {ends[0]}
        </text>
        <text x={width} y={height + 13} fontSize="11" textAnchor="end" fill="var(--ink-2)">
          {ends[1]}
        </text>
      </svg>
    </figure>
  )
}

export function HourBars({ hours, now }: { hours: readonly HourBar[]; now: number }) {
  const byHour = new Map(hours.map((h) => [h.hour, h]))
  const thisHour = now - (now % hourMs)
  const day: Bar[] = Array.from({ length: 24 }, (_, i) => {
    const from = thisHour - (23 - i) * hourMs
    const h = byHour.get(from)
    return { from, mean: h?.meanW ?? null, most: h?.meanW == null ? 0 : h.mostW }
  })
  const today = now - (now % dayMs)
  const month: Bar[] = Array.from({ length: 30 }, (_, i) => {
    const from = today - (29 - i) * dayMs
    const of = hours.filter((h) => h.hour >= from && h.hour < from + dayMs && h.meanW !== null)
    return {
      from,
      mean: of.length === 0 ? null : of.reduce((sum, h) => sum + (h.meanW ?? 0), 0) / of.length,
      most: Math.max(0, ...of.map((h) => h.mostW)),
    }
  })
  return (
    <div className="grid gap-4">
      <Bars bars={day} label="The last 24 hours" ends={['−24 h', 'now']} />
      <Bars bars={month} label="The last 30 days" ends={['−30 d', 'today']} />
    </div>
  )
}
