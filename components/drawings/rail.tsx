export interface Stage {
  name: string
  note: string
  state: 'reached' | 'now' | 'open' | 'failed'
}

const ink = { reached: 'var(--verdigris)', now: 'var(--ochre-line)', open: 'var(--rule)', failed: 'var(--oxide)' }
const sign = { reached: '✓', now: '', open: '', failed: '!' }
const word = { reached: 'reached', now: 'being done', open: 'not reached', failed: 'failed' }

/** Stages one after the other, as far as they were reached. */
export function Rail({ stages, label }: { stages: readonly Stage[]; label: string }) {
  const pitch = 840 / stages.length
  const x = (i: number) => 24 + i * pitch
  return (
    <svg
      viewBox="0 0 860 92"
      className="w-full"
      role="img"
      aria-label={`${label}: ${stages.map((s) => `${s.name} ${word[s.state]}${s.note ? `, ${s.note}` : ''}`).join('; ')}`}
    >
      {stages.slice(1).map((s, i) => (
        <path key={s.name} d={`M${x(i) + 16} 22H${x(i + 1) - 16}`} stroke={ink[s.state]} strokeWidth="4" />
      ))}
      {stages.map((s, i) => (
        <g key={s.name}>
          <circle
            cx={x(i)}
            cy="22"
            r="14"
            fill={s.state === 'reached' ? ink.reached : 'var(--sheet)'}
            stroke={ink[s.state]}
            strokeWidth="4"
          />
          <text
            x={x(i)}
            y="28"
            textAnchor="middle"
            fontSize="16"
            fontWeight="700"
            fill={s.state === 'reached' ? 'var(--on-paint)' : ink[s.state]}
          >
            {sign[s.state]}
          </text>
          <text
            x={x(i) - 14}
            y="62"
            fontSize="17"
            fontWeight="700"
            fill={s.state === 'open' ? 'var(--ink-2)' : 'var(--ink)'}
          >
            {s.name}
          </text>
          <text x={x(i) - 14} y="82" className="pin" style={{ fontSize: 13 }} fill="var(--ink-2)">
            {s.note}
          </text>
        </g>
      ))}
    </svg>
  )
}
