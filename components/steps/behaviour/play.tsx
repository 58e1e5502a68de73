import type { Entry } from '@fresh-coat/core/behaviour/run'
import { useEffect, useRef, useState } from 'react'

/** The inputs played by hand, in their real time: pressed as long as the button here is held. */

const mostMs = 5 * 60_000
const tail = 10_000

export function Play({
  inputs,
  done,
}: {
  inputs: readonly string[]
  done: (timeline: Entry[], until: number) => void
}) {
  const [began, setBegan] = useState<number | null>(null)
  const [held, setHeld] = useState<ReadonlySet<string>>(new Set())
  const [shown, setShown] = useState(0)
  const played = useRef<Entry[]>([])
  const since = () => Math.min(mostMs, Math.round(performance.now() - (began ?? 0)))
  const finish = () => {
    const until = since()
    // What is still held is let go at the end.
    const open: Entry[] = [...held].map((input) => ({ t: until, input, level: 0 }))
    setBegan(null)
    setHeld(new Set())
    done([...played.current, ...open], until + tail)
  }
  const over = useRef(finish)
  over.current = finish
  useEffect(() => {
    if (began === null) return
    const timer = setInterval(() => {
      const now = performance.now() - began
      setShown(now)
      if (now < mostMs) return
      clearInterval(timer)
      over.current()
    }, 100)
    return () => clearInterval(timer)
  }, [began])
  const set = (input: string, level: 0 | 1) => {
    if (began === null || held.has(input) === (level === 1)) return
    played.current.push({ t: since(), input, level })
    const next = new Set(held)
    if (level === 1) next.add(input)
    else next.delete(input)
    setHeld(next)
  }
  if (began === null)
    return (
      <button
        type="button"
        data-key="i"
        className="min-h-[1.9rem] rounded-[8px] border border-ink bg-sheet px-2 font-semibold"
        onClick={() => {
          played.current = []
          setShown(0)
          setBegan(performance.now())
        }}
      >
        Play the inputs yourself
      </button>
    )
  return (
    <>
      {inputs.map((input) => (
        <button
          key={input}
          type="button"
          aria-pressed={held.has(input)}
          className={`min-h-[2.4rem] touch-none rounded-[8px] border border-ink px-3 font-semibold select-none ${held.has(input) ? 'bg-ink text-sheet' : 'bg-sheet'}`}
          onPointerDown={() => set(input, 1)}
          onPointerUp={() => set(input, 0)}
          onPointerLeave={() => set(input, 0)}
          onKeyDown={(e) => {
            if (e.key !== ' ' && e.key !== 'Enter') return
            e.preventDefault()
            e.stopPropagation()
            set(input, 1)
          }}
          onKeyUp={(e) => (e.key === ' ' || e.key === 'Enter') && set(input, 0)}
        >
          {input}
        </button>
      ))}
      <button
        type="button"
        data-key="i"
        className="min-h-[2.4rem] rounded-[8px] border border-oxide px-3 font-semibold"
        onClick={finish}
      >
        Stop at {(shown / 1000).toFixed(1)} s
      </button>
    </>
  )
}
