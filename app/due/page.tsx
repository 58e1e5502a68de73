import { dayWords } from '@fresh-coat/core/edge/day'
import { type DueGroup, dueGroups, weeksFrom } from '@fresh-coat/core/fleet/due'
import type { Metadata } from 'next'
import { DueMonth } from '@/components/bench/due-month'
import Link from '@/components/link'
import { Tag } from '@/components/paint/paint'
import { Scrolls } from '@/components/tables/scrolls'
import { database, inSnapshot } from '@/server/db/client'
import { localDay } from '@/server/db/day'
import { dueToShow } from '@/server/units/due'
import { settleOverdue } from '@/server/units/settle'

export const dynamic = 'force-dynamic'
export const metadata: Metadata = { title: 'Due' }

/** Of each group, and of each day: the calendar file has all. */
const inGroup = 60
const inDay = 3
const weeks = 6

function Group({ title, group: { things, all }, over = false }: { title: string; group: DueGroup; over?: boolean }) {
  if (things.length === 0) return null
  return (
    <section className="grid content-start gap-1" aria-label={title}>
      <h2 className="text-[1.1rem]">{title}</h2>
      <ul>
        {things.map((t) => (
          <li key={`${t.day} ${t.of} ${t.what}`} className="border-b border-rule">
            <Link href={t.href} className="grid grid-cols-[7.5rem_1fr] gap-x-3 py-1.5 leading-snug hover:underline">
              <span className={over ? 'text-ochre' : 'text-ink-2'}>{dayWords(t.day)}</span>
              <span>
                <strong>{t.of}</strong>{' '}
                <span className="text-ink-2">
                  {t.what} {over && <Tag severity="watch">over</Tag>}
                </span>
              </span>
            </Link>
          </li>
        ))}
      </ul>
      {all > things.length && (
        <p className="text-ink-2">and {all - things.length} more: all of them are in the file for a calendar.</p>
      )}
    </section>
  )
}

export default async function DuePage() {
  const db = database()
  const now = new Date()
  await settleOverdue(db, now)
  const today = localDay(now)
  const rows = weeksFrom(today, weeks)
  const due = await inSnapshot(db, (tx) => dueToShow(tx, now, { inGroup, inDay, days: rows.flat() }))
  const { overdue, week, later } = dueGroups(due, today, inGroup)
  const none = due.things.length === 0
  return (
    <main className="grid gap-4 px-4 py-3.5 sm:px-5">
      <div className="flex flex-wrap items-baseline justify-between gap-4">
        <h1 className="text-[1.4rem]">
          Due{' '}
          <span className="text-[1rem] font-normal text-ink-2">
            {none
              ? 'nothing is, for as long as anybody knows'
              : `${overdue.all} over, ${week.all} within a week, ${later.all} later`}
          </span>
        </h1>
        {!none && (
          <a href="/api/export/due" download className="underline underline-offset-4">
            Into a calendar
          </a>
        )}
      </div>
      <Scrolls label="Six weeks">
        <DueMonth due={due} rows={rows} inDay={inDay} today={today} />
      </Scrolls>
      <div className="grid gap-5 md:grid-cols-3">
        <Group title="Over" group={overdue} over />
        <Group title="Within a week" group={week} />
        <Group title="Later" group={later} />
      </div>
      {none && (
        <p className="text-ink-2">
          Re-checks of meters, restore tests of stock firmware, checks of references and rings of an update appear here
          on their days.
        </p>
      )}
    </main>
  )
}
