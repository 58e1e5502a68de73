'use client'
import type { StepId } from '@fresh-coat/core/unit/way'
import dynamic from 'next/dynamic'
import { type ComponentType, useEffect, useState } from 'react'
import type { SurfaceProps } from './context'

/** A work surface whose controls open once they can hear: what is pressed or typed before that would be lost. */
function live<S extends StepId>(Surface: ComponentType<SurfaceProps<S>>): ComponentType<SurfaceProps<S>> {
  return function Live(props) {
    const [ready, setReady] = useState(false)
    useEffect(() => setReady(true), [])
    return (
      <fieldset disabled={!ready} className="contents">
        <Surface {...props} />
      </fieldset>
    )
  }
}

/**
 * The work surface of every step, loaded when its step is; a new step does not compile until it has one. Each `import` stands
 * in its own `dynamic`: that is how the page knows to fetch it along with itself, and not after the frame has come to life.
 */
export const surfaces: { [S in StepId]: ComponentType<SurfaceProps<S>> } = {
  arrive: dynamic(() => import('./arrive/surface').then((m) => live(m.ArriveSurface))),
  open: dynamic(() => import('./open/surface').then((m) => live(m.OpenSurface))),
  identify: dynamic(() => import('./identify/surface').then((m) => live(m.IdentifySurface))),
  pads: dynamic(() => import('./pads/surface').then((m) => live(m.PadsSurface))),
  wire: dynamic(() => import('./wire/surface').then((m) => live(m.WireSurface))),
  backup: dynamic(() => import('./backup/surface').then((m) => live(m.BackupSurface))),
  check: dynamic(() => import('./check/surface').then((m) => live(m.CheckSurface))),
  write: dynamic(() => import('./write/surface').then((m) => live(m.WriteSurface))),
  start: dynamic(() => import('./start/surface').then((m) => live(m.StartSurface))),
  join: dynamic(() => import('./join/surface').then((m) => live(m.JoinSurface))),
  pins: dynamic(() => import('./pins/surface').then((m) => live(m.PinsSurface))),
  close: dynamic(() => import('./close/surface').then((m) => live(m.CloseSurface))),
  behaviour: dynamic(() => import('./behaviour/surface').then((m) => live(m.BehaviourSurface))),
  meter: dynamic(() => import('./meter/surface').then((m) => live(m.MeterSurface))),
  name: dynamic(() => import('./name/surface').then((m) => live(m.NameSurface))),
  hub: dynamic(() => import('./hub/surface').then((m) => live(m.HubSurface))),
  prove: dynamic(() => import('./prove/surface').then((m) => live(m.ProveSurface))),
  watch: dynamic(() => import('./watch/surface').then((m) => live(m.WatchSurface))),
}
