import { hazardKinds, type ProbePlan } from '@fresh-coat/core/pins/probe-plan'
import { type ProbeSession, type SignId, signIds } from '@fresh-coat/core/pins/session'
import { Tick } from '@/components/forms/fields'
import { Card } from '@/components/frame/card'
import { buttonClass, Key } from '@/components/paint/paint'
import { type At, hazardWords, lookedFor, methodWords, signNames } from './words'

/** What is looked for, and what may not be driven together. */

/** One more or one less of what is looked for. */
function Stepper({ name, count, onChange }: { name: string; count: number; onChange: (count: number) => void }) {
  const step = (by: number) => (
    <button
      type="button"
      className="min-h-[2.4rem] min-w-[2.4rem] rounded-[8px] border border-ink bg-sheet text-[1.2rem] font-semibold disabled:opacity-40"
      aria-label={`${name}: one ${by > 0 ? 'more' : 'less'}`}
      disabled={by < 0 ? count === 0 : count >= 6}
      onClick={() => onChange(count + by)}
    >
      {by > 0 ? '+' : '−'}
    </button>
  )
  return (
    <li className="flex items-center gap-3">
      <span className="flex-1">{name}</span>
      {step(-1)}
      <output className="pin w-5 text-center text-[1.1rem] font-bold" aria-label={`${name}: ${count}`}>
        {count}
      </output>
      {step(1)}
    </li>
  )
}

export function SetUp({
  session,
  plan,
  put,
  power,
  close,
}: {
  session: ProbeSession
  plan: ProbePlan | null
  put: At['put']
  power: string
  close: () => void
}) {
  const countOf = (sign: SignId) => session.unknown.find((u) => u.sign === sign)?.count ?? 0
  const setCount = (sign: SignId, count: number) =>
    put({
      unknown: signIds.flatMap((s) => {
        const n = s === sign ? count : countOf(s)
        return n > 0 ? [{ sign: s, count: n }] : []
      }),
    })
  const clicks = countOf('click')
  const nothing = plan === null || plan.visible.length === 0
  return (
    <Card
      lead="Find them by trials"
      ask="What is still unknown?"
      how="As many as answer alike: two relays that sound the same are two."
    >
      <ul className="grid gap-1.5">
        {signIds.map((s) => (
          <Stepper key={s} name={lookedFor[s]} count={countOf(s)} onChange={(n) => setCount(s, n)} />
        ))}
      </ul>
      <fieldset className="grid grid-cols-2 gap-x-3">
        <legend className="text-[0.9rem] font-semibold text-ink-2">Is there, or may there be</legend>
        {hazardKinds.map((h) => (
          <Tick
            key={h}
            label={hazardWords[h]}
            checked={session.hazards.includes(h)}
            onChange={(on) => put({ hazards: hazardKinds.filter((k) => (k === h ? on : session.hazards.includes(k))) })}
          />
        ))}
      </fieldset>
      {power === 'mains' && clicks >= 2 && session.hazards.length === 0 && (
        <Tick label="No motor hangs on it" checked={session.noMotor} onChange={(noMotor) => put({ noMotor })} />
      )}
      {plan && (
        <p role="status">
          {plan.candidates.length} pins to try, {methodWords[plan.method]}: {plan.expectedTrials} trials expected.
          {plan.hidden.length > 0 && (
            <span className="text-ochre">
              {' '}
              Not to be seen this way: {plan.hidden.map((h) => signNames[h as SignId]).join(', ')}.
            </span>
          )}
        </p>
      )}
      <div className="flex flex-wrap gap-2">
        <button
          type="button"
          data-key="b"
          className={buttonClass('main')}
          disabled={nothing}
          onClick={() => put({ begun: true })}
        >
          Begin<Key>b</Key>
        </button>
        <button type="button" className={buttonClass('quiet')} onClick={close}>
          Not now
        </button>
      </div>
    </Card>
  )
}
