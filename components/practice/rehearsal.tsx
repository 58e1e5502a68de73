'use client'
import { entrySteps } from '@fresh-coat/core/boot/entry'
import {
  type HandEvent,
  type HandMove,
  type Rehearsal as Judged,
  mistakeSays,
  railVolts,
  rehearse,
  resetBelowVolts,
  unlockRuns,
  unlockScore,
  usualRailTauMs,
} from '@fresh-coat/core/boot/rehearse'
import { factsOf, type KnownFamily, knownFamilies, straplessEntry } from '@fresh-coat/core/families/families'
import { useRouter } from 'next/navigation'
import { useCallback, useEffect, useRef, useState } from 'react'
import { HandTimeline } from '@/components/drawings/hand-timeline'
import { Choice, SelectField } from '@/components/forms/fields'
import { buttonClass, Key, Tag } from '@/components/paint/paint'
import { send } from '@/components/send'

/** A switch or a held button of the virtual board: by finger, by mouse, by key. */
function Control({
  name,
  hotkey,
  on,
  hold,
  press,
  release,
  says,
}: {
  name: string
  hotkey: string
  on: boolean
  hold: boolean
  press: () => void
  release: () => void
  says: [string, string]
}) {
  return (
    <button
      type="button"
      aria-pressed={on}
      className={`min-h-[5.4rem] touch-none rounded-[12px] border-2 px-3 py-2 text-[1.15rem] font-semibold select-none ${on ? 'border-prussian bg-prussian text-on-paint' : 'border-ink bg-sheet text-ink'}`}
      onPointerDown={(e) => {
        e.currentTarget.setPointerCapture(e.pointerId)
        if (hold) press()
        else if (on) release()
        else press()
      }}
      // A click without a pointer: a screen reader, or Space on the focused control; a held one toggles then.
      onClick={(e) => {
        if (e.detail > 0) return
        if (on) release()
        else press()
      }}
      onPointerUp={() => hold && release()}
      onPointerCancel={() => hold && release()}
    >
      {name}
      <Key>{hotkey}</Key>
      <span className="block text-[0.95rem] font-normal">{on ? says[0] : says[1]}</span>
    </button>
  )
}

