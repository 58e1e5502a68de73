'use client'
import type { AttemptOutcome } from '@fresh-coat/core/unit/view'
import { Dialog } from 'radix-ui'
import { type KeyboardEvent, useCallback, useEffect, useRef, useState } from 'react'
import { buttonClass, Key } from '@/components/paint/paint'

interface Said {
  outcome: AttemptOutcome
  /** Checked, and equal: said by the key itself. */
  verified?: boolean
  words: string
}
const unwritten: Said[] = [
  { outcome: 'no-answer', words: 'No answer' },
  { outcome: 'lost-midway', words: 'Lost midway' },
  { outcome: 'verify-failed', words: 'Verify failed' },
  { outcome: 'cancelled', words: 'Cancelled' },
]
/** What a digit says, from 1; nothing is equal where nothing checks it. */
const sayings = (verify: string): Said[] =>
  verify === 'none'
    ? [{ outcome: 'done', words: 'Written' }, ...unwritten.filter((o) => o.outcome !== 'verify-failed')]
    : [
        { outcome: 'done', verified: true, words: `Written, equal by ${verify}` },
        ...unwritten,
        { outcome: 'done', verified: false, words: 'Written, not checked' },
      ]

type State =
  | { kind: 'armed' }
  | { kind: 'running'; since: number }
  | { kind: 'over'; seconds: number }
  | { kind: 'logging' }

/** A short tone, so that eyes may stay on the wires; silence where the browser has no sound. */
function tone(): void {
  try {
    const context = new AudioContext()
    const oscillator = context.createOscillator()
    oscillator.frequency.value = 660
    oscillator.connect(context.destination)
    oscillator.start()
    oscillator.stop(context.currentTime + 0.25)
    oscillator.onended = () => void context.close()
  } catch {
    // Nothing depends on it: the state stands on the screen as well.
  }
}

interface Props {
  open: boolean
  onOpenChange: (open: boolean) => void
  /** What stands ready, large: file, offset, rate. */
  facts: [string, string][]
  /** Null when the plan cannot tell. */
  plannedSeconds: number | null
  /** What checks it afterwards, as the plan says. */
  verify: string
  /** Logs the attempt; false when it was refused, the page then says why. */
  log: (said: { outcome: AttemptOutcome; verified: boolean }, seconds: number) => Promise<boolean>
}

/** Seconds since a moment, while there is one; a tone when the planned time is over. */
function useCount(since: number | null, plannedSeconds: number | null): number {
  const [seconds, setSeconds] = useState(0)
  const beeped = useRef(false)
  useEffect(() => {
    if (since === null) return
    beeped.current = false
    const timer = setInterval(() => {
      const passed = (Date.now() - since) / 1000
      setSeconds(passed)
      if (plannedSeconds !== null && passed >= plannedSeconds && !beeped.current) {
        beeped.current = true
        tone()
      }
    }, 200)
    return () => {
      clearInterval(timer)
      setSeconds(0)
    }
  }, [since, plannedSeconds])
  return seconds
}

const triedAgain: ReadonlySet<AttemptOutcome> = new Set(['no-answer', 'lost-midway', 'verify-failed'])

/** Armed, counted, said how it went, logged; a failure arms it again. */
function useAttempt({ open, onOpenChange, log }: Pick<Props, 'open' | 'onOpenChange' | 'log'>) {
  const [state, setState] = useState<State>({ kind: 'armed' })
  const [again, setAgain] = useState('')
  // What was counted and refused is still to be logged when this is opened again.
  const refused = useRef(false)
  useEffect(() => {
    if (open && !refused.current) {
      setState({ kind: 'armed' })
      setAgain('')
    }
  }, [open])
  const press = useCallback(() => {
    setState((s) => {
      if (s.kind === 'armed') return { kind: 'running', since: Date.now() }
      return s.kind === 'running' ? { kind: 'over', seconds: (Date.now() - s.since) / 1000 } : s
    })
  }, [])
  const choose = useCallback(
    async ({ outcome, verified = false }: Said) => {
      if (state.kind !== 'over') return
      const { seconds } = state
      setState({ kind: 'logging' })
      const ok = await log({ outcome, verified }, seconds)
      refused.current = !ok
      if (ok && triedAgain.has(outcome)) {
        setAgain('It is logged. Power off until the rail is down, enter download mode again, then the same key.')
        setState({ kind: 'armed' })
      } else {
        if (!ok) setState({ kind: 'over', seconds })
        onOpenChange(false)
      }
    },
    [state, log, onOpenChange],
  )
  return { state, again, press, choose }
}

/** How much of the planned time has passed. */
function Passed({ share }: { share: number }) {
  return (
    <div
      className="h-8 overflow-hidden rounded-[8px] bg-unpainted"
      role="progressbar"
      aria-label="Of the planned time"
      aria-valuenow={Math.round(share * 100)}
      aria-valuemin={0}
      aria-valuemax={100}
    >
      <div className="h-full bg-verdigris" style={{ width: `${share * 100}%` }} />
    </div>
  )
}

