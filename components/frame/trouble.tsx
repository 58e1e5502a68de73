'use client'
import { within } from '@fresh-coat/core/edge/within'
import { troubleSentence } from '@fresh-coat/core/trouble/statistics'
import {
  benchSymptoms,
  causeRemedy,
  causeSays,
  symptoms,
  symptomsInUse,
  testNamed,
  testsOf,
  troubleshoot,
} from '@fresh-coat/core/trouble/troubleshoot'
import { mainsIsOff } from '@fresh-coat/core/unit/gates'
import type { TroubleRecord, UnitView } from '@fresh-coat/core/unit/view'
import { type StepId, stepIds } from '@fresh-coat/core/unit/way'
import { Dialog } from 'radix-ui'
import { useState } from 'react'
import { TextField } from '@/components/forms/fields'
import { buttonClass, percentOf, shortMoment } from '@/components/paint/paint'

interface Props {
  view: UnitView
  step: StepId
  open: boolean
  onOpenChange: (open: boolean) => void
  act: (command: string, input: Record<string, unknown>) => Promise<boolean>
}

const started = stepIds.indexOf('start')

/** What a person may see at this step comes first: before its first start the bench, after it what it does. */
function symptomGroups(step: StepId) {
  const groups = [
    { name: 'On the bench', list: benchSymptoms },
    { name: 'Once it runs', list: symptomsInUse },
  ]
  return stepIds.indexOf(step) > started ? groups.reverse() : groups
}

const symptomSays = (id: string) => symptoms.find((s) => s.symptom === id)?.says ?? id

type Solved = Extract<ReturnType<typeof troubleshoot>, { ok: true }>['value']

/** What it may be, as bars, the likeliest first. */
function Causes({ causes, close }: { causes: Solved['causes']; close: (cause: string) => void }) {
  return (
    <section aria-label="Causes" aria-live="polite">
      <h3 className="mb-1 text-[1.02rem]">Likely causes</h3>
      <ol className="grid gap-2">
        {causes.slice(0, 5).map((c, i) => (
          <li key={c.id}>
            <p className="flex justify-between gap-3">
              <span className={i === 0 ? 'font-semibold' : ''}>{causeSays(c.id)}</span>
              <span className="pin">{percentOf(c.p)}</span>
            </p>
            <div className="h-2 overflow-hidden rounded-[3px] bg-unpainted" aria-hidden="true">
              <div className="h-full bg-plum" style={{ width: `${c.p * 100}%` }} />
            </div>
            <p className="flex items-start justify-between gap-3 text-[0.9rem] text-ink-2">
              <span>{causeRemedy(c.id)}</span>
              <button
                type="button"
                className="shrink-0 underline"
                aria-label={`It was this: ${causeSays(c.id)}`}
                onClick={() => close(c.id)}
              >
                it was this
              </button>
            </p>
          </li>
        ))}
      </ol>
    </section>
  )
}

/** @param yes null: what was answered is taken back */
type Answer = (test: string, yes: boolean | null) => void

function Question({ next, first, answer }: { next: Solved['next'][number]; first: boolean; answer: Answer }) {
  const test = testNamed(next.test)
  if (!test) return null
  return (
    <li className={`rounded-[9px] border p-2.5 ${first ? 'border-ink' : 'border-rule-2'}`}>
      <p className={first ? 'font-semibold' : ''}>{test.ask}</p>
      <p className="mt-1 flex flex-wrap items-center gap-2">
        {[true, false].map((yes) => (
          <button
            key={String(yes)}
            type="button"
            className={`${buttonClass()} !min-h-[2.2rem]`}
            aria-label={`${yes ? 'Yes' : 'No'}: ${test.ask}`}
            onClick={() => answer(next.test, yes)}
          >
            {yes ? 'Yes' : 'No'}
          </button>
        ))}
        <span className="text-[0.87rem] text-ink-2">
          {next.bits.toFixed(2)} bit in {next.minutes} min{test.powered ? ', with 3.3 V, mains off' : ''}
        </span>
      </p>
    </li>
  )
}

/** What tells most per minute; what needs 3.3 V on the board stands behind the gate: serial and mains are never together. */
function AskNext({ next, hidden, answer }: { next: Solved['next']; hidden: number; answer: Answer }) {
  return (
    <section aria-label="Questions">
      <h3 className="mb-1 text-[1.02rem]">Ask next</h3>
      {next.length === 0 && <p className="text-ink-2">Nothing left to ask without power.</p>}
      <ul className="grid gap-2">
        {next.map((n, i) => (
          <Question key={n.test} next={n} first={i === 0} answer={answer} />
        ))}
      </ul>
      {hidden > 0 && (
        <p className="mt-2 flex gap-2 text-ochre">
          <span className="stripes mt-1 h-4 w-2 shrink-0 rounded-[2px]" aria-hidden="true" />
          {hidden} more need 3.3 V on the board: confirm at Wire that the unit is unplugged, and they appear.
        </p>
      )}
    </section>
  )
}

