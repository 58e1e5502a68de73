'use client'
import { type AssessedStep, assess } from '@fresh-coat/core/unit/assess'
import { instructionsOf, tickOff } from '@fresh-coat/core/unit/steps'
import type { UnitView } from '@fresh-coat/core/unit/view'
import { type StepId, stepIds, stepOf } from '@fresh-coat/core/unit/way'
import { useQueryClient } from '@tanstack/react-query'
import dynamic from 'next/dynamic'
import { type ComponentType, useEffect, useMemo, useState } from 'react'
import { twoDigits } from '@/components/paint/paint'
import type { Choices, SurfaceProps } from '@/components/steps/context'
import { surfaces } from '@/components/steps/surfaces'
import { goToConflict } from './conflict'
import { DoneWhen } from './done-when'
import { Gates } from './gates'
import { KnownFacts } from './known-facts'
import { NextAction } from './next-action'
import { goToStep } from './step-link'
import { StepList } from './step-list'
import { StepNotices, Unreadable } from './step-notices'
import { applyRecord, OnScreenContext, type UnitPage, usePrefetchStep } from './unit-data'
import { UnitHead } from './unit-head'
import { useRecord } from './use-record'
import { useUnitActions } from './use-unit-actions'

// Both open on demand: their code comes when they do.
const BenchView = dynamic(() => import('./bench-view').then((m) => m.BenchView), { ssr: false })
const Trouble = dynamic(() => import('./trouble').then((m) => m.Trouble), { ssr: false })

/** The unit with what is typed right now: everything derived moves as it changes, before it is saved. */
function withTyped<S extends StepId>(stored: UnitView, step: S, data: unknown, choices: Choices): UnitView {
  const records = { ...stored.records, [step]: { ...stored.records[step], data } } as UnitView['records']
  const { adapterId } = records.wire.data
  const { fileId } = records.check.data
  return {
    ...stored,
    records,
    route: records.arrive.data.route,
    adapter: choices.adapters.find((a) => a.id === adapterId) ?? null,
    image: choices.images.find((f) => f.id === fileId) ?? (stored.image?.id === fileId ? stored.image : null),
  }
}

/** The step that is worked on after this one. */
const following = (step: StepId, steps: readonly AssessedStep[]): StepId | undefined =>
  stepIds
    .slice(stepIds.indexOf(step) + 1)
    .find((id) => !['skipped', 'done', 'decided'].includes(steps.find((s) => s.id === id)?.state ?? ''))

/** One step of one unit: the steps on the left, the work surface, what is known, and the one next action below. */
export function UnitWorkspace({ page, step }: { page: UnitPage; step: StepId }) {
  const client = useQueryClient()
  const { view: stored, choices } = page
  const record = useRecord(stored.id, step, stored.records[step] as never, (saved) =>
    applyRecord(client, stored.number, step, saved),
  )
  const { act, onScreen, busy, refusal, away } = useUnitActions(stored, step, record)
  const [open, setOpen] = useState<'bench' | 'trouble' | null>(null)

  const view = useMemo(() => withTyped(stored, step, record.data, choices), [stored, step, record.data, choices])
  const assessment = useMemo(() => assess(view), [view])
  const here = assessment.steps.find((s) => s.id === step) as AssessedStep
  const ahead = usePrefetchStep(view.number)
  const next = following(step, assessment.steps)
  // Everything is there: the next step is loaded while the hand goes to the button.
  useEffect(() => {
    if (here.ready && next) ahead(next)
  }, [here.ready, next, ahead])

  const finish = async () => {
    if (!(await record.flush())) return goToConflict()
    if ((await act('finish-step', { unitId: view.id, step, version: record.version() })) && next)
      goToStep(view.number, next)
  }
  const Surface = surfaces[step] as unknown as ComponentType<SurfaceProps<StepId>>
  return (
    <OnScreenContext.Provider value={onScreen}>
      <div className="flex min-h-[calc(100dvh-52px)] flex-col">
        <UnitHead view={view} coats={assessment.coats} />
        <div className="grid flex-1 lg:grid-cols-[196px_minmax(0,1fr)] xl:grid-cols-[196px_minmax(0,1fr)_284px]">
          <div className="hidden px-3 py-2 lg:block">
            <StepList number={view.number} step={step} steps={assessment.steps} />
          </div>
          <details className="no-print border-b border-rule bg-sheet-2 px-4 py-2 lg:hidden">
            <summary className="font-semibold">
              {stepOf(step).title} <span className="font-normal text-ink-2">· all steps</span>
            </summary>
            <div className="pt-2">
              <StepList number={view.number} step={step} steps={assessment.steps} />
            </div>
          </details>
          <main
            data-step={step}
            className="grid min-w-0 grid-cols-[minmax(0,1fr)] content-start gap-4 border-rule bg-sheet px-4 py-4 sm:px-6 lg:border-l"
          >
            <StepNotices record={record} refusal={refusal} away={away} here={here} />
            <Unreadable
              record={stored.records[step]}
              href={`/api/units/${view.number}/${step}/record`}
              beginAnew={() => void act('begin-anew', { unitId: view.id, step, version: stored.records[step].version })}
            />
            <Surface
              view={view}
              assessment={assessment}
              record={record as never}
              choices={choices}
              act={act}
              gates={
                <Gates
                  view={view}
                  step={step}
                  confirm={(gate, said) => void act('confirm-gate', { unitId: view.id, gate, ...said })}
                />
              }
            />
            <DoneWhen conditions={here.conditions} />
          </main>
          <aside
            className="border-t border-rule bg-sheet-2 px-5 py-4 lg:col-span-2 xl:col-span-1 xl:border-t-0 xl:border-l"
            aria-label="What is known"
          >
            <KnownFacts view={view} log={page.log} choices={choices} />
          </aside>
        </div>
        <NextAction
          view={view}
          step={step}
          here={here}
          next={assessment.next}
          saving={record.state}
          before={page.before}
          after={page.after}
          busy={busy}
          finish={() => void finish()}
          reopen={() => void act('reopen-step', { unitId: view.id, step, version: record.version() || null })}
          undo={() => void act('undo', { unitId: view.id })}
          openBench={() => setOpen('bench')}
          openTrouble={() => setOpen('trouble')}
        />
        {open === 'bench' && (
          <BenchView
            title={`${twoDigits(view.number)} ${stepOf(step).title}`}
            steps={instructionsOf(view, step)}
            open
            onOpenChange={(is) => setOpen(is ? 'bench' : null)}
            onTick={(id, did) => {
              const change = tickOff(view, step, id, did)
              if (change) record.patch(change as never)
            }}
          />
        )}
        {open === 'trouble' && (
          <Trouble view={view} step={step} open onOpenChange={(is) => setOpen(is ? 'trouble' : null)} act={act} />
        )}
      </div>
    </OnScreenContext.Provider>
  )
}
