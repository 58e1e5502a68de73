import { readBootLog } from '@fresh-coat/core/boot/boot-log'
import type { Question } from '@fresh-coat/core/link/questions'
import { useState } from 'react'
import { desk } from '@/components/link/desk'
import { deskStore, isBusy } from '@/components/link/desk-store'
import { askPort } from '@/components/link/open-port'
import { useDesk } from '@/components/link/use-desk'
import { useUnable } from '@/components/link/use-unable'
import { buttonClass, Key } from '@/components/paint/paint'
import type { SurfaceProps } from '@/components/steps/context'

type Props = Pick<SurfaceProps<'pins'>, 'view' | 'choices' | 'record'>

/** Trial pins switched over the console of the firmware, instead of by hand in its settings. What is heard and seen stays the person's. */

const listenSeconds = 4 * 3600
const numberOf = (pin: string): number => Number(pin.replace(/^\D+/, ''))

export type Driven = 'done' | 'restarted' | 'no-answer'
export interface Prober {
  /** The line is open and its firmware has words for it. */
  ready: boolean
  drive: (on: readonly string[], before: readonly string[]) => Promise<Driven>
}

/** On the bench only: serial and mains are never together. */
export function useProber({ view, choices, record }: Props): Prober {
  const state = useDesk(deskStore)
  const words = choices.profiles.find((p) => p.name === view.records.check.data.firmware)?.console ?? null
  const wordsFor = (what: Question['what']) => words?.questions.find((q) => q.what === what) ?? null
  const [high, low] = [wordsFor('drive'), wordsFor('rest')]
  const mine = state.unitId === view.id && state.what === 'listen' && state.phase === 'listening'
  const ready = mine && high !== null && low !== null && record.data.power !== 'mains'
  const drive = async (on: readonly string[], before: readonly string[]): Promise<Driven> => {
    const from = deskStore.now().text.length
    const changes = [
      ...before.filter((p) => !on.includes(p)).map((p) => [p, low] as const),
      ...on.filter((p) => !before.includes(p)).map((p) => [p, high] as const),
    ]
    for (const [pin, question] of changes) {
      if (!question || !words) return 'no-answer'
      const answer = await desk
        .ask({ question, vars: { n: numberOf(pin) }, ends: words.ends, release: null })
        .catch(() => null)
      const boot = readBootLog({ text: deskStore.now().text.slice(from) })
      if (boot.ok && boot.value.boots > 0) return 'restarted'
      if (!answer?.answer) return 'no-answer'
    }
    return 'done'
  }
  return { ready, drive }
}

/** The button of a trial. */
export function DriveOverLine({
  prober,
  on,
  before,
  restarted,
}: {
  prober: Prober
  on: readonly string[]
  before: readonly string[]
  restarted: () => void
}) {
  const [state, setState] = useState<'idle' | 'busy' | Driven>('idle')
  if (!prober.ready) return null
  const press = async () => {
    setState('busy')
    const driven = await prober.drive(on, before)
    setState(driven)
    if (driven === 'restarted') restarted()
  }
  return (
    <div className="grid gap-1.5">
      <button
        type="button"
        data-key="d"
        className={`${buttonClass('main')} justify-self-start`}
        disabled={state === 'busy'}
        onClick={() => void press()}
      >
        {on.length === 0 ? 'Switch all off over the line' : 'Switch them over the line'}
        <Key>d</Key>
      </button>
      <p role="status" className="text-[0.93rem] text-ink-2">
        {state === 'busy' && 'It is told…'}
        {state === 'done' && 'It says that it did. Look and listen.'}
        {state === 'no-answer' && 'No answer came to it: switch them by hand.'}
        {state === 'restarted' && 'It restarted by itself: that is noted.'}
      </p>
    </div>
  )
}

/** Opens the line for it, and closes it. */
export function LineForTrials({ view, choices, record }: Props) {
  const state = useDesk(deskStore)
  const mine = state.unitId === view.id && state.what === 'listen' && isBusy(state)
  const unable = useUnable(view, state, mine)
  const { firmware } = view.records.check.data
  const words = choices.profiles.find((p) => p.name === firmware)?.console ?? null
  const able = (['drive', 'rest'] as const).every((what) => words?.questions.some((q) => q.what === what))
  if (record.data.power === 'mains')
    return <p>On the mains no wire hangs on the unit: switch the pins over its own page.</p>
  if (!words || !able)
    return (
      <p>{firmware || 'Its firmware'} has no words for driving and releasing a pin: they are kept under Firmware.</p>
    )
  if (mine)
    return (
      <div className="grid gap-2">
        <p>The line is open. Each trial has a button for it.</p>
        <button type="button" className={`${buttonClass()} justify-self-start`} onClick={() => desk.stop()}>
          Close the line
        </button>
      </div>
    )
  if (unable) return <p className="text-ink-2">{unable}</p>
  const open = async () => {
    const port = await askPort()
    if (!port) return
    await desk.listen({
      unitId: view.id,
      open: port,
      byLines: false,
      rates: [{ rate: words.rate, seconds: listenSeconds }],
      heard: () => {},
    })
    desk.clear()
  }
  return (
    <div className="grid gap-2">
      <p>
        Over the console of {firmware} the pins are switched from here: two hands stay free. GND, TX and RX only; a
        supply of its own feeds it.
      </p>
      <button type="button" className={`${buttonClass('main')} justify-self-start`} onClick={() => void open()}>
        Open the line
      </button>
    </div>
  )
}
