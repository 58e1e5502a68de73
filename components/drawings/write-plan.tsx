import type { WritePlan } from '@fresh-coat/core/flash/preflight/question'

const parts = [
  ['erase', 'erase', 'var(--ochre-line)'],
  ['write', 'write', 'var(--prussian)'],
  ['verify', 'verify', 'var(--verdigris)'],
] as const

const anchors = ['start', 'middle', 'end'] as const

/** "1:24": minutes and seconds. */
export const clockOfSeconds = (s: number): string =>
  `${Math.floor(s / 60)}:${String(Math.round(s % 60)).padStart(2, '0')}`

/** The plan as a large countdown: how long it takes in all, and how much of that goes where. */
export function WritePlanDrawing({ plan }: { plan: WritePlan | null }) {
  const total = plan?.seconds.total ?? null
  const lengths = parts.map(([key]) => plan?.seconds[key] ?? 0)
  const sum = lengths.reduce((a, b) => a + b, 0) || 1
  let at = 0
  return (
    <figure
      className="grid gap-3"
      role="img"
      aria-label={
        plan
          ? `Planned: ${parts.map(([key, name]) => `${name} ${plan.seconds[key] ?? 'not known how many'} s`).join(', ')}; together ${total === null ? 'not known' : `${total} s`}`
          : 'Nothing is planned: the check stops it'
      }
    >
      <p className="font-title text-[clamp(3.2rem,7vw,5rem)] leading-none font-bold">
        {!plan ? '–:––' : total === null ? '?' : clockOfSeconds(total)}
        <span className="ml-4 text-[1.2rem] font-semibold text-ink-2">
          {!plan ? 'the check stops it' : total === null ? 'nobody recorded how large the chip is' : 'as planned'}
        </span>
      </p>
      <svg viewBox="0 0 840 76" className="w-full" aria-hidden="true">
        <rect x="0" y="6" width="840" height="34" rx="6" fill="var(--unpainted)" />
        {parts.map(([key, name, ink], i) => {
          const from = (at / sum) * 840
          const w = ((lengths[i] as number) / sum) * 840
          at += lengths[i] as number
          return w === 0 ? null : (
            <g key={key}>
              <rect x={from} y="6" width={Math.max(3, w - 2)} height="34" rx="4" fill={ink} />
              <text x={i * 420} y="64" textAnchor={anchors[i]} fontSize="15.5" fill="var(--ink-2)">
                {name} {lengths[i]} s
              </text>
            </g>
          )
        })}
      </svg>
    </figure>
  )
}
