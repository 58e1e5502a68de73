import type { KnownFamily } from '@fresh-coat/core/families/families'
import {
  inferenceOf,
  newSession,
  nextTrial,
  type ProbeSession,
  planOf,
  stageOf,
  strayPins,
} from '@fresh-coat/core/pins/session'
import { type ReactNode, useMemo } from 'react'
import { TextField } from '@/components/forms/fields'
import { Card } from '@/components/frame/card'
import { useKept, useTypedText } from '@/components/frame/frame-context'
import { buttonClass } from '@/components/paint/paint'
import type { SurfaceProps } from '@/components/steps/context'
import type { Editing } from '../editing'
import { useProber } from '../over-line'
import { FoundCard, RestoreCard } from './found'
import { ProbeRoll } from './roll'
import { SetUp } from './set-up'
import { TrialCard } from './trial'
import { WatchCard } from './watch'
import { type At, methodWords } from './words'

type Props = SurfaceProps<'pins'>

/** Finding out by trials which pin does what: a search that goes on over sittings, one card at a time. */

/** Pins that lead somewhere: those of the module’s contact map, or all that the family lets be used. */
function pinsToTry(view: Props['view'], usable: ReadonlySet<string>): string[] {
  const contacts = view.module?.edges.flatMap((e) => e.contacts.flatMap((c) => (c.pin ? [c.pin] : []))) ?? []
  const known = contacts.filter((p) => usable.has(p))
  return known.length > 0 ? [...new Set(known)] : [...usable]
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
  const stage = stageOf(session)
  const next = stage === 'drive' ? nextTrial(session, plan, found) : null
  const stray = strayPins(session, plan)
  return {
    ...none,
    drawing: <ProbeRoll session={session} plan={plan} found={found} now={next?.on ?? null} chip={family} />,
    card:
      stage !== 'drive' ? (
        <WatchCard key={stage} at={at} stage={stage} />
      ) : next ? (
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

const pinText = {
  write: (pins: readonly string[]) => pins.join(' '),
  read: (text: string): string[] => (text.toUpperCase().match(/[A-Z]+[0-9]+/g) ?? []).slice(0, 60),
}

/** Pins that change by themselves, with nothing pressed: outputs of something, never driven. */
export function MovingPins({ record: { data, patch } }: Pick<Props, 'record'>) {
  const session = data.session ?? newSession()
  const [text, setText] = useTypedText<readonly string[]>('moving pins', session.moving, pinText)
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
        patch({ session: { ...session, moving: pinText.read(typed) } })
      }}
    />
  )
}
