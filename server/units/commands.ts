import { identify } from '@fresh-coat/core/identify/identify'
import { refitConditions, refitStop } from '@fresh-coat/core/refit/of-unit'
import { backupOf } from '@fresh-coat/core/steps/backup/facts'
import { closeFindings } from '@fresh-coat/core/steps/close/conditions'
import { familyOf } from '@fresh-coat/core/steps/identify/facts'
import { changeClauses, clausesInWords } from '@fresh-coat/core/unit/change-words'
import { factsOfUnit } from '@fresh-coat/core/unit/facts'
import { dischargeClock } from '@fresh-coat/core/unit/gates'
import { emptyRecord } from '@fresh-coat/core/unit/records'
import { conditionsOf, learnedFrom } from '@fresh-coat/core/unit/steps'
import type { DoneMark, UnitView } from '@fresh-coat/core/unit/view'
import { type GateId, gateIds, type StepId, stepOf } from '@fresh-coat/core/unit/way'
import { and, eq } from 'drizzle-orm'
import { z } from 'zod'
import type { Change } from '../db/change'
import { command } from '../db/command'
import { localDay, two } from '../db/day'
import { BadInput, Refused, StaleWrite } from '../db/fault'
import { id, name, place, stepId, unitNumber, version } from '../db/fields'
import * as schema from '../db/schema'
import { clearGates } from './gates'
import { unitView } from './load'
import { holdUnit, viewOf } from './one'
import { rawRecord, readRaw } from './records'
import { heldRecord, markDone, parseRecord, refuseStale, writeRecord } from './save'

async function refuseTaken(c: Change, number: number, butId: string | null = null): Promise<void> {
  const [taken] = await c.live('unit', eq(schema.unit.number, number))
  if (taken && taken.id !== butId)
    throw new Refused(
      'number-taken',
      `Number ${two(number)} is on another case: ${taken.name}.`,
      'Choose a free number.',
    )
}

/** The board changes hands with the unit: its attempts and troubles count there. */
async function moveToBoard(c: Change, unitId: string, boardId: string | null): Promise<void> {
  await c.tx.update(schema.attempt).set({ boardId }).where(eq(schema.attempt.unitId, unitId))
  await c.tx.update(schema.trouble).set({ boardId }).where(eq(schema.trouble.unitId, unitId))
}

const createUnit = command(
  z.object({ number: unitNumber, name, place: place.default(''), boardId: id.nullable().default(null) }),
  async (c, input) => {
    await refuseTaken(c, input.number)
    const row = await c.insert('unit', { ...input, createdAt: c.now })
    await c.tell({ kind: 'unit-created', unitId: row.id, sentence: `${two(row.number)} arrived: ${row.name}` })
    return { id: row.id, number: row.number }
  },
)

const editUnit = command(
  z.object({
    unitId: id,
    version,
    number: unitNumber.optional(),
    name: name.optional(),
    place: place.optional(),
    boardId: id.nullable().optional(),
  }),
  async (c, { unitId, version: seen, ...patch }) => {
    const { unit } = await holdUnit(c, unitId)
    if (patch.number !== undefined) await refuseTaken(c, patch.number, unitId)
    const row = await c.update('unit', unitId, seen, patch)
    if (row.boardId !== unit.boardId) await moveToBoard(c, unitId, row.boardId)
    await c.tell({
      kind: 'unit-edited',
      unitId,
      sentence: `${two(row.number)} is now ${row.name}${row.place ? `, ${row.place}` : ''}`,
    })
    return { version: row.version }
  },
)

const anotherUnit = command(
  z.object({ unitId: id, number: unitNumber, name, place: place.default('') }),
  async (c, { unitId, ...input }) => {
    const from = await viewOf(c, unitId)
    if (!from.board)
      throw new Refused(
        'no-board',
        'Its board is not named yet, so there is nothing to fill in.',
        'Name the board first.',
      )
    await refuseTaken(c, input.number)
    const row = await c.insert('unit', { ...input, boardId: from.board.id, createdAt: c.now })
    // The same way as the one before; whether it works as sold is this unit's own answer.
    const { route, ratedAmps, mainsVolts, loadWatts, seller, lot } = from.records.arrive.data
    await writeRecord(c, row.id, 'arrive', {
      ...emptyRecord('arrive'),
      route,
      ratedAmps,
      mainsVolts,
      loadWatts,
      seller,
      lot,
    })
    await c.tell({
      kind: 'unit-created',
      unitId: row.id,
      boardId: from.board.id,
      sentence: `${two(row.number)} arrived: ${row.name}, another ${from.board.name}`,
    })
    return { id: row.id, number: row.number }
  },
)

