'use client'
import { isStepId, type StepId, stepIds } from '@fresh-coat/core/unit/way'
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

/** Where the surface of every step comes from; a new step does not compile until it has one. */
const loaders: { [S in StepId]: () => Promise<ComponentType<SurfaceProps<S>>> } = {
  arrive: () => import('./arrive/surface').then((m) => m.ArriveSurface),
  open: () => import('./open/surface').then((m) => m.OpenSurface),
  identify: () => import('./identify/surface').then((m) => m.IdentifySurface),
  pads: () => import('./pads/surface').then((m) => m.PadsSurface),
  wire: () => import('./wire/surface').then((m) => m.WireSurface),
  backup: () => import('./backup/surface').then((m) => m.BackupSurface),
  check: () => import('./check/surface').then((m) => m.CheckSurface),
  write: () => import('./write/surface').then((m) => m.WriteSurface),
  start: () => import('./start/surface').then((m) => m.StartSurface),
  join: () => import('./join/surface').then((m) => m.JoinSurface),
  pins: () => import('./pins/surface').then((m) => m.PinsSurface),
  close: () => import('./close/surface').then((m) => m.CloseSurface),
  behaviour: () => import('./behaviour/surface').then((m) => m.BehaviourSurface),
  meter: () => import('./meter/surface').then((m) => m.MeterSurface),
  name: () => import('./name/surface').then((m) => m.NameSurface),
  hub: () => import('./hub/surface').then((m) => m.HubSurface),
  prove: () => import('./prove/surface').then((m) => m.ProveSurface),
  watch: () => import('./watch/surface').then((m) => m.WatchSurface),
}

const fetched = new Map<StepId, Promise<ComponentType<SurfaceProps<StepId>>>>()

function surfaceOf(step: StepId): Promise<ComponentType<SurfaceProps<StepId>>> {
  let coming = fetched.get(step)
  if (!coming) {
    coming = loaders[step]().then((Surface) => live(Surface as unknown as ComponentType<SurfaceProps<StepId>>))
    // What did not come is asked for again by whoever wants it next.
    coming.catch(() => fetched.delete(step))
    fetched.set(step, coming)
  }
  return coming
}

/** The step in the address a page was loaded with. */
function stepOfPage(): StepId | null {
  const last = typeof window === 'undefined' ? undefined : window.location.pathname.split('/').at(-1)
  return isStepId(last) ? last : null
}
const first = stepOfPage()

/**
 * Over once the first surface is here, or did not come. The page is rendered and its frame small: the surface it shows is
 * asked for before the frame has come to life, and whatever else follows waits for it.
 */
export const firstSurface: Promise<unknown> = first ? surfaceOf(first).catch(() => {}) : Promise.resolve()

/** The work surface of every step, loaded when its step is. */
export const surfaces = Object.fromEntries(
  stepIds.map((step) => [step, dynamic(() => surfaceOf(step))]),
) as unknown as { [S in StepId]: ComponentType<SurfaceProps<S>> }
