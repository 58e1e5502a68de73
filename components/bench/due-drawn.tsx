'use client'
import type { DueDays, DueGroups } from '@fresh-coat/core/fleet/due'
import { type Packed, usePacked } from '@/components/packed'
import { Scrolls } from '@/components/tables/scrolls'
import { DueLists } from './due-groups'
import { DueMonth } from './due-month'

export interface DueGiven {
  due: DueDays
  groups: DueGroups
  /** Of days, from Monday. */
  rows: readonly (readonly string[])[]
  /** Shown of a day, at most. */
  inDay: number
  today: string
}

/** Six weeks as a calendar, and the same by how near it is. */
export function DueDrawn({ given }: { given: Packed<DueGiven> }) {
  const { groups, ...month } = usePacked(given)
  return (
    <>
      <Scrolls label="Six weeks">
        <DueMonth {...month} />
      </Scrolls>
      <DueLists groups={groups} />
    </>
  )
}
