import type { BootLog } from '../boot/boot-log'
import type { Family } from '../families/families'
import type { OwnBuild } from '../flash/own-build'
import type { Tried } from '../flash/tried'
import type { PrintedRating } from '../load/of-unit'
import type { KeptRawMap } from '../metering/raw-of-unit'
import type { KitModule } from '../module/map'
import type { AttemptWords } from '../paste/offer'
import type { PasteOutcome } from '../paste/outcome'
import type { PasteFact, PasteKind } from '../paste/paste'
import type { Fastener, Terminal } from '../steps/open/record'
import type { holds } from '../steps/wire/record'
import type { TroubleAnswer } from '../trouble/troubleshoot'
import type { Air } from './air'
import type { KeptTable } from './chip-layout'
import type { Money } from './cost'
import type { Ended } from './ended'
import type { StepData } from './records'
import type { FactId, GateId, RouteId, StepId } from './way'

/** Everything the app knows about a unit, as plain data: loaded by the server, judged by core, drawn by the page. */
export interface DoneMark {
  at: string
  by: string
  how: 'done' | 'decided'
  /** Facts the step rested on when it was done. */
  basis: Partial<Record<FactId, string>>
  /** The family that Identify established. */
  family?: Family
}

export interface StepRecord<S extends StepId = StepId> {
  data: StepData[S]
  done: DoneMark | null
  version: number
  updatedAt: string | null
  /** What is stored cannot be read by this version: it is kept as it is, and `data` is an empty record. */
  unreadable?: { where: string; what: string }
}

export interface GateRecord {
  gate: GateId
  /** Local day it was confirmed on: it does not hold longer. */
  day: string
  at: string
  by: string
  measured: string
}

export interface UnitFile {
  id: string
  kind: 'dump' | 'image' | 'photo'
  name: string
  sha256: string
  bytes: number
  /** False: the bytes are on the person's disk only. */
  held?: boolean
  /** 1 or 2: which read of the chip a dump is. */
  read: number | null
  tag: string | null
  createdAt: string
  /** The file it was made from, when it is a patched copy. */
  sourceId?: string | null
  version?: number
  origin?: string
  firmware?: string
  release?: string
  /** Whose build it is, and what is in it; null where nobody said. */
  build?: OwnBuild | null
  /** What the server found in it. */
  inspection: unknown
}

export const attemptOutcomes = ['done', 'no-answer', 'lost-midway', 'verify-failed', 'no-start', 'cancelled'] as const

export type AttemptOutcome = (typeof attemptOutcomes)[number]

/** Ended before anything on the chip could have changed. */
export const neverBegan: ReadonlySet<AttemptOutcome> = new Set(['no-answer', 'cancelled'])

/** What was tried over the wires. */
export const attemptActions = ['read', 'write'] as const

export interface Attempt {
  id: string
  at: string
  /** A write, when it is not said. */
  action?: (typeof attemptActions)[number]
  outcome: AttemptOutcome
  sha256: string
  fileName: string
  verify: 'digest' | 'readback' | 'none'
  verified: boolean
  minutes: number
  /** 0 where nobody said at which rate. */
  baud: number
  adapter: string
  message: string
  /** A chip of silicon; null where a bridge over the network carried it and nobody can know. Older attempts lack it. */
  real?: boolean | null
  /** What was written, in words: firmware and version as they stood at Check. */
  firmware: string
  /** Filled in from the plan and the wiring since they are kept: older attempts lack them. */
  bytes?: number
  offset?: number | null
  mode?: string | null
  erase?: 'chip' | 'regions'
  /** How it was entered: button, jumper, … */
  entry?: string | null
  power?: string
  by?: string
  route?: string | null
  /** Logic level of the adapter, in volts. */
  logicV?: number | null
  /** Roles of the pads as they were wired, in their order. */
  pads?: string[]
  held?: (typeof holds)[number] | null
  /** Said of it later; the row itself is never edited. */
  notes?: { at: string; by: string; text: string }[]
  /** Files it was written as, where it was written by parts. */
  parts?: { name: string; offset: number; bytes: number; sha256: string }[]
  /** The tool and the system it ran on, as a person calls them. */
  tool?: string
  system?: string
  /** What the tool printed, where it was pasted. */
  wordsId?: string | null
  /** Seconds of the write itself, when somebody took them. */
  seconds?: number | null
  unitNumber?: number
  /** Build that the file is described as, when it is. */
  build?: string
  /** Options of the build that was written, where somebody named them. */
  options?: string[] | null
  /** Partition table in the file that was written; null when it holds none. */
  table?: KeptTable | null
}

export interface Calibration {
  id: string
  at: string
  quantity: string
  model: string
  gain: number
  offset: number
  /** What a unit that keeps no offset was told: the gain of a fit without one. */
  plainGain: number
  passed: boolean | null
  worstAfterPct: number | null
  due: string | null
  firmware: string
  /** The points and zeros it was made of, as one text to compare; absent in lists. */
  taken?: string
}

export const testDirections = ['hub to unit', 'button to hub'] as const
/** What else a person says of a unit and its hub, with what was seen. */
export const hubSayings = ['details in the unit', 'shown by the hub', 'named and placed', 'automations'] as const
export type HubSaying = (typeof hubSayings)[number]
/** Ways to a unit beside its hub, each tried by itself. */
export const otherLinks = ['by voice', 'by a plain request'] as const
export type OtherLink = (typeof otherLinks)[number]

export interface HubTest {
  id: string
  at: string
  by: string
  hub: string
  direction: (typeof testDirections)[number] | HubSaying | OtherLink
  /** The channel that was tried; null where the unit has one, or all were. */
  channel: number | null
  ok: boolean
  seen: string
  /** Facts the test was made on. */
  basis: Partial<Record<FactId, string>>
}

