import { type AttemptOutcome, attemptOutcomes, type ToolWords } from '@fresh-coat/core/unit/view'
import type { ReactNode } from 'react'
import { Choice, NumberField } from '@/components/forms/fields'
import { Card } from '@/components/frame/card'
import { useKept } from '@/components/frame/frame-context'
import { buttonClass, Key, shortMoment } from '@/components/paint/paint'
import { AttemptFields, outcomeWords } from './attempts'

export interface LogForm {
  outcome: AttemptOutcome | null
  minutes: number | null
  /** Whether it was checked and equal; null until somebody says so. */
  verified: boolean | null
  message: string
  seconds: number | null
  tool: string
  system: string
  wordsId: string | null
}
const blank: LogForm = {
  outcome: null,
  minutes: null,
  verified: null,
  message: '',
  seconds: null,
  tool: '',
  system: '',
  wordsId: null,
}

/** The row as a tool's words fill it; how it went is still a person's to say. */
const filledFrom = ({ id, tool, system, attempt }: ToolWords): LogForm => ({
  ...blank,
  outcome: attempt.outcome,
  verified: attempt.verified,
  message: attempt.message,
  seconds: attempt.seconds,
  tool,
  system,
  wordsId: id,
})

export interface LogProps {
  verify: string
  /** What this adapter's link took beyond its plan so far; null while nobody knows. */
  overhead: number | null
  lead: string
  /** A gate is open: nothing is logged before it is answered. */
  busy: boolean
  log: (form: LogForm & { outcome: AttemptOutcome; verified: boolean }) => Promise<boolean>
  /** A tool's words that no attempt tells of yet: the row fills itself from them. */
  words: ToolWords | null
  /** It can be written from the page too: this is the other way. */
  beside?: boolean
  /** Another way to write it, offered until it is told how this one went. */
  above?: ReactNode
  children?: ReactNode
}

/** How it went: one digit for the outcome, then what may be added, then Enter. */
export function LogAttempt({ verify, overhead, lead, busy, log, words, beside = false, above, children }: LogProps) {
  const [form, setForm] = useKept(`write attempt ${words?.id ?? ''}`, words ? filledFrom(words) : blank)
  const { outcome, verified } = form
  const asked = outcome === 'done' && verify !== 'none'
  const set = (change: Partial<LogForm>) => setForm({ ...form, ...change })
  if (outcome === null)
    return (
      <div className="grid gap-5">
        {above}
        <Card
          lead={beside ? 'Or with a tool of your own' : lead}
          ask={beside ? 'How did it go?' : 'Write it with your tool. How did it go?'}
          {...(beside
            ? { columns: true }
            : { how: 'Its line and facts are at the left. Have it ready before the hands are busy.' })}
          answers={attemptOutcomes.map((o) => ({
            label: outcomeWords[o],
            pick: () => set({ outcome: o }),
            disabled: busy,
            grave: o === 'verify-failed',
          }))}
        >
          {children}
        </Card>
      </div>
    )
  return (
    <Card
      lead={words ? `From the tool’s words of ${shortMoment(words.at)}` : 'One thing more'}
      ask={`${outcomeWords[outcome]}. What is worth keeping?`}
    >
      <form
        className="grid gap-3"
        onSubmit={(e) => {
          e.preventDefault()
          if (asked && verified === null) return
          void log({ ...form, outcome, verified: verified === true }).then((ok) => ok && setForm(blank))
        }}
      >
        {asked && (
          <Choice
            label={`Checked by ${verify}`}
            value={verified === null ? null : verified ? 'yes' : 'no'}
            options={[
              { value: 'yes', label: 'Equal' },
              { value: 'no', label: 'Not checked' },
            ]}
            onChange={(v) => set({ verified: v === 'yes' })}
          />
        )}
        <NumberField
          label="Writing took"
          unit="s"
          min={0}
          max={100000}
          value={form.seconds}
          onChange={(seconds) => set({ seconds })}
          hint={
            overhead === null
              ? 'As the tool says; it teaches the plan.'
              : `Overhead of this adapter so far: ${overhead.toFixed(2)}.`
          }
        />
        <AttemptFields {...form} onChange={set} />
        <div className="flex flex-wrap gap-2">
          <button type="submit" className={buttonClass('main')} disabled={asked && verified === null}>
            Log this attempt<Key>Enter</Key>
          </button>
          <button type="button" className={buttonClass('quiet')} onClick={() => set({ outcome: null })}>
            It went otherwise
          </button>
        </div>
      </form>
    </Card>
  )
}
