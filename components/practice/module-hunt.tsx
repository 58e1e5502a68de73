'use client'
import {
  inferenceOf,
  newSession,
  nextTrial,
  type ProbeSession,
  planOf,
  type SignId,
  stageOf,
} from '@fresh-coat/core/pins/session'
import { type ReactNode, useMemo, useState } from 'react'
import { Card } from '@/components/frame/card'
import { buttonClass, Tag } from '@/components/paint/paint'
import { ProbeRoll } from '@/components/steps/pins/probe/roll'
import { TrialCard } from '@/components/steps/pins/probe/trial'
import { WatchCard } from '@/components/steps/pins/probe/watch'
import {
  levelsOf,
  makeVirtualModule,
  type Response,
  respond,
  type SearchScore,
  scoreSearch,
  type VirtualModule,
} from '@/standins/virtual-module'
import { HuntHead } from './hunt-head'
import { NotKept, useKeepScore } from './keep-score'

/** Finding out by trials which pin does what, on a module that clicks, lights and restarts, and whose pins nobody knows. */

const begin = (m: VirtualModule): ProbeSession => ({
  ...newSession(),
  begun: true,
  hazards: m.kind === 'relays' ? [] : [m.kind],
  unknown: [
    { sign: 'click', count: m.relays.length },
    { sign: 'led', count: 1 },
  ],
})

/** A short tick, where the browser lets a page make one. */
function tick(): void {
  try {
    const audio = new AudioContext()
    const source = audio.createBufferSource()
    const buffer = audio.createBuffer(1, 400, 44_100)
    const data = buffer.getChannelData(0)
    for (let i = 0; i < data.length; i++) data[i] = (1 - i / data.length) * (i % 9 < 4 ? 0.5 : -0.5)
    source.buffer = buffer
    source.connect(audio.destination)
    source.onended = () => void audio.close()
    source.start()
  } catch {
    // It is shown as well.
  }
}

function Seen({ now, sound }: { now: Response | null; sound: boolean }) {
  return (
    <div
      className="flex min-h-[4.5rem] flex-wrap items-center gap-4 rounded-[10px] border border-rule px-4"
      role="status"
    >
      {now === null ? (
        <span className="text-ink-2">Switch it, then look{sound ? ' and listen' : ''}.</span>
      ) : now.restart ? (
        <strong className="text-oxide">
          {now.harm
            ? `${now.harm[0]?.toUpperCase()}${now.harm.slice(1)}: on a real one something burns.`
            : 'Everything went dark, and it starts again.'}
        </strong>
      ) : (
        <>
          <span className="flex items-center gap-2">
            <span
              className={`inline-block size-7 rounded-full border-2 border-ink ${now.light ? 'bg-ochre-line' : 'bg-sheet'}`}
              aria-hidden="true"
            />
            {now.light ? 'a light is on' : 'no light'}
          </span>
          <strong>{now.click ? 'click!' : <span className="font-normal text-ink-2">not a sound</span>}</strong>
        </>
      )}
    </div>
  )
}

/** What its pins read as inputs: a full square is high. */
function Levels({
  module: m,
  pull,
  held,
  hold,
}: {
  module: VirtualModule
  pull: 'up' | 'down'
  held: boolean
  hold: ((is: boolean) => void) | null
}) {
  const levels = levelsOf(m, pull, held)
  return (
    <div className="grid gap-3 rounded-[10px] border border-rule px-4 py-3">
      <ul className="flex flex-wrap gap-x-5 gap-y-2" aria-label={`Levels, pulled ${pull}`}>
        {m.pins.map((pin) => (
          <li key={pin} className="grid justify-items-center gap-1">
            <span
              className={`block size-6 border-2 border-ink ${levels[pin] === 1 ? 'bg-ink' : 'bg-sheet'}`}
              aria-hidden="true"
            />
            <span className="pin text-[0.93rem]">{pin}</span>
            <span className="text-[0.87rem] text-ink-2">{levels[pin] === 1 ? 'high' : 'low'}</span>
          </li>
        ))}
      </ul>
      {hold && m.button === null && <p className="text-ink-2">It has no button to hold.</p>}
      {hold && m.button !== null && (
        <button
          type="button"
          aria-pressed={held}
          className={`${buttonClass(held ? 'main' : 'plain')} justify-self-start`}
          onClick={() => hold(!held)}
        >
          {held ? 'Let the button go' : 'Hold the button'}
        </button>
      )}
    </div>
  )
}

