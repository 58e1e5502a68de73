import type { PulseResolution } from '@fresh-coat/core/metering/pulse'

const width = 640
const left = 90
const row = 30
const room = width - left - 150
/** From a hundredth of a second to a minute. */
const [least, most] = [0.01, 60]
const x = (seconds: number) =>
  left + (room * Math.log(Math.min(most, Math.max(least, seconds)) / least)) / Math.log(most / least)
const words = (s: number): string =>
  s >= 1 ? `${Number(s.toPrecision(3))} s` : `${Number((s * 1000).toPrecision(3))} ms`

/** How long the first sight of each power takes: one pulse; what comes after the limit is shown as 0. */
export function UpdateBars({ resolution }: { resolution: readonly PulseResolution[] }) {
  return (
    <svg
      viewBox={`0 0 ${width} ${resolution.length * row + 6}`}
      className="w-full"
      role="img"
      aria-label={resolution
        .map(
          (r) =>
            `${r.W} W is seen after ${words(r.firstUpdateS)}${r.seenBeforeTimeout ? '' : ', too late: it shows 0'}`,
        )
        .join('; ')}
    >
      {resolution.map((r, i) => {
        const y = i * row + 4
        return (
          <g key={r.W}>
            <text
              x={left - 10}
              y={y + 17}
              textAnchor="end"
              className="pin"
              fontSize="14"
              fontWeight="700"
              fill="var(--ink)"
            >
              {r.W} W
            </text>
            <rect
              x={left}
              y={y + 3}
              width={Math.max(2, x(r.firstUpdateS) - left)}
              height={row - 12}
              rx="3"
              fill={r.seenBeforeTimeout ? 'var(--prussian)' : 'var(--oxide)'}
            />
            <text x={x(r.firstUpdateS) + 8} y={y + 17} fontSize="13" fill="var(--ink)">
              {r.seenBeforeTimeout ? `after ${words(r.firstUpdateS)}` : `${words(r.firstUpdateS)}: shows 0`}
            </text>
          </g>
        )
      })}
    </svg>
  )
}