export function Rehearsal({ best }: { best: number[] }) {
  const router = useRouter()
  const [family, setFamily] = useState<KnownFamily>('LX106')
  const [goal, setGoal] = useState<'download' | 'app'>('download')
  const [events, setEvents] = useState<HandEvent[]>([])
  const [now, setNow] = useState(0)
  const [judged, setJudged] = useState<{ result: Judged; endMs: number } | null>(null)
  const [kept, setKept] = useState('')
  const began = useRef<number | null>(null)
  const unlocked = best.length >= unlockRuns && best.slice(0, unlockRuns).every((s) => s >= unlockScore)
  const [prompts, setPrompts] = useState(true)

  const last = (on: HandMove, off: HandMove) => events.filter((e) => e.do === on || e.do === off).at(-1)?.do === on
  const state = {
    power: last('power_on', 'power_off'),
    strap: last('strap_low', 'strap_high'),
    reset: last('reset_low', 'reset_high'),
    calling: last('call_start', 'call_stop'),
  }
  const move = useCallback(
    (what: HandMove) => {
      if (judged) return
      const at = performance.now()
      if (began.current === null) began.current = at
      const t = Math.round(at - began.current)
      setEvents((list) => [...list, { t, do: what }])
    },
    [judged],
  )
  const finish = useCallback(async () => {
    if (judged || began.current === null) return
    const endMs = Math.round(performance.now() - began.current) + 300
    const outcome = rehearse({ family, goal, events })
    if (!outcome.ok) return
    setJudged({ result: outcome.value, endMs })
    const sent = await send('keep-practice', {
      kind: 'rehearsal',
      family,
      score: outcome.value.score,
      data: { goal, events, mistakes: outcome.value.mistakes },
    })
    setKept(sent.state === 'ok' ? '' : 'The score could not be kept: the server does not answer.')
    router.refresh()
  }, [judged, family, goal, events, router])
  const again = useCallback(() => {
    began.current = null
    setEvents([])
    setJudged(null)
    setNow(0)
    setKept('')
  }, [])

  // The clock of the virtual board: only while hands are at work.
  useEffect(() => {
    if (events.length === 0 || judged) return
    const timer = setInterval(() => setNow(performance.now() - (began.current ?? performance.now())), 60)
    return () => clearInterval(timer)
  }, [events.length, judged])

  // Hands on keys: held keys hold, as fingers do; a repeat of the keyboard is not a second press.
  useEffect(() => {
    const held: Record<string, [HandMove, HandMove]> = {
      b: ['strap_low', 'strap_high'],
      r: ['reset_low', 'reset_high'],
    }
    const busy = (e: KeyboardEvent) =>
      e.ctrlKey ||
      e.metaKey ||
      e.altKey ||
      document.querySelector('[role="dialog"]') !== null ||
      ['SELECT', 'TEXTAREA'].includes((e.target as HTMLElement).tagName)
    const down = (e: KeyboardEvent) => {
      if (busy(e)) return
      const key = e.key.toLowerCase()
      const pair = held[key]
      if (pair && !e.repeat) move(pair[0])
      else if (key === 'p' && !e.repeat) move(state.power ? 'power_off' : 'power_on')
      else if (key === 'c' && !e.repeat) move(state.calling ? 'call_stop' : 'call_start')
      else if (key === 'enter' && !['BUTTON', 'A', 'SUMMARY'].includes((e.target as HTMLElement).tagName))
        void (judged ? again() : finish())
      else if (!pair) return
      e.preventDefault()
    }
    const up = (e: KeyboardEvent) => {
      const pair = held[e.key.toLowerCase()]
      if (pair && !busy(e)) move(pair[1])
    }
    window.addEventListener('keydown', down)
    window.addEventListener('keyup', up)
    return () => {
      window.removeEventListener('keydown', down)
      window.removeEventListener('keyup', up)
    }
  }, [move, finish, again, state.power, state.calling, judged])

  const byCall = straplessEntry(family) !== null
  const live = rehearse({ family, goal, events })
  const started = live.ok ? live.value.boots.filter((b) => b.t <= now).at(-1) : undefined
  const off = events.filter((e) => e.do === 'power_off').at(-1)
  const rail = state.power ? railVolts : off ? railVolts * Math.exp(-Math.max(0, now - off.t) / usualRailTauMs) : 0
  const steps = entrySteps({
    facts: factsOf(family),
    method: straplessEntry(family) ?? 'button',
    bootBy: byCall ? 'none' : 'button',
    hasReset: true,
    power: 'bench',
    mains: false,
    purpose: 'write',
  })
  return (
    <div className="grid gap-4">
      <div className="flex flex-wrap items-end gap-4">
        <SelectField
          label="Virtual board of family"
          value={family}
          options={knownFamilies.map((f) => ({ value: f, label: f }))}
          onChange={(f) => {
            if (f) setFamily(f)
            again()
          }}
        />
        <Choice
          label="Where to"
          value={goal}
          options={[
            { value: 'download', label: 'into download mode' },
            { value: 'app', label: 'back to its firmware' },
          ]}
          onChange={(g) => {
            setGoal(g)
            again()
          }}
        />
        {unlocked && (
          <Choice
            label="Prompts"
            value={prompts ? 'yes' : 'no'}
            options={[
              { value: 'yes', label: 'shown' },
              { value: 'no', label: 'none' },
            ]}
            onChange={(v) => setPrompts(v === 'yes')}
          />
        )}
      </div>
      <div className="grid gap-4 lg:grid-cols-[minmax(0,1fr)_minmax(0,1fr)]">
        <div className="grid content-start gap-3">
          <div className="grid grid-cols-2 gap-3">
            <Control
              name="Supply"
              hotkey="p"
              on={state.power}
              hold={false}
              press={() => move('power_on')}
              release={() => move('power_off')}
              says={['on', 'off']}
            />
            {byCall ? (
              <Control
                name="Tool calls"
                hotkey="c"
                on={state.calling}
                hold={false}
                press={() => move('call_start')}
                release={() => move('call_stop')}
                says={['calling', 'silent']}
              />
            ) : (
              <Control
                name="BOOT button"
                hotkey="b"
                on={state.strap}
                hold
                press={() => move('strap_low')}
                release={() => move('strap_high')}
                says={['held down', 'free']}
              />
            )}
            <Control
              name="Reset to GND"
              hotkey="r"
              on={state.reset}
              hold
              press={() => move('reset_low')}
              release={() => move('reset_high')}
              says={['held down', 'free']}
            />
            <button
              type="button"
              className={`${buttonClass('main')} min-h-[5.4rem] text-[1.15rem]`}
              disabled={events.length === 0}
              onClick={() => (judged ? again() : void finish())}
            >
              {judged ? 'Once more' : 'That was it: judge'}
              <Key>Enter</Key>
            </button>
          </div>
          <dl
            className="grid grid-cols-[6rem_1fr] gap-x-3 gap-y-1 rounded-[10px] border border-rule p-3"
            aria-live="polite"
          >
            <dt className="text-ink-2">Rail</dt>
            <dd className="flex items-center gap-3">
              <span className="pin w-[3.6rem]">{rail.toFixed(2)} V</span>
              <span className="h-3 flex-1 overflow-hidden rounded-[3px] bg-unpainted" aria-hidden="true">
                <span
                  className={`block h-full ${rail < resetBelowVolts ? 'bg-verdigris' : 'bg-ochre-line'}`}
                  style={{ width: `${(rail / railVolts) * 100}%` }}
                />
              </span>
            </dd>
            <dt className="text-ink-2">The part</dt>
            <dd>
              {!state.power && rail < resetBelowVolts
                ? 'off'
                : !started
                  ? 'not started'
                  : started.mode === 'download'
                    ? 'dark and silent: it waits in its loader'
                    : 'its light blinks: it runs its firmware'}
            </dd>
          </dl>
        </div>
        <div className="grid content-start gap-2">
          {(prompts || !unlocked) && goal === 'download' && (
            <ol className="grid gap-1.5">
              {steps.map((s, i) => (
                <li key={s.id} className="grid grid-cols-[1.6rem_1fr]">
                  <span className="pin text-ink-3">{i + 1}</span>
                  <span>{s.say}</span>
                </li>
              ))}
            </ol>
          )}
          {goal === 'app' && <p>Let BOOT go, switch the supply off until the rail is low, and on again.</p>}
          {!unlocked && (
            <p className="text-ink-2">
              {unlockRuns} runs of {unlockScore} or more in a row let you hide the prompts.
            </p>
          )}
        </div>
      </div>
      {judged && (
        <section aria-label="Judgement" aria-live="polite" className="grid gap-2">
          <p className="flex flex-wrap items-center gap-3 text-[1.25rem]">
            <span className="font-title text-[2.2rem] font-bold">{judged.result.score}</span>
            <Tag severity={judged.result.end === goal ? 'ok' : 'error'}>
              {judged.result.end === 'download'
                ? 'in download mode'
                : judged.result.end === 'app'
                  ? 'runs its firmware'
                  : 'never started'}
            </Tag>
            {judged.result.mistakes.length === 0 && judged.result.end === goal && (
              <span>Clean: hold it like that.</span>
            )}
          </p>
          <HandTimeline events={events} rehearsal={judged.result} endMs={judged.endMs} />
          <ul className="grid gap-1">
            {judged.result.mistakes.map((m) => (
              <li key={m} className="flex gap-2.5">
                <Tag severity="watch" />
                {mistakeSays[m]}
              </li>
            ))}
          </ul>
          {kept && <p className="text-oxide">{kept}</p>}
        </section>
      )}
    </div>
  )
}
