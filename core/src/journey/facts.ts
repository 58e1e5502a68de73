import { type BootLog, readBootLog } from '../boot/boot-log'
import type { DumpInspection } from '../dump/inspect'
import type { Family } from '../families/families'
import { linkOverhead } from '../flash/attempts'
import { parseFlashId } from '../flash/flash-id'
import { type Preflight, preflight } from '../flash/preflight'
import { planRestore, type RestorePlan } from '../flash/restore'
import { type FamilyVerdict, type Identification, identify } from '../identify/identify'
import type { ImageInspection } from '../image/inspect'
import { dischargeOf, type Isolation, judgeIsolation } from '../open/isolation'
import { type PadReading, readingNames } from '../pads/readings'
import { type PadSolution, readPads, solvePads } from '../pads/solve'
import { isIdle } from '../pins/template'
import { checkDivider, type DividerCheck } from '../wiring/divider'
import { type JigPlan, planJig } from '../wiring/jig'
import { planWiring, type WiringPlan } from '../wiring/wiring'
import { chipLayoutOf } from './chip-layout'
import { type FactId, routes } from './steps'
import type { UnitFile, UnitView } from './view'

/** Derived values of a unit: recomputed from evidence every time, never edited by hand. */

/**
 * Remembers what a pure function gave for an object that is never changed: assessing thirty units asks for the same
 * identification some ten times each.
 */
function remembered<Key extends object, Value>(compute: (key: Key) => Value): (key: Key) => Value {
  const known = new WeakMap<Key, Value>()
  return (key) => {
    if (!known.has(key)) known.set(key, compute(key))
    return known.get(key) as Value
  }
}

const identifyWith = (evidence: UnitView['records']['identify']['data']['evidence'], prior: UnitView['prior']) => {
  const outcome = identify({ evidence, ...(prior ? { prior } : {}) })
  return outcome.ok ? outcome.value : null
}
const identifyUsually = remembered((evidence: UnitView['records']['identify']['data']['evidence']) =>
  identifyWith(evidence, null),
)

export function identificationOf(view: UnitView): Identification | null {
  const { evidence } = view.records.identify.data
  return view.prior ? identifyWith(evidence, view.prior) : identifyUsually(evidence)
}

export interface FamilyFact {
  family: Family
  verdict: FamilyVerdict
  how: 'decided' | 'evidence' | 'board'
}

/** The family to work with: a recorded decision, else what the evidence says, else what the board is known to be. */
export function familyOf(view: UnitView): FamilyFact | null {
  const { decision, evidence } = view.records.identify.data
  const found = evidence.length > 0 ? identificationOf(view) : null
  if (decision)
    return {
      family: decision.family,
      verdict:
        decision.family === 'OTHER'
          ? 'undecided'
          : found?.leader === decision.family && found.verdict === 'identified'
            ? 'identified'
            : 'likely',
      how: 'decided',
    }
  if (found && found.verdict !== 'undecided' && found.verdict !== 'conflict')
    return { family: found.leader, verdict: found.verdict, how: 'evidence' }
  if (found?.verdict === 'conflict') return { family: found.leader, verdict: 'conflict', how: 'evidence' }
  if (view.board?.family) return { family: view.board.family, verdict: 'likely', how: 'board' }
  return null
}

export function flashBytesOf(view: UnitView): number | null {
  const id = parseFlashId(view.records.backup.data.flashId)
  if (id?.flashBytes) return id.flashBytes
  return view.board?.flashBytes ?? null
}

export const isolationOf = (view: UnitView): Isolation =>
  judgeIsolation({ ...(view.board?.isolation ?? {}), ...view.records.open.data.isolation })

/** Seconds to wait before touching an opened mains unit. */
export function dischargeWait(view: UnitView): number {
  const { capacitorUf, bleederOhms } = view.records.open.data
  const known = view.board?.capacitor
  const result = dischargeOf(
    capacitorUf ?? known?.microfarads ?? 10,
    capacitorUf === null ? (known?.ohms ?? null) : bleederOhms,
  )
  return 'waitSeconds' in result ? result.waitSeconds : 300
}

