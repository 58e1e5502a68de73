'use client'
import { assess } from '@fresh-coat/core/journey/assess'
import { instructionsOf, tickOff } from '@fresh-coat/core/journey/instructions'
import { coats, type StepId, stepIds, stepOf, steps } from '@fresh-coat/core/journey/steps'
import type { UnitView } from '@fresh-coat/core/journey/view'
import Link from 'next/link'
import { useRouter } from 'next/navigation'
import { type ComponentType, useMemo, useState } from 'react'
import { BenchView } from './bench-view'
import { Gates } from './gates'
import { KnownFacts } from './known-facts'
import type { LogEntry } from './log-list'
import { buttonClass, CaseNumber, CoatBands, coatPaint, Key, Notice, Tag, twoDigits } from './paint'
import { type Refusal, send } from './send'
import type { Choices, SurfaceProps } from './steps/context'
import { surfaces } from './steps/surfaces'
import { Trouble } from './trouble'
import { useRecord } from './use-record'

export interface UnitWorkspaceProps {
  view: UnitView
  step: StepId
  choices: Choices
  log: LogEntry[]
  before: number | null
  after: number | null
}

const stateSign: Record<string, string> = { done: '✓', decided: '✓', skipped: '–', stale: '!', 'in hand': '', todo: '' }

function StepList({
  view,
  step,
  states,
}: {
  view: UnitView
  step: StepId
  states: Map<StepId, { state: string; because: string }>
}) {
  return (
    <nav aria-label="Steps" className="no-print">
      {coats.map((coat) => (
        <div key={coat.id} className="mb-1.5">
          <p className="flex items-center gap-2 px-2 font-title text-[0.85rem] font-semibold text-ink-2">
            <span className="h-2 w-3.5 rounded-[2px]" style={{ background: coatPaint[coat.id] }} aria-hidden="true" />
            {coat.name}
          </p>
          <ul>
            {steps
              .filter((s) => s.coat === coat.id)
              .map((s) => {
                const state = states.get(s.id)
                const settled = state?.state === 'done' || state?.state === 'decided'
                return (
                  <li key={s.id}>
                    <Link
                      href={`/units/${view.number}/${s.id}`}
                      aria-current={s.id === step ? 'step' : undefined}
                      className={`flex min-h-[1.8rem] items-center gap-2.5 rounded-[9px] px-2 leading-tight lg:min-h-[1.72rem] ${s.id === step ? 'border-2 border-ink bg-sheet font-semibold' : 'border-2 border-transparent hover:bg-sheet/60'} ${state?.state === 'skipped' ? 'text-ink-3' : ''}`}
                    >
                      <span
                        aria-hidden="true"
                        className={`pin grid size-[17px] shrink-0 place-items-center rounded-[4px] border text-[0.72rem] font-bold ${settled ? 'border-verdigris bg-verdigris text-on-paint' : state?.state === 'stale' ? 'border-ochre-line bg-ochre-soft text-ochre' : state?.state === 'in hand' ? 'hatch border-ink' : 'border-rule bg-sheet'}`}
                      >
                        {stateSign[state?.state ?? 'todo']}
                      </span>
                      <span className="flex-1">{s.title}</span>
                      <span className="sr-only">, {state?.state}</span>
                      {state?.state === 'stale' && <Tag severity="watch">stale</Tag>}
                    </Link>
                  </li>
                )
              })}
          </ul>
        </div>
      ))}
    </nav>
  )
}

