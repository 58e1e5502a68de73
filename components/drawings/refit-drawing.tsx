import type { RefitCheck, RefitContact, RefitJudgement } from '@fresh-coat/core/refit/refit'

const colour = { ok: 'var(--verdigris)', bad: 'var(--oxide)', missing: 'var(--ink-3)' }
const contact = { w: 200, h: 44, gap: 22 }
const width = 760
const top = 92

/** Where each contact stands: its edge as a column, or as a row. */
function places(contacts: readonly RefitContact[]) {
  const edges = [...new Set(contacts.map((c) => c.edge))]
  const column = (edge: string) => (edges.length === 1 ? 280 : edge === edges[0] ? 60 : 500)
  return contacts.map((c) => {
    const row = contacts.filter((o) => o.edge === c.edge).sort((a, b) => a.n - b.n)
    return { ...c, x: column(c.edge), y: top + row.findIndex((o) => o.n === c.n) * (contact.h + contact.gap) }
  })
}

/** The contacts as the meter meets them: each with its joint, what lies between two of them, and the rail above. */
export function RefitDrawing({
  contacts,
  judged,
  at,
}: {
  contacts: readonly RefitContact[]
  judged: RefitJudgement
  /** The check that is asked now. */
  at: RefitCheck | null
}) {
  const placed = places(contacts)
  const verdict = (id: string) => judged.results.find((r) => r.id === id)?.verdict ?? 'missing'
  const bottom = Math.max(...placed.map((p) => p.y)) + contact.h + 24
  const here = (n: number) => at !== null && 'a' in at && (at.a === n || ('b' in at && at.b === n))
  const rail = judged.checks[0]
  const words = judged.results.map((r) => `${r.id} ${r.verdict}`).join(', ')
  return (
    <svg
      viewBox={`0 0 ${width} ${bottom}`}
      className="min-h-0 w-full flex-1"
      style={{ maxHeight: 460 }}
      role="img"
      aria-label={`Contacts before power: ${words}`}
    >
      <g>
        <rect
          x="60"
          y="10"
          width={width - 120}
          height="46"
          rx="10"
          fill={at?.id === 'rail' ? 'var(--ochre-soft)' : 'var(--sheet-2)'}
          stroke={at?.id === 'rail' ? 'var(--ochre-line)' : colour[verdict('rail')]}
          strokeWidth="3"
        />
        <text x="80" y="40" fontSize="19" fontWeight="700" fill="var(--ink)">
          3V3 to GND
        </text>
        <text x={width - 80} y="40" textAnchor="end" className="pin" style={{ fontSize: 16 }} fill="var(--ink-2)">
          {rail && rail.expected === 'range' && rail.high !== null
            ? `${Math.round(rail.low)} to ${Math.round(rail.high)} Ω`
            : 'at least 50 Ω'}
        </text>
      </g>
      {judged.checks.map((check) => {
        if (check.expected !== 'open') return null
        const a = placed.find((p) => p.n === check.a)
        if (!a) return null
        const y = a.y + contact.h
        const state = verdict(check.id)
        return (
          <g key={check.id}>
            <path
              d={state === 'bad' ? `M${a.x + 100} ${y}v${contact.gap}` : `M${a.x + 76} ${y + contact.gap / 2}h48`}
              stroke={at?.id === check.id ? 'var(--ochre-line)' : colour[state]}
              strokeWidth={state === 'bad' ? 12 : 3}
              strokeDasharray={state === 'missing' ? '5 5' : undefined}
            />
          </g>
        )
      })}
      {placed.map((p) => {
        const joint = judged.checks.some((c) => c.id === `C-${p.n}`) ? verdict(`C-${p.n}`) : null
        return (
          <g key={p.n}>
            <rect
              x={p.x}
              y={p.y}
              width={contact.w}
              height={contact.h}
              rx="8"
              fill="var(--board)"
              stroke={here(p.n) ? 'var(--ochre-line)' : 'var(--ink)'}
              strokeWidth={here(p.n) ? 5 : 1.5}
            />
            <text x={p.x + 18} y={p.y + 29} className="pin" style={{ fontSize: 17 }} fill="var(--ink-2)">
              {p.n}
            </text>
            <text x={p.x + 58} y={p.y + 30} fontSize="20" fontWeight="700" fill="var(--ink)">
              {p.role}
            </text>
            {joint && (
              <circle
                cx={p.x + contact.w - 24}
                cy={p.y + contact.h / 2}
                r="9"
                fill={joint === 'missing' ? 'var(--sheet)' : colour[joint]}
                stroke={colour[joint]}
                strokeWidth="2.5"
                strokeDasharray={joint === 'missing' ? '4 3' : undefined}
              />
            )}
          </g>
        )
      })}
    </svg>
  )
}
