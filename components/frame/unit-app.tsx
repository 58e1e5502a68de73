'use client'
import { isStepId, type StepId, stepOf } from '@fresh-coat/core/unit/way'
import { usePathname } from 'next/navigation'
import { useEffect } from 'react'
import { type Packed, usePacked } from '@/components/packed'
import { twoDigits } from '@/components/paint/paint'
import { type UnitPage, useUnitPage } from './unit-data'
import { UnitWorkspace } from './unit-workspace'
import { type Judged, useRules } from './use-rules'

/** The step in the address; the one that was rendered while the address says none. */
const stepIn = (path: string, rendered: StepId): StepId => {
  const last = path.split('/').at(-1)
  return isStepId(last) ? last : rendered
}

/** What the server read and judged for the page it rendered. */
export interface Given {
  first: UnitPage
  judged: Judged
}

/**
 * A unit at its steps. Going from step to step changes the address and the data, and loads no page.
 */
export function UnitApp({ given, rendered }: { given: Packed<Given>; rendered: StepId }) {
  const { first, judged } = usePacked(given)
  const rules = useRules()
  const step = stepIn(usePathname(), rendered)
  const { number } = first.view
  const { data } = useUnitPage(number, step, step === rendered ? first : undefined)
  useEffect(() => {
    document.title = `${twoDigits(number)} ${stepOf(step).title} · Fresh Coat`
  }, [number, step])
  if (!data || !(rules || step === rendered))
    return (
      <p className="p-5 text-ink-2" role="status">
        {stepOf(step).title} is coming…
      </p>
    )
  return <UnitWorkspace key={`${data.view.id}-${step}`} step={step} page={data} judged={judged} />
}
