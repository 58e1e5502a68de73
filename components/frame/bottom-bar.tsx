'use client'
import type { AssessedStep, Assessment } from '@fresh-coat/core/unit/assess'
import type { UnitView } from '@fresh-coat/core/unit/view'
import { type StepId, stepOf } from '@fresh-coat/core/unit/way'
import Link from '@/components/link'
import { buttonClass, Key, Tag, twoDigits } from '@/components/paint/paint'
import { goToConflict } from './conflict'
import type { SaveState } from './draft'
import { Popup } from './popup'
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
  if (here.state === 'skipped') return 'Not on its route: nothing is asked here.'
  return here.conditions.find((c) => !c.met)?.next ?? 'Everything for this step is there.'
}

/** What is missing, in words; a press shows all that has to hold. */
function Missing({ step, here }: { step: StepId; here: AssessedStep }) {
  return (
    <Popup
      label={`Done when: ${whatNext(step, here)}`}
      trigger={<span className="line-clamp-2">{whatNext(step, here)}</span>}
      className="min-w-0 text-left hover:underline"
      name="Done when"
      sheet="sheet z-40 w-[min(30rem,94vw)] border-ink-3 p-4"
      place={{ side: 'top', align: 'start', sideOffset: 10 }}
    >
      <h2 className="mb-2 text-[1.05rem]">Done when</h2>
      <ul className="grid gap-1.5">
        {here.conditions.map((c) => (
          <li key={c.text} className="flex gap-2.5">
            <Tag severity={c.met ? 'ok' : 'watch'}>{c.met ? 'ok' : 'open'}</Tag>
            <span>
              {c.text} {!c.met && <span className="text-ink-2">{c.next}</span>}
            </span>
          </li>
        ))}
      </ul>
    </Popup>
  )
}

function Saved({ saving }: { saving: SaveState }) {
  return (
    <span
      className={`shrink-0 text-[0.87rem] text-ink-3 ${saving === 'saved' ? 'max-md:sr-only' : ''}`}
      data-save-state={saving}
      aria-live="polite"
    >
      {saving === 'conflict' ? (
        <button type="button" className="underline" onClick={goToConflict}>
          {saveWords.conflict}
        </button>
      ) : (
        saveWords[saving]
      )}
    </span>
  )
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

interface Helper {
  name: string
  hotkey: string
  onClick: () => void
  disabled?: boolean
  /** It opens over the page, and what is typed next belongs to it. */
  opens?: true
}

const helperClass =
  'inline-flex min-h-[2.4rem] items-center whitespace-nowrap text-ink-2 underline underline-offset-4 hover:text-ink disabled:opacity-55'

function Helpers({ helpers }: { helpers: readonly Helper[] }) {
  return (
    <>
      {helpers.map((h) => (
        <button
          key={h.name}
          type="button"
          data-key={h.hotkey}
          data-opens={h.opens}
          disabled={h.disabled ?? false}
          className={`${helperClass} max-md:hidden`}
          onClick={h.onClick}
        >
          {h.name}
          <Key>{h.hotkey}</Key>
        </button>
      ))}
      <Popup
        label="More"
        trigger="…"
        className="min-h-[2.6rem] min-w-[2.6rem] rounded-[9px] border border-ink font-bold md:hidden"
        sheet="sheet z-40 grid gap-1 border-ink-3 p-3"
        place={{ side: 'top', align: 'end', sideOffset: 8 }}
      >
        {(close) =>
          helpers.map((h) => (
            <button
              key={h.name}
              type="button"
              disabled={h.disabled ?? false}
              className={helperClass}
              onClick={() => {
                close()
                h.onClick()
              }}
            >
              {h.name}
            </button>
          ))
        }
      </Popup>
    </>
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
  openKnown: () => void
  openWords: () => void
}

/** The one button: on to the next step, or this one is done. */
function OneButton({ view, step, here, next, busy, finish }: Props) {
  if (next !== step && (isSettled(here) || here.state === 'skipped'))
    return (
      <StepLink number={view.number} step={next} data-key="." className={`${buttonClass('main')} whitespace-nowrap`}>
        Next: {stepOf(next).title}
        <Key>.</Key>
      </StepLink>
    )
  if (step === 'watch') return null
  return (
    <button
      type="button"
      data-key=" "
      className={`${buttonClass('main')} whitespace-nowrap`}
      disabled={busy || !here.ready}
      onClick={finish}
    >
      {stepOf(step).title}: done
      <Key>Space</Key>
    </button>
  )
}

/** The bar at the bottom, one row: what is missing, help, and the one next action. */
export function BottomBar(props: Props) {
  const { view, step, here, saving, busy } = props
  const reopens = isSettled(here) || here.state === 'stale'
  const helpers: Helper[] = [
    {
      name: view.troubles.some((t) => t.closedAt === null) ? 'Trouble, open' : 'Trouble',
      hotkey: 't',
      onClick: props.openTrouble,
      opens: true,
    },
    { name: 'Bench view', hotkey: 'f', onClick: props.openBench, opens: true },
    { name: 'What’s known', hotkey: 'k', onClick: props.openKnown, opens: true },
    { name: 'Tool’s words', hotkey: 'w', onClick: props.openWords, opens: true },
    { name: 'Undo', hotkey: 'u', onClick: props.undo, disabled: busy },
    ...(reopens ? [{ name: 'Reopen', hotkey: 'r', onClick: props.reopen, disabled: busy }] : []),
  ]
  return (
    <section
      aria-label="Next action"
      className="no-print sticky bottom-0 z-20 flex min-h-[58px] shrink-0 items-center gap-x-5 border-t border-rule bg-sheet-2 px-5 py-1.5"
    >
      <div className="flex min-w-0 flex-1 items-baseline gap-3">
        <Missing step={step} here={here} />
        <Saved saving={saving} />
      </div>
      <Neighbour number={props.before} hotkey="[" />
      <Neighbour number={props.after} hotkey="]" />
      <Helpers helpers={helpers} />
      <OneButton {...props} />
    </section>
  )
}