const takeInHand = command(z.object({ unitId: id }), async (c, { unitId }) => {
  const { unit } = await holdUnit(c, unitId)
  if (unit.ended) throw new Refused('ended', `Unit ${two(unit.number)} is given up.`, 'Take it up again first.')
  for (const other of await c.live('unit', eq(schema.unit.inHand, true)))
    if (other.id !== unitId) await c.update('unit', other.id, null, { inHand: false })
  await c.update('unit', unitId, null, { inHand: true })
  await c.tell({ kind: 'taken-in-hand', unitId, sentence: `${two(unit.number)} taken in hand` })
  return {}
})

const putBack = command(z.object({ unitId: id }), async (c, { unitId }) => {
  const { unit } = await holdUnit(c, unitId)
  await c.update('unit', unitId, null, { inHand: false })
  await c.tell({ kind: 'put-back', unitId, sentence: `${two(unit.number)} put back` })
  return {}
})

/** Saves the fields of a record that a person changed; the others stay as they are. */
const saveStep = command(
  z.object({ unitId: id, step: stepId, version, data: z.record(z.string(), z.unknown()) }),
  async (c, { unitId, step, version: seen, data }) => {
    const on = await holdUnit(c, unitId)
    const held = heldRecord(on, step)
    refuseStale(held, seen)
    const record = parseRecord(step, { ...held.data, ...data })
    const saved = await writeRecord(c, unitId, step, record)
    const clauses = changeClauses(step, held.data, record)
    const begins = `${two(on.unit.number)} ${stepOf(step).title}: `
    await c.tell({
      kind: 'step-edited',
      unitId,
      step,
      sentence: `${begins}${clausesInWords(clauses)}`,
      typing: `${begins}${clauses[0] ? `${clauses[0].subject}: ` : ''}`,
    })
    return { version: saved, updatedAt: c.now.toISOString() }
  },
)

/** Puts a record aside that this version cannot read, so that the step can be done; the old one is kept. */
const beginAnew = command(
  z.object({ unitId: id, step: stepId, version }),
  async (c, { unitId, step, version: seen }) => {
    const on = await holdUnit(c, unitId)
    const raw = rawRecord(on.bundle, step)
    if (!raw) throw new Refused('gone', 'There is no such record.', 'Reload the page.')
    if (readRaw(step, raw).ok)
      throw new Refused('readable', 'This record can be read: nothing was put aside.', 'Reload the page.')
    await c.tx
      .insert(schema.asideRecord)
      .values({ unitId, step, shape: raw.row.shape, data: raw.data, why: 'could not be read', by: c.by, at: c.now })
    if (raw.row.version !== seen) throw new StaleWrite(null)
    const { stepRecord } = schema
    for (const row of await c.live('stepRecord', and(eq(stepRecord.unitId, unitId), eq(stepRecord.step, step))))
      await c.strike('stepRecord', row.id)
    await c.tell({
      kind: 'record-aside',
      unitId,
      step,
      sentence: `${two(on.unit.number)} ${stepOf(step).title}: a record that cannot be read was put aside, and begun anew`,
    })
    return {}
  },
)

/** How a step was settled, with what it rested on. */
function doneMark(c: Change, view: UnitView, step: StepId): DoneMark {
  const facts = factsOfUnit(view)
  const decided =
    (step === 'identify' && view.records.identify.data.decision !== null) ||
    (step === 'backup' && view.records.backup.data.skip !== null && backupOf(view).state !== 'verified')
  const family = familyOf(view)
  return {
    at: c.now.toISOString(),
    by: c.by,
    how: decided ? 'decided' : 'done',
    basis: Object.fromEntries(stepOf(step).restsOn.map((f) => [f, facts[f]])),
    // An unsplit ARM968 counts for no marking: a wrong B would cost an A its loader.
    ...(step === 'identify' && family && family.verdict !== 'arm968_unsplit' ? { family: family.family } : {}),
  }
}

