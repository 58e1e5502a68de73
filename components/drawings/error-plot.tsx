import { roundStep } from './ticks'

export interface ErrorPoint {
  id: string
  /** What the reference shows. */
  x: number
  before: number | null
  after: number | null
  /** Truth lies within this many per cent of the after-error; null when it is not known. */
  within: number | null
  verify: boolean
}

/** What a plug meets: the axis spans at least this. */
const usual: { [unit: string]: [number, number] } = { W: [20, 3000], A: [0.08, 13], V: [180, 260] }

/** A limit of 0 and no error yet would leave the axis without any length. */
const leastPct = 0.1

const box = { left: 66, right: 840, top: 18, bottom: 396 }

interface Scale {
  x: (v: number) => number
  y: (pct: number) => number
  xTicks: number[]
  yTicks: number[]
}

/** Logarithmic in the reference, so that 5 W and 2000 W both have room; ticks at 1, 3, 10. */
function scaleOf(points: readonly ErrorPoint[], limitPct: number, next: number | null, unit: string): Scale {
  const [least, greatest] = usual[unit] ?? [1, 1000]
  const xs = [...points.map((p) => p.x), ...(next === null ? [] : [next])].filter((x) => x > 0)
  const low = Math.max(0.001, Math.min(...xs.map((x) => x / 1.6), least))
  const high = Math.max(...xs.map((x) => x * 1.4), greatest)
  const errors = points.flatMap((p) => [p.before, p.after, p.within, p.within === null ? null : -p.within])
  const most =
    Math.max(
      leastPct,
      limitPct * 1.6,
      ...errors.flatMap((e) => (e === null || !Number.isFinite(e) ? [] : [Math.abs(e)])),
    ) * 1.12
  const span = Math.log(high / low)
  const xTicks: number[] = []
  for (let decade = 10 ** Math.floor(Math.log10(low)); decade <= high; decade *= 10)
    for (const m of [1, 3]) if (decade * m >= low && decade * m <= high) xTicks.push(decade * m)
  const step = roundStep(most / 3)
  const yTicks: number[] = []
  for (let t = -Math.floor(most / step) * step; t <= most; t += step) yTicks.push(Math.round(t * 1000) / 1000)
  return {
    x: (v) => box.left + (Math.log(Math.max(v, low) / low) / span) * (box.right - box.left),
    y: (pct) => (box.top + box.bottom) / 2 - (pct / most) * ((box.bottom - box.top) / 2),
    xTicks,
    yTicks,
  }
}

function Axes({ scale, unit }: { scale: Scale; unit: string }) {
  return (
    <g>
      {scale.yTicks.map((t) => (
        <g key={t}>
          <path
            d={`M${box.left} ${scale.y(t)}H${box.right}`}
            stroke={t === 0 ? 'var(--ink)' : 'var(--rule-2)'}
            strokeWidth={t === 0 ? 1.5 : 1}
          />
          <text
            x={box.left - 8}
            y={scale.y(t) + 5}
            textAnchor="end"
            className="pin"
            style={{ fontSize: 13 }}
            fill="var(--ink-2)"
          >
            {t > 0 ? '+' : t < 0 ? '−' : ''}
            {Math.abs(t)} %
          </text>
        </g>
      ))}
      {scale.xTicks.map((t) => (
        <g key={t}>
          <path d={`M${scale.x(t)} ${box.top}V${box.bottom}`} stroke="var(--rule-2)" />
          <text
            x={Math.min(scale.x(t), box.right + 6)}
            y={box.bottom + 20}
            textAnchor={scale.x(t) > box.right - 30 ? 'end' : 'middle'}
            className="pin"
            style={{ fontSize: 13 }}
            fill="var(--ink-2)"
          >
            {t} {unit}
          </text>
        </g>
      ))}
    </g>
  )
}

/** What the reference leaves open around the after-errors: nobody can say more than that. */
function Open({ points, scale }: { points: readonly ErrorPoint[]; scale: Scale }) {
  const known = points.filter((p) => p.within !== null).sort((a, b) => a.x - b.x)
  if (known.length < 2) return null
  const edge = (sign: 1 | -1) => known.map((p) => `${scale.x(p.x)} ${scale.y(sign * (p.within as number))}`)
  return <path d={`M${[...edge(1), ...edge(-1).reverse()].join('L')}z`} fill="var(--ink-3)" opacity="0.22" />
}