export interface PadState {
  solution: PadSolution | null
  /** Readings that cannot be: they are kept, said, and left out of the answer. */
  faults: { pad: number; reading: string; message: string }[]
  /** How many readings the answer rests on. */
  readings: number
}

/**
 * Which pad is what, from readings as they were entered. Impossible readings do not silence the others.
 * @param evenBlank solve a row without any reading too: it then says what to measure first
 */
export function padStateOfReadings(readings: readonly PadReading[], railKnown: boolean, evenBlank = false): PadState {
  const faults: PadState['faults'] = []
  const clean = readings.map((cell, pad) => {
    let kept: Record<string, unknown> = { ...cell }
    for (let tries = 0; tries < readingNames.length; tries++) {
      const one = readPads({ pads: [kept] })
      const fault = one.ok ? undefined : one.faults[0]
      if (!fault) break
      // A loaded voltage without the idle one is only waiting for it.
      const reading = fault.code === 'missing' ? 'volts_10k' : (fault.path.split('/').at(-1) as string)
      if (fault.code !== 'missing') faults.push({ pad, reading, message: fault.message })
      const { [reading]: _, ...rest } = kept
      kept = rest
    }
    return kept
  })
  const count = clean.reduce((n, cell) => n + Object.values(cell).filter((x) => x !== undefined).length, 0)
  const outcome = clean.length > 0 && (count > 0 || evenBlank) ? solvePads({ pads: clean, railKnown }) : null
  return { solution: outcome?.ok ? outcome.value : null, faults, readings: count }
}

const padState = remembered((data: UnitView['records']['pads']['data']) =>
  padStateOfReadings(data.readings, data.railKnown),
)
export const padStateOf = (view: UnitView): PadState => padState(view.records.pads.data)

export const padsOf = (view: UnitView) =>
  view.records.pads.data.pads.length > 0 ? view.records.pads.data : (view.board?.pads ?? view.records.pads.data)

/** The one gate that mains-off confirmation stands for today. */
export const mainsIsOff = (view: UnitView): boolean =>
  view.board?.mains === false || view.gates.some((g) => g.gate === 'mains-off' && g.day === view.today)

/** The divider in front of RX at the rate that was chosen for writing; null when none is fitted or none is needed. */
export function dividerOf(view: UnitView): DividerCheck | null {
  const { divider } = view.records.wire.data
  if (!divider || !view.adapter) return null
  return checkDivider(view.adapter.logicV, divider.rTop, divider.rBottom, view.records.check.data.baud)
}

/** Straight plug or jig for the chosen adapter; null when the row is not known, not one row, or lacks what is needed. */
export function jigOf(view: UnitView): JigPlan | null {
  const pads = padsOf(view)
  const { adapter } = view
  const { plugFace, power, adapterPitchMm } = view.records.wire.data
  if (!adapter || (pads.rows ?? 1) > 1 || power === 'adapter5v') return null
  const outcome = planJig({
    adapter: adapter.pins,
    pads: pads.pads,
    pitchAdapter: adapterPitchMm,
    ...(pads.pitchMm && pads.pitchMm > 0 ? { pitchPads: pads.pitchMm } : {}),
    padsSeenFrom: 'top',
    plugFace,
    labelledFrom: adapter.labelledFrom,
    power,
  })
  return outcome.ok ? outcome.value : null
}

/** What the tool's RX saw through the reset: pasted text, or bytes saved by a console. */
export function entryLogOf(view: UnitView): BootLog | null {
  const { log, logHex, logBaud } = view.records.wire.data
  if (log.trim() === '' && logHex.trim() === '') return null
  const outcome = readBootLog(
    logHex.trim() === ''
      ? { text: log, ...(logBaud ? { baud: logBaud } : {}) }
      : { bytesHex: logHex, ...(logBaud ? { baud: logBaud } : {}) },
  )
  return outcome.ok ? outcome.value : null
}

