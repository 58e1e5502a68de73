import type { SignId } from '@fresh-coat/core/pins/session'
import dynamic from 'next/dynamic'
import { useState } from 'react'
import { type Answer, Card, Count, Counts } from '@/components/frame/card'
import { ahead } from '@/components/frame/fetch-ahead'
import { buttonClass, Key } from '@/components/paint/paint'
import { DriveOverLine, type Prober } from '../over-line'
import { type At, capital, percent, seenWords, signNames } from './words'

const LargeTrial = dynamic(
  ahead(() => import('./large').then((m) => m.LargeTrial)),
  { ssr: false },
)

/** One trial: what is driven, and what a person heard and saw. */

/** What can be seen, as answers: each sign, both, nothing. */
export function answersOf(
  { session, plan }: At,
  tell: (saw: SignId[], reset?: boolean) => void,
  on: readonly string[],
): Answer[] {
  const signs = session.unknown.map((u) => u.sign).filter((s) => plan.visible.includes(s))
  const sets: SignId[][] = signs.map((s) => [s])
  for (const [i, a] of signs.entries()) for (const b of signs.slice(i + 1)) sets.push([a, b])
  if (signs.length > 2) sets.push([...signs])
  const words = (set: SignId[]) =>
    set.length === 1 ? seenWords[set[0] as SignId] : capital(set.map((s) => signNames[s]).join(' and '))
  return [
    ...sets.slice(0, 7).map((set) => ({ label: words(set), pick: () => tell(set) })),
    { label: 'Nothing', pick: () => tell([]) },
    {
      label: 'It went dark or restarted',
      hint: on.length === 1 ? `${on[0]} becomes a suspect` : on.length > 1 ? 'what is on becomes suspect' : '',
      pick: () => tell([], true),
      grave: true,
    },
  ]
}

export function KnownSoFar({ found, plan }: Pick<At, 'found' | 'plan'>) {
  const sureOf = (id: string) => (found.signs.find((s) => s.id === id)?.p ?? 0) >= 0.5
  const shared = found.shared.filter((s) => s.signs.every(sureOf))
  return (
    <Counts title="Known so far">
      {found.signs.map((s) => (
        <Count
          key={s.id}
          name={signNames[s.id as SignId]}
          note={
            s.disagree.length > 0
              ? `${s.disagree.length} ${s.disagree.length === 1 ? 'trial disagrees' : 'trials disagree'}: perhaps there is one more`
              : s.active || s.p < 0.5
                ? ''
                : s.pins.length > 0
                  ? 'which level: tell from something lit'
                  : ''
          }
        >
          {s.p < 0.5
            ? 'not yet'
            : s.pins.length === 0
              ? `none of these, ${percent(s.p)}`
              : `${s.pins.join(', ')}${s.active ? `, on at ${s.active}` : ''}, ${percent(s.p)}`}
        </Count>
      ))}
      {found.suspects.length > 0 && <Count name="Suspect">{found.suspects.join(', ')}</Count>}
      {shared.map((s) => (
        <Count key={s.pin} name="Together">
          {s.pin}: {s.signs.map((id) => signNames[id as SignId]).join(' and ')}
        </Count>
      ))}
      {plan.hidden.length > 0 && (
        <Count name="Hidden">{plan.hidden.map((h) => signNames[h as SignId]).join(', ')}</Count>
      )}
    </Counts>
  )
}

export function TrialCard({ at, on, n, prober }: { at: At; on: readonly string[]; n: number; prober?: Prober }) {
  const { session, plan, put, sitting, found } = at
  const tell = (saw: SignId[], reset = false) =>
    put({ trials: [...session.trials, { on: [...on], saw, reset, sitting }] })
  const numbers = on.flatMap((p) => plan.assign.filter((a) => a.pin === p).map((a) => a.n))
  const last = session.trials.length > 0
  const lastTrial = session.trials.at(-1)
  const before = lastTrial && !lastTrial.reset ? lastTrial.on : []
  const [large, setLarge] = useState(false)
  const ask = on.length === 0 ? 'Everything is off' : `${on.join(', ')} ${on.length === 1 ? 'is' : 'are'} on`
  const how =
    on.length === 0
      ? 'Switch everything off, look and listen: a relay that lets go now is the last one’s.'
      : `Only ${numbers.length === 1 ? 'output' : 'outputs'} ${numbers.join(', ')}. Look and listen, then press one key.`
  const answers = answersOf(at, tell, on)
  return (
    <Card
      lead={
        on.length === 0
          ? n === 0
            ? 'Before the first trial'
            : `After trial ${n}`
          : `Trial ${n} of about ${Math.max(n, Math.ceil(plan.expectedTrials))}`
      }
      ask={ask}
      how={how}
      answers={answers}
    >
      {prober && (
        <DriveOverLine
          key={session.trials.length}
          prober={prober}
          on={on}
          before={before}
          restarted={() => tell([], true)}
        />
      )}
      {large && <LargeTrial ask={ask} how={how} answers={answers} open onOpenChange={setLarge} />}
      <button
        type="button"
        data-key="p"
        className={`${buttonClass('quiet')} justify-self-start`}
        onClick={() => setLarge(true)}
      >
        Large, with a pedal<Key>p</Key>
      </button>
      <KnownSoFar found={found} plan={plan} />
      {last && (
        <button
          type="button"
          className={`${buttonClass('quiet')} justify-self-start`}
          onClick={() => put({ trials: session.trials.slice(0, -1) })}
        >
          Take the last trial back
        </button>
      )}
    </Card>
  )
}