function Points({
  points,
  scale,
  chosen,
  onChoose,
}: {
  points: readonly ErrorPoint[]
  scale: Scale
  chosen: string | null
  onChoose?: (id: string) => void
}) {
  const before = points.filter((p) => p.before !== null).sort((a, b) => a.x - b.x)
  const line = before.map((p) => `${scale.x(p.x)} ${scale.y(p.before as number)}`).join('L')
  return (
    <g>
      {line && <path d={`M${line}`} fill="none" stroke="var(--ochre-line)" strokeWidth="2.5" strokeDasharray="7 5" />}
      {points.map((p) => (
        <g key={p.id} {...(onChoose ? { className: 'cursor-pointer', onClick: () => onChoose(p.id) } : {})}>
          {p.before !== null && p.after !== null && (
            <path
              d={`M${scale.x(p.x)} ${scale.y(p.before)}V${scale.y(p.after)}`}
              stroke="var(--ink-3)"
              strokeDasharray="3 3"
            />
          )}
          {p.before !== null && (
            <rect
              x={scale.x(p.x) - 8}
              y={scale.y(p.before) - 8}
              width="16"
              height="16"
              fill="var(--sheet)"
              stroke="var(--ochre-line)"
              strokeWidth="3"
            />
          )}
          {p.after !== null && (
            <circle
              cx={scale.x(p.x)}
              cy={scale.y(p.after)}
              r="8"
              fill={p.verify ? 'var(--sheet)' : 'var(--ink)'}
              stroke="var(--ink)"
              strokeWidth="3"
            />
          )}
          {chosen === p.id && (
            <circle
              cx={scale.x(p.x)}
              cy={scale.y(p.after ?? p.before ?? 0)}
              r="17"
              fill="none"
              stroke="var(--ochre-line)"
              strokeWidth="3"
            />
          )}
        </g>
      ))}
    </g>
  )
}

/** Errors against the reference before and after the fit, with the limit, what the reference leaves open, and the next load. */
export function ErrorPlot({
  points,
  limitPct,
  unit,
  next,
  chosen,
  onChoose,
}: {
  points: readonly ErrorPoint[]
  limitPct: number
  unit: string
  /** The load to take next. */
  next: { name: string; x: number } | null
  chosen: string | null
  onChoose?: (id: string) => void
}) {
  const scale = scaleOf(points, limitPct, next?.x ?? null, unit)
  const words = points.map(
    (p) =>
      `at ${p.x} ${unit} before ${p.before?.toFixed(2) ?? 'not known'} %, after ${p.after?.toFixed(3) ?? 'not known'} %`,
  )
  return (
    <svg
      viewBox="0 0 860 428"
      className="min-h-0 w-full flex-1"
      style={{ maxHeight: 440 }}
      role="img"
      aria-label={`Errors: ${words.join('; ') || 'no point yet'}. Limit ${limitPct} %.${next ? ` Next: ${next.name}, ${next.x} ${unit}.` : ''}`}
    >
      <rect
        x={box.left}
        y={scale.y(limitPct)}
        width={box.right - box.left}
        height={scale.y(-limitPct) - scale.y(limitPct)}
        fill="var(--ok-soft)"
      />
      <Axes scale={scale} unit={unit} />
      <Open points={points} scale={scale} />
      <text x={box.right - 6} y={scale.y(limitPct) + 17} textAnchor="end" fontSize="14" fill="var(--verdigris)">
        limit ±{limitPct} %
      </text>
      {next && (
        <g>
          <path d={`M${scale.x(next.x)} ${box.top}V${box.bottom}`} stroke="var(--ochre-line)" strokeWidth="3" />
          <text
            x={scale.x(next.x) + (scale.x(next.x) > 600 ? -8 : 8)}
            y={box.top + 16}
            textAnchor={scale.x(next.x) > 600 ? 'end' : 'start'}
            fontSize="15"
            fontWeight="700"
            fill="var(--ochre)"
          >
            next: {next.name}
          </text>
        </g>
      )}
      <Points points={points} scale={scale} chosen={chosen} {...(onChoose ? { onChoose } : {})} />
      {points.length === 0 && (
        <text
          x="450"
          y={box.bottom - 20}
          textAnchor="middle"
          fontSize="16"
          fill="var(--ink-2)"
          // The line of the next load may pass behind it.
          stroke="var(--sheet)"
          strokeWidth="10"
          paintOrder="stroke"
        >
          No point yet: squares will show what it says, dots what it says after the fit
        </text>
      )}
    </svg>
  )
}