const soldAs: Record<VirtualModule['kind'], (n: number) => string> = {
  relays: (n) => (n === 1 ? 'One relay' : `${n} relays`),
  latching: () => 'One latching relay with two coils',
  motor: () => 'A motor with two relays',
}

function Over({
  score,
  module: m,
  again,
  notKept,
}: {
  score: SearchScore
  module: VirtualModule
  again: () => void
  notKept: ReactNode
}) {
  return (
    <Card
      lead="On the virtual module"
      ask={score.missed.length === 0 ? 'All of it was found' : `Missed: ${score.missed.join(', ')}`}
    >
      <p>
        <span className="font-title text-[2.2rem] font-bold">{score.score}</span> of 100
      </p>
      {notKept}
      <ul className="grid gap-1">
        <li>{score.trials} trials</li>
        <li>{score.misheard === 0 ? 'nothing misheard' : `${score.misheard} answers were not what was to be seen`}</li>
        {score.harmed > 0 && <li>{score.harmed}× something was driven that a real part would not have stood</li>}
        <li>{score.restarts === 0 ? 'it never restarted' : `it restarted ${score.restarts}×`}</li>
      </ul>
      <p>
        It was: {m.relays.map((p, i) => `${p} relay ${i + 1}`).join(', ')}
        {m.light ? `, ${m.light.pin} a light, on at ${m.light.low ? 'low' : 'high'}` : ''}
        {m.button ? `, ${m.button} a button` : ''}
        {m.meter ? `, ${m.meter} the output of a meter` : ''}
        {m.restarts.length > 0 ? `; ${m.restarts.join(', ')} must not be driven` : ''}.
      </p>
      <button type="button" className={`${buttonClass('main')} justify-self-start`} onClick={again}>
        Another module
      </button>
    </Card>
  )
}

/** A search on one virtual module, as far as it has come. */
function useSearch(first: number) {
  const keeping = useKeepScore()
  const [seed, setSeed] = useState(first)
  const module_ = useMemo(() => makeVirtualModule(seed), [seed])
  const [session, setSession] = useState(() => begin(module_))
  const [shown, setShown] = useState<Response | null>(null)
  const [latched, setLatched] = useState(false)
  const [held, setHeld] = useState(false)
  const [score, setScore] = useState<SearchScore | null>(null)
  const plan = planOf(session, { family: module_.family, power: 'rail', pins: module_.pins, template: null })
  const found = plan && inferenceOf(session, plan)
  const stage = stageOf(session)
  const next = stage === 'drive' && plan && found ? nextTrial(session, plan, found) : null
  return {
    ...{ keeping, seed, module_, session, shown, held, setHeld, score, plan, found, stage, next },
    start: (n: number) => {
      setSeed(n)
      setSession(begin(makeVirtualModule(n)))
      setShown(null)
      setLatched(false)
      setHeld(false)
      setScore(null)
      keeping.forget()
    },
    /** Switches what is to be switched; true when it clicked. */
    drive: (): boolean => {
      if (!next) return false
      const before = session.trials.at(-1)
      const is = respond(module_, next.on, before && !before.reset ? before.on : [], latched)
      setLatched(is.latched)
      setShown(is)
      return is.click
    },
    put: (change: Partial<ProbeSession>) => {
      setSession({ ...session, ...change })
      setShown(null)
    },
    finish: async () => {
      if (!plan || !found) return
      const signs = found.signs.map((s) => ({ sign: s.id as SignId, pins: s.p >= 0.9 ? s.pins : [] }))
      const result = scoreSearch(module_, session, signs, plan.expectedTrials)
      setScore(result)
      await keeping.keep({
        kind: 'pin search',
        family: module_.family,
        score: result.score,
        data: { seed, trials: result.trials, restarts: result.restarts, misheard: result.misheard },
      })
    },
  }
}
type Search = ReturnType<typeof useSearch>
type Found = NonNullable<Search['found']>

