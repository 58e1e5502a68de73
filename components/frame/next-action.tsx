import type { AssessedStep, Assessment } from '@fresh-coat/core/unit/assess'
import type { UnitView } from '@fresh-coat/core/unit/view'
import { type StepId, stepOf } from '@fresh-coat/core/unit/way'
import type { ReactNode } from 'react'
import Link from '@/components/link'
import { buttonClass, Key, twoDigits } from '@/components/paint/paint'
import { goToConflict } from './conflict'
import type { SaveState } from './draft'
import { StepLink } from './step-link'

const saveWords: Record<SaveState, string> = {
  saved: 'Saved',
  typing: 'Saving…',
  saving: 'Saving…',
  away: 'The server does not answer. It is kept here and tried again.',
  conflict: 'Two versions: choose one',
  refused: 'Not saved yet',
}

const isSettled = (here: AssessedStep) => here.state === 'done' || here.state === 'decided'

function whatNext(step: StepId, here: AssessedStep): string {
  if (isSettled(here)) return `${stepOf(step).title} is done.`
  return here.conditions.find((c) => !c.met)?.next ?? 'Everything for this step is there.'
}

/** Turning to the unit before or after with a key; shown when it has the focus. */
function Neighbour({ number, hotkey }: { number: number | null; hotkey: string }) {
  if (number === null) return null
  return (
    <Link href={`/units/${number}`} data-key={hotkey} className="sr-only focus:not-sr-only">
      {`Unit ${twoDigits(number)}`}
    </Link>
  )
}

function BarButton({
  hotkey,
  onClick,
  disabled = false,
  className = '',
  children,
}: {
  hotkey: string
  onClick: () => void
  disabled?: boolean
  className?: string
  children: ReactNode
}) {
  return (
    <button
      type="button"
      data-key={hotkey}
      className={`${buttonClass('quiet')} ${className}`}
      disabled={disabled}
      onClick={onClick}
    >
      {children}
      <Key>{hotkey}</Key>
    </button>
  )
}

interface Props {
  view: UnitView
  step: StepId
  here: AssessedStep
  next: Assessment['next']
  saving: SaveState
  before: number | null
  after: number | null
  busy: boolean
  finish: () => void
  reopen: () => void
  undo: () => void
  openBench: () => void
  openTrouble: () => void
}

/** The one button: on to the next step, or this one is done. */
function OneButton({ view, step, here, next, busy, finish }: Props) {
  if (next !== step && (isSettled(here) || here.state === 'skipped'))
    return (
      <StepLink number={view.number} step={next} data-key="." className={buttonClass('main')}>
        Next: {stepOf(next).title}
        <Key>.</Key>
      </StepLink>
    )
  if (step === 'watch') return null
  return (
    <button type="button" data-key=" " className={buttonClass('main')} disabled={busy || !here.ready} onClick={finish}>
      {stepOf(step).title}: done
      <Key>Space</Key>
    </button>
  )
}

/** The bar at the bottom: what is missing, help, and the one next action. */
export function NextAction(props: Props) {
  const { view, step, here, saving, before, after, busy } = props
  const reopens = isSettled(here) || here.state === 'stale'
  return (
    <section
      aria-label="Next action"
      className="no-print sticky bottom-0 z-20 flex flex-wrap items-center gap-3 border-t border-rule bg-sheet-2 px-5 py-2.5 lg:pl-[220px]"
    >
      <p className="min-w-[10rem] flex-1 max-md:basis-full" aria-live="polite">
        {whatNext(step, here)}
        <span className="ml-3 text-[0.87rem] text-ink-3" data-save-state={saving}>
          {saving === 'conflict' ? (
            <button type="button" className="underline" onClick={goToConflict}>
              {saveWords.conflict}
            </button>
          ) : (
            saveWords[saving]
          )}
        </span>
      </p>
      <Neighbour number={before} hotkey="[" />
      <Neighbour number={after} hotkey="]" />
      <BarButton hotkey="t" onClick={props.openTrouble}>
        {view.troubles.some((t) => t.closedAt === null) ? 'Trouble, open' : 'Trouble'}
      </BarButton>
      <BarButton hotkey="f" className="max-md:!px-1" onClick={props.openBench}>
        Bench view
      </BarButton>
      <BarButton hotkey="u" className="max-md:!px-1" disabled={busy} onClick={props.undo}>
        Undo
      </BarButton>
      {reopens && (
        <button type="button" className={buttonClass('plain')} disabled={busy} onClick={props.reopen}>
          Reopen
        </button>
      )}
      <OneButton {...props} />
    </section>
  )
}
