import type { Metadata } from 'next'
import { NewUnit } from '@/components/units/new-unit'
import { boardChoices } from '@/server/boards/lists'
import { database, inSnapshot } from '@/server/db/client'
import { together } from '@/server/db/together'
import { freeNumber, places } from '@/server/units/lists'

export const dynamic = 'force-dynamic'
export const metadata: Metadata = { title: 'New unit' }

export default async function NewUnitPage() {
  const known = await inSnapshot(database(), (tx) =>
    together({ free: freeNumber(tx), boards: boardChoices(tx), places: places(tx) }),
  )
  return (
    <main className="mx-auto max-w-3xl px-4 py-5">
      <h1 className="mb-1 text-[1.5rem]">A new unit</h1>
      <p className="mb-4 max-w-[60ch] text-ink-2">
        Write its number on the case with a pen that stays: that is how people find it, for years.
      </p>
      <div className="sheet p-5">
        <NewUnit {...known} />
      </div>
    </main>
  )
}
