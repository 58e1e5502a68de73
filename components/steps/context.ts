import type { Release } from '@fresh-coat/core/flash/release'
import type { Pace } from '@fresh-coat/core/fleet/bench-time'
import type { Marking } from '@fresh-coat/core/identify/markings'
import type { ConsoleWords } from '@fresh-coat/core/link/questions'
import type { KitModule } from '@fresh-coat/core/module/map'
import type { SetupMode } from '@fresh-coat/core/network/beats'
import type { Phrases } from '@fresh-coat/core/profile/phrases'
import type { TwinBackup } from '@fresh-coat/core/steps/backup/facts'
import type { Assessment } from '@fresh-coat/core/unit/assess'
import type { RouteCost } from '@fresh-coat/core/unit/cost'
import type { Adapter, Instrument, UnitFile, UnitView } from '@fresh-coat/core/unit/view'
import type { RouteId, StepId } from '@fresh-coat/core/unit/way'
import type { RecordHandle } from '@/components/frame/use-record'

/** What a step's work surface can choose from; lists that another step needs are empty here. */
export interface Choices {
  boards: { id: string; name: string; units: number }[]
  adapters: Adapter[]
  instruments: Instrument[]
  loads: { id: string; name: string; watts: number; kind: string }[]
  /** Contact maps of modules. */
  modules: KitModule[]
  /** A person's own lines for tools of theirs, with their placeholders. */
  lines: { id: string; name: string; text: string }[]
  hubs: { id: string; name: string; version: number; phrases: Phrases | null }[]
  profiles: {
    id: string
    name: string
    families: string[]
    setupAddress: string
    /** How its setup is opened by a button; for Join. */
    setup: SetupMode | null
    releases: Release[]
    console: ConsoleWords | null
    phrases: Phrases | null
  }[]
  images: UnitFile[]
  /** Kept stock firmware of other units of the same board. */
  twins: TwinBackup[]
  /** Whose access point or name is known: an entry of a lease list may be theirs. */
  otherUnits: {
    number: number
    apMac: string
    nameSuffix: string
    family: string | null
    firmware: string
  }[]
  /** Printed markings that read like this unit's, with the counts found for each. */
  markings: Marking[]
  /** The next free case number, and the name that counts on from this unit's. */
  next: { number: number; name: string }
  /** Hands-on minutes of the units of this board, in the order they were begun. */
  pace: Pace | null
  /** What the proven units of each route took. */
  routes: Partial<Record<RouteId, RouteCost>>
  secrets: { id: string; name: string; keptIn: string; createdAt: string }[]
}

/** What every step's work surface gets: the unit with what is being typed, and what it can choose from. */
export interface SurfaceProps<S extends StepId> {
  view: UnitView
  assessment: Assessment
  record: RecordHandle<S>
  choices: Choices
  /** Sends a command and redraws what it changed; false when it was refused (the page then says why). */
  act: (command: string, input: Record<string, unknown>) => Promise<boolean>
}
