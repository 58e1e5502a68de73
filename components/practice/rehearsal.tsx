'use client'
import { entrySteps } from '@fresh-coat/core/boot/entry'
import { mistakeSays, unlockRuns, unlockScore } from '@fresh-coat/core/boot/rehearse'
import { factsOf, type KnownFamily, knownFamilies, straplessEntry } from '@fresh-coat/core/families/families'
import { useState } from 'react'
import { HandTimeline } from '@/components/drawings/hand-timeline'
import { VirtualBench } from '@/components/drawings/virtual-bench'
import { Choice, SelectField } from '@/components/forms/fields'
import { buttonClass, Key, Tag } from '@/components/paint/paint'
import { NotKept } from './keep-score'
import { type Goal, type Run, useRehearsal } from './use-rehearsal'

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

/** The hands of the virtual bench: supply, strap or call, reset, and the end of the run. */
function Controls({ run, byCall }: { run: Run; byCall: boolean }) {
  const { state, move, judged, enter, events } = run
  return (
    <div className="grid grid-cols-2 gap-3 lg:grid-cols-4">
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
        onClick={enter}
      >
        {judged ? 'Once more' : 'Judge it'}
        <Key>Enter</Key>
      </button>
    </div>
  )
}

/** What to do, step by step, until a few clean runs let it be hidden. */
function Prompts({
  family,
  goal,
  shown,
  unlocked,
}: {
  family: KnownFamily
  goal: Goal
  shown: boolean
  unlocked: boolean
}) {
  const call = straplessEntry(family)
  const steps = entrySteps({
    facts: factsOf(family),
    method: call ?? 'button',
    bootBy: call ? 'none' : 'button',
    hasReset: true,
    power: 'bench',
    mains: false,
    purpose: 'write',
  })
  return (
    <div className="grid content-start gap-2">
      {shown && goal === 'download' && (
        <ol className="grid gap-1.5">
          {steps.map((s, i) => (
            <li key={s.id} className="grid grid-cols-[1.6rem_1fr]">
              <span className="font-title font-bold">{i + 1}</span>
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
  )
}

/** How it went, on its timeline, with every mistake in words. */
function Judgement({ run, goal }: { run: Run; goal: Goal }) {
  const { judged, events, keeping } = run
  if (!judged) return null
  const { result, endMs } = judged
  const ended = { download: 'in download mode', app: 'runs its firmware', none: 'never started' }
  return (
    <section aria-label="Judgement" aria-live="polite" className="grid gap-2">
      <p className="flex flex-wrap items-center gap-3 text-[1.25rem]">
        <span className="font-title text-[2.2rem] font-bold">{result.score}</span>
        <Tag severity={result.end === goal ? 'ok' : 'error'}>
          {ended[result.end as keyof typeof ended] ?? ended.none}
        </Tag>
        {result.mistakes.length === 0 && result.end === goal && <span>Clean: hold it like that.</span>}
      </p>
      <HandTimeline events={events} rehearsal={result} endMs={endMs} />
      <ul className="grid gap-1">
        {result.mistakes.map((m) => (
          <li key={m} className="flex gap-2.5">
            <Tag severity="watch" />
            {mistakeSays[m]}
          </li>
        ))}
      </ul>
      <NotKept {...keeping} />
    </section>
  )
}

/** The hand sequence on a virtual board: the bench drawn, the hands below it, and the judgement. */
export function Rehearsal({ best }: { best: number[] }) {
  const [family, setFamily] = useState<KnownFamily>('LX106')
  const [goal, setGoal] = useState<Goal>('download')
  const [prompts, setPrompts] = useState(true)
  const run = useRehearsal(family, goal)
  const unlocked = best.length >= unlockRuns && best.slice(0, unlockRuns).every((s) => s >= unlockScore)
  const byCall = straplessEntry(family) !== null
  return (
    <div className="grid gap-3">
      <div className="grid items-center gap-4 lg:grid-cols-[minmax(0,1.5fr)_minmax(0,1fr)]">
        <VirtualBench state={run.state} family={family} byCall={byCall} />
        <Prompts family={family} goal={goal} shown={prompts || !unlocked} unlocked={unlocked} />
      </div>
      <Controls run={run} byCall={byCall} />
      <Judgement run={run} goal={goal} />
      <div className="flex flex-wrap items-end gap-4">
        <SelectField
          label="Virtual board of family"
          value={family}
          options={knownFamilies.map((f) => ({ value: f, label: f }))}
          onChange={(f) => {
            if (f) setFamily(f)
            run.again()
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
            run.again()
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
    </div>
  )
}
