'use client'
import type { UnitView } from '@fresh-coat/core/unit/view'
import { useCallback, useEffect, useRef, useState } from 'react'
import { TextField } from '@/components/forms/fields'

const pauseMs = 700
const againMs = 3000

/** Saved as it is typed, like all else; what is typed outlives a new version of the unit. */
export function NameAndPlace({
  view,
  act,
}: {
  view: UnitView
  act: (command: string, input: Record<string, unknown>) => Promise<boolean>
}) {
  const [typed, setTyped] = useState<{ name?: string; place?: string }>({})
  const name = typed.name ?? view.name
  const place = typed.place ?? view.place
  const changed = (name.trim() !== view.name || place.trim() !== view.place) && name.trim() !== ''
  const saved = useRef<{ name: string; place: string } | null>(null)
  const save = useCallback(async () => {
    const ok = await act('edit-unit', { unitId: view.id, version: view.version, name, place })
    if (ok) saved.current = { name: name.trim(), place: place.trim() }
    return ok
  }, [act, view.id, view.version, name, place])
  // What was saved here and is something else now was taken back, or changed elsewhere: it is not saved over again.
  useEffect(() => {
    const mine = saved.current
    if (!mine || (view.name === mine.name && view.place === mine.place)) return
    saved.current = null
    setTyped((now) => ({
      ...(now.name !== undefined && now.name.trim() !== mine.name ? { name: now.name } : {}),
      ...(now.place !== undefined && now.place.trim() !== mine.place ? { place: now.place } : {}),
    }))
  }, [view.name, view.place])
  const latest = useRef({ save, changed })
  latest.current = { save, changed }
  // biome-ignore lint/correctness/useExhaustiveDependencies: a pause in typing, not a new function, saves
  useEffect(() => {
    if (!changed) return
    let timer: ReturnType<typeof setTimeout>
    // While the server is away, or somebody else changed the unit meanwhile, it is tried again.
    const attempt = async () => {
      if (latest.current.changed && !(await latest.current.save())) timer = setTimeout(() => void attempt(), againMs)
    }
    timer = setTimeout(() => void attempt(), pauseMs)
    return () => clearTimeout(timer)
  }, [name, place, changed])
  // Leaving in mid-pause saves too.
  useEffect(() => () => void (latest.current.changed && latest.current.save()), [])
  return (
    <div className="grid content-start gap-2 sm:grid-cols-2">
      <TextField
        label="Name"
        value={name}
        maxLength={120}
        onChange={(to) => setTyped({ ...typed, name: to })}
        hint={name.trim() === '' ? 'A name is needed: the last one is kept.' : ''}
      />
      <TextField label="Place" value={place} maxLength={120} onChange={(to) => setTyped({ ...typed, place: to })} />
    </div>
  )
}
