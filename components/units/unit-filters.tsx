import type { ReactNode } from 'react'
import Link from '@/components/link'

type Query = Record<string, string | string[] | undefined>

/** The address with one filter set or taken off; a new filter begins at the first page. */
function withFilter(query: Query, key: string, value: string | null): string {
  const { after: _, [key]: __, ...others } = query
  const words = Object.entries(others).flatMap(([k, v]) => (typeof v === 'string' ? [[k, v]] : []))
  if (value !== null) words.push([key, value])
  return words.length > 0 ? `/units?${new URLSearchParams(words)}` : '/units'
}

function Filter({ query, name, value, children }: { query: Query; name: string; value: string; children: ReactNode }) {
  const on = query[name] === value
  return (
    <Link
      href={withFilter(query, name, on ? null : value)}
      aria-current={on ? 'true' : undefined}
      className={`rounded-[8px] border px-2.5 py-1 ${on ? 'border-ink bg-sheet font-semibold' : 'border-rule hover:border-ink'}`}
    >
      {children}
    </Link>
  )
}

/** Filters that stand in the address, so that a list can be kept and sent. */
export function UnitFilters({ query, coats }: { query: Query; coats: readonly { id: string; name: string }[] }) {
  const place = typeof query.place === 'string' ? query.place : ''
  return (
    <nav aria-label="Filters" className="mb-3 flex flex-wrap gap-2">
      {coats.map((coat) => (
        <Filter key={coat.id} query={query} name="coat" value={coat.id}>
          {coat.name}
        </Filter>
      ))}
      <Filter query={query} name="waits" value="yes">
        Waiting on you
      </Filter>
      {place && (
        <Filter query={query} name="place" value={place}>
          {place}
        </Filter>
      )}
    </nav>
  )
}
