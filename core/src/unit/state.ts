import type { Family } from '../families/families'
import { markingKey } from '../identify/markings'
import { type BackupFact, backupOf, restoreDue } from '../steps/backup/facts'
import { firmwareChosen } from '../steps/check/facts'
import { familyOf } from '../steps/identify/facts'
import { calibrationDue } from '../steps/meter/quantity'
import { firmwareOf } from '../steps/write/facts'
import { longestSlug, slugOf } from '../topics/slug'
import { spokenForm } from '../topics/spoken'
import { type Assessment, assess } from './assess'
import type { Calibration, UnitView } from './view'

/** What lists, find, calendar and statistics show of a unit, worked out once when it changes instead of whenever it is listed. */
export interface UnitState {
  number: number
  boardId: string | null
  next: Assessment['next']
  /** Where it hangs on the rack; a unit whose way is over hangs on none. */
  lane: Assessment['lane'] | 'ended'
  inService: boolean
  coats: Assessment['coats']
  waiting: Assessment['waiting']
  /** 1 something is wrong, 2 something is stale or due, null nothing waits. */
  waitRank: 1 | 2 | null
  /** Searches for a cause that are open. */
  troubles: number
  /** The next day on which something falls due, and what. */
  due: string | null
  dueWhat: string
  /** The first day on which this no longer holds, because something is overdue then. */
  holdsUntil: string | null
  address: string
  mac: string
  apMac: string
  nameSuffix: string
  topic: string
  firmware: string
  /** Which of the firmwares that is, without version and build. */
  firmwareName: string
  /** The version it runs as the record has it: noted at Watch, else as it was written; empty: nobody knows. */
  installed: string
  /** It offers a radio to a hub. */
  bridge: boolean
  firmwareChosen: string
  family: Family | null
  established: Family | null
  printed: string
  printedKey: string
  backup: BackupFact['state']
  imageId: string | null
  adapterId: string | null
  /** It has a meter to look after. */
  metering: boolean
  calibration: Calibration | null
  openMinutes: number | null
  hasMarks: boolean
  /** Lower-case words that find it. */
  search: string
}

const dayAfter = (day: string): string => {
  const [year = 0, month = 1, date = 1] = day.split('-').map(Number)
  return new Date(Date.UTC(year, month - 1, date + 1)).toISOString().slice(0, 10)
}

/** What falls due on this unit, soonest first. */
function dues(view: UnitView): { day: string; what: string }[] {
  const meter = view.records.meter.data.noMeter ? null : calibrationDue(view)
  const restore = restoreDue(view)
  return [
    ...(meter ? [{ day: meter, what: 'Meter re-check' }] : []),
    ...(restore ? [{ day: restore, what: 'Restore test of the stock firmware' }] : []),
  ].sort((a, b) => (a.day < b.day ? -1 : 1))
}

/** The family that Identify established on this unit; an unsplit variant counts for none. */
function establishedOf(view: UnitView): Family | null {
  const { data, done } = view.records.identify
  if (!done) return null
  return data.decision?.family ?? done.family ?? null
}

/** What lists show of a calibration; the points it was made of stay with the unit. */
function listedCalibration(last: Calibration | undefined): Calibration | null {
  if (!last) return null
  const { taken: _, ...shown } = last
  return shown
}

/** "Plainsong 9.4.1/full" → Plainsong and 9.4.1 */
function firmwareIn(text: string): { name: string; version: string } {
  const [name = '', rest = ''] = text.split(' ')
  return { name, version: rest.split('/')[0] ?? '' }
}

const rankOf = (waiting: Assessment['waiting']): UnitState['waitRank'] =>
  waiting.length === 0 ? null : waiting.some((w) => w.severity === 'error') ? 1 : 2

/** The state of a unit as of its day; the same view always gives the same state. */
export function stateOf(view: UnitView): UnitState {
  const { next, lane, inService, coats, waiting } = assess(view)
  const due = view.ended ? [] : dues(view)
  const { join, identify, check, wire, open, meter, watch, hub } = view.records
  const firmware = firmwareOf(view)
  const name = view.name
  return {
    number: view.number,
    boardId: view.board?.id ?? null,
    next,
    lane: view.ended ? 'ended' : lane,
    inService,
    coats,
    waiting,
    waitRank: rankOf(waiting),
    troubles: view.ended ? 0 : view.troubles.filter((t) => t.closedAt === null).length,
    due: due[0]?.day ?? null,
    dueWhat: due[0]?.what ?? '',
    holdsUntil: due.map((d) => dayAfter(d.day)).find((day) => day > view.today) ?? null,
    address: join.data.address.trim(),
    mac: join.data.mac.trim(),
    apMac: join.data.apMac.trim(),
    nameSuffix: join.data.nameSuffix.trim(),
    topic: view.topic ?? '',
    firmware,
    firmwareName: firmwareIn(firmware).name,
    installed: watch.data.installed?.version ?? firmwareIn(firmware).version,
    bridge: hub.data.bridge !== null,
    firmwareChosen: firmwareChosen(view),
    family: familyOf(view)?.family ?? null,
    established: establishedOf(view),
    printed: identify.data.printed.trim(),
    printedKey: markingKey(identify.data.printed),
    backup: backupOf(view).state,
    imageId: check.data.fileId,
    adapterId: wire.data.adapterId,
    metering: view.board?.hasMeter === true && !meter.data.noMeter && view.ended === null,
    calibration: listedCalibration(view.calibrations[0]),
    openMinutes: open.data.minutes,
    hasMarks: open.data.marks.length > 0,
    search: [name, view.place, join.data.address, join.data.mac, view.topic, view.board?.name]
      .filter(Boolean)
      .join('\n')
      .toLowerCase(),
  }
}

/** How a unit's name stands in topics by itself, before anybody else's is looked at, and how it sounds. */
export function nameOf(unit: { number: number; name: string; pinned: string; spoken: string }): {
  ownSlug: string
  pinned: boolean
  spoken: string
} {
  return {
    ownSlug: unit.pinned || slugOf(unit.name, longestSlug) || `unit-${unit.number}`,
    pinned: unit.pinned !== '',
    spoken: spokenForm(unit.spoken || unit.name),
  }
}
