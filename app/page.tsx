import type { Metadata } from 'next'
import { CoatLanes } from '@/components/bench/coat-lanes'
import { InHand } from '@/components/bench/in-hand'
import { NothingYet } from '@/components/bench/nothing-yet'
import { Waiting } from '@/components/bench/waiting'
import { longDay } from '@/components/paint/paint'
import { database, inSnapshot } from '@/server/db/client'
import { localDay } from '@/server/db/day'
import { benchPage } from '@/server/units/bench'
import { loadUnit } from '@/server/units/load'
import { firstOpen } from '@/server/units/open'
import { settleOverdue } from '@/server/units/settle'

export const dynamic = 'force-dynamic'
export const metadata: Metadata = { title: 'Bench' }

const dueSoonDays = 14

export default async function Bench() {
  const db = database()
  const now = new Date()
  await settleOverdue(db, now)
  const soon = new Date(now.getTime() + dueSoonDays * 86_400_000)
  const { bench, open } = await inSnapshot(db, async (tx) => {
    const page = await benchPage(tx, localDay(now), localDay(soon))
    const view = page.inHand ? await loadUnit(tx, page.inHand.id, now) : null
    return { bench: page, open: view ? firstOpen(view) : '' }
  })
  if (bench.count === 0) return <NothingYet />
  return (
    <div className="grid min-h-[calc(100dvh-52px)] lg:grid-cols-[minmax(0,1fr)_300px]">
      <main className="min-w-0 px-4 py-4 sm:px-6">
        <div className="mb-2 flex items-baseline justify-between gap-4">
          <h1 className="text-[1.05rem] text-ink-2">On the bench</h1>
          <time className="text-ink-2" dateTime={now.toISOString()} suppressHydrationWarning>
            {longDay(now.toISOString())}
          </time>
        </div>
        <InHand unit={bench.inHand} open={open} />
        <CoatLanes lanes={bench.lanes} />
      </main>
      <Waiting units={bench.waiting} count={bench.waitingCount} due={bench.due} log={bench.log} />
    </div>
  )
}
