import type { Pace } from '@fresh-coat/core/fleet/bench-time'
import { twoDigits } from '@/components/paint/paint'

/** Hands-on minutes of every unit of a board, in the order they were begun. */
export function PaceBars({ pace }: { pace: Pace }) {
  if (pace.units.length === 0) return <p className="text-ink-2">No unit yet.</p>
  const most = Math.max(...pace.units.map((u) => u.minutes), 1)
  return (
    <>
      <ul className="grid gap-1.5">
        {pace.units.map((u) => (
          <li key={u.number} className="grid grid-cols-[2.2rem_1fr_4.6rem] items-center gap-3">
            <span className="font-title font-bold">{twoDigits(u.number)}</span>
            <span className="h-3.5 rounded-[3px] bg-unpainted" aria-hidden="true">
              <span
                className={`block h-full rounded-[3px] ${u.done ? 'bg-prussian' : 'hatch'}`}
                style={{ width: `${(u.minutes / most) * 100}%` }}
              />
            </span>
            <span className="pin text-right">
              {Math.round(u.minutes)} min{u.done ? '' : ' …'}
            </span>
          </li>
        ))}
      </ul>
      <p className="text-[0.9rem] text-ink-2">
        {pace.median !== null && `Median ${Math.round(pace.median)} min. `}
        {pace.share !== null && `The last ones took ${Math.round(pace.share * 100)} % of the first. `}
        Worked out from the events: gaps under 20 minutes count as work. Hatched: not finished yet.
      </p>
    </>
  )
}