/** One step of one unit: the steps on the left, the work surface, what is known, and the one next action below. */
export function UnitWorkspace({ view: stored, step, choices, log, before, after }: UnitWorkspaceProps) {
  const router = useRouter()
  const record = useRecord(stored.id, step, stored.records[step] as never)
  const [refusal, setRefusal] = useState<Refusal | null>(null)
  const [away, setAway] = useState(false)
  const [busy, setBusy] = useState(false)
  const [bench, setBench] = useState(false)
  const [trouble, setTrouble] = useState(false)

  // The unit with what is typed right now: everything derived moves as it changes, before it is saved.
  const view = useMemo((): UnitView => {
    const records = { ...stored.records, [step]: { ...stored.records[step], data: record.data } } as UnitView['records']
    return {
      ...stored,
      records,
      route: records.arrive.data.route,
      adapter: choices.adapters.find((a) => a.id === records.wire.data.adapterId) ?? null,
      image: choices.images.find((f) => f.id === records.check.data.fileId) ?? null,
    }
  }, [stored, step, record.data, choices])
  const assessment = useMemo(() => assess(view), [view])
  const here = assessment.steps.find((s) => s.id === step) as (typeof assessment.steps)[number]
  const states = useMemo(() => new Map(assessment.steps.map((s) => [s.id, s])), [assessment])

  const act = async (command: string, input: Record<string, unknown>): Promise<boolean> => {
    setBusy(true)
    setRefusal(null)
    if (!(await record.flush())) {
      setBusy(false)
      return false
    }
    const result = await send(command, input)
    setBusy(false)
    setAway(result.state === 'away')
    if (result.state === 'refused') setRefusal(result.error)
    if (result.state === 'ok') {
      if (command === 'undo') record.adoptNext()
      router.refresh()
    }
    return result.state === 'ok'
  }
  const finish = async () => {
    if (!(await act('finish-step', { unitId: view.id, step }))) return
    const nextIndex = stepIds.indexOf(step) + 1
    const following = stepIds
      .slice(nextIndex)
      .find(
        (id) =>
          states.get(id)?.state !== 'skipped' &&
          states.get(id)?.state !== 'done' &&
          states.get(id)?.state !== 'decided',
      )
    if (following) router.push(`/units/${view.number}/${following}`)
  }

  const Surface = surfaces[step] as unknown as ComponentType<SurfaceProps<StepId>>
  const settled = here.state === 'done' || here.state === 'decided'
  const firstOpen = here.conditions.find((c) => !c.met)
  const saveWords = {
    saved: 'Saved',
    typing: 'Saving…',
    away: 'The server does not answer. It is kept here and tried again.',
    conflict: 'Two versions: choose one',
    refused: 'Not saved yet',
  }[record.state]

  return (
    <div className="flex min-h-[calc(100dvh-52px)] flex-col">
      <section
        aria-label="Unit"
        className="grid items-center gap-x-8 gap-y-3 border-b border-rule px-5 py-3.5 md:grid-cols-[1fr_minmax(22rem,36rem)]"
      >
        <div className="flex items-center gap-4">
          <CaseNumber n={view.number} />
          <div className="min-w-0">
            <h1 className="truncate text-[1.6rem] leading-tight" dir="auto">
              {view.name}
            </h1>
            <p className="text-ink-2">
              {[view.board?.name ?? 'Board not named yet', view.place].filter(Boolean).join(' · ')}
            </p>
          </div>
        </div>
        <CoatBands coats={assessment.coats} narrow />
      </section>

      <div className="grid flex-1 lg:grid-cols-[196px_minmax(0,1fr)] xl:grid-cols-[196px_minmax(0,1fr)_284px]">
        <div className="hidden px-3 py-2 lg:block">
          <StepList view={view} step={step} states={states} />
        </div>
        <details className="no-print border-b border-rule bg-sheet-2 px-4 py-2 lg:hidden">
          <summary className="font-semibold">
            {stepOf(step).title} <span className="font-normal text-ink-2">· all steps</span>
          </summary>
          <div className="pt-2">
            <StepList view={view} step={step} states={states} />
          </div>
        </details>

        <main className="grid min-w-0 grid-cols-[minmax(0,1fr)] content-start gap-4 border-rule bg-sheet px-4 py-4 sm:px-6 lg:border-l">
          {record.state === 'conflict' && record.other && (
            <Conflict
              mine={record.data as object}
              theirs={record.other as object}
              keepMine={record.keepMine}
              takeOther={record.takeOther}
            />
          )}
          {(record.state === 'away' || away) && (
            <Notice severity="watch" title="The server does not answer.">
              What you typed is kept in this browser and sent as soon as it is back.
            </Notice>
          )}
          {record.error && (
            <Notice severity="error" title={record.error.message}>
              {record.error.kept} {record.error.next}
            </Notice>
          )}
          {refusal && (
            <Notice severity="error" title={refusal.message}>
              {refusal.kept} {refusal.next}
            </Notice>
          )}
          {record.restored && record.state !== 'conflict' && (
            <Notice severity="ok" title="What you typed before is back.">
              It had not reached the server.
            </Notice>
          )}
          {here.state === 'stale' && (
            <Notice severity="watch" title={`Stale: ${here.because}`}>
              It was done before that. Look at it again and mark it done.
            </Notice>
          )}
          {here.state === 'skipped' && (
            <Notice severity="ok" title="This step is not on the unit’s route.">
              You may still write things down here.
            </Notice>
          )}
          {here.waitsFor.length > 0 && !settled && here.state !== 'skipped' && (
            <p className="text-ink-2">Usually after {here.waitsFor.map((id) => stepOf(id).title).join(' and ')}.</p>
          )}
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
                confirm={(gate, measured) => void act('confirm-gate', { unitId: view.id, gate, measured })}
              />
            }
          />
          <section aria-labelledby="done-when" className="border-t border-rule-2 pt-3">
            <h2 id="done-when" className="mb-1.5 text-[1rem]">
              Done when
            </h2>
            <ul className="grid gap-1 md:grid-cols-2">
              {here.conditions.map((c) => (
                <li key={c.text} className="flex gap-2.5">
                  <Tag severity={c.met ? 'ok' : 'watch'}>{c.met ? 'ok' : 'open'}</Tag>
                  <span>
                    {c.text} {!c.met && <span className="text-ink-2">{c.next}</span>}
                  </span>
                </li>
              ))}
            </ul>
          </section>
        </main>

        <aside
          className="border-t border-rule bg-sheet-2 px-5 py-4 lg:col-span-2 xl:col-span-1 xl:border-t-0 xl:border-l"
          aria-label="What is known"
        >
          <KnownFacts view={view} log={log} choices={choices} />
        </aside>
      </div>

      <section
        aria-label="Next action"
        className="no-print sticky bottom-0 z-20 flex flex-wrap items-center gap-3 border-t border-rule bg-sheet-2 px-5 py-2.5 lg:pl-[220px]"
      >
        <p className="min-w-[10rem] flex-1 max-md:basis-full" aria-live="polite">
          {settled
            ? `${stepOf(step).title} is done.`
            : firstOpen
              ? firstOpen.next
              : 'Everything for this step is there.'}
          <span className="ml-3 text-[0.87rem] text-ink-3" data-save-state={record.state}>
            {saveWords}
          </span>
        </p>
        {before !== null && (
          <Link
            href={`/units/${before}`}
            data-key="["
            className="sr-only focus:not-sr-only"
          >{`Unit ${twoDigits(before)}`}</Link>
        )}
        {after !== null && (
          <Link
            href={`/units/${after}`}
            data-key="]"
            className="sr-only focus:not-sr-only"
          >{`Unit ${twoDigits(after)}`}</Link>
        )}
        <button type="button" data-key="t" className={buttonClass('quiet')} onClick={() => setTrouble(true)}>
          {view.troubles.some((t) => t.closedAt === null) ? 'Trouble, open' : 'Trouble'}
          <Key>t</Key>
        </button>
        <button
          type="button"
          data-key="f"
          className={`${buttonClass('quiet')} max-md:!px-1`}
          onClick={() => setBench(true)}
        >
          Bench view
          <Key>f</Key>
        </button>
        <button
          type="button"
          data-key="u"
          className={`${buttonClass('quiet')} max-md:!px-1`}
          disabled={busy}
          onClick={() => void act('undo', { unitId: view.id })}
        >
          Undo
          <Key>u</Key>
        </button>
        {settled || here.state === 'stale' ? (
          <button
            type="button"
            className={buttonClass('plain')}
            disabled={busy}
            onClick={() => void act('reopen-step', { unitId: view.id, step })}
          >
            Reopen
          </button>
        ) : null}
        {assessment.next !== step && (settled || here.state === 'skipped') ? (
          <Link href={`/units/${view.number}/${assessment.next}`} data-key="." className={buttonClass('main')}>
            Next: {stepOf(assessment.next).title}
            <Key>.</Key>
          </Link>
        ) : (
          step !== 'watch' && (
            <button
              type="button"
              data-key=" "
              className={buttonClass('main')}
              disabled={busy || !here.ready}
              onClick={() => void finish()}
            >
              {stepOf(step).title}: done
              <Key>Space</Key>
            </button>
          )
        )}
      </section>
      <BenchView
        title={`${twoDigits(view.number)} ${stepOf(step).title}`}
        steps={instructionsOf(view, step)}
        open={bench}
        onOpenChange={setBench}
        onTick={(id, did) => {
          const change = tickOff(view, step, id, did)
          if (change) record.patch(change)
        }}
      />
      <Trouble view={view} step={step} open={trouble} onOpenChange={setTrouble} act={act} />
    </div>
  )
}

