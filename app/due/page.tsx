import { dueGroups, weeksFrom } from '@fresh-coat/core/fleet/due'
import type { Metadata } from 'next'
import { DueDrawn, type DueGiven } from '@/components/bench/due-drawn'
import { pack } from '@/components/packed'
import { database } from '@/server/db/client'
import { localDay } from '@/server/db/day'
import { lookInto } from '@/server/db/warm'
import { dueToShow } from '@/server/units/due'
import { settleOverdue } from '@/server/units/settle'

export const dynamic = 'force-dynamic'
export const metadata: Metadata = { title: 'Due' }

/** Of each group, and of each day: the calendar file has all. */
const inGroup = 60
const inDay = 3
const weeks = 6

export default async function DuePage() {
  const db = database()
  const now = new Date()
  await settleOverdue(db, now)
  const today = localDay(now)
  const rows = weeksFrom(today, weeks)
  const due = await lookInto(db, 'due', 'updates', (tx) => dueToShow(tx, now, { inGroup, inDay, days: rows.flat() }))
  const groups = dueGroups(due, today, inGroup)
  const { overdue, week, later } = groups
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
      <DueDrawn given={pack<DueGiven>({ due, groups, rows, inDay, today })} />
      {none && (
        <p className="text-ink-2">
          Re-checks of meters, restore tests of stock firmware, checks of references and rings of an update appear here
          on their days.
        </p>
      )}
    </main>
  )
}