export function wiringOf(view: UnitView): WiringPlan | null {
  const { power, benchV, entry } = view.records.wire.data
  const family = familyOf(view)?.family
  const pads = padsOf(view)
  const way = entry ?? view.board?.entry ?? null
  if (!view.adapter || !family || way === null) return null
  const outcome = planWiring({
    // The level that reaches the board's RX: after the divider, where one is fitted.
    adapter: { ...view.adapter, logicV: dividerOf(view)?.vout ?? view.adapter.logicV },
    board: {
      family,
      pads: pads.pads,
      pitchMm: pads.pitchMm && pads.pitchMm > 0 ? pads.pitchMm : null,
      regulator5v: pads.regulator5v,
    },
    power,
    benchV,
    entry: way,
    mainsOff: mainsIsOff(view),
  })
  return outcome.ok ? outcome.value : null
}

export interface BackupFact {
  state: 'verified' | 'single' | 'skipped' | 'differ' | 'none'
  first: UnitFile | null
  second: UnitFile | null
  bytes: number | null
}

const wholeRead = (file: UnitFile, flashBytes: number | null) => {
  const found = file.inspection as DumpInspection | null
  return !found?.findings.some((f) => f.severity === 'error') && (flashBytes === null || file.bytes === flashBytes)
}

/** Newest first and second read of the unit's chip, and whether they agree. */
export function backupOf(view: UnitView): BackupFact {
  const reads = (n: number) => view.files.find((f) => f.kind === 'dump' && f.read === n) ?? null
  const first = reads(1)
  const second = reads(2)
  const bytes = first?.bytes ?? null
  if (first && second) {
    const verified = first.sha256 === second.sha256 && wholeRead(first, flashBytesOf(view))
    return { state: verified ? 'verified' : first.sha256 === second.sha256 ? 'single' : 'differ', first, second, bytes }
  }
  if (view.records.backup.data.skip) return { state: 'skipped', first, second, bytes }
  return { state: first ? 'single' : 'none', first, second, bytes }
}

export function preflightOf(view: UnitView): Preflight | null {
  const image = view.image
  const fact = familyOf(view)
  if (!image?.inspection || !fact) return null
  const { eraseAll, baud, verify, dataLines, offset } = view.records.check.data
  const backup = backupOf(view)
  const layout = chipLayoutOf(view, flashBytesOf(view))
  const flashId = view.records.backup.data.flashId.trim()
  return preflight(
    {
      family: fact.family,
      familyVerdict: fact.verdict,
      flashBytes: flashBytesOf(view),
      flashId: flashId === '' ? null : flashId,
      dataLines,
      inPackageFlash: view.board?.inPackageFlash ?? false,
      provenModes: view.board?.provenModes ?? [],
      backup: {
        state: backup.state === 'differ' ? 'none' : backup.state,
        bytes: backup.bytes,
        reason: view.records.backup.data.skip?.reason ?? null,
      },
      layout: layout?.table ?? null,
      layoutFindings: layout?.findings ?? [],
    },
    image.inspection as ImageInspection,
    {
      fileName: image.name,
      offset,
      eraseAll,
      baud,
      verify,
      variant: view.records.check.data.variant,
      language: view.records.check.data.language,
      profileOffset: view.startOffsets[view.records.check.data.firmware]?.[fact.family] ?? null,
    },
    linkOverhead(view.board?.attempts ?? view.attempts, view.adapter?.name ?? '') ?? undefined,
  )
}

/** Where the chosen image is written: as entered, else where it belongs; null while nobody knows. */
export const writeOffsetOf = (view: UnitView): number | null =>
  view.records.check.data.offset ?? preflightOf(view)?.expectedOffset ?? null

/** A kept copy of the stock firmware of another unit of the same board. */
export interface TwinBackup {
  number: number
  name: string
  family: Family | null
  state: BackupFact['state']
  file: Pick<UnitFile, 'id' | 'name' | 'sha256' | 'bytes' | 'held'>
}

/** Units of the same board whose stock firmware is kept: with a warning, one can stand in for a lost one. */
export const twinsOf = (view: UnitView, units: readonly UnitView[]): TwinBackup[] =>
  units.flatMap((u) => {
    if (u.id === view.id || !view.board || u.board?.id !== view.board.id) return []
    const { state, first } = backupOf(u)
    return first ? [{ number: u.number, name: u.name, family: familyOf(u)?.family ?? null, state, file: first }] : []
  })

