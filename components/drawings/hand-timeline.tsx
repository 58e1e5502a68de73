import type { HandEvent, Rehearsal } from '@fresh-coat/core/boot/rehearse'

interface Lane {
  name: string
  on: HandEvent['do']
  off: HandEvent['do']
}
const lanes: Lane[] = [
  { name: 'Power', on: 'power_on', off: 'power_off' },
  { name: 'BOOT low', on: 'strap_low', off: 'strap_high' },
  { name: 'Reset low', on: 'reset_low', off: 'reset_high' },
  { name: 'Calling', on: 'call_start', off: 'call_stop' },
]

/** What the hands did, as bars on a line of time; a mark where the part started, and into what. */
export function HandTimeline({
  events,
  rehearsal,
  endMs,
}: {
  events: readonly HandEvent[]
  rehearsal: Rehearsal
  endMs: number
}) {
  const used = lanes.filter((l) => events.some((e) => e.do === l.on || e.do === l.off))
  const width = 720
  const left = 84
  const height = 30 + used.length * 30
  const x = (t: number) => left + ((width - left - 20) * t) / Math.max(endMs, 500)
  const spans = (lane: Lane) => {
    const out: [number, number][] = []
    let since: number | null = null
    for (const e of events) {
      if (e.do === lane.on && since === null) since = e.t
      else if (e.do === lane.off && since !== null) {
        out.push([since, e.t])
        since = null
      }
    }
    if (since !== null) out.push([since, endMs])
    return out
  }
  const sentence = `${rehearsal.boots.map((b) => `started at ${(b.t / 1000).toFixed(2)} s into ${b.mode === 'download' ? 'download mode' : 'its firmware'}`).join('; ') || 'never started'}`
  return (
    <svg
      viewBox={`0 0 ${width} ${height}`}
      className="w-full max-w-[760px]"
      role="img"
      aria-label={`Timeline: ${sentence}`}
    >
      {used.map((lane, i) => (
        <g key={lane.name}>
          <text x={left - 8} y={22 + i * 30} textAnchor="end" fontSize="13" fill="var(--ink-2)">
            {lane.name}
          </text>
          <path d={`M${left} ${27 + i * 30} H${width - 20}`} stroke="var(--rule)" strokeWidth="1" />
          {spans(lane).map(([a, b]) => (
            <rect
              key={a}
              x={x(a)}
              y={10 + i * 30}
              width={Math.max(2, x(b) - x(a))}
              height="16"
              rx="3"
              fill="var(--prussian)"
            />
          ))}
        </g>
      ))}
      {rehearsal.boots.map((b) => (
        <g key={b.t}>
          <path
            d={`M${x(b.t)} 4 V${height - 22}`}
            stroke={b.mode === 'download' ? 'var(--verdigris)' : 'var(--ochre)'}
            strokeWidth="2"
            strokeDasharray="4 3"
          />
          <text
            x={x(b.t) + 4}
            y={height - 6}
            fontSize="12"
            fontWeight="600"
            fill={b.mode === 'download' ? 'var(--verdigris)' : 'var(--ochre)'}
          >
            {b.mode === 'download' ? 'loader' : 'firmware'}
          </text>
        </g>
      ))}
    </svg>
  )
}
