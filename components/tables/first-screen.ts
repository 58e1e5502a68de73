import { useSyncExternalStore } from 'react'

const never = () => () => {}

/**
 * How many rows of a list are drawn: those of the first screen while the server draws it, all of them once the page has come to life. Who
 * waits for the page waits for what is seen, and nobody scrolls before its scripts are there. Where one comes without loading a page all
 * of them stand at once, so that the way back leads to the row one came from.
 */
export const useFirstScreen = (rows: number, first: number): number =>
  useSyncExternalStore(
    never,
    () => rows,
    () => Math.min(rows, first),
  )
