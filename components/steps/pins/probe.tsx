import type { KnownFamily } from '@fresh-coat/core/families/families'
import { type Inference, sharesOf } from '@fresh-coat/core/pins/infer'
import { type Hazard, hazardKinds, type ProbePlan } from '@fresh-coat/core/pins/probe-plan'
import {
  foundPins,
  inferenceOf,
  newSession,
  nextTrial,
  type ProbeSession,
  planOf,
  type SignId,
  signIds,
  signsOf,
  strayPins,
  trialsOf,
} from '@fresh-coat/core/pins/session'
import { naturalOrder } from '@fresh-coat/core/pins/words'
import { type ReactNode, useMemo } from 'react'
import { type DrawnPin, ModuleDrawing } from '@/components/drawings/module-drawing'
import { type RollPin, type RollSign, TrialRoll } from '@/components/drawings/trial-roll'
import { TextField, Tick } from '@/components/forms/fields'
import { type Answer, Card, Count, Counts } from '@/components/frame/card'
import { useKept } from '@/components/frame/frame-context'
import { buttonClass, Key, Tag } from '@/components/paint/paint'
import type { SurfaceProps } from '@/components/steps/context'
import type { Editing } from './editing'
import { DriveOverLine, type Prober, useProber } from './over-line'
import { fnWords } from './words'

type Props = SurfaceProps<'pins'>

/** Finding out by trials which pin does what: what is driven, what was seen, what that makes likely. */

const signNames: Record<SignId, string> = { click: 'click', led: 'light', bright: 'dimmed light', load: 'load' }
const lookedFor: Record<SignId, string> = {
  click: 'Relays that click',
  led: 'Lights, on or off',
  bright: 'Lamps that dim',
  load: 'Loads, by a small lamp',
}
const seenWords: Record<SignId, string> = {
  click: 'It clicked',
  led: 'The light is on',
  bright: 'The lamp is on',
  load: 'The load is on',
}
const hazardWords: Record<Hazard, string> = {
  latching: 'A relay with two coils',
  bridge: 'A motor bridge',
  motor: 'A motor with two relays',
  heater: 'A heater',
}
const methodWords: Record<ProbePlan['method'], string> = {
  single: 'one pin at a time',
  code: 'each pin’s yes and no spell its number',
  halving: 'half of them at a time',
}
const kindOf = (sign: string): RollSign['kind'] => (sign === 'click' ? 'edge' : 'level')
const capital = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1)
const percent = (p: number): string => `${(p * 100).toFixed(p > 0.99 ? 1 : 0)} %`

/** Pins that lead somewhere: those of the module’s contact map, or all that the family lets be used. */
function pinsToTry(view: Props['view'], usable: ReadonlySet<string>): string[] {
  const contacts = view.module?.edges.flatMap((e) => e.contacts.flatMap((c) => (c.pin ? [c.pin] : []))) ?? []
  const known = contacts.filter((p) => usable.has(p))
  return known.length > 0 ? [...new Set(known)] : [...usable]
}

interface At {
  session: ProbeSession
  plan: ProbePlan
  found: Inference
  put: (change: Partial<ProbeSession>) => void
  sitting: number
}

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