interface Shown {
  state: State
  seconds: number
  again: string
  plannedSeconds: number | null
}

/** What to do now, to be read over a bench. */
function Now({ state, seconds, again, plannedSeconds }: Shown) {
  const running = state.kind === 'running'
  const share = running && plannedSeconds !== null ? Math.min(1, seconds / Math.max(plannedSeconds, 0.1)) : 0
  const planned =
    plannedSeconds === null ? 'How long it takes is not known' : `The plan says about ${plannedSeconds.toFixed(0)} s`
  return (
    <>
      <p className="font-title text-[clamp(2.4rem,6vw,4.6rem)] leading-[1.1] font-semibold">
        {state.kind === 'armed' && 'Armed. Start your tool, and press.'}
        {running && `${Math.floor(seconds)} s. Hold still.`}
        {state.kind === 'over' && `${state.seconds.toFixed(0)} s. How did it go?`}
        {state.kind === 'logging' && 'Logging it…'}
      </p>
      {running && <Passed share={share} />}
      <p className="text-[1.25rem] text-ink-2">
        {state.kind === 'armed' && (again || `${planned}. Any of Space, Enter or a pedal.`)}
        {running &&
          (share < 1
            ? `${planned}. Press again when your tool says that it is over.`
            : 'The planned time is over. Press when your tool is done.')}
        {state.kind === 'over' && 'A half-written chip is not a dead one.'}
      </p>
    </>
  )
}

interface Answers {
  state: State
  outcomes: readonly Said[]
  press: () => void
  choose: (said: Said) => Promise<void>
}

/** One large button while it is counted; then how it went, each with its digit. */
function Buttons({ state, outcomes, press, choose }: Answers) {
  if (state.kind === 'over')
    return outcomes.map((o, i) => (
      <button
        key={o.words}
        type="button"
        className={`${buttonClass(i === 0 ? 'main' : 'plain')} min-h-[4.2rem] text-[1.1rem]`}
        onClick={() => void choose(o)}
      >
        <span className="pin mr-2">{i + 1}</span> {o.words}
      </button>
    ))
  return (
    <button
      type="button"
      className={`${buttonClass('main')} min-h-[6rem] text-[1.6rem] sm:col-span-3`}
      disabled={state.kind === 'logging'}
      onClick={(e) => {
        // A key press is heard by the dialog; the click it causes must not count twice.
        if (e.detail > 0) press()
      }}
    >
      {state.kind === 'running' ? 'It is over' : 'Start'}
    </button>
  )
}

/**
 * Both hands full: everything is set, one key starts and ends the count, one digit logs how it went. The writing itself is
 * done by the person's own tool; what is counted here is its time.
 */
export function Armed({ open, onOpenChange, facts, plannedSeconds, verify, log }: Props) {
  const outcomes = sayings(verify)
  const { state, again, press, choose } = useAttempt({ open, onOpenChange, log })
  const seconds = useCount(state.kind === 'running' ? state.since : null, plannedSeconds)
  const hear = (e: KeyboardEvent) => {
    if (e.key === ' ' || e.key === 'Enter' || e.key === 'PageDown') {
      if (!e.repeat) press()
      e.preventDefault()
      return
    }
    const chosen = outcomes[Number(e.key) - 1]
    if (chosen) void choose(chosen)
  }
  return (
    <Dialog.Root open={open} onOpenChange={onOpenChange}>
      <Dialog.Portal>
        <Dialog.Content
          aria-describedby={undefined}
          className="fixed inset-0 z-50 grid grid-rows-[auto_1fr_auto] bg-sheet"
          onKeyDown={hear}
        >
          <div className="flex items-center gap-4 bg-bar px-5 py-3 text-[#eaf2ee]">
            <Dialog.Title className="flex-1 text-[1.3rem]">Both hands full</Dialog.Title>
            <Dialog.Close className="min-h-[2.6rem] rounded-[9px] border border-white/40 px-4">
              Close
              <Key>Esc</Key>
            </Dialog.Close>
          </div>
          <div className="grid content-center gap-6 overflow-y-auto px-[6vw] py-5" aria-live="assertive">
            <dl className="flex flex-wrap gap-x-10 gap-y-2 text-[1.3rem]">
              {facts.map(([name, value]) => (
                <div key={name}>
                  <dt className="text-[1rem] text-ink-2">{name}</dt>
                  <dd className="pin font-semibold break-all">{value}</dd>
                </div>
              ))}
            </dl>
            <Now state={state} seconds={seconds} again={again} plannedSeconds={plannedSeconds} />
          </div>
          <div className="grid gap-3 border-t border-rule bg-sheet-2 p-4 sm:grid-cols-3">
            <Buttons state={state} outcomes={outcomes} press={press} choose={choose} />
          </div>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  )
}
