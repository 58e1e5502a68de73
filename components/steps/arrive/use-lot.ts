'use client'
import { type LotBoard, lotKey } from '@fresh-coat/core/steps/arrive/lot'
import { keepPreviousData, useQuery } from '@tanstack/react-query'

async function fetchLot(lot: string, seller: string, but: number): Promise<LotBoard[]> {
  const response = await fetch(`/api/lots?${new URLSearchParams({ lot, seller, but: String(but) })}`)
  if (!response.ok) throw new Error('the lot did not come')
  return ((await response.json()) as { value: LotBoard[] }).value
}

const none: LotBoard[] = []

/** What the other units of a lot turned out to be; empty without a lot. */
export function useLot(lot: string, seller: string, but: number): LotBoard[] {
  const key = lotKey(lot)
  const { data } = useQuery({
    queryKey: ['lot', key, lotKey(seller), but],
    queryFn: () => fetchLot(lot, seller, but),
    enabled: key !== '',
    staleTime: 60_000,
    placeholderData: keepPreviousData,
    networkMode: 'always',
  })
  return key === '' ? none : (data ?? none)
}
