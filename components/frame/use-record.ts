'use client'
import type { StepData } from '@fresh-coat/core/unit/records'
import type { StepRecord } from '@fresh-coat/core/unit/view'
import type { StepId } from '@fresh-coat/core/unit/way'
import { useMutation } from '@tanstack/react-query'
import { useCallback, useEffect, useMemo, useRef, useState, useSyncExternalStore } from 'react'
import { type Refusal, send } from '@/components/send'
import { Draft, type SaveState, type Version } from './draft'
import { dropDraft, keepDraft, takeDrafts } from './draft-store'

export interface RecordHandle<S extends StepId> {
  data: StepData[S]
  patch: (part: Partial<StepData[S]>) => void
  state: SaveState
  error: Refusal | null
  /** The version that somebody else saved, while both are on screen, and the fields that differ. */
  other: { data: StepData[S]; fields: string[] } | null
  keepMine: () => void
  takeOther: () => void
  /** Version of the record that is on screen, 0 before the first save. */
  version: () => number
  /** Saves what is typed now; true when the server has it. */
  flush: () => Promise<boolean>
  /** What was typed before a reload came back. */
  restored: boolean
  /** What the server answered counts, even when it is older: a change was undone. */
  adopt: (record: StepRecord<S>) => void
}

class Away extends Error {}

const pauseMs = 400
const retryMs = (failures: number) => Math.min(15_000, 1000 * 2 ** failures)
/** Browsers take no more along from a page that is being left. */
const mostKeepalive = 60_000

/** Tells when a record was saved, so that the other steps on this page know it too. */
export type OnSaved<S extends StepId> = (record: Pick<StepRecord<S>, 'data' | 'version'>) => void

/**
 * The record of a step: saved as it is typed, one save after the other, kept in the browser until the server has it, and
 * never written over another's version without asking.
 */
export function useRecord<S extends StepId>(
  unitId: string,
  step: S,
  stored: StepRecord<S>,
  onSaved: OnSaved<S>,
): RecordHandle<S> {
  const key = `${unitId}:${step}`
  const saved = useRef(onSaved)
  saved.current = onSaved
  const [draft] = useState(
    () =>
      new Draft<StepData[S] & object>(stored as Version<StepData[S] & object>, (data, version, keepalive) =>
        send('save-step', { unitId, step, version, data }, { keepalive }),
      ),
  )
  const now = useSyncExternalStore(
    draft.subscribe,
    () => draft.snapshot,
    () => draft.snapshot,
  )
  const [restored, setRestored] = useState(false)
  const timer = useRef(0)

  const sendNow = useCallback(async () => {
    const whole = await draft.save()
    if (whole) {
      await dropDraft(key)
      saved.current({ data: draft.snapshot.base.data, version: draft.snapshot.base.version })
    }
    return whole
  }, [draft, key])

  // One queue per record: a save that begins while another runs waits for it, also across pages of one visit.
  const { mutateAsync } = useMutation({
    scope: { id: key },
    networkMode: 'always',
    mutationFn: async () => {
      const whole = await sendNow()
      if (draft.snapshot.state === 'away') throw new Away('the server does not answer')
      return whole
    },
    retry: (_, cause) => cause instanceof Away,
    retryDelay: retryMs,
  })

  const save = useCallback(() => mutateAsync().catch(() => false), [mutateAsync])
  const later = useCallback(() => {
    clearTimeout(timer.current)
    timer.current = window.setTimeout(() => void save(), pauseMs)
  }, [save])

  const keep = useCallback(() => {
    const { base, mine } = draft.snapshot
    void keepDraft(key, { base: base.data, mine, version: base.version })
  }, [draft, key])

  const patch = useCallback(
    (part: Partial<StepData[S]>) => {
      draft.type(part as Partial<StepData[S] & object>)
      keep()
      if (draft.snapshot.state !== 'conflict') later()
    },
    [draft, keep, later],
  )

  // What was typed before a reload comes back, once per record.
  useEffect(() => {
    let here = true
    void takeDrafts(key).then((drafts) => {
      if (!here) return
      const found = drafts.filter((d) => draft.restore(d as { base: StepData[S] & object; mine: StepData[S] & object }))
      // What was typed while the browser's database opened is no draft of before: it stays.
      if (found.length === 0) return draft.isDirty ? undefined : void dropDraft(key)
      setRestored(true)
      keep()
      if (draft.snapshot.state !== 'conflict') later()
    })
    return () => {
      here = false
    }
  }, [draft, key, keep, later])

  // A newer version from the server is taken over, under what is being typed here.
  useEffect(() => draft.offer(stored as Version<StepData[S] & object>), [draft, stored])

  // Leaving: what is typed goes along with the page; what is too large for that stays in the browser and comes back.
  useEffect(() => {
    const leave = () => {
      if (draft.isDirty && JSON.stringify(draft.unsaved).length < mostKeepalive) void draft.save(true)
    }
    window.addEventListener('pagehide', leave)
    return () => {
      window.removeEventListener('pagehide', leave)
      clearTimeout(timer.current)
      if (draft.isDirty && draft.snapshot.state !== 'conflict') void save()
    }
  }, [draft, save])

  return useMemo(
    () => ({
      data: now.mine as StepData[S],
      patch,
      state: now.state,
      error: now.error,
      other: now.other && { data: now.other.data as StepData[S], fields: now.other.fields },
      keepMine: () => {
        draft.keepMine()
        later()
      },
      takeOther: () => {
        draft.takeOther()
        void dropDraft(key)
      },
      version: () => draft.snapshot.base.version,
      flush: async () => {
        clearTimeout(timer.current)
        if (!draft.isDirty) return draft.snapshot.state !== 'conflict'
        // Whoever waits for this is told at once that the server is away; the queue goes on trying.
        const whole = await sendNow()
        if (draft.snapshot.state === 'away') void save()
        return whole
      },
      restored,
      adopt: (record) => {
        draft.offer(record as Version<StepData[S] & object>, true)
        if (draft.isDirty) later()
        else void dropDraft(key)
      },
    }),
    [now, patch, draft, later, key, save, sendNow, restored],
  )
}
