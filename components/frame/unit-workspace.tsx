'use client'
import type { AssessedStep } from '@fresh-coat/core/unit/assess'
import type { UnitView } from '@fresh-coat/core/unit/view'
import { type GateId, type StepId, stepIds, stepOf } from '@fresh-coat/core/unit/way'
import { useQueryClient } from '@tanstack/react-query'
import dynamic from 'next/dynamic'
import { type ComponentType, useCallback, useEffect, useMemo, useState } from 'react'
import { deskStore } from '@/components/link/desk-store'
import { useDesk } from '@/components/link/use-desk'
import { twoDigits } from '@/components/paint/paint'
import type { Choices, SurfaceProps } from '@/components/steps/context'
import { surfaces } from '@/components/steps/surfaces'
import { GivenUp } from '@/components/units/give-up'
import { BottomBar } from './bottom-bar'
import { goToConflict } from './conflict'
import { ahead } from './fetch-ahead'
import { type Frame, FrameContext, useKeptMap } from './frame-context'
import { GateCard, GateLine } from './gates'
import { usePastedWords } from './pasted-words'
import { goToStep } from './step-link'
import { StepNotices, Unreadable } from './step-notices'
import { Strip } from './strip'
import { applyRecord, OnScreenContext, type UnitPage, usePrefetchStep } from './unit-data'
import { useRecord } from './use-record'
import { type Judged, useRules } from './use-rules'
import { useUnitActions } from './use-unit-actions'

// They open on demand: their code comes when they do.
const Known = dynamic(
  ahead(() => import('./known').then((m) => m.Known)),
  { ssr: false },
)
const BenchView = dynamic(
  ahead(() => import('./bench-view').then((m) => m.BenchView)),
  { ssr: false },
)
const ToolWords = dynamic(
  ahead(() => import('./tool-words').then((m) => m.ToolWords)),
  { ssr: false },
)
const Trouble = dynamic(
  ahead(() => import('./trouble').then((m) => m.Trouble)),
  { ssr: false },
)

/** The unit with what is typed right now: everything derived moves as it changes, before it is saved. */
function withTyped<S extends StepId>(stored: UnitView, step: S, data: unknown, choices: Choices): UnitView {
  const records = { ...stored.records, [step]: { ...stored.records[step], data } } as UnitView['records']
  const { adapterId } = records.wire.data
  const { moduleId } = records.pads.data
  const { fileId } = records.check.data
  return {
    ...stored,
    records,
    route: records.arrive.data.route,
    adapter: choices.adapters.find((a) => a.id === adapterId) ?? null,
    module: choices.modules.find((m) => m.id === moduleId) ?? (stored.module?.id === moduleId ? stored.module : null),
    image: choices.images.find((f) => f.id === fileId) ?? (stored.image?.id === fileId ? stored.image : null),
  }
}

/** A step was on screen already in this visit. */
let steppedBefore = false

/** The step that is worked on after this one. */
const following = (step: StepId, steps: readonly AssessedStep[]): StepId | undefined =>
  stepIds
    .slice(stepIds.indexOf(step) + 1)
    .find((id) => !['skipped', 'done', 'decided'].includes(steps.find((s) => s.id === id)?.state ?? ''))

/** What the link does at a step. */
const workAt: Partial<Record<StepId, readonly string[]>> = {
  backup: ['read', 'write'],
  write: ['write'],
  start: ['listen'],
  pins: ['listen'],
}

/** Everything is there: the next step is loaded while the hand goes to the button. Who came by hand goes on at the question. */
function useOnward(number: number, ready: boolean, next: StepId | undefined): void {
  const ahead = usePrefetchStep(number)
  useEffect(() => {
    if (ready && next) ahead(next)
  }, [ready, next, ahead])
  // A page that was loaded leaves the focus alone.
  useEffect(() => {
    if (steppedBefore) document.querySelector<HTMLElement>('[data-part="card"]')?.focus({ preventScroll: true })
    steppedBefore = true
  }, [])
}

const closedStates: ReadonlySet<string> = new Set(['done', 'decided', 'skipped'])

/** The gate in front of the next act; null while none is in the way. */
function useGateInTheWay(view: UnitView, here: AssessedStep, gates: Judged['gates']): GateId | null {
  // What goes on over the link was begun behind its gate: it is not covered by the one in front of the next act.
  const linked = useDesk(deskStore)
  const atWork =
    linked.unitId === view.id && linked.phase !== 'idle' && workAt[here.id]?.includes(linked.what ?? '') === true
  // What is over is not in the way of anything: the gate is wanted before the next act.
  const over = closedStates.has(here.state) || (here.ready && gates.actIsOver)
  return over || atWork ? null : gates.inTheWay
}

type Act = ReturnType<typeof useUnitActions>['act']
type Opened = 'bench' | 'trouble' | 'known' | 'words'

