'use client'
import type { Assessment } from '@fresh-coat/core/unit/assess'
import { type StepId, stepOf } from '@fresh-coat/core/unit/way'
import { useInfiniteQuery } from '@tanstack/react-query'
import { useWindowVirtualizer } from '@tanstack/react-virtual'
import { useEffect, useRef, useState } from 'react'
import Link from '@/components/link'
import { type Packed, usePacked } from '@/components/packed'
import { twoDigits } from '@/components/paint/paint'
import { Stripe } from '@/components/paint/stripe'
import { listColumns } from './columns'

export interface ListRow {
  id: string
  number: number
  name: string
  place: string
  board: string
  family: string | null
  firmware: string
  coats: Assessment['coats']
  waiting: Assessment['waiting']
  inService: boolean
  lane: string
  next: StepId
  due: string | null
}

const rowPx = 34
/** Rows that are drawn beyond the window, on each side. */
const overscan = 12

function Standing({ unit }: { unit: ListRow }) {
  const [first] = unit.waiting
  if (first)
    return (
      <span className={first.severity === 'error' ? 'text-oxide' : 'text-ochre'}>
        {stepOf(first.step).short.toLowerCase()}: {first.severity === 'error' ? 'trouble' : 'stale'}
      </span>
    )
  if (unit.lane === 'ended') return <span className="text-ink-3">given up</span>
  return unit.inService ? 'in service' : stepOf(unit.next).short.toLowerCase()
}

/** One unit in a line: number, name, place, board, firmware, its stripe, and what comes next. */
function Row({ unit, top }: { unit: ListRow; top: number }) {
  const { done, of } = unit.coats.reduce((a, c) => ({ done: a.done + c.done, of: a.of + c.of }), { done: 0, of: 0 })
  return (
    <li className="absolute inset-x-0" style={{ top, height: rowPx }}>
      <Link
        href={`/units/${unit.number}`}
        className={`${listColumns} h-full rounded-[6px] border-b border-rule-2 px-2 whitespace-nowrap hover:bg-ok-soft`}
      >
        <span className="font-title text-[1.05rem] font-extrabold">{twoDigits(unit.number)}</span>
        <span className="truncate font-semibold" dir="auto">
          {unit.name}
        </span>
        <span className="truncate text-ink-2 max-md:hidden" dir="auto">
          {unit.place}
        </span>
        <span className="truncate max-md:hidden">{unit.board || 'board not named'}</span>
        <span className="truncate text-ink-2 max-md:hidden">{unit.firmware || unit.family}</span>
        <span className="relative h-[15px] rounded-[3px] bg-unpainted/60">
          <Stripe coats={unit.coats} />
          <span className="sr-only">
            {done} of {of} steps
          </span>
        </span>
        <span className="truncate text-[0.93rem] max-md:hidden">
          <Standing unit={unit} />
        </span>
      </Link>
    </li>
  )
}

async function rowsFrom(query: string, from: number): Promise<ListRow[]> {
  const response = await fetch(`/api/units?${query}${query ? '&' : ''}from=${from}`)
  if (!response.ok) throw new Error('the list did not come')
  return ((await response.json()) as { value: ListRow[] }).value
}

/** The list in a window: only the rows that can be seen are drawn, the next ones come while one scrolls. */
export function UnitList({ given, count, query }: { given: Packed<ListRow[]>; count: number; query: string }) {
  const first = usePacked(given)
  const list = useRef<HTMLUListElement>(null)
  const [top, setTop] = useState(0)
  useEffect(() => setTop(list.current?.offsetTop ?? 0), [])
  const { data, fetchNextPage, isFetchingNextPage, isError } = useInfiniteQuery({
    queryKey: ['units', query, given],
    queryFn: ({ pageParam }) => rowsFrom(query, pageParam),
    initialPageParam: 0,
    getNextPageParam: (last, pages) => (last.length === 0 ? undefined : pages.reduce((n, p) => n + p.length, 0)),
    initialData: { pages: [first], pageParams: [0] },
    staleTime: Number.POSITIVE_INFINITY,
  })
  const rows = data.pages.flat()
  const view = useWindowVirtualizer({
    count,
    estimateSize: () => rowPx,
    overscan,
    scrollMargin: top,
    // Before the browser has measured anything, what the server drew stands.
    initialRect: { width: 1280, height: 800 },
  })
  const shown = view.getVirtualItems()
  const last = shown.at(-1)?.index ?? 0
  useEffect(() => {
    if (last >= rows.length - overscan && rows.length < count && !isFetchingNextPage && !isError) void fetchNextPage()
  }, [last, rows.length, count, isFetchingNextPage, isError, fetchNextPage])
  return (
    <>
      <ul ref={list} className="relative" style={{ height: count * rowPx }} aria-label="Units">
        {shown.map((item) => {
          const unit = rows[item.index]
          return unit ? (
            <Row key={unit.id} unit={unit} top={item.start - top} />
          ) : (
            <li
              key={item.key}
              className="absolute inset-x-0 text-ink-3"
              style={{ top: item.start - top, height: rowPx }}
            >
              …
            </li>
          )
        })}
      </ul>
      {isError && (
        <p className="py-2 text-ochre" role="status">
          The server does not answer.{' '}
          <button type="button" className="underline" onClick={() => void fetchNextPage()}>
            Ask again
          </button>
        </p>
      )}
    </>
  )
}
