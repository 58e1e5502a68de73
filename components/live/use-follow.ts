import { useCallback, useEffect, useRef } from 'react'

/**
 * Asks for a page anew when it is told that something changed: at once, or as soon as it was last asked for long enough ago. What comes
 * meanwhile is never forgotten: it is asked for once more at the end.
 */
export function useFollow(refresh: () => void, everyMs: number): () => void {
  const asked = useRef(Number.NEGATIVE_INFINITY)
  const waiting = useRef<ReturnType<typeof setTimeout> | null>(null)
  const latest = useRef(refresh)
  latest.current = refresh
  useEffect(() => {
    // The page itself is as fresh as can be when it comes.
    asked.current = Date.now()
    return () => {
      if (waiting.current) clearTimeout(waiting.current)
      waiting.current = null
    }
  }, [])
  return useCallback(() => {
    if (waiting.current) return
    waiting.current = setTimeout(
      () => {
        waiting.current = null
        asked.current = Date.now()
        latest.current()
      },
      Math.max(0, asked.current + everyMs - Date.now()),
    )
  }, [everyMs])
}

const longestTimer = 2 ** 31 - 1

/** Asks for a page anew when the clock alone makes something else of it. @param until ms; null: it never does */
export function useUntil(refresh: () => void, until: number | null): void {
  const latest = useRef(refresh)
  latest.current = refresh
  useEffect(() => {
    if (until === null) return
    const timer = setTimeout(() => latest.current(), Math.min(longestTimer, Math.max(0, until - Date.now()) + 500))
    return () => clearTimeout(timer)
  }, [until])
}