export type BoardPads = Pick<StepData['pads'], 'pads' | 'pitchMm' | 'bootBy' | 'regulator5v'> &
  Partial<Pick<StepData['pads'], 'rows' | 'onPhoto' | 'readings' | 'moduleId' | 'contacts' | 'rowGap'>>

export interface BoardKnowledge {
  id: string
  name: string
  maker: string
  product: string
  revision: string
  mains: boolean
  fixedWiring: boolean
  hasMeter: boolean
  family: Family | null
  flashBytes: number | null
  ratedAmps: number | null
  /** Markings as they are printed on its units; null while nobody wrote them down. */
  ratings: PrintedRating[] | null
  railOhms: number | null
  /** Which of its raw values is what; null where nobody found it out. */
  rawMap: KeptRawMap | null
  /** 3V3 to GND of its good units, in ohms, the last of each. */
  rails: { unit: number; ohms: number }[]
  inPackageFlash: boolean
  isolation: StepData['open']['isolation'] | null
  /** What can hurt in it; null while nobody has looked. */
  hazards: StepData['open']['hazards'] | null
  fasteners: Fastener[] | null
  parts: string[] | null
  terminals: Terminal[] | null
  capacitor: { microfarads: number; ohms: number | null } | null
  pads: BoardPads | null
  entry: StepData['wire']['entry']
  template: StepData['pins']['template']
  provenModes: string[]
  route: RouteId | null
  adapterId: string | null
  /** How long the case took to open, for the last units that have it on record. */
  openMinutes: { unit: number; minutes: number }[]
  /** Photos were kept of another unit of it. */
  photographed: boolean
  /** What the last hundred attempts on its units teach; null where they were not counted. */
  tried: { reads: Tried; writes: Tried } | null
  /** What troubles of its units turned out to be: cause → how often. */
  causes: Record<string, number>
  /** Units of this board whose family was established, per family. */
  markings: Partial<Record<Family, number>>
  /** The first forty of its units; {@link unitCount} is how many there are. */
  unitNumbers: number[]
  unitCount: number
}

/** A search for what is wrong: symptom, answers so far, and the cause once it is found. */
export interface TroubleRecord {
  id: string
  step: StepId
  symptom: string
  answers: TroubleAnswer[]
  /** A cause of the table, or "other" with a note; null while it is open. */
  cause: string | null
  note: string
  openedAt: string
  closedAt: string | null
  /** The attempt that it began with, when it began with one. */
  attemptId: string | null
  version: number
}

/** What a tool printed, with the facts that stand in it. */
export interface ToolWords {
  id: string
  step: StepId
  at: string
  by: string
  /** As a person calls the tool, and the system it runs on; empty where nobody said. */
  tool: string
  system: string
  facts: PasteFact[]
  outcome: PasteOutcome | null
  /** The row of an attempt as the words fill it. */
  attempt: AttemptWords
  /** Kinds of facts that were taken into records. */
  taken: PasteKind[]
}

export interface Adapter {
  id: string
  name: string
  pins: string[]
  logicV: number
  max3v3Ma: number | null
  labelledFrom: 'adapter' | 'target'
  /** What its line was worth when it was measured last; null or absent while nobody did. */
  measured?: AdapterLine | null
}

/** A line as it was measured on a chip in its loader. */
export interface AdapterLine {
  /** What it waits before it hands an answer on, in ms. */
  latencyMs: number | null
  /** The highest rate that held. */
  bestRate: number | null
  family: string
  /** Day, as YYYY-MM-DD. */
  on: string
}

export interface Instrument {
  id: string
  name: string
  gainPct: number
  digits: number
  resolution: number
}

export interface UnitView {
  id: string
  number: number
  name: string
  place: string
  version: number
  route: RouteId | null
  inHand: boolean
  inService: boolean
  /** Its way is over; null while it is made or serves. */
  ended: Ended | null
  board: BoardKnowledge | null
  records: { [S in StepId]: StepRecord<S> }
  gates: GateRecord[]
  /** When each gate was last confirmed, also where an attempt or the opposite gate has ended it since. */
  confirmed: { gate: GateId; at: string }[]
  files: UnitFile[]
  /** Attempts to write it, newest first. */
  attempts: Attempt[]
  /** Attempts to read its chip, newest first. */
  reads: Attempt[]
  /** Attempts that were undone: shown struck out, counted nowhere. */
  struck?: Attempt[]
  calibrations: Calibration[]
  hubTests: HubTest[]
  troubles: TroubleRecord[]
  /** What tools printed, as it was pasted, newest first. */
  words: ToolWords[]
  adapter: Adapter | null
  /** The module of the kit that carries its chip, where somebody named it. */
  module: KitModule | null
  /** The image chosen at Check, which may belong to another unit or to the vault. */
  image: UnitFile | null
  /** Layout and other facts of the vault are read from files; topics from all units of the site. */
  topic: string | null
  /** Nominal voltage of the mains at the site. */
  mainsVolts: number
  /** What every unit of the site is told of the air. */
  air: Air
  /** The money of the site. */
  money: Money
  slugClash: string | null
  /** The day of the workshop's calendar on which it was loaded. */
  today: string
  /** The workshop's time zone: by it an instant has a day (`dayOf`). */
  zone: string
  /** Chances of the families before any evidence, when the workshop has entered its own. */
  prior: Partial<Record<Family, number>> | null
  /** Where files of a firmware begin, as its profile says: for families whose chips say nothing about it. */
  startOffsets: Record<string, Partial<Record<Family, number>>>
  /** The moment it was loaded, ISO. */
  now: string
  /** Boot texts as they were read, where the text itself is left out of the view because it is long. */
  boots?: Partial<Record<'wire' | 'start', BootLog>>
}
