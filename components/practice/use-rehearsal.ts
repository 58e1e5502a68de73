import {
  type HandEvent,
  type HandMove,
  type Rehearsal as Judged,
  railVolts,
  rehearse,
  resetBelowVolts,
  usualRailTauMs,
} from '@fresh-coat/core/boot/rehearse'
import type { KnownFamily } from '@fresh-coat/core/families/families'
import { useRouter } from 'next/navigation'
import { useCallback, useEffect, useRef, useState } from 'react'
import type { BenchState } from '@/components/drawings/virtual-bench'
import { send } from '@/components/send'

const tickMs = 60
/** The last state is looked at a moment longer. */
const afterMs = 300

/** What stands switched on or held, by the last move of each pair. */
function standingOf(events: readonly HandEvent[]) {
  const last = (on: HandMove, off: HandMove) => events.filter((e) => e.do === on || e.do === off).at(-1)?.do === on
  return {
    power: last('power_on', 'power_off'),
    strap: last('strap_low', 'strap_high'),
    reset: last('reset_low', 'reset_high'),
    calling: last('call_start', 'call_stop'),
  }
}

/** The virtual board at a moment: its rail falls after the supply goes, and the part does what the moves so far made of it. */
function benchAt(family: KnownFamily, goal: Goal, events: readonly HandEvent[], now: number): BenchState {
  const standing = standingOf(events)
  const off = events.filter((e) => e.do === 'power_off').at(-1)
  const fallen = off ? railVolts * Math.exp(-Math.max(0, now - off.t) / usualRailTauMs) : 0
  const rail = standing.power ? railVolts : fallen
  const live = rehearse({ family, goal, events })
  const started = live.ok ? live.value.boots.filter((b) => b.t <= now).at(-1) : undefined
  const part =
    !standing.power && rail < resetBelowVolts
      ? 'off'
      : !started
        ? 'not started'
        : started.mode === 'download'
          ? 'loader'
          : 'runs'
  return { ...standing, rail, part }
}

export type Goal = 'download' | 'app'

/** Hands on keys: held keys hold, as fingers do; a repeat of the keyboard is not a second press. */
function useHandKeys(
  move: (what: HandMove) => void,
  enter: () => void,
  { power, calling }: Pick<BenchState, 'power' | 'calling'>,
): void {
  useEffect(() => {
    const held: { [key: string]: [HandMove, HandMove] } = {
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
      else if (key === 'p' && !e.repeat) move(power ? 'power_off' : 'power_on')
      else if (key === 'c' && !e.repeat) move(calling ? 'call_stop' : 'call_start')
      else if (key === 'enter' && !['BUTTON', 'A', 'SUMMARY'].includes((e.target as HTMLElement).tagName)) enter()
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
  }, [move, enter, power, calling])
}

/** A run of the hand sequence: its moves as they come, the board they make, and the judgement at the end. */
export function useRehearsal(family: KnownFamily, goal: Goal) {
  const router = useRouter()
  const [events, setEvents] = useState<HandEvent[]>([])
  const [now, setNow] = useState(0)
  const [judged, setJudged] = useState<{ result: Judged; endMs: number } | null>(null)
  const [kept, setKept] = useState('')
  const began = useRef<number | null>(null)

  const move = useCallback(
    (what: HandMove) => {
      if (judged) return
      const at = performance.now()
      began.current ??= at
      const t = Math.round(at - began.current)
      setEvents((list) => [...list, { t, do: what }])
    },
    [judged],
  )
  const finish = useCallback(async () => {
    if (judged || began.current === null) return
    const endMs = Math.round(performance.now() - began.current) + afterMs
    const outcome = rehearse({ family, goal, events })
    if (!outcome.ok) return
    setJudged({ result: outcome.value, endMs })
    const { score, mistakes } = outcome.value
    const sent = await send('keep-practice', { kind: 'rehearsal', family, score, data: { goal, events, mistakes } })
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
    const timer = setInterval(() => setNow(performance.now() - (began.current ?? performance.now())), tickMs)
    return () => clearInterval(timer)
  }, [events.length, judged])

  const state = benchAt(family, goal, events, now)
  const enter = useCallback(() => void (judged ? again() : finish()), [judged, again, finish])
  useHandKeys(move, enter, state)
  return { events, state, judged, kept, move, enter, again }
}
export type Run = ReturnType<typeof useRehearsal>