function Answered({ answers, answer }: { answers: TroubleRecord['answers']; answer: Answer }) {
  return (
    <section aria-label="Answers">
      <h3 className="mb-1 text-[1.02rem]">Answered</h3>
      <ul className="grid gap-0.5">
        {answers.map((a) => {
          const ask = testNamed(a.test)?.ask ?? a.test
          return (
            <li key={a.test} className="flex flex-wrap items-baseline gap-2">
              <span>{ask}</span>
              <strong>{a.yes ? 'Yes' : 'No'}</strong>
              <button
                type="button"
                className="text-[0.9rem] underline"
                aria-label={`Take back: ${ask}`}
                onClick={() => answer(a.test, null)}
              >
                take back
              </button>
            </li>
          )
        })}
      </ul>
    </section>
  )
}

function SomethingElse({ close }: { close: (cause: string, note: string) => void }) {
  const [other, setOther] = useState('')
  return (
    <form
      className="flex flex-wrap items-end gap-2"
      onSubmit={(e) => {
        e.preventDefault()
        close('other', other.trim())
      }}
    >
      <TextField
        label="It was something else"
        value={other}
        maxLength={1000}
        onChange={setOther}
        className="min-w-[16rem] flex-1"
      />
      <button type="submit" className={buttonClass()} disabled={other.trim().length < 5}>
        That was it
      </button>
    </form>
  )
}

/** One search: causes as bars, the question that tells most per minute, and the answers so far. */
function Search({ view, trouble, act }: Pick<Props, 'view' | 'act'> & { trouble: TroubleRecord }) {
  const { answers } = trouble
  const outcome = troubleshoot({ symptom: trouble.symptom, answers })
  if (!outcome.ok) return <p className="text-oxide">{outcome.faults[0]?.message}</p>
  const off = mainsIsOff(view)
  const answered = new Set(answers.map((a) => a.test))
  const hidden = off ? 0 : testsOf(trouble.symptom).filter((t) => t.powered && !answered.has(t.test)).length
  const answer: Answer = (test, yes) => void act('answer-trouble', { troubleId: trouble.id, test, yes })
  const close = (cause: string, note = '') => void act('close-trouble', { troubleId: trouble.id, cause, note })
  return (
    <div className="grid gap-4">
      <p className="text-[1.15rem] font-semibold">
        {symptomSays(trouble.symptom)}{' '}
        <span className="font-normal text-ink-2">since {shortMoment(trouble.openedAt)}</span>
      </p>
      <div className="grid gap-4 md:grid-cols-2">
        <Causes causes={outcome.value.causes} close={close} />
        <AskNext
          next={outcome.value.next.filter((n) => off || !testNamed(n.test)?.powered)}
          hidden={hidden}
          answer={answer}
        />
      </div>
      {answers.length > 0 && <Answered answers={answers} answer={answer} />}
      <SomethingElse close={close} />
    </div>
  )
}

/** From any step: what is wrong, what it may be, what to ask next; the cause found teaches the board. */
export function Trouble({ view, step, open, onOpenChange, act }: Props) {
  const current = view.troubles.find((t) => t.closedAt === null) ?? null
  const closed = view.troubles.filter((t) => t.closedAt !== null)
  const says = view.board ? troubleSentence(view.board.causes) : ''
  return (
    <Dialog.Root open={open} onOpenChange={onOpenChange}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-black/45" />
        <Dialog.Content
          aria-describedby={undefined}
          className="fixed inset-y-0 right-0 z-50 grid w-[min(56rem,100vw)] content-start gap-4 overflow-y-auto border-l border-rule bg-sheet p-5"
        >
          <div className="flex items-center gap-4">
            <Dialog.Title className="flex-1 text-[1.4rem]">What is wrong?</Dialog.Title>
            <Dialog.Close className={buttonClass('plain')}>Close</Dialog.Close>
          </div>
          {says && <p className="rounded-[9px] bg-sheet-2 px-3 py-2">{says}</p>}
          {current ? (
            <Search view={view} trouble={current} act={act} />
          ) : (
            symptomGroups(step).map(({ name, list }) => (
              <section key={name} className="grid gap-2" aria-label={name}>
                <h3 className="text-[1.02rem]">{name}</h3>
                <div className="grid gap-2 sm:grid-cols-2">
                  {list.map((s) => (
                    <button
                      key={s.symptom}
                      type="button"
                      className={`${buttonClass('plain')} min-h-[3rem] !justify-start text-left text-[1.05rem]`}
                      onClick={() => void act('open-trouble', { unitId: view.id, step, symptom: s.symptom })}
                    >
                      {s.says}
                    </button>
                  ))}
                </div>
              </section>
            ))
          )}
          {closed.length > 0 && (
            <section aria-label="Found before">
              <h3 className="mb-1 text-[1.02rem]">Found before on this unit</h3>
              <ul className="grid gap-0.5">
                {closed.map((t) => (
                  <li key={t.id}>
                    {shortMoment(t.openedAt)}: {within(symptomSays(t.symptom))}:{' '}
                    <strong>{t.cause === 'other' ? t.note : within(causeSays(t.cause ?? ''))}</strong>, after{' '}
                    {t.answers.length} answer{t.answers.length === 1 ? '' : 's'}
                  </li>
                ))}
              </ul>
            </section>
          )}
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  )
}
