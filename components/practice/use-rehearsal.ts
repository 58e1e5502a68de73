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
import { useCallback, useEffect, useRef, useState } from 'react'
import type { BenchState } from '@/components/drawings/virtual-bench'
import { useKeepScore } from './keep-score'

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
  /** Keys with a finger on them. */
  const fingers = useRef(new Set<string>())
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
      if (pair && !e.repeat) {
        fingers.current.add(key)
        move(pair[0])
      } else if (key === 'p' && !e.repeat) move(power ? 'power_off' : 'power_on')
      else if (key === 'c' && !e.repeat) move(calling ? 'call_stop' : 'call_start')
      else if (key === 'enter' && !['BUTTON', 'A', 'SUMMARY'].includes((e.target as HTMLElement).tagName)) enter()
      else if (!pair) return
      e.preventDefault()
    }
    // A finger that comes off the key lets go, whatever else is pressed by then; so does one whose page is left.
    const letGo = (key: string) => {
      const pair = held[key]
      if (pair && fingers.current.delete(key)) move(pair[1])
    }
    const up = (e: KeyboardEvent) => letGo(e.key.toLowerCase())
    const away = () => {
      for (const key of [...fingers.current]) letGo(key)
    }
    window.addEventListener('keydown', down)
    window.addEventListener('keyup', up)
    window.addEventListener('blur', away)
    return () => {
      window.removeEventListener('keydown', down)
      window.removeEventListener('keyup', up)
      window.removeEventListener('blur', away)
    }
  }, [move, enter, power, calling])
}

/** A run of the hand sequence: its moves as they come, the board they make, and the judgement at the end. */
export function useRehearsal(family: KnownFamily, goal: Goal) {
  const keeping = useKeepScore()
  const { keep, forget } = keeping
  const [events, setEvents] = useState<HandEvent[]>([])
  const [now, setNow] = useState(0)
  const [judged, setJudged] = useState<{ result: Judged; endMs: number } | null>(null)
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
    await keep({ kind: 'rehearsal', family, score, data: { goal, events, mistakes } })
  }, [judged, family, goal, events, keep])
  const again = useCallback(() => {
    began.current = null
    setEvents([])
    setJudged(null)
    setNow(0)
    forget()
  }, [forget])

  // The clock of the virtual board: only while hands are at work.
  useEffect(() => {
    if (events.length === 0 || judged) return
    const timer = setInterval(() => setNow(performance.now() - (began.current ?? performance.now())), tickMs)
    return () => clearInterval(timer)
  }, [events.length, judged])

  const state = benchAt(family, goal, events, now)
  const enter = useCallback(() => void (judged ? again() : finish()), [judged, again, finish])
  useHandKeys(move, enter, state)
  return { events, state, judged, keeping, move, enter, again }
}
export type Run = ReturnType<typeof useRehearsal>