const shortList = (items: readonly string[]) => items.slice(0, 3).join(' ')

function doneSentence(view: UnitView, step: StepId): string {
  const facts = factsOfUnit(view)
  const words: Partial<Record<StepId, string>> = {
    identify: `family ${facts.family}`,
    prove: 'in service',
    write: 'written',
    name: `named ${view.name}`,
    join: `found at ${facts.address}`,
  }
  return `${two(view.number)} ${words[step] ?? `${stepOf(step).title.toLowerCase()} done`}`
}

const finishStep = command(
  /** The version of the record that was on screen: a save in between is looked at first. */
  z.object({ unitId: id, step: stepId, version: version.nullable().default(null) }),
  async (c, { unitId, step, version: seen }) => {
    const on = await holdUnit(c, unitId)
    const view = unitView(on, c.now)
    if (view.ended)
      throw new Refused(
        'ended',
        `Unit ${two(view.number)} is given up.`,
        'Take it up again: then its steps can be finished.',
      )
    const missing = conditionsOf(view, step).filter((x) => !x.met)
    if (missing.length > 0)
      throw new Refused(
        'not-yet',
        `${stepOf(step).title} isn’t done yet. ${shortList(missing.map((m) => m.text))}`,
        shortList(missing.map((m) => m.next)),
      )
    await markDone(c, on, step, seen, doneMark(c, view, step))
    if (view.board)
      for (const { key, value } of learnedFrom(view, step))
        await c.insert('boardFact', { boardId: view.board.id, key, value, unitId, step, at: c.now })
    if (step === 'prove') await c.update('unit', unitId, null, { inService: true, inHand: false })
    await c.tell({
      kind: 'step-done',
      unitId,
      boardId: view.board?.id ?? null,
      step,
      sentence: doneSentence(view, step),
    })
    return {}
  },
)

const reopenStep = command(
  z.object({ unitId: id, step: stepId, version: version.nullable().default(null) }),
  async (c, { unitId, step, version: seen }) => {
    const on = await holdUnit(c, unitId)
    await markDone(c, on, step, seen, null)
    if (step === 'prove') await c.update('unit', unitId, null, { inService: false })
    // What comes after may find the unit in another state: its gates are asked again.
    await clearGates(c, unitId, gateIds, 'reopened')
    await c.tell({
      kind: 'step-reopened',
      unitId,
      step,
      sentence: `${two(on.unit.number)} ${stepOf(step).title} reopened`,
    })
    return {}
  },
)

const addEvidence = command(
  z.object({ unitId: id, kind: z.string().max(40), value: z.string().max(40) }),
  async (c, { unitId, kind, value }) => {
    const on = await holdUnit(c, unitId)
    const held = heldRecord(on, 'identify')
    const evidence = [...held.data.evidence.filter((e) => e.kind !== kind), { kind, value }]
    const checked = identify({ evidence })
    if (!checked.ok) throw new BadInput(checked.faults)
    await writeRecord(c, unitId, 'identify', { ...held.data, evidence })
    await c.tell({
      kind: 'evidence-added',
      unitId,
      step: 'identify',
      sentence: `${two(on.unit.number)} evidence: ${kind.replaceAll('_', ' ')} ${value.replaceAll('_', ' ')}`,
    })
    return {}
  },
)

const lethalVolts = 30

/** A discharge is confirmed by what the meter showed, and never above 30 V. */
function refuseCharged(measured: string): void {
  if (measured.trim() === '')
    throw new Refused(
      'measure-first',
      'A discharge is confirmed by what the meter showed.',
      'Measure across the capacitors and the plug pins, and write the volts down.',
    )
  const volts = Number(measured.trim().replace(',', '.'))
  if (!(volts >= 0))
    throw new Refused(
      'measure-first',
      `“${measured}” is no reading in volts.`,
      'Write down what the meter showed, as a number. A minus sign means the probes are the wrong way round.',
    )
  if (volts > lethalVolts)
    throw new Refused(
      'still-charged',
      `${measured} V is above 30 V: stay off.`,
      'Wait again, then measure again. Never short a capacitor with a tool.',
    )
}

