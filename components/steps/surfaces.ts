import type { StepId } from '@fresh-coat/core/journey/steps'
import type { ComponentType } from 'react'
import { ArriveSurface } from './arrive'
import { BackupSurface } from './backup'
import { BehaviourSurface } from './behaviour'
import { CheckSurface } from './check'
import { CloseSurface } from './close'
import type { SurfaceProps } from './context'
import { HubSurface, NameSurface, ProveSurface, WatchSurface } from './hang'
import { IdentifySurface } from './identify'
import { JoinSurface } from './join'
import { MeterSurface } from './meter'
import { OpenSurface } from './open'
import { PadsSurface } from './pads'
import { PinsSurface } from './pins'
import { StartSurface } from './start'
import { WireSurface } from './wire'
import { WriteSurface } from './write'

/** The work surface of every step: a new step does not compile until it has one. */
export const surfaces: { [S in StepId]: ComponentType<SurfaceProps<S>> } = {
  arrive: ArriveSurface,
  open: OpenSurface,
  identify: IdentifySurface,
  pads: PadsSurface,
  wire: WireSurface,
  backup: BackupSurface,
  check: CheckSurface,
  write: WriteSurface,
  start: StartSurface,
  join: JoinSurface,
  pins: PinsSurface,
  close: CloseSurface,
  behaviour: BehaviourSurface,
  meter: MeterSurface,
  name: NameSurface,
  hub: HubSurface,
  prove: ProveSurface,
  watch: WatchSurface,
}
