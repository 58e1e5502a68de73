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

type Data<S extends StepId> = StepData[S] & object
const versioned = <S extends StepId>(record: StepRecord<S>) => record as Version<Data<S>>

/** The ways of a draft to the server: now, soon, or in its turn. */
interface Saving {
  /** Once, whatever else is on its way; true when the server has all of it. */
  sendNow: () => Promise<boolean>
  /** In its turn, and again while the server does not answer. */
  save: () => Promise<boolean>
  /** When typing pauses. */
  later: () => void
  notLater: () => void
  /** In the browser, until the server has it. */
  keep: () => void
}

function useSaving<S extends StepId>(draft: Draft<Data<S>>, key: string, onSaved: OnSaved<S>): Saving {
  const saved = useRef(onSaved)
  saved.current = onSaved
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
  const notLater = useCallback(() => clearTimeout(timer.current), [])
  const later = useCallback(() => {
    notLater()
    timer.current = window.setTimeout(() => void save(), pauseMs)
  }, [save, notLater])
  const keep = useCallback(() => {
    const { base, mine } = draft.snapshot
    void keepDraft(key, { base: base.data, mine, version: base.version })
  }, [draft, key])
  return useMemo(() => ({ sendNow, save, later, notLater, keep }), [sendNow, save, later, notLater, keep])
}

/** What was typed before a reload comes back, once per record; true when there was something. */
function useRestored<S extends StepId>(draft: Draft<Data<S>>, key: string, { keep, later }: Saving): boolean {
  const [restored, setRestored] = useState(false)
  useEffect(() => {
    let here = true
    void takeDrafts(key).then((drafts) => {
      if (!here) return
      const found = drafts.filter((d) => draft.restore(d as { base: Data<S>; mine: Data<S> }))
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
  return restored
}

/** Leaving: what is typed goes along with the page; what is too large for that stays in the browser and comes back. */
function useLeaving<S extends StepId>(draft: Draft<Data<S>>, { save, notLater }: Saving): void {
  useEffect(() => {
    const leave = () => {
      if (draft.isDirty && JSON.stringify(draft.unsaved).length < mostKeepalive) void draft.save(true)
    }
    window.addEventListener('pagehide', leave)
    return () => {
      window.removeEventListener('pagehide', leave)
      notLater()
      if (draft.isDirty && draft.snapshot.state !== 'conflict') void save()
    }
  }, [draft, save, notLater])
}

/** What may be done with a draft; the same as long as its ways are. */
function useDoing<S extends StepId>(draft: Draft<Data<S>>, key: string, saving: Saving) {
  return useMemo(() => {
    const { sendNow, save, later, notLater, keep } = saving
    return {
      patch: (part: Partial<StepData[S]>) => {
        draft.type(part as Partial<Data<S>>)
        keep()
        if (draft.snapshot.state !== 'conflict') later()
      },
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
        notLater()
        if (!draft.isDirty) return draft.snapshot.state !== 'conflict'
        // Whoever waits for this is told at once that the server is away; the queue goes on trying.
        const whole = await sendNow()
        if (draft.snapshot.state === 'away') void save()
        return whole
      },
      adopt: (record: StepRecord<S>) => {
        draft.offer(versioned(record), true)
        if (draft.isDirty) later()
        else void dropDraft(key)
      },
    }
  }, [draft, key, saving])
}

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
  const [draft] = useState(
    () =>
      new Draft<Data<S>>(versioned(stored), (data, version, keepalive) =>
        send('save-step', { unitId, step, version, data }, { keepalive }),
      ),
  )
  const now = useSyncExternalStore(
    draft.subscribe,
    () => draft.snapshot,
    () => draft.snapshot,
  )
  const saving = useSaving<S>(draft, key, onSaved)
  const restored = useRestored(draft, key, saving)
  // A newer version from the server is taken over, under what is being typed here.
  useEffect(() => draft.offer(versioned(stored)), [draft, stored])
  useLeaving(draft, saving)
  const doing = useDoing<S>(draft, key, saving)
  return useMemo(
    () => ({
      ...doing,
      data: now.mine as StepData[S],
      state: now.state,
      error: now.error,
      other: now.other && { data: now.other.data as StepData[S], fields: now.other.fields },
      restored,
    }),
    [now, doing, restored],
  )
}
