import { useEffect, useState } from 'react'

/**
 * How many rows of a list are drawn: those of the first screen while the server draws it, all of them once the page has come to life. Who
 * waits for the page waits for what is seen, and nobody scrolls before its scripts are there.
 */
export function useFirstScreen(rows: number, first: number): number {
  const [alive, setAlive] = useState(false)
  useEffect(() => setAlive(true), [])
  return alive ? rows : Math.min(rows, first)
}
