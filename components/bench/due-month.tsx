import { dayWriter } from '@fresh-coat/core/edge/day'
import type { DueDays, DueThing } from '@fresh-coat/core/fleet/due'
import Link from '@/components/link'

const paint: Record<DueThing['kind'], string> = {
  unit: 'border-ink bg-sheet',
  reference: 'border-prussian bg-sheet-2',
  update: 'border-verdigris bg-ok-soft',
}
const [onDay, onFirst, weekday] = [
  dayWriter({ day: 'numeric' }),
  dayWriter({ day: 'numeric', month: 'short' }),
  dayWriter({ weekday: 'short' }),
]
const noon = (day: string): number => Date.parse(`${day}T12:00:00Z`)
const dayWords = (day: string): string => (day.endsWith('-01') ? onFirst : onDay)(noon(day))

/** Weeks from this one on: what falls due on which day. */
export function DueMonth({
  due: { things, perDay },
  rows,
  inDay,
  today,
}: {
  due: DueDays
  /** Of days, from Monday. */
  rows: readonly (readonly string[])[]
  /** Shown of a day, at most. */
  inDay: number
  today: string
}) {
  return (
    <table className="w-full min-w-[640px] table-fixed border-t border-l border-rule bg-sheet" aria-label="Six weeks">
      <thead>
        <tr>
          {(rows[0] ?? []).map((day) => (
            <th
              key={day}
              scope="col"
              className="border-r border-b border-rule p-1.5 text-left text-[0.86rem] font-normal text-ink-2"
            >
              {weekday(noon(day))}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {rows.map((week) => (
          <tr key={week[0]}>
            {week.map((day) => {
              const here = things.filter((t) => t.day === day).slice(0, inDay)
              const more = (perDay[day] ?? 0) - here.length
              return (
                <td
                  key={day}
                  className={`h-[5.4rem] border-r border-b border-rule p-1.5 align-top ${day < today ? 'bg-sheet-2' : ''}`}
                >
                  <span
                    className={`text-[0.86rem] ${day === today ? 'rounded-full bg-ink px-2 py-0.5 font-bold text-sheet' : 'text-ink-2'}`}
                  >
                    {dayWords(day)}
                  </span>
                  <span className="mt-1 grid gap-1">
                    {here.map((t) => (
                      <Link
                        key={`${t.of} ${t.what}`}
                        href={t.href}
                        title={`${t.of}: ${t.what}`}
                        className={`truncate rounded-[5px] border px-1.5 text-[0.84rem] hover:underline ${paint[t.kind]}`}
                      >
                        {t.kind === 'update' ? t.what : t.of}
                      </Link>
                    ))}
                    {more > 0 && <span className="text-[0.8rem] text-ink-2">and {more} more</span>}
                  </span>
                </td>
              )
            })}
          </tr>
        ))}
      </tbody>
    </table>
  )
}
