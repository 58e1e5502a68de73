'use client'
import type { UnitView } from '@fresh-coat/core/unit/view'
import type { StepId } from '@fresh-coat/core/unit/way'
import { useQueryClient } from '@tanstack/react-query'
import { useRouter } from 'next/navigation'
import { useMemo, useState } from 'react'
import { deskStore } from '@/components/link/desk-store'
import { type Refusal, type Sent, send } from '@/components/send'
import { goToConflict } from './conflict'
import { applyParts, type OnScreen, reloadPages } from './unit-data'
import type { RecordHandle } from './use-record'

export interface UnitActions {
  /** Sends a command once what is typed is saved, and draws what it changed; false when it was refused. */
  act: (command: string, input: Record<string, unknown>) => Promise<boolean>
  onScreen: OnScreen
  busy: boolean
  refusal: Refusal | null
  away: boolean
}

/** Commands that change what can be chosen on the page, not only the unit. */
const changesChoices: ReadonlySet<string> = new Set([
  'keep-secret',
  'add-hub',
  'add-kit',
  'edit-kit',
  'create-board',
  'edit-unit',
  'undo',
])

/** What can be done to the unit on screen. */
export function useUnitActions<S extends StepId>(view: UnitView, step: S, record: RecordHandle<S>): UnitActions {
  const client = useQueryClient()
  const router = useRouter()
  const [refusal, setRefusal] = useState<Refusal | null>(null)
  const [away, setAway] = useState(false)
  const [busy, setBusy] = useState(false)
  const { id, number } = view

  const onScreen = useMemo(
    (): OnScreen => ({
      unitId: id,
      step,
      show: (parts) => (parts ? applyParts(client, number, parts) : void reloadPages(client, number)),
      reload: () => void reloadPages(client, number),
    }),
    [client, id, number, step],
  )

  const draw = (command: string, sent: Sent & { state: 'ok' }): void => {
    // The unit itself was taken back.
    if (sent.unit?.view === null) return router.push('/units')
    const moved = sent.unit?.view?.number
    if (moved !== undefined && moved !== number) return router.push(`/units/${moved}/${step}`)
    if (sent.unit) {
      applyParts(client, number, sent.unit)
      const mine = sent.unit.records[step]
      if (mine) record.adopt(mine as UnitView['records'][S])
    }
    if (!sent.unit || changesChoices.has(command)) void reloadPages(client, number)
  }

  const act = async (command: string, input: Record<string, unknown>): Promise<boolean> => {
    setBusy(true)
    setRefusal(null)
    try {
      // Before the mains may be connected, no cable of a computer is on the unit's pads.
      if (command === 'confirm-gate' && input.gate === 'case-closed') await deskStore.close()
      if (!(await record.flush())) {
        goToConflict()
        return false
      }
      const sent = await send(command, input, { onScreen: `${id}.${step}` })
      setAway(sent.state === 'away')
      if (sent.state === 'refused') {
        setRefusal(sent.error)
        // Somebody was first: what they made of it has to be on screen before anything is tried again.
        if (sent.error.code === 'stale') void reloadPages(client, number)
      }
      if (sent.state === 'ok') draw(command, sent)
      return sent.state === 'ok'
    } finally {
      setBusy(false)
    }
  }
  return { act, onScreen, busy, refusal, away }
}
