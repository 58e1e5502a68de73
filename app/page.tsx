import type { Metadata } from 'next'
import { CoatLanes } from '@/components/bench/coat-lanes'
import { InHand } from '@/components/bench/in-hand'
import { NothingYet } from '@/components/bench/nothing-yet'
import { Waiting } from '@/components/bench/waiting'
import { longDay } from '@/components/paint/paint'
import { type Db, database, inSnapshot } from '@/server/db/client'
import { localDay } from '@/server/db/day'
import { recentEvents } from '@/server/db/log'
import { dueUnits, lanes, unitCount, unitInHand, waitingCount, waitingUnits } from '@/server/units/lists'
import { loadUnit } from '@/server/units/load'
import { firstOpen } from '@/server/units/open'
import { settleOverdue } from '@/server/units/settle'

export const dynamic = 'force-dynamic'
export const metadata: Metadata = { title: 'Bench' }

const dueSoonDays = 14
const perLane = 12
const mostWaiting = 20
const logLines = 12

async function benchOf(db: Db, now: Date) {
  const soon = new Date(now.getTime() + dueSoonDays * 86_400_000)
  return inSnapshot(db, async (tx) => {
    const inHand = await unitInHand(tx)
    const view = inHand ? await loadUnit(tx, inHand.id, now) : null
    return {
      count: await unitCount(tx),
      inHand,
      open: view ? firstOpen(view) : '',
      lanes: await lanes(tx, perLane),
      waiting: await waitingUnits(tx, mostWaiting),
      waitingCount: await waitingCount(tx),
      due: await dueUnits(tx, localDay(now), localDay(soon), mostWaiting),
      log: await recentEvents(tx, logLines),
    }
  })
}

export default async function Bench() {
  const db = database()
  const now = new Date()
  await settleOverdue(db, now)
  const bench = await benchOf(db, now)
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
        <InHand unit={bench.inHand} open={bench.open} />
        <CoatLanes lanes={bench.lanes} />
      </main>
      <Waiting units={bench.waiting} count={bench.waitingCount} due={bench.due} log={bench.log} />
    </div>
  )
}
