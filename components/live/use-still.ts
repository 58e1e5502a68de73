import { useEffect, useRef, useState } from 'react'

const restsMs = 2500

/**
 * A list that lives holds still under a hand: what one is about to press does not move away, nor another thing under the press.
 * A hand that has rested for a while, or has pressed, lets the news in.
 * @returns what is shown, and what the list's element hears
 */
export function useStill<T>(now: T) {
  const [held, setHeld] = useState<{ value: T } | null>(null)
  const latest = useRef(now)
  latest.current = now
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined)
  const free = () => {
    clearTimeout(timer.current)
    setHeld(null)
  }
  const touch = () => {
    setHeld((before) => before ?? { value: latest.current })
    clearTimeout(timer.current)
    timer.current = setTimeout(() => setHeld(null), restsMs)
  }
  useEffect(() => () => clearTimeout(timer.current), [])
  return {
    shown: held ? held.value : now,
    hold: { onPointerEnter: touch, onPointerMove: touch, onPointerDown: touch, onPointerLeave: free, onClick: free },
  }
}
