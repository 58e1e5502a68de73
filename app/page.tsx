import type { Piece } from '@fresh-coat/core/fleet/time-at-hand'
import type { Metadata } from 'next'
import { InHand } from '@/components/bench/in-hand'
import { NothingYet } from '@/components/bench/nothing-yet'
import { Rack, type RackUnit } from '@/components/bench/rack'
import { type RackOrder, rackOrders } from '@/components/bench/rack-orders'
import { Waiting } from '@/components/bench/waiting'
import Link from '@/components/link'
import { pack } from '@/components/packed'
import { database } from '@/server/db/client'
import { localDay } from '@/server/db/day'
import { together } from '@/server/db/together'
import { type BenchPage, benchPage } from '@/server/units/bench'
import { standing } from '@/server/units/bundle'
import { viewInHand } from '@/server/units/load'
import { firstOpen } from '@/server/units/open'
import { settleOverdue } from '@/server/units/settle'

export const dynamic = 'force-dynamic'
export const metadata: Metadata = { title: 'Bench' }

const dueSoonDays = 14

/** What could be done now: what waits, then what is at work, the furthest on first. */
const piecesOf = (bench: BenchPage): Piece[] => [
  ...bench.waiting.flatMap((u) => u.waiting.slice(0, 1).map((w) => ({ number: u.number, step: w.step, waits: true }))),
  ...bench.rack.filter((u) => !u.inService).map((u) => ({ number: u.number, step: u.next, waits: false })),
]

/** Of a unit that waits, or on which something falls due, what its row shows. */
const rowOf = ({ id, number, waiting, due, dueWhat }: BenchPage['waiting'][number]) => ({
  id,
  number,
  waiting: waiting.slice(0, 1),
  due,
  dueWhat,
})

/** Of a unit on the rack, the same. */
const rackRowOf = ({
  number,
  name,
  place,
  board,
  next,
  inService,
  inHand,
  coats,
  waiting,
}: BenchPage['rack'][number]): RackUnit => ({
  number,
  name,
  place,
  board,
  next,
  inService,
  inHand,
  coats: coats.map(({ id, done, of }) => ({ id, done, of })),
  waiting: waiting.slice(0, 1),
})

function RackTitle({ bench, by }: { bench: BenchPage; by: RackOrder }) {
  return (
    <div className="flex flex-wrap items-baseline justify-between gap-x-5">
      <h1 className="text-[1.2rem]">
        Drying rack{' '}
        <span className="ml-1 font-read text-[0.93rem] font-normal text-ink-2">
          {bench.atWork} at work · <Link href="/units?sort=due">{bench.inService} in service</Link>
          {bench.wetAgain > 0 && `, ${bench.wetAgain} of them wet again`}
        </span>
      </h1>
      <nav aria-label="Sorted by" className="flex gap-3 text-[0.93rem] text-ink-2">
        {rackOrders.map((order) => (
          <Link
            key={order}
            href={order === 'progress' ? '/' : `/?by=${order}`}
            aria-current={order === by ? 'true' : undefined}
            className={order === by ? 'border-b-2 border-ink font-semibold text-ink' : 'hover:underline'}
          >
            by {order}
          </Link>
        ))}
      </nav>
    </div>
  )
}

export default async function Bench({ searchParams }: { searchParams: Promise<{ by?: string }> }) {
  const wanted = (await searchParams).by
  const by = rackOrders.find((order) => order === wanted) ?? 'progress'
  const db = database()
  const now = new Date()
  await settleOverdue(db, now)
  const soon = new Date(now.getTime() + dueSoonDays * 86_400_000)
  // Side by side: all that is stored of one unit takes as long as the rest. Who was put back in between is not spoken of.
  const { bench, held } = await together({
    bench: benchPage(db, localDay(now), localDay(soon)),
    held: viewInHand(db, now, standing),
  })
  if (bench.empty) return <NothingYet />
  const shownAtWork = bench.rack.filter((u) => !u.inService).length
  return (
    <div className="grid min-h-[calc(100dvh-52px)] lg:grid-cols-[minmax(0,1fr)_300px]">
      <main className="grid min-w-0 content-start gap-3 px-4 py-3.5 sm:px-5">
        <InHand unit={bench.inHand} open={held && held.id === bench.inHand?.id ? firstOpen(held) : ''} />
        <RackTitle bench={bench} by={by} />
        <Rack given={pack(bench.rack.map(rackRowOf))} by={by} more={bench.atWork - shownAtWork} />
      </main>
      <Waiting
        units={bench.waiting.map(rowOf)}
        count={bench.waitingCount}
        due={bench.due.map(rowOf)}
        pieces={piecesOf(bench)}
        log={bench.log}
      />
    </div>
  )
}
