import type { StepId } from '@fresh-coat/core/unit/way'
import dynamic from 'next/dynamic'
import type { ComponentType } from 'react'
import type { SurfaceProps } from './context'

/** The work surface of every step, loaded when its step is; a new step does not compile until it has one. */
export const surfaces: { [S in StepId]: ComponentType<SurfaceProps<S>> } = {
  arrive: dynamic(() => import('./arrive/surface').then((m) => m.ArriveSurface)),
  open: dynamic(() => import('./open/surface').then((m) => m.OpenSurface)),
  identify: dynamic(() => import('./identify/surface').then((m) => m.IdentifySurface)),
  pads: dynamic(() => import('./pads/surface').then((m) => m.PadsSurface)),
  wire: dynamic(() => import('./wire/surface').then((m) => m.WireSurface)),
  backup: dynamic(() => import('./backup/surface').then((m) => m.BackupSurface)),
  check: dynamic(() => import('./check/surface').then((m) => m.CheckSurface)),
  write: dynamic(() => import('./write/surface').then((m) => m.WriteSurface)),
  start: dynamic(() => import('./start/surface').then((m) => m.StartSurface)),
  join: dynamic(() => import('./join/surface').then((m) => m.JoinSurface)),
  pins: dynamic(() => import('./pins/surface').then((m) => m.PinsSurface)),
  close: dynamic(() => import('./close/surface').then((m) => m.CloseSurface)),
  behaviour: dynamic(() => import('./behaviour/surface').then((m) => m.BehaviourSurface)),
  meter: dynamic(() => import('./meter/surface').then((m) => m.MeterSurface)),
  name: dynamic(() => import('./name/surface').then((m) => m.NameSurface)),
  hub: dynamic(() => import('./hub/surface').then((m) => m.HubSurface)),
  prove: dynamic(() => import('./prove/surface').then((m) => m.ProveSurface)),
  watch: dynamic(() => import('./watch/surface').then((m) => m.WatchSurface)),
}
