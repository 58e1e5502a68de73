'use client'
import type { StepId } from '@fresh-coat/core/unit/way'
import dynamic from 'next/dynamic'
import { type ComponentType, useEffect, useState } from 'react'
import type { SurfaceProps } from './context'

/**
 * A work surface, loaded when its step is. Its controls open once they can hear: what is pressed or typed before that
 * would be lost.
 */
const surface = <S extends StepId>(load: () => Promise<ComponentType<SurfaceProps<S>>>) =>
  dynamic(async () => {
    const Surface = await load()
    // biome-ignore lint/correctness/noComponentHookFactories: made once per step, when its code has come
    return function Live(props: SurfaceProps<S>) {
      const [ready, setReady] = useState(false)
      useEffect(() => setReady(true), [])
      return (
        <fieldset disabled={!ready} className="contents">
          <Surface {...props} />
        </fieldset>
      )
    }
  })

/** The work surface of every step; a new step does not compile until it has one. */
export const surfaces: { [S in StepId]: ComponentType<SurfaceProps<S>> } = {
  arrive: surface(() => import('./arrive/surface').then((m) => m.ArriveSurface)),
  open: surface(() => import('./open/surface').then((m) => m.OpenSurface)),
  identify: surface(() => import('./identify/surface').then((m) => m.IdentifySurface)),
  pads: surface(() => import('./pads/surface').then((m) => m.PadsSurface)),
  wire: surface(() => import('./wire/surface').then((m) => m.WireSurface)),
  backup: surface(() => import('./backup/surface').then((m) => m.BackupSurface)),
  check: surface(() => import('./check/surface').then((m) => m.CheckSurface)),
  write: surface(() => import('./write/surface').then((m) => m.WriteSurface)),
  start: surface(() => import('./start/surface').then((m) => m.StartSurface)),
  join: surface(() => import('./join/surface').then((m) => m.JoinSurface)),
  pins: surface(() => import('./pins/surface').then((m) => m.PinsSurface)),
  close: surface(() => import('./close/surface').then((m) => m.CloseSurface)),
  behaviour: surface(() => import('./behaviour/surface').then((m) => m.BehaviourSurface)),
  meter: surface(() => import('./meter/surface').then((m) => m.MeterSurface)),
  name: surface(() => import('./name/surface').then((m) => m.NameSurface)),
  hub: surface(() => import('./hub/surface').then((m) => m.HubSurface)),
  prove: surface(() => import('./prove/surface').then((m) => m.ProveSurface)),
  watch: surface(() => import('./watch/surface').then((m) => m.WatchSurface)),
}
