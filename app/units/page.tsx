import { coats, isCoatId } from '@fresh-coat/core/unit/way'
import type { Metadata } from 'next'
import Link from '@/components/link'
import { buttonClass, Empty, Key } from '@/components/paint/paint'
import { UnitFilters } from '@/components/units/unit-filters'
import { UnitRows } from '@/components/units/unit-row'
import { database, inSnapshot } from '@/server/db/client'
import { filteredCount, type UnitFilter, unitCount, unitPage } from '@/server/units/lists'

export const dynamic = 'force-dynamic'
export const metadata: Metadata = { title: 'Units' }

const rowsAPage = 50
type Query = Record<string, string | string[] | undefined>
const one = (value: string | string[] | undefined): string => (typeof value === 'string' ? value : '')

/** The filter as it stands in the address; what is not understood is left out. */
function filterOf(query: Query): UnitFilter {
  const after = Number(one(query.after))
  const coat = one(query.coat)
  return {
    ...(Number.isInteger(after) && after > 0 && after < 1e6 ? { after } : {}),
    ...(isCoatId(coat) ? { coat } : {}),
    ...(/^[0-9a-f-]{36}$/.test(one(query.board)) ? { board: one(query.board) } : {}),
    ...(one(query.place) ? { place: one(query.place).slice(0, 120) } : {}),
    ...(one(query.waits) ? { waits: true } : {}),
    ...(one(query.q) ? { text: one(query.q).slice(0, 100) } : {}),
  }
}

const address = (query: Query, after: number): string => {
  const words = Object.entries({ ...query, after: String(after) }).flatMap(([key, value]) =>
    typeof value === 'string' ? [[key, value]] : [],
  )
  return `/units?${new URLSearchParams(words)}`
}

export default async function Units({ searchParams }: { searchParams: Promise<Query> }) {
  const query = await searchParams
  const filter = filterOf(query)
  const { all, found, rows } = await inSnapshot(database(), async (tx) => ({
    all: await unitCount(tx),
    found: await filteredCount(tx, filter),
    rows: await unitPage(tx, filter, rowsAPage + 1),
  }))
  const shown = rows.slice(0, rowsAPage)
  const last = shown.at(-1)
  return (
    <main className="px-4 py-4 sm:px-6">
      <div className="mb-3 flex items-center justify-between gap-4">
        <h1 className="text-[1.5rem]">
          Units <span className="font-normal text-ink-2">{found === all ? all : `${found} of ${all}`}</span>
        </h1>
        <Link href="/units/new" data-key="n" className={buttonClass('main')}>
          New unit
          <Key>n</Key>
        </Link>
      </div>
      {all === 0 ? (
        <Empty title="No unit yet">
          <p>A unit is one device with a number on its case. Begin with the one you have in hand.</p>
        </Empty>
      ) : (
        <>
          <UnitFilters query={query} coats={coats} />
          {shown.length === 0 && <p className="py-3 text-ink-2">No unit fits. Take a filter off.</p>}
          <UnitRows units={shown} />
          {rows.length > rowsAPage && last && (
            <p className="mt-3">
              <Link href={address(query, last.number)} className={buttonClass('plain')}>
                The next {rowsAPage}
              </Link>
            </p>
          )}
        </>
      )}
    </main>
  )
}