function SetUp({
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

/** What can be seen, as answers: each sign, both, nothing. */
function answersOf(
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

function KnownSoFar({ found, plan }: Pick<At, 'found' | 'plan'>) {
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
  return (
    <Card
      lead={
        on.length === 0
          ? n === 0
            ? 'Before the first trial'
            : `After trial ${n}`
          : `Trial ${n} of about ${Math.max(n, Math.ceil(plan.expectedTrials))}`
      }
      ask={on.length === 0 ? 'Everything is off' : `${on.join(', ')} ${on.length === 1 ? 'is' : 'are'} on`}
      how={
        on.length === 0
          ? 'Switch everything off, look and listen: a relay that lets go now is the last one’s.'
          : `Only ${numbers.length === 1 ? 'output' : 'outputs'} ${numbers.join(', ')}. Look and listen, then press one key.`
      }
      answers={answersOf(at, tell, on)}
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

function FoundCard({
  at,
  view,
  edit,
  template,
}: {
  at: At
  view: Props['view']
  edit: Editing
  template: Props['record']['data']['template']
}) {
  const pins = foundPins(at.session, at.plan, String(view.number), template)
  const take = () => {
    edit.take(pins.map((f) => f.pin))
    at.put({ taken: true })
  }
  return (
    <Card
      lead={`${at.session.trials.filter((t) => t.on.length > 0).length} trials`}
      ask={pins.length > 0 ? 'This is what was found' : 'Nothing was found for sure'}
      how={
        pins.length > 0
          ? 'Its channels and levels can be said anew, pin by pin.'
          : 'Feed it another way, or look for fewer at once.'
      }
    >
      <ul className="grid gap-1.5" aria-label="Found">
        {pins.map(({ pin, p, levelUnknown }) => (
          <li key={pin.pin} className="flex gap-2.5">
            <Tag severity={p >= 0.99 ? 'ok' : 'watch'}>{percent(p)}</Tag>
            <span>
              <strong className="pin">{pin.pin}</strong> {fnWords[pin.fn]}
              {pin.ch ? ` ${pin.ch}` : ''}
              {levelUnknown ? ', its level is not known yet' : `, on at ${pin.active ?? 'high'}`}
            </span>
          </li>
        ))}
      </ul>
      <div className="flex flex-wrap gap-2">
        {pins.length > 0 && (
          <button type="button" data-key="Enter" className={buttonClass('main')} onClick={take}>
            Take them into the template<Key>Enter</Key>
          </button>
        )}
        <button type="button" className={buttonClass('plain')} onClick={() => at.put({ taken: true })}>
          Leave it at that
        </button>
      </div>
      <KnownSoFar found={at.found} plan={at.plan} />
    </Card>
  )
}

function RestoreCard({ session, put }: Pick<At, 'session' | 'put'>) {
  const driven = [...new Set(session.trials.flatMap((t) => t.on))]
  return (
    <Card
      lead="Before anything else"
      ask="Set the trial functions back"
      how="In the device’s settings: every pin that was an output for a trial is unused again. One that stays would be driven at the next start."
      answers={[{ label: 'All of them are unused again', pick: () => put({ restored: true }) }]}
    >
      <p className="pin break-words">{driven.join(', ')}</p>
    </Card>
  )
}

export function ProbeRoll({
  session,
  plan,
  found,
  now,
  chip,
}: Pick<At, 'session' | 'plan' | 'found'> & { now: readonly string[] | null; chip: string }) {
  const signs = signsOf(session, plan)
  const trials = trialsOf(session, plan)
  const shares = signs.map((s) => sharesOf(plan.candidates, s, trials))
  const pins: RollPin[] = plan.candidates.map((pin, i) => ({
    pin,
    does: found.signs
      .filter((s) => s.p >= 0.9 && s.pins.includes(pin))
      .map((s) => signNames[s.id as SignId])
      .join(', '),
    shares: shares.map((s) => s[i]?.p ?? 0),
    suspect: found.suspects.includes(pin),
  }))
  const drawn: DrawnPin[] = [...plan.candidates, ...plan.excluded.map((e) => e.pin)].sort(naturalOrder).map((pin) => {
    const known = pins.find((p) => p.pin === pin)
    return {
      pin,
      does: known?.does ?? '',
      sure: known?.does ? 'seen' : '',
      wrong: found.suspects.includes(pin),
      closed: known === undefined,
    }
  })
  return (
    <div className="flex items-center gap-6">
      <div className="hidden w-[15rem] shrink-0 md:block">
        <ModuleDrawing pins={drawn} chip={chip} chosen={null} lit={now ?? []} bare />
      </div>
      <TrialRoll
        signs={signs.map((s) => ({ id: s.id, name: signNames[s.id as SignId], kind: kindOf(s.id) }))}
        trials={trials}
        now={now}
        pins={pins}
      />
    </div>
  )
}

export interface Probe {
  /** It goes on: it has the drawing and the card. */
  drawing: ReactNode | null
  card: ReactNode | null
  /** Begins a search. */
  offer: ReactNode
  say: ReactNode | null
  /** The trials of a search that is over. */
  roll: ReactNode | null
}

export function useProbe(
  { view, record, choices }: Props,
  family: KnownFamily,
  usable: ReadonlySet<string>,
  edit: Editing,
): Probe {
  const { data, patch } = record
  const { session, power, template } = data
  const prober = useProber({ view, choices, record })
  const [open, setOpen] = useKept('search for pins', false)
  const bench = { family, power: power ?? 'adapter', pins: pinsToTry(view, usable), template }
  const before = session?.taken ? null : template
  const key = JSON.stringify([session, family, power, session?.taken ? null : template?.pins.map((p) => [p.pin, p.fn])])
  // biome-ignore lint/correctness/useExhaustiveDependencies: the key holds all that decides
  const worked = useMemo(() => {
    const plan = session ? planOf(session, { ...bench, template: before }) : null
    return { plan, found: session && plan ? inferenceOf(session, plan) : null }
  }, [key])
  const { plan, found } = worked
  const put = (change: Partial<ProbeSession>) => patch({ session: { ...(session ?? newSession()), ...change } })
  const offer = (
    <button
      type="button"
      className={`${buttonClass('plain')} justify-self-start`}
      onClick={() => {
        // A search that is over stays in the log; this is a new one.
        if (session?.restored || session === null) patch({ session: newSession() })
        setOpen(true)
      }}
    >
      {session && !session.restored ? 'Go on with the trials' : 'Find pins by trials'}
    </button>
  )
  const none: Probe = { drawing: null, card: null, offer, say: null, roll: null }
  if (session === null || power === null) return none
  if (!session.begun)
    return open
      ? { ...none, card: <SetUp session={session} plan={plan} put={put} power={power} close={() => setOpen(false)} /> }
      : none
  if (session.restored)
    return plan && found
      ? { ...none, roll: <ProbeRoll session={session} plan={plan} found={found} now={null} chip={family} /> }
      : none
  if (session.taken)
    return {
      ...none,
      drawing:
        plan && found ? <ProbeRoll session={session} plan={plan} found={found} now={null} chip={family} /> : null,
      card: <RestoreCard session={session} put={put} />,
    }
  if (!plan || !found)
    return {
      ...none,
      card: (
        <Card ask="No pin is left to try" how="Every pin that can be driven is known, or none fits what is looked for.">
          <button type="button" className={buttonClass('main')} onClick={() => put({ taken: true })}>
            Leave it at that
          </button>
        </Card>
      ),
    }
  const at: At = { session, plan, found, put, sitting: data.sitting }
  const next = nextTrial(session, plan, found)
  const stray = strayPins(session, plan)
  return {
    ...none,
    drawing: <ProbeRoll session={session} plan={plan} found={found} now={next?.on ?? null} chip={family} />,
    card: next ? (
      <TrialCard at={at} on={next.on} n={next.n} prober={prober} />
    ) : (
      <FoundCard at={at} view={view} edit={edit} template={template} />
    ),
    say: (
      <>
        {plan.candidates.length} pins, {methodWords[plan.method]}. A square is a pin that was driven.
        {stray.length > 0 && (
          <span className="text-ochre">
            {' '}
            Kept, and not counted now: {stray.join(', ')}, which cannot be driven here.
          </span>
        )}
      </>
    ),
  }
}

/** Pins that change by themselves, with nothing pressed: outputs of something, never driven. */
export function MovingPins({ record: { data, patch } }: Pick<Props, 'record'>) {
  const session = data.session ?? newSession()
  const [text, setText] = useKept('moving pins', session.moving.join(' '))
  return (
    <TextField
      label="Pins that change by themselves"
      mono
      value={text}
      maxLength={300}
      placeholder="GPIO5 GPIO14"
      hint="Watched as inputs first, with nothing pressed. A meter’s or sensor’s output is never driven."
      onChange={(typed) => {
        setText(typed)
        const moving = typed.toUpperCase().match(/[A-Z]+[0-9]+/g) ?? []
        patch({ session: { ...session, moving: moving.slice(0, 60) } })
      }}
    />
  )
}