/** Both versions of a record on screen, field by field, until a person chooses. */
function Conflict({
  mine,
  theirs,
  keepMine,
  takeOther,
}: {
  mine: object
  theirs: object
  keepMine: () => void
  takeOther: () => void
}) {
  const show = (x: unknown) => (typeof x === 'string' ? x : JSON.stringify(x))
  const fields = Object.keys(mine).filter(
    (k) => JSON.stringify(mine[k as never]) !== JSON.stringify(theirs[k as never]),
  )
  return (
    <section role="alert" className="rounded-[10px] border border-ochre-line bg-ochre-soft p-4">
      <h2 className="text-[1.05rem]">Two versions of this step</h2>
      <p>Somebody saved it in the meantime, perhaps you in another tab. Both are kept until you choose.</p>
      <div className="my-3 overflow-x-auto">
        <table className="plain">
          <thead>
            <tr>
              <th>Field</th>
              <th>Here</th>
              <th>Saved meanwhile</th>
            </tr>
          </thead>
          <tbody>
            {fields.map((k) => (
              <tr key={k}>
                <td>{k}</td>
                <td className="pin max-w-[20rem] break-words">{show(mine[k as never])}</td>
                <td className="pin max-w-[20rem] break-words">{show(theirs[k as never])}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      <div className="flex flex-wrap gap-2">
        <button type="button" className={buttonClass('main')} onClick={keepMine}>
          Keep what is here
        </button>
        <button type="button" className={buttonClass('plain')} onClick={takeOther}>
          Take the saved one
        </button>
      </div>
    </section>
  )
}
