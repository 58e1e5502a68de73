'use client'
import { isStepId, type StepId, stepOf } from '@fresh-coat/core/unit/way'
import { usePathname } from 'next/navigation'
import { useEffect } from 'react'
import { twoDigits } from '@/components/paint/paint'
import { type UnitPage, useUnitPage } from './unit-data'
import { UnitWorkspace } from './unit-workspace'
import { type Judged, useRules } from './use-rules'

/** The step in the address; the one that was rendered while the address says none. */
const stepIn = (path: string, rendered: StepId): StepId => {
  const last = path.split('/').at(-1)
  return isStepId(last) ? last : rendered
}

/**
 * A unit at its steps. Going from step to step changes the address and the data, and loads no page.
 * @param judged where it stands, as the server judged the page it rendered
 */
export function UnitApp({ first, judged, rendered }: { first: UnitPage; judged: Judged; rendered: StepId }) {
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
