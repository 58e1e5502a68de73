import type { ReactNode } from 'react'
import Link from '@/components/link'

type Query = { readonly [key: string]: string | string[] | undefined }

/** The address with one word set or taken off. */
export function withWord(query: Query, key: string, value: string | null): string {
  const { [key]: _, ...others } = query
  const words = Object.entries(others).flatMap(([k, v]) => (typeof v === 'string' ? [[k, v]] : []))
  if (value !== null) words.push([key, value])
  return words.length > 0 ? `/units?${new URLSearchParams(words)}` : '/units'
}

function Filter({ query, name, value, children }: { query: Query; name: string; value: string; children: ReactNode }) {
  const on = query[name] === value
  return (
    <Link
      href={withWord(query, name, on ? null : value)}
      aria-current={on ? 'true' : undefined}
      className={`rounded-[7px] border px-2 py-0.5 ${on ? 'border-ink bg-sheet font-semibold' : 'border-rule hover:border-ink'}`}
    >
      {children}
    </Link>
  )
}

/** Filters that stand in the address, so that a list can be kept and sent. */
export function UnitFilters({
  query,
  coats,
  places,
}: {
  query: Query
  coats: readonly { id: string; name: string }[]
  places: readonly string[]
}) {
  const place = typeof query.place === 'string' ? query.place : ''
  const text = typeof query.q === 'string' ? query.q : ''
  return (
    <nav aria-label="Filters" className="flex flex-wrap items-center gap-1.5 text-[0.93rem]">
      {coats.map((coat) => (
        <Filter key={coat.id} query={query} name="coat" value={coat.id}>
          {coat.name}
        </Filter>
      ))}
      <Filter query={query} name="coat" value="ended">
        given up
      </Filter>
      <Filter query={query} name="waits" value="yes">
        waiting on you
      </Filter>
      {[...new Set([...(place ? [place] : []), ...places])].slice(0, 8).map((p) => (
        <Filter key={p} query={query} name="place" value={p}>
          <span dir="auto">{p}</span>
        </Filter>
      ))}
      {text && (
        <Filter query={query} name="q" value={text}>
          “{text}”
        </Filter>
      )}
      {typeof query.board === 'string' && (
        <Filter query={query} name="board" value={query.board}>
          one board
        </Filter>
      )}
    </nav>
  )
}
