'use client'
import { readRecord, type StepData } from '@fresh-coat/core/journey/records'
import type { StepId } from '@fresh-coat/core/journey/steps'
import type { StepRecord } from '@fresh-coat/core/journey/view'
import { useRouter } from 'next/navigation'
import { useCallback, useEffect, useRef, useState } from 'react'
import { type Refusal, send } from './send'

export type SaveState = 'saved' | 'typing' | 'away' | 'conflict' | 'refused'

export interface RecordHandle<S extends StepId> {
  data: StepData[S]
  patch: (part: Partial<StepData[S]>) => void
  state: SaveState
  error: Refusal | null
  /** The version that somebody else saved, while both are on screen. */
  other: StepData[S] | null
  keepMine: () => void
  takeOther: () => void
  /** Saves what is typed now; true when the server has it. */
  flush: () => Promise<boolean>
  restored: boolean
  /** What comes from the server next counts, even when it is older: a change was undone. */
  adoptNext: () => void
}

interface Draft {
  version: number
  data: unknown
}

const readDraft = (key: string): Draft | null => {
  try {
    const text = localStorage.getItem(key)
    return text ? (JSON.parse(text) as Draft) : null
  } catch {
    return null
  }
}
const keepDraft = (key: string, draft: Draft) => {
  try {
    localStorage.setItem(key, JSON.stringify(draft))
  } catch {
    // A full or forbidden store only costs the net under a reload; the page itself still holds the text.
  }
}
const dropDraft = (key: string) => {
  try {
    localStorage.removeItem(key)
  } catch {
    // As above.
  }
}

/**
 * The record of a step: saved as it is typed, kept in the browser until the server has it, and never overwritten by
 * another tab without asking.
 */
export function useRecord<S extends StepId>(unitId: string, step: S, stored: StepRecord<S>): RecordHandle<S> {
  const router = useRouter()
  const key = `fresh-coat:${unitId}:${step}`
  const [data, setData] = useState(stored.data)
  const [state, setState] = useState<SaveState>('saved')
  const [error, setError] = useState<Refusal | null>(null)
  const [other, setOther] = useState<{ data: StepData[S]; version: number } | null>(null)
  const [restored, setRestored] = useState(false)
  const live = useRef({
    data: stored.data,
    version: stored.version,
    dirty: false,
    saving: null as Promise<boolean> | null,
    timer: 0,
    wait: 1000,
    blocked: false,
    force: false,
  })

  const save = useCallback(async (): Promise<boolean> => {
    const l = live.current
    clearTimeout(l.timer)
    if (l.saving) await l.saving
    if (!l.dirty) return !l.blocked
    if (l.blocked) return false
    const sent = l.data
    const attempt = (async () => {
      const result = await send('save-step', { unitId, step, version: l.version, data: sent })
      if (result.state === 'ok') {
        l.version = result.value.version as number
        l.wait = 1000
        l.dirty = l.data !== sent
        setError(null)
        if (l.dirty) keepDraft(key, { version: l.version, data: l.data })
        else {
          dropDraft(key)
          setState('saved')
          router.refresh()
        }
        return true
      }
      if (result.state === 'away') {
        setState('away')
        l.timer = window.setTimeout(() => void save(), l.wait)
        l.wait = Math.min(15_000, l.wait * 2)
        return false
      }
      if (result.error.code === 'stale' && result.error.current) {
        const row = result.error.current as { data: unknown; version: number }
        l.blocked = true
        setOther({ data: readRecord(step, row.data), version: row.version })
        setState('conflict')
        return false
      }
      setError(result.error)
      setState('refused')
      return false
    })()
    l.saving = attempt
    const ok = await attempt
    l.saving = null
    if (ok && l.dirty) return save()
    return ok
  }, [key, router, step, unitId])

  const put = useCallback(
    (next: StepData[S]) => {
      const l = live.current
      l.data = next
      l.dirty = true
      setData(next)
      keepDraft(key, { version: l.version, data: next })
      if (l.blocked) return
      setState((s) => (s === 'away' ? s : 'typing'))
      clearTimeout(l.timer)
      l.timer = window.setTimeout(() => void save(), 500)
    },
    [key, save],
  )

  // What was typed before a reload comes back; if the server has a newer version by now, both are shown.
  // biome-ignore lint/correctness/useExhaustiveDependencies: once per record, when the page opens
  useEffect(() => {
    const draft = readDraft(key)
    if (!draft) return
    const l = live.current
    const mine = readRecord(step, draft.data)
    if (JSON.stringify(mine) === JSON.stringify(l.data)) return dropDraft(key)
    setRestored(true)
    if (draft.version === l.version) return put(mine)
    l.data = mine
    l.dirty = true
    l.blocked = true
    setData(mine)
    setOther({ data: stored.data, version: stored.version })
    setState('conflict')
  }, [key])

  // A newer version from the server is taken over when nothing is being typed here.
  useEffect(() => {
    const l = live.current
    if (l.dirty || l.saving || (stored.version < l.version && !l.force)) return
    l.force = false
    l.version = stored.version
    l.data = stored.data
    setData(stored.data)
  }, [stored])

  useEffect(() => () => clearTimeout(live.current.timer), [])

  return {
    data,
    patch: (part) => put({ ...live.current.data, ...part }),
    state,
    error,
    other: other?.data ?? null,
    keepMine: () => {
      if (!other) return
      live.current.version = other.version
      live.current.blocked = false
      setOther(null)
      put({ ...live.current.data })
    },
    takeOther: () => {
      if (!other) return
      Object.assign(live.current, { version: other.version, data: other.data, dirty: false, blocked: false })
      dropDraft(key)
      setData(other.data)
      setOther(null)
      setState('saved')
      router.refresh()
    },
    flush: save,
    restored,
    adoptNext: () => {
      live.current.force = true
    },
  }
}
