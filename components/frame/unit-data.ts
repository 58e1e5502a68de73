'use client'
import type { UnitView } from '@fresh-coat/core/unit/view'
import type { StepId } from '@fresh-coat/core/unit/way'
import { type QueryClient, useQuery, useQueryClient } from '@tanstack/react-query'
import { createContext, useCallback, useContext } from 'react'
import type { UnitParts } from '@/components/send'
import type { Choices } from '@/components/steps/context'
import type { LogEntry } from './log-list'

/** What the page of a unit at a step shows; kept per step, so that the next one can be there before it is asked for. */
export interface UnitPage {
  view: UnitView
  choices: Choices
  log: LogEntry[]
  before: number | null
  after: number | null
}

const keyOf = (number: number, step: StepId) => ['unit', number, step] as const

async function fetchPage(number: number, step: StepId): Promise<UnitPage> {
  const response = await fetch(`/api/units/${number}/${step}`)
  if (!response.ok) throw new Error(`the page of unit ${number} did not come: ${response.status}`)
  return ((await response.json()) as { value: UnitPage }).value
}

const freshMs = 4000

/** @param first the page as the server rendered it, for the step it rendered */
export function useUnitPage(number: number, step: StepId, first: UnitPage | undefined) {
  return useQuery({
    queryKey: keyOf(number, step),
    queryFn: () => fetchPage(number, step),
    initialData: first,
    staleTime: freshMs,
    refetchOnWindowFocus: true,
    networkMode: 'always',
  })
}

/** Loads a step ahead, when somebody is about to go there. */
export function usePrefetchStep(number: number): (step: StepId) => void {
  const client = useQueryClient()
  return useCallback(
    (step) =>
      void client.prefetchQuery({
        queryKey: keyOf(number, step),
        queryFn: () => fetchPage(number, step),
        staleTime: freshMs,
      }),
    [client, number],
  )
}

const withParts = (page: UnitPage, parts: UnitParts): UnitPage => ({
  ...page,
  view: { ...page.view, ...parts.view, records: { ...page.view.records, ...parts.records } },
  log: parts.log,
})

/** Every step of the unit that is loaded gets what changed. */
function updatePages(client: QueryClient, number: number, update: (page: UnitPage) => UnitPage): void {
  client.setQueriesData<UnitPage>({ queryKey: ['unit', number] }, (page) => page && update(page))
}

export const applyParts = (client: QueryClient, number: number, parts: UnitParts): void =>
  updatePages(client, number, (page) => withParts(page, parts))

/** A record that was saved: other steps are judged by it too. */
export function applyRecord(
  client: QueryClient,
  number: number,
  step: StepId,
  record: { data: unknown; version: number },
): void {
  // What follows from it on the server, such as the image it names, comes with the next look at another step.
  void client.invalidateQueries({ queryKey: ['unit', number], predicate: (q) => q.queryKey[2] !== step })
  updatePages(client, number, (page) => {
    const records = { ...page.view.records, [step]: { ...page.view.records[step], ...record } } as UnitView['records']
    return { ...page, view: { ...page.view, records, route: records.arrive.data.route } }
  })
}

/** Loads the steps again that are on screen or were loaded: what can be chosen changed. */
export const reloadPages = (client: QueryClient, number: number): Promise<void> =>
  client.invalidateQueries({ queryKey: ['unit', number] })

export interface OnScreen {
  /** "UNIT.STEP", for commands and uploads. */
  unitId: string
  step: StepId
  /** Draws what a command or upload changed. */
  show: (parts: UnitParts | undefined) => void
  reload: () => void
}

/** The unit on screen; null on pages that show none. */
export const OnScreenContext = createContext<OnScreen | null>(null)
export const useOnScreen = (): OnScreen | null => useContext(OnScreenContext)