interface OpenedProps {
  what: Opened | null
  pasted: string | null
  view: UnitView
  step: StepId
  page: UnitPage
  record: ReturnType<typeof useRecord>
  refusal: ReturnType<typeof useUnitActions>['refusal']
  act: Act
  close: (open: boolean) => void
}

/** What lies over the step, on demand. */
function OverTheStep({ what, pasted, view, step, page, record, refusal, act, close }: OpenedProps) {
  const rules = useRules()
  if (what === 'bench' && rules)
    return (
      <BenchView
        title={`${twoDigits(view.number)} ${stepOf(step).title}`}
        steps={rules.instructionsOf(view, step)}
        open
        onOpenChange={close}
        onTick={(id, did, reading) => {
          const change = rules.tickOff(view, step, id, did, reading)
          if (change) record.patch(change as never)
        }}
      />
    )
  if (what === 'trouble') return <Trouble view={view} step={step} open onOpenChange={close} act={act} />
  if (what === 'words')
    return <ToolWords view={view} step={step} pasted={pasted} act={act} refusal={refusal} onOpenChange={close} />
  return what === 'known' && <Known view={view} log={page.log} choices={page.choices} onOpenChange={close} />
}

interface InTheWayProps {
  view: UnitView
  step: StepId
  gate: GateId | null
  gates: Judged['gates']
  act: Act
}

/** What stands in place of the card: a unit that was given up, or the gate in the way. */
function InTheWay({ view, step, gate, gates, act }: InTheWayProps) {
  if (view.ended) return <GivenUp ended={view.ended} again={() => void act('take-up-again', { unitId: view.id })} />
  return (
    <GateCard
      key={gate}
      view={view}
      step={step}
      gate={gate as GateId}
      gates={gates}
      confirm={(said) => void act('confirm-gate', { unitId: view.id, gate, ...said })}
    />
  )
}

/**
 * One step of one unit: the strip, the sheet with its drawing and card, what is known on demand, the one next action below.
 * @param judged where the unit stands as the server judged it; shown until the rules themselves are here
 */
export function UnitWorkspace({ page, step, judged }: { page: UnitPage; step: StepId; judged: Judged }) {
  const rules = useRules()
  const client = useQueryClient()
  const { view: stored, choices } = page
  const record = useRecord(stored.id, step, stored.records[step] as never, (saved) =>
    applyRecord(client, stored.number, step, saved),
  )
  const { act, onScreen, busy, refusal, away } = useUnitActions(stored, step, record)
  const [open, setOpen] = useState<Opened | null>(null)
  const [pasted, setPasted] = useState<string | null>(null)
  const openWords = useCallback((text: string | null) => {
    setPasted(text)
    setOpen('words')
  }, [])
  usePastedWords(openWords)

  const view = useMemo(() => withTyped(stored, step, record.data, choices), [stored, step, record.data, choices])
  const { assessment, gates } = useMemo(() => rules?.judge(view, step) ?? judged, [rules, view, step, judged])
  const here = assessment.steps.find((s) => s.id === step) as AssessedStep
  const next = following(step, assessment.steps)
  useOnward(view.number, here.ready, next)
  const gate = useGateInTheWay(view, here, gates)

  const finish = async () => {
    if (!(await record.flush())) return goToConflict()
    if ((await act('finish-step', { unitId: view.id, step, version: record.version() })) && next)
      goToStep(view.number, next)
  }
  const Surface = surfaces[step] as unknown as ComponentType<SurfaceProps<StepId>>
  const frame: Frame = {
    kept: useKeptMap(),
    gateLine: <GateLine gates={gates} />,
    gateCard: (view.ended || gate) && <InTheWay {...{ view, step, gate, gates, act }} />,
    notices: (
      <>
        <StepNotices record={record} refusal={refusal} away={away} here={here} />
        <Unreadable
          record={stored.records[step]}
          href={`/api/units/${view.number}/${step}/record`}
          beginAnew={() => void act('begin-anew', { unitId: view.id, step, version: stored.records[step].version })}
        />
      </>
    ),
  }
  return (
    <OnScreenContext.Provider value={onScreen}>
      <FrameContext.Provider value={frame}>
        <div className="frame flex min-h-[calc(100dvh-52px)] flex-col lg:h-[calc(100dvh-52px)]">
          <Strip view={view} step={step} assessment={assessment} />
          <main
            data-step={step}
            className="grid min-h-0 flex-1 grid-cols-[minmax(0,1fr)] max-lg:content-start lg:grid-cols-[minmax(0,1fr)_320px] xl:grid-cols-[minmax(0,1fr)_384px]"
          >
            <Surface view={view} assessment={assessment} record={record as never} choices={choices} act={act} />
          </main>
          <BottomBar
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
            openKnown={() => setOpen('known')}
            openWords={() => openWords(null)}
          />
          <OverTheStep
            {...{ pasted, view, step, page, record, refusal, act }}
            what={open}
            close={(is) => !is && setOpen(null)}
          />
        </div>
      </FrameContext.Provider>
    </OnScreenContext.Provider>
  )
}