/** The discharge clock runs from "unplugged"; whoever ends it early says so, and has measured below 30 V. */
function refuseEarly(view: UnitView, measured: string, early: boolean, now: Date): void {
  const clock = dischargeClock(view)
  if (!clock)
    throw new Refused(
      'unplug-first',
      'The discharge clock runs from “unplugged”, and nobody has confirmed that today.',
      'Confirm that it is unplugged first.',
    )
  const left = Math.ceil((Date.parse(clock.over) - now.getTime()) / 1000)
  if (left <= 0) return
  if (early && Number(measured.trim().replace(',', '.')) < lethalVolts) return
  throw new Refused(
    'wait',
    `The discharge clock runs another ${left} s.`,
    'Wait, or confirm early with a reading below 30 V across each capacitor and the plug pins.',
  )
}

const mostMilliamps = 2000

/** The limit that stands on the supply, as a number. */
function refuseNoLimit(measured: string): void {
  const milliamps = Number(measured.trim().replace(',', '.'))
  if (measured.trim() === '' || !(milliamps > 0) || milliamps > mostMilliamps)
    throw new Refused(
      'limit-first',
      `A current limit is written down in mA, above 0 and at most ${mostMilliamps}.`,
      'Set the limit on the bench supply and write it down.',
    )
}

/** Mains only with the case closed: what is still out keeps this gate shut, whatever anybody says. */
function refuseOpenCase(view: UnitView): void {
  const open = closeFindings(view)[0]
  if (open) throw new Refused(open.code, open.message, open.next)
}

/** After soldering, power waits for the meter: a bad reading forbids it, and at Close an unmeasured joint does too. */
function refuseUnmeasured(view: UnitView, gate: GateId): void {
  const bad = refitStop(view)
  if (bad) throw new Refused(bad.code, bad.message, bad.next)
  // What was closed before this was asked stays closed.
  const due =
    gate === 'case-closed' && !view.records.close.done ? refitConditions(view, 'close').find((x) => !x.met) : null
  if (due) throw new Refused('not-measured', due.text, due.next)
}

/** Confirming one state ends the opposite one: serial and mains are never together. */
const endedBy: Record<GateId, readonly GateId[]> = {
  'case-closed': ['mains-off', 'discharged', 'current-limit', 'case-closed'],
  'mains-off': ['case-closed', 'mains-off'],
  discharged: ['discharged'],
  'current-limit': ['current-limit'],
  licensed: ['licensed'],
}

const confirmGate = command(
  z.object({
    unitId: id,
    gate: z.enum(gateIds),
    measured: z.string().max(200).default(''),
    early: z.boolean().default(false),
  }),
  async (c, { unitId, gate, measured, early }) => {
    const view = await viewOf(c, unitId)
    if (gate === 'discharged') {
      refuseCharged(measured)
      refuseEarly(view, measured, early, c.now)
    }
    if (gate === 'current-limit') refuseNoLimit(measured)
    if (gate === 'case-closed') refuseOpenCase(view)
    if (gate === 'case-closed' || gate === 'current-limit') refuseUnmeasured(view, gate)
    await clearGates(c, unitId, endedBy[gate], 'opposite')
    await c.insert('gate', { unitId, gate, day: localDay(c.now), measured, by: c.by, at: c.now })
    await c.tell({
      kind: 'gate-confirmed',
      unitId,
      sentence: `${two(view.number)} gate confirmed: ${gate.replace('-', ' ')}${measured ? `, ${measured} ${gate === 'discharged' ? 'V' : 'mA'}` : ''}${early ? ', before the clock was over' : ''}`,
    })
    return {}
  },
)

export const unitCommands = {
  'create-unit': createUnit,
  'edit-unit': editUnit,
  'another-unit': anotherUnit,
  'take-in-hand': takeInHand,
  'put-back': putBack,
  'save-step': saveStep,
  'begin-anew': beginAnew,
  'finish-step': finishStep,
  'reopen-step': reopenStep,
  'add-evidence': addEvidence,
  'confirm-gate': confirmGate,
}