/** Nothing more would tell: what was found, and the press that ends it. */
function ThisIsIt({ signs, finish }: { signs: Found['signs']; finish: () => void }) {
  return (
    <Card ask="Nothing would tell more" how="Say that this is it: what was found is held against what hangs on it.">
      <ul className="grid gap-1" aria-label="Found">
        {signs.map((s) => (
          <li key={s.id} className="flex gap-2.5">
            <Tag severity={s.p >= 0.99 ? 'ok' : 'watch'}>{(s.p * 100).toFixed(0)} %</Tag>
            {s.id === 'click' ? 'click' : 'light'}: {s.pins.join(', ') || 'none of these'}
          </li>
        ))}
      </ul>
      <button type="button" className={`${buttonClass('main')} justify-self-start`} onClick={finish}>
        This is it
      </button>
    </Card>
  )
}

/** What is asked now, as at the step itself. */
function Asked({ search, plan, found }: { search: Search; plan: NonNullable<Search['plan']>; found: Found }) {
  const { session, put, stage, next, shown } = search
  const at = { session, plan, found, put, sitting: 1 }
  if (search.score)
    return (
      <Over
        score={search.score}
        module={search.module_}
        again={() => search.start(search.seed + 1)}
        notKept={<NotKept {...search.keeping} />}
      />
    )
  if (stage !== 'drive') return <WatchCard key={stage} at={at} stage={stage} />
  if (!next) return <ThisIsIt signs={found.signs} finish={() => void search.finish()} />
  if (shown !== null) return <TrialCard at={at} on={next.on} n={next.n} />
  return (
    <Card
      ask={next.on.length === 0 ? 'Everything off' : `${next.on.join(', ')} on`}
      how="Switch it first. Then say what was to be seen and heard."
    />
  )
}

export function ModuleHunt({ first }: { first: number }) {
  const search = useSearch(first)
  const { seed, module_, session, plan, found, stage, next, held, shown } = search
  const [sound, setSound] = useState(false)
  if (!plan || !found) return null
  const drive = () => {
    if (search.drive() && sound) tick()
  }
  return (
    <div className="grid gap-4">
      <HuntHead thing="module" seed={seed} start={search.start}>
        <label className="flex min-h-10 items-center gap-2">
          <input type="checkbox" className="size-5" checked={sound} onChange={(e) => setSound(e.target.checked)} />
          With sound
        </label>
        <p className="pb-2 text-ink-2">
          {soldAs[module_.kind](module_.relays.length)} and a light, on {module_.pins.length} pins. Perhaps a button,
          and an output that is not to be driven.
        </p>
      </HuntHead>
      <div className="grid gap-5 lg:grid-cols-[minmax(0,1fr)_20rem]">
        <div className="grid min-w-0 content-start gap-3">
          {stage !== 'drive' ? (
            <Levels
              module={module_}
              pull={stage === 'pulled-down' ? 'down' : 'up'}
              held={held}
              hold={stage === 'press' ? search.setHeld : null}
            />
          ) : (
            <ProbeRoll session={session} plan={plan} found={found} now={next?.on ?? null} chip={module_.family} />
          )}
          {next && !search.score && (
            <div className="grid gap-2">
              <Seen now={shown} sound={sound} />
              <button type="button" className={`${buttonClass('main')} justify-self-start`} onClick={drive}>
                {next.on.length === 0 ? 'Switch everything off' : `Switch on ${next.on.join(', ')}`}
              </button>
            </div>
          )}
        </div>
        <Asked search={search} plan={plan} found={found} />
      </div>
    </div>
  )
}