/** Putting stock firmware back: this unit's own, or that of a twin. */
export function restoreOf(view: UnitView, twin: TwinBackup | null = null): RestorePlan {
  const fact = familyOf(view)
  const backup = backupOf(view)
  return planRestore({
    family: fact?.family ?? null,
    unsplit: fact?.verdict === 'arm968_unsplit',
    flashBytes: flashBytesOf(view),
    backup: twin
      ? { state: twin.state, bytes: twin.file.bytes, sha256: twin.file.sha256 }
      : { state: backup.state, bytes: backup.bytes, sha256: backup.first?.sha256 ?? null },
    fromUnit: twin?.number ?? null,
    fromFamily: twin?.family ?? null,
  })
}

/** The day a restore test of a verified copy is due; null without one. */
export function restoreDue(view: UnitView): string | null {
  const backup = backupOf(view)
  if (backup.state !== 'verified' || !backup.first) return null
  const { restoreTested, restoreMonths } = view.records.backup.data
  const from = new Date(`${(restoreTested ?? backup.first.createdAt).slice(0, 10)}T00:00:00Z`)
  return new Date(Date.UTC(from.getUTCFullYear(), from.getUTCMonth() + restoreMonths, from.getUTCDate()))
    .toISOString()
    .slice(0, 10)
}

export const lastWrite = (view: UnitView) => view.attempts.find((a) => a.outcome === 'done') ?? null
export const templateOf = (view: UnitView) => view.records.pins.data.template ?? view.board?.template ?? null

export function bootOf(view: UnitView) {
  const { log } = view.records.start.data
  if (log.trim() === '') return null
  const outcome = readBootLog({ text: log })
  return outcome.ok ? outcome.value : null
}

/** Relay and light channels of the template that people switch. */
export function channelsOf(view: UnitView): number[] {
  const outputs = (templateOf(view)?.pins ?? []).filter(
    (p) => !isIdle(p.fn) && ['relay', 'latch-set', 'dim', 'bright', 'cool', 'warm', 'red'].includes(p.fn),
  )
  return [...new Set(outputs.map((p) => p.ch ?? 1))].sort((a, b) => a - b)
}

/** The firmware that would be written now, as chosen at Check. */
export function firmwareChosen(view: UnitView): string {
  const { firmware, firmwareVersion } = view.records.check.data
  return [firmware, firmwareVersion].filter(Boolean).join(' ')
}

/** Firmware that runs now: that of the last good write; without writing on its route, what was noted. Choosing is not writing. */
export function firmwareOf(view: UnitView): string {
  const writes = view.route === null || !routes[view.route].skips.includes('write')
  return writes ? (lastWrite(view)?.firmware ?? '') : firmwareChosen(view)
}

/** Facts as short texts, so that a step can remember what it rested on. */
export function factsOfUnit(view: UnitView): Record<FactId, string> {
  const pads = padsOf(view)
  const template = templateOf(view)
  return {
    board: view.board?.name ?? '',
    family: familyOf(view)?.family ?? '',
    flashBytes: String(flashBytesOf(view) ?? ''),
    pads: pads.pads.length ? `${pads.pads.join(' ')}${pads.pitchMm ? ` at ${pads.pitchMm} mm` : ''}` : '',
    adapter: view.adapter?.name ?? '',
    image: view.image?.sha256.slice(0, 12) ?? '',
    written: lastWrite(view)?.sha256.slice(0, 12) ?? '',
    firmware: firmwareOf(view),
    template: template
      ? template.pins
          .filter((p) => !isIdle(p.fn))
          .map((p) => `${p.pin} ${p.fn}${p.ch ?? ''}${p.active ?? ''}`)
          .join(', ')
      : '',
    address: view.records.join.data.address,
    topic: view.topic ?? '',
    powerOn: view.records.behaviour.data.channels.map((c) => `${c.ch} ${c.onPower}`).join(', '),
    hub: view.records.hub.data.hubId ?? '',
  }
}
