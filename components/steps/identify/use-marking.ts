'use client'
import { type Marking, markingKey } from '@fresh-coat/core/identify/markings'
import { keepPreviousData, useQuery } from '@tanstack/react-query'

async function fetchMarkings(printed: string): Promise<Marking[]> {
  const response = await fetch(`/api/markings?${new URLSearchParams({ printed })}`)
  if (!response.ok) throw new Error('the markings did not come')
  return ((await response.json()) as { value: Marking[] }).value
}

/** What this workshop found for a printed text before, while it is typed; null where it was never met. */
export function useMarking(printed: string, first: readonly Marking[]): Marking | null {
  const key = markingKey(printed)
  const { data } = useQuery({
    queryKey: ['marking', key],
    queryFn: () => fetchMarkings(printed),
    enabled: key !== '',
    staleTime: 60_000,
    placeholderData: keepPreviousData,
    networkMode: 'always',
  })
  return [...(data ?? []), ...first].find((m) => m.key !== '' && m.key === key) ?? null
}
