import { coats } from '@fresh-coat/core/unit/way'
import type { Metadata } from 'next'
import Link from '@/components/link'
import { pack } from '@/components/packed'
import { buttonClass, Empty, Key } from '@/components/paint/paint'
import { listColumns } from '@/components/units/columns'
import { UnitFilters, withWord } from '@/components/units/unit-filters'
import { UnitList } from '@/components/units/unit-list'
import { database, inSnapshot } from '@/server/db/client'
import { together } from '@/server/db/together'
import { type Query, rowsAtFirst, unitFilterOf } from '@/server/units/filter'
import { places, type UnitSort, unitCounts, unitRows } from '@/server/units/lists'

export const dynamic = 'force-dynamic'
export const metadata: Metadata = { title: 'Units' }

const columns: { sort: UnitSort; name: string; narrow: boolean }[] = [
  { sort: 'number', name: 'No.', narrow: true },
  { sort: 'name', name: 'Name', narrow: true },
  { sort: 'place', name: 'Place', narrow: false },
  { sort: 'board', name: 'Board', narrow: false },
]

/** Heads of the columns; each sorts the list, and stands in the address. */
function Heads({ query, sort }: { query: Query; sort: UnitSort }) {
  const head = (to: UnitSort, name: string, className = '') => (
    <Link
      href={withWord(query, 'sort', to === 'number' ? null : to)}
      aria-current={to === sort ? 'true' : undefined}
      className={`${className} ${to === sort ? 'font-bold underline underline-offset-4' : 'hover:underline'}`}
    >
      {name}
    </Link>
  )
  return (
    <nav aria-label="Sorted by" className={`${listColumns} border-b border-ink-3 px-2 py-1 text-[0.93rem] text-ink-2`}>
      {columns.map((c) => (
        <span key={c.sort} className={c.narrow ? '' : 'max-md:hidden'}>
          {head(c.sort, c.name)}
        </span>
      ))}
      <span className="max-md:hidden">Firmware</span>
      <span>{head('progress', 'Coats')}</span>
      <span className="max-md:hidden">{head('due', 'Next, by due day')}</span>
    </nav>
  )
}

export default async function Units({ searchParams }: { searchParams: Promise<Query> }) {
  const query = await searchParams
  const filter = unitFilterOf(query)
  const { counts, rows, placeNames } = await inSnapshot(database(), (tx) =>
    together({ counts: unitCounts(tx, filter), rows: unitRows(tx, filter, 0, rowsAtFirst), placeNames: places(tx) }),
  )
  const { all, found } = counts
  const words = new URLSearchParams(
    Object.entries(query).flatMap(([key, value]) => (typeof value === 'string' ? [[key, value]] : [])),
  ).toString()
  return (
    <main className="px-4 py-3 sm:px-5">
      <div className="mb-2 flex flex-wrap items-center gap-x-4 gap-y-2">
        <h1 className="text-[1.4rem]">
          Units <span className="font-normal text-ink-2">{found === all ? all : `${found} of ${all}`}</span>
        </h1>
        <div className="min-w-0 flex-1">
          <UnitFilters query={query} coats={coats} places={placeNames} />
        </div>
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
        <div className="sheet px-2 py-1">
          <Heads query={query} sort={filter.sort ?? 'number'} />
          {rows.length === 0 && <p className="px-2 py-3 text-ink-2">No unit fits. Take a filter off.</p>}
          <UnitList key={words} given={pack(rows)} count={found} query={words} />
        </div>
      )}
    </main>
  )
}
