'use client'
import type { AssessedStep, Assessment } from '@fresh-coat/core/unit/assess'
import type { CoatProgress } from '@fresh-coat/core/unit/coats'
import type { UnitView } from '@fresh-coat/core/unit/view'
import { type CoatId, type StepId, stepOf, steps } from '@fresh-coat/core/unit/way'
import { useState } from 'react'
import { CaseNumber, PaintBand } from '@/components/paint/paint'
import { StepLink } from './step-link'

const sign: Record<AssessedStep['state'], string> = {
  done: '✓',
  decided: '✓',
  skipped: '–',
  stale: '!',
  'in hand': '',
  todo: '',
}

const membersOf = (coat: CoatId, assessed: readonly AssessedStep[]) =>
  steps.filter((s) => s.coat === coat).map((s) => ({ ...s, here: assessed.find((a) => a.id === s.id) as AssessedStep }))

/** Steps of a coat as links, with how each stands. */
function StepLinks({
  number,
  coat,
  step,
  assessed,
  className,
}: {
  number: number
  coat: CoatId
  step: StepId
  assessed: readonly AssessedStep[]
  className: string
}) {
  return (
    <ul className={className}>
      {membersOf(coat, assessed).map((s) => (
        <li key={s.id} className="min-w-0 flex-1">
          <StepLink
            number={number}
            step={s.id}
            aria-current={s.id === step ? 'step' : undefined}
            className={`block whitespace-nowrap border-b-2 px-1 pb-0.5 text-center text-[0.87rem] leading-[1.5rem] ${s.id === step ? 'border-ink font-bold text-ink' : 'border-transparent text-ink-2 hover:border-ink-3'} ${s.here.state === 'skipped' ? 'line-through decoration-ink-3' : ''}`}
          >
            {sign[s.here.state] && (
              <span aria-hidden="true" className={s.here.state === 'stale' ? 'font-bold text-ochre' : ''}>
                {sign[s.here.state]}{' '}
              </span>
            )}
            {s.short}
            <span className="sr-only">, {s.here.state}</span>
          </StepLink>
        </li>
      ))}
    </ul>
  )
}

interface StripProps {
  view: UnitView
  step: StepId
  assessment: Assessment
}

/** A coat with its steps under it: the one of the step on screen stands open, the others open on hover, focus or a tap. */
function Coat({
  coat,
  open,
  menu,
  setMenu,
  number,
  step,
  assessed,
}: {
  coat: CoatProgress
  open: boolean
  menu: boolean
  setMenu: (open: boolean) => void
  number: number
  step: StepId
  assessed: readonly AssessedStep[]
}) {
  const count = `${coat.done}/${coat.of}`
  const band = (
    <>
      <span className="flex items-baseline justify-between gap-1 font-title text-[0.9rem] font-semibold">
        <span>{coat.name}</span>
        <span className="font-normal text-ink-2">{count}</span>
      </span>
      <PaintBand coat={coat.id} share={coat.of === 0 ? 1 : coat.done / coat.of} active={coat.active} />
    </>
  )
  if (open)
    return (
      <li className="min-w-0 flex-1">
        {band}
        <StepLinks
          number={number}
          coat={coat.id}
          step={step}
          assessed={assessed}
          className="mt-0.5 flex justify-around gap-1"
        />
      </li>
    )
  return (
    <li
      className="relative w-[84px] shrink-0 xl:w-[112px]"
      onMouseEnter={() => setMenu(true)}
      onMouseLeave={() => setMenu(false)}
      onBlur={(e) => {
        if (!e.currentTarget.contains(e.relatedTarget)) setMenu(false)
      }}
      onKeyDown={(e) => {
        if (e.key === 'Escape') setMenu(false)
      }}
    >
      <button
        type="button"
        aria-expanded={menu}
        aria-label={`${coat.name}, ${coat.done} of ${coat.of} done: its steps`}
        className="block w-full text-left"
        onClick={() => setMenu(!menu)}
        onFocus={() => setMenu(true)}
      >
        {band}
      </button>
      {menu && (
        <div className="sheet absolute top-full right-0 z-30 min-w-[9.5rem] px-2 pt-1 pb-2">
          <StepLinks number={number} coat={coat.id} step={step} assessed={assessed} className="grid gap-0.5" />
        </div>
      )}
    </li>
  )
}

/** On a phone: one painted line of all coats; a tap opens the steps. */
function PaintedLine({ view, step, assessment }: StripProps) {
  return (
    <details className="md:hidden">
      <summary className="list-none" aria-label="All steps">
        <span className="flex gap-1" aria-hidden="true">
          {assessment.coats.map((c) => (
            <span key={c.id} className="flex-1">
              <PaintBand coat={c.id} share={c.of === 0 ? 1 : c.done / c.of} active={c.active} />
            </span>
          ))}
        </span>
      </summary>
      <div className="grid grid-cols-3 gap-x-3 gap-y-2 pt-2">
        {assessment.coats.map((c) => (
          <div key={c.id}>
            <p className="font-title font-semibold">{c.name}</p>
            <StepLinks number={view.number} coat={c.id} step={step} assessed={assessment.steps} className="grid" />
          </div>
        ))}
      </div>
    </details>
  )
}

/** Number, name and board of the unit, and its five coats with the steps of the one in hand. */
export function Strip({ view, step, assessment }: StripProps) {
  const [menu, setMenu] = useState<CoatId | null>(null)
  const here = stepOf(step).coat
  return (
    <section
      aria-label="Unit"
      className="grid items-center gap-x-6 gap-y-1.5 border-b border-rule px-5 py-2 md:h-[84px] md:grid-cols-[minmax(11rem,25%)_minmax(0,1fr)] md:py-0"
    >
      <div className="flex min-w-0 items-center gap-3.5">
        <CaseNumber n={view.number} />
        <div className="min-w-0">
          <h1
            className={`line-clamp-2 leading-[1.15] ${view.name.length > 22 ? 'text-[1.1rem]' : 'text-[1.3rem]'}`}
            dir="auto"
            title={view.name}
          >
            {view.name}
          </h1>
          <p className="truncate text-[0.93rem] text-ink-2" dir="auto">
            {[view.board?.name ?? 'Board not named yet', view.place].filter(Boolean).join(' · ')}
          </p>
        </div>
      </div>
      <nav aria-label="Steps" className="no-print min-w-0">
        <ol className="hidden items-start gap-2 md:flex" aria-label="Coats">
          {assessment.coats.map((c) => (
            <Coat
              key={c.id}
              coat={c}
              open={c.id === here}
              menu={menu === c.id}
              setMenu={(is) => setMenu(is ? c.id : null)}
              number={view.number}
              step={step}
              assessed={assessment.steps}
            />
          ))}
        </ol>
        <PaintedLine view={view} step={step} assessment={assessment} />
      </nav>
    </section>
  )
}
