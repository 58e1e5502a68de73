'use client'
import { createContext, type ReactNode, useCallback, useContext, useRef, useState } from 'react'

/** What the frame of a unit puts around and in place of what a step shows. */
export interface Frame {
  /** Gates that were confirmed, as one quiet line; null when there is none. */
  gateLine: ReactNode
  /** The gate to answer now: it takes the place of the card. */
  gateCard: ReactNode
  /** Saving, refusals, how the step stands; above the title. */
  notices: ReactNode
  /** What stands in drawers while they are closed, by name. */
  kept: Map<string, unknown>
}

export const FrameContext = createContext<Frame>({
  gateLine: null,
  gateCard: null,
  notices: null,
  kept: new Map(),
})
export const useFrame = (): Frame => useContext(FrameContext)

/** The drawers' contents of one visit to a step. */
export const useKeptMap = (): Map<string, unknown> => useRef(new Map<string, unknown>()).current

/** State of something that can be closed and opened again: what was typed in it is still there then. */
export function useKept<T>(name: string, first: T): [T, (next: T) => void] {
  const { kept } = useFrame()
  const [value, setValue] = useState<T>(() => (kept.has(name) ? (kept.get(name) as T) : first))
  const set = useCallback(
    (next: T) => {
      kept.set(name, next)
      setValue(next)
    },
    [kept, name],
  )
  return [value, set]
}

/**
 * The text in which something of the record is typed. What was typed stands while it says what is recorded, or cannot be read;
 * what the record got from elsewhere since (an undo, another field, another tab) takes its place.
 */
export function useTypedText<T>(
  name: string,
  recorded: T,
  { write, read }: { write: (value: T) => string; read: (text: string) => T | null },
): [string, (next: string) => void] {
  const written = write(recorded)
  const [typed, setTyped] = useKept(name, written)
  const said = read(typed)
  return [said === null || write(said) === written ? typed : written, setTyped]
}
