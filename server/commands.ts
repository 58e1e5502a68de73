import { inspectDump } from '@fresh-coat/core/dump/inspect'
import { type Fault, parseInput, strictCodes } from '@fresh-coat/core/edge/fault'
import { families } from '@fresh-coat/core/families/families'
import { ProfileFields } from '@fresh-coat/core/flash/release'
import { identify } from '@fresh-coat/core/identify/identify'
import { markingKey } from '@fresh-coat/core/identify/markings'
import { flashModes } from '@fresh-coat/core/image/image'
import { type ImageInspection, inspectImage, largestFile } from '@fresh-coat/core/image/inspect'
import { patchedName, patchMode } from '@fresh-coat/core/image/patch'
import { learnedFrom } from '@fresh-coat/core/journey/board-learning'
import { closeFindings, conditionsOf, gateHolds, gatesFor } from '@fresh-coat/core/journey/conditions'
import {
  factsOfUnit,
  familyOf,
  firmwareChosen,
  firmwareOf,
  flashBytesOf,
  padsOf,
  writeOffsetOf,
} from '@fresh-coat/core/journey/facts'
import { readRecord, recordSchemas } from '@fresh-coat/core/journey/records'
import { gateIds, routes, type StepId, stepIds, stepOf } from '@fresh-coat/core/journey/steps'
import {
  type Attempt,
  attemptActions,
  attemptOutcomes,
  testDirections,
  type UnitView,
} from '@fresh-coat/core/journey/view'
import { fitMeter } from '@fresh-coat/core/metering/fit'
import { photoTags } from '@fresh-coat/core/open/opening'
import { pictureSize } from '@fresh-coat/core/photo/dimensions'
import { causeSays, symptomNames, symptoms, testNamed } from '@fresh-coat/core/trouble/troubleshoot'
import { and, eq, inArray, isNull } from 'drizzle-orm'
import { z } from 'zod'
import { keepBlob, NotHeld, readBlob, sha256Of } from './blobs'
import { type Change, change, Refused, StaleWrite, undoLast } from './changes'
import type { Db } from './db'
import * as schema from './schema'
import { seal, unseal } from './secrets'
import { loadShop, localDay } from './views'

/** Every change of the world goes through one of these: parsed at the door, one transaction, one event. */

const name = z.string().trim().min(1).max(120)
const unitNumber = z.number().int().min(1).max(9999)
const id = z.uuid()
const version = z.number().int().min(0)
const stepId = z.enum(stepIds)

const BoardFields = z.object({
  maker: name,
  product: name,
  revision: z.string().trim().max(60).default(''),
  mains: z.boolean().default(true),
  fixedWiring: z.boolean().default(false),
  hasMeter: z.boolean().default(false),
  inPackageFlash: z.boolean().default(false),
  note: z.string().max(4000).default(''),
})

const AdapterData = z.object({
  pins: z.array(z.string().trim().min(1).max(12)).min(1).max(20),
  logicV: z.number().min(1).max(24),
  max3v3Ma: z.number().positive().max(10_000).nullable(),
  labelledFrom: z.enum(['adapter', 'target']),
})
const InstrumentData = z.object({
  gainPct: z.number().min(0).max(50),
  digits: z.number().min(0).max(1000),
  resolution: z.number().min(0).max(1000),
})
const LoadData = z.object({
  watts: z.number().positive().max(100_000),
  kind: z.enum(['resistive', 'charger', 'motor', 'other']),
})
const FamilyCountsSchema = z.partialRecord(z.enum(families), z.number().int().min(0).max(100_000))
const kitData = { adapter: AdapterData, instrument: InstrumentData, load: LoadData }
const KitFields = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('adapter'), name, data: AdapterData }),
  z.object({ kind: z.literal('instrument'), name, data: InstrumentData }),
  z.object({ kind: z.literal('load'), name, data: LoadData }),
])

const inputs = {
  'create-unit': z.object({
    number: unitNumber,
    name,
    place: z.string().trim().max(120).default(''),
    boardId: id.nullable().default(null),
  }),
  'edit-unit': z.object({
    unitId: id,
    version,
    number: unitNumber.optional(),
    name: name.optional(),
    place: z.string().trim().max(120).optional(),
    boardId: id.nullable().optional(),
  }),
  'take-in-hand': z.object({ unitId: id }),
  'put-back': z.object({ unitId: id }),
  'create-board': BoardFields,
  'edit-board': BoardFields.partial().extend({ boardId: id, version }),
  'save-step': z.object({ unitId: id, step: stepId, version, data: z.unknown() }),
  'finish-step': z.object({ unitId: id, step: stepId }),
  'reopen-step': z.object({ unitId: id, step: stepId }),
  'confirm-gate': z.object({ unitId: id, gate: z.enum(gateIds), measured: z.string().max(200).default('') }),
  'log-attempt': z.object({
    unitId: id,
    action: z.enum(attemptActions).default('write'),
    outcome: z.enum(attemptOutcomes),
    minutes: z.number().min(0).max(10_000),
    verify: z.enum(['digest', 'readback', 'none']),
    verified: z.boolean(),
    message: z.string().max(4000).default(''),
    /** Rate of a read; writes go at the rate that was checked. */
    baud: z.number().int().min(300).max(4_000_000).optional(),
    seconds: z.number().min(0).max(100_000).nullable().default(null),
  }),
  'annotate-attempt': z.object({ attemptId: id, text: z.string().trim().min(1).max(1000) }),
  'patch-image': z.object({ fileId: id, mode: z.enum(flashModes) }),
  'describe-file': z.object({
    fileId: id,
    version,
    origin: z.string().trim().max(300),
    firmware: z.string().trim().max(60),
    release: z.string().trim().max(60),
  }),
  'reveal-bytes': z.object({ fileId: id, offset: z.number().int().min(0), length: z.number().int().min(1).max(4096) }),
  'add-profile': z.object({ name, data: ProfileFields }),
  'edit-profile': z.object({ profileId: id, version, name, data: ProfileFields }),
  'another-unit': z.object({ unitId: id, number: unitNumber, name, place: z.string().trim().max(120).default('') }),
  'add-evidence': z.object({ unitId: id, kind: z.string().max(40), value: z.string().max(40) }),
  'open-trouble': z.object({ unitId: id, step: stepId, symptom: z.enum(symptomNames as [string, ...string[]]) }),
  'answer-trouble': z.object({ troubleId: id, test: z.string().max(40), yes: z.boolean().nullable() }),
  'close-trouble': z.object({ troubleId: id, cause: z.string().max(40), note: z.string().max(1000).default('') }),
  'keep-marking': z.object({ text: z.string().trim().min(1).max(80), counts: FamilyCountsSchema }),
  'set-prior': z.object({ prior: z.partialRecord(z.enum(families), z.number().min(0).max(1)).nullable() }),
  'keep-practice': z.object({
    kind: z.enum(['rehearsal', 'pad hunt']),
    family: z.enum(families),
    score: z.number().int().min(0).max(100),
    data: z.record(z.string(), z.unknown()),
  }),
  'save-calibration': z.object({ unitId: id }),
  'add-hub-test': z.object({
    unitId: id,
    direction: z.enum(testDirections),
    ok: z.boolean(),
    seen: z.string().trim().min(1).max(500),
  }),
  'put-file-aside': z.object({ fileId: id }),
  'tag-photo': z.object({ fileId: id, tag: z.enum(photoTags) }),
  'add-kit': KitFields,
  'edit-kit': z.object({ kitId: id, version, name, data: z.unknown() }),
  'add-hub': z.object({ name }),
  'keep-secret': z.object({
    unitId: id,
    name,
    keptIn: z.string().trim().max(120).default(''),
    value: z.string().min(1).max(4000),
  }),
  'reveal-secret': z.object({ secretId: id }),
  'set-site': z.object({
    name,
    base: z.string().regex(/^[a-z0-9]+(-[a-z0-9]+)*$/),
    slug: z.string().regex(/^[a-z0-9]+(-[a-z0-9]+)*$/),
  }),
  undo: z.object({ unitId: id.nullable().default(null) }),
}
export type CommandName = keyof typeof inputs
type Input<N extends CommandName> = z.output<(typeof inputs)[N]>

export type CommandResult =
  | { ok: true; value: Record<string, unknown> }
  | {
      ok: false
      error: {
        code: string
        message: string
        kept: string
        next: string
        faults?: Fault[]
        current?: Record<string, unknown>
      }
    }

/** The bytes of a file that a command works on. */
async function bytesHeld(c: Change, sha256: string): Promise<Uint8Array> {
  try {
    return await readBlob(c.tx, sha256)
  } catch (cause) {
    if (!(cause instanceof NotHeld)) throw cause
    throw new Refused('not-held', cause.message, 'Choose the file again and have it kept here.')
  }
}

async function viewOf(c: Change, unitId: string): Promise<UnitView> {
  const found = (await loadShop(c.tx, c.now, false)).units.find((u) => u.id === unitId)
  if (!found) throw new Refused('no-unit', 'There is no such unit.', 'Go back to Units.')
  return found
}

const two = (n: number) => String(n).padStart(2, '0')
const shortList = (items: readonly string[]) => items.slice(0, 3).join(' ')

/** How a unit is wired as an attempt is logged: filled in, so that logging takes five seconds. */
function wiredAs(
  c: Change,
  view: UnitView,
): Pick<Attempt, 'by' | 'adapter' | 'entry' | 'power' | 'route' | 'logicV' | 'pads' | 'held'> {
  const { power, held, entry } = view.records.wire.data
  return {
    by: c.by,
    route: view.route,
    adapter: view.adapter?.name ?? '',
    logicV: view.adapter?.logicV ?? null,
    entry: entry ?? view.board?.entry ?? null,
    power,
    pads: padsOf(view).pads,
    held,
  }
}

async function clearGates(c: Change, unitId: string, which: readonly string[]): Promise<void> {
  const rows = await c.tx
    .select()
    .from(schema.gate)
    .where(and(eq(schema.gate.unitId, unitId), isNull(schema.gate.clearedAt), inArray(schema.gate.gate, [...which])))
  for (const row of rows) await c.update('gate', row.id, null, { clearedAt: c.now })
}

async function stepRow(c: Change, unitId: string, step: StepId) {
  const [row] = await c.tx
    .select()
    .from(schema.stepRecord)
    .where(and(eq(schema.stepRecord.unitId, unitId), eq(schema.stepRecord.step, step)))
  return row ?? null
}

/** The record row of a step, made from what is known when nobody has entered anything yet. */
async function ensureStepRow(c: Change, view: UnitView, step: StepId) {
  return (
    (await stepRow(c, view.id, step)) ??
    (await c.insert('stepRecord', { unitId: view.id, step, data: view.records[step].data, updatedAt: c.now }))
  )
}

async function troubleRow(c: Change, troubleId: string) {
  const [row] = await c.tx.select().from(schema.trouble).where(eq(schema.trouble.id, troubleId))
  if (!row) throw new Refused('gone', 'There is no such search any more.', 'Reload the page.')
  return row
}
async function numberOf(c: Change, unitId: string): Promise<string> {
  const [row] = await c.tx.select().from(schema.unit).where(eq(schema.unit.id, unitId))
  return two(row?.number ?? 0)
}

type Handler<N extends CommandName> = (c: Change, input: Input<N>) => Promise<Record<string, unknown>>

const handlers: { [N in Exclude<CommandName, 'undo'>]: Handler<N> } = {
  'create-unit': async (c, input) => {
    const [taken] = await c.tx.select().from(schema.unit).where(eq(schema.unit.number, input.number))
    if (taken)
      throw new Refused(
        'number-taken',
        `Number ${two(input.number)} is on another case: ${taken.name}.`,
        'Choose a free number.',
      )
    const row = await c.insert('unit', input)
    await c.tell({ kind: 'unit-created', unitId: row.id, sentence: `${two(row.number)} arrived: ${row.name}` })
    return { id: row.id, number: row.number }
  },
  'edit-unit': async (c, { unitId, version: seen, ...patch }) => {
    if (patch.number !== undefined) {
      const [taken] = await c.tx.select().from(schema.unit).where(eq(schema.unit.number, patch.number))
      if (taken && taken.id !== unitId)
        throw new Refused(
          'number-taken',
          `Number ${two(patch.number)} is on another case: ${taken.name}.`,
          'Choose a free number.',
        )
    }
    const row = await c.update('unit', unitId, seen, patch)
    await c.tell({
      kind: 'unit-edited',
      unitId,
      sentence: `${two(row.number)} is now ${row.name}${row.place ? `, ${row.place}` : ''}`,
    })
    return { version: row.version }
  },
  'take-in-hand': async (c, { unitId }) => {
    const others = await c.tx.select().from(schema.unit).where(eq(schema.unit.inHand, true))
    for (const other of others) if (other.id !== unitId) await c.update('unit', other.id, null, { inHand: false })
    const row = await c.update('unit', unitId, null, { inHand: true })
    await c.tell({ kind: 'taken-in-hand', unitId, sentence: `${two(row.number)} taken in hand` })
    return {}
  },
  'put-back': async (c, { unitId }) => {
    const row = await c.update('unit', unitId, null, { inHand: false })
    await c.tell({ kind: 'put-back', unitId, sentence: `${two(row.number)} put back` })
    return {}
  },
  'create-board': async (c, input) => {
    const [same] = await c.tx
      .select()
      .from(schema.board)
      .where(
        and(
          eq(schema.board.maker, input.maker),
          eq(schema.board.product, input.product),
          eq(schema.board.revision, input.revision),
        ),
      )
    if (same)
      throw new Refused(
        'board-exists',
        'This board is known already.',
        'Choose it from the list, or name another revision.',
      )
    const row = await c.insert('board', input)
    await c.tell({
      kind: 'board-created',
      boardId: row.id,
      sentence: `new board: ${row.maker} ${row.product} ${row.revision}`.trim(),
    })
    return { id: row.id }
  },
  'edit-board': async (c, { boardId, version: seen, ...patch }) => {
    const row = await c.update('board', boardId, seen, patch)
    await c.tell({ kind: 'board-edited', boardId, sentence: `board ${row.product} ${row.revision} edited` })
    return { version: row.version }
  },
  'save-step': async (c, { unitId, step, version: seen, data }) => {
    const parsed = parseInput(recordSchemas[step], data, strictCodes)
    if (!parsed.ok) throw new BadRecord(parsed.faults)
    const row = await stepRow(c, unitId, step)
    if (!row && seen > 0) throw new Refused('gone', 'This record was undone in the meantime.', 'Reload the page.')
    if (row && seen === 0) throw new StaleWrite(row as unknown as Record<string, unknown>)
    const saved = row
      ? await c.update('stepRecord', row.id, seen, { data: parsed.value, updatedAt: c.now })
      : await c.insert('stepRecord', { unitId, step, data: parsed.value, updatedAt: c.now })
    const [unitRow] = await c.tx.select().from(schema.unit).where(eq(schema.unit.id, unitId))
    await c.tell({
      kind: 'step-edited',
      unitId,
      step,
      sentence: `${two(unitRow?.number ?? 0)} ${stepOf(step).title}: notes changed`,
    })
    return { version: saved.version }
  },
  'finish-step': async (c, { unitId, step }) => {
    const before = await viewOf(c, unitId)
    const missing = conditionsOf(before, step).filter((x) => !x.met)
    if (missing.length > 0)
      throw new Refused(
        'not-yet',
        `${stepOf(step).title} isn’t done yet. ${shortList(missing.map((m) => m.text))}`,
        shortList(missing.map((m) => m.next)),
      )
    const row = await ensureStepRow(c, before, step)
    const facts = factsOfUnit(before)
    const decided =
      (step === 'identify' && before.records.identify.data.decision !== null) ||
      (step === 'backup' && before.records.backup.data.skip !== null)
    const done = {
      at: c.now.toISOString(),
      by: c.by,
      how: decided ? 'decided' : 'done',
      basis: Object.fromEntries(stepOf(step).restsOn.map((f) => [f, facts[f]])),
      // An unsplit ARM968 counts for no marking: a wrong B would cost an A its loader.
      ...(step === 'identify' && familyOf(before)?.verdict !== 'arm968_unsplit'
        ? { family: familyOf(before)?.family }
        : {}),
    }
    await c.update('stepRecord', row.id, null, { done })
    if (before.board)
      for (const fact of learnedFrom(before, step))
        await c.insert('boardFact', {
          boardId: before.board.id,
          key: fact.key,
          value: fact.value,
          unitId,
          step,
          at: c.now,
        })
    if (step === 'prove') await c.update('unit', unitId, null, { inService: true, inHand: false })
    const words: Partial<Record<StepId, string>> = {
      identify: `family ${facts.family}`,
      prove: 'in service',
      write: 'written',
      name: `named ${before.name}`,
      join: `found at ${facts.address}`,
    }
    await c.tell({
      kind: 'step-done',
      unitId,
      boardId: before.board?.id ?? null,
      step,
      sentence: `${two(before.number)} ${words[step] ?? `${stepOf(step).title.toLowerCase()} done`}`,
    })
    return {}
  },
  'reopen-step': async (c, { unitId, step }) => {
    const view = await viewOf(c, unitId)
    const row = await ensureStepRow(c, view, step)
    await c.update('stepRecord', row.id, null, { done: null })
    if (step === 'prove') await c.update('unit', unitId, null, { inService: false })
    // What comes after may find the unit in another state: its gates are asked again.
    await clearGates(c, unitId, gateIds)
    await c.tell({
      kind: 'step-reopened',
      unitId,
      step,
      sentence: `${two(view.number)} ${stepOf(step).title} reopened`,
    })
    return {}
  },
  'confirm-gate': async (c, { unitId, gate, measured }) => {
    const view = await viewOf(c, unitId)
    if (gate === 'discharged' && measured.trim() === '')
      throw new Refused(
        'measure-first',
        'A discharge is confirmed by what the meter showed.',
        'Measure across the capacitors and the plug pins, and write the volts down.',
      )
    const volts = Number(measured.trim().replace(',', '.'))
    if (gate === 'discharged' && !(volts >= 0))
      throw new Refused(
        'measure-first',
        `“${measured}” is no reading in volts.`,
        'Write down what the meter showed, as a number. A minus sign means the probes are the wrong way round.',
      )
    if (gate === 'discharged' && volts > 30)
      throw new Refused(
        'still-charged',
        `${measured} V is above 30 V: stay off.`,
        'Wait again, then measure again. Never short a capacitor with a tool.',
      )
    // Mains only with the case closed: what is still out keeps this gate shut, whatever anybody says.
    const opened = view.route !== null && !routes[view.route].skips.includes('open')
    const open = gate === 'case-closed' && opened ? closeFindings(view)[0] : undefined
    if (open) throw new Refused(open.code, open.message, open.next)
    // Serial and mains are never together: confirming one state ends the other.
    await clearGates(
      c,
      unitId,
      gate === 'case-closed'
        ? ['mains-off', 'discharged', 'case-closed']
        : gate === 'mains-off'
          ? ['case-closed', 'mains-off']
          : [gate],
    )
    await c.insert('gate', { unitId, gate, day: localDay(c.now), measured, by: c.by, at: c.now })
    await c.tell({
      kind: 'gate-confirmed',
      unitId,
      sentence: `${two(view.number)} gate confirmed: ${gate.replace('-', ' ')}${measured ? `, ${measured}` : ''}`,
    })
    return {}
  },
  'log-attempt': async (c, { unitId, ...input }) => {
    const view = await viewOf(c, unitId)
    const step = input.action === 'read' ? 'backup' : 'write'
    const open = gatesFor(view, step).find((g) => !gateHolds(view, g))
    if (open)
      throw new Refused(
        'gate-open',
        `The gate in front of ${input.action === 'read' ? 'reading' : 'writing'} is not confirmed today.`,
        'Confirm that the unit is off the mains.',
      )
    if (input.outcome === 'done' && input.verified && input.verify === 'none')
      throw new Refused(
        'not-verified',
        'Without a digest or a read-back nothing was verified.',
        'Choose how it was checked.',
      )
    if (input.action === 'read') {
      const row = await c.insert('attempt', {
        unitId,
        at: c.now,
        data: {
          ...wiredAs(c, view),
          ...input,
          baud: input.baud ?? 0,
          sha256: '',
          fileName: '',
          firmware: '',
          bytes: flashBytesOf(view) ?? 0,
        },
      })
      await clearGates(c, unitId, ['mains-off'])
      await c.tell({
        kind: 'attempt-logged',
        unitId,
        step: 'backup',
        sentence: `${two(view.number)} read ${input.outcome.replace('-', ' ')}, ${input.minutes} min`,
      })
      return { id: row.id }
    }
    if (!view.image) throw new Refused('no-image', 'No image is chosen.', 'Choose one at Check the image.')
    const row = await c.insert('attempt', {
      unitId,
      at: c.now,
      data: {
        ...input,
        ...wiredAs(c, view),
        baud: view.records.check.data.baud,
        sha256: view.image.sha256,
        fileName: view.image.name,
        firmware: firmwareChosen(view),
        bytes: view.image.bytes,
        offset: writeOffsetOf(view),
        mode: (view.image.inspection as ImageInspection | null)?.images[0]?.mode ?? null,
        erase: view.records.check.data.eraseAll ? 'chip' : 'regions',
      },
    })
    await ensureStepRow(c, view, 'write')
    await clearGates(c, unitId, ['mains-off'])
    await c.tell({
      kind: 'attempt-logged',
      unitId,
      step: 'write',
      sentence: `${two(view.number)} write ${input.outcome === 'done' ? (input.verified ? `equal by ${input.verify}` : 'not checked') : input.outcome.replace('-', ' ')}, ${input.minutes} min`,
    })
    return { id: row.id }
  },
  'annotate-attempt': async (c, { attemptId, text }) => {
    const [row] = await c.tx.select().from(schema.attempt).where(eq(schema.attempt.id, attemptId))
    if (!row) throw new Refused('gone', 'There is no such attempt.', 'Reload the page.')
    const data = row.data as Attempt
    const note = { at: c.now.toISOString(), by: c.by, text }
    await c.update('attempt', attemptId, row.version, { data: { ...data, notes: [...(data.notes ?? []), note] } })
    await c.tell({
      kind: 'attempt-annotated',
      unitId: row.unitId,
      step: data.action === 'read' ? 'backup' : 'write',
      sentence: `${await numberOf(c, row.unitId)} noted on an attempt: ${text.slice(0, 80)}`,
    })
    return { id: row.id }
  },
  'another-unit': async (c, { unitId, ...input }) => {
    const from = await viewOf(c, unitId)
    if (!from.board)
      throw new Refused(
        'no-board',
        'Its board is not named yet, so there is nothing to fill in.',
        'Name the board first.',
      )
    const [taken] = await c.tx.select().from(schema.unit).where(eq(schema.unit.number, input.number))
    if (taken)
      throw new Refused(
        'number-taken',
        `Number ${two(input.number)} is on another case: ${taken.name}.`,
        'Choose a free number.',
      )
    const row = await c.insert('unit', { ...input, boardId: from.board.id })
    // The same way as the one before; whether it works as sold is this unit's own answer.
    const { route, ratedAmps, mainsVolts, loadWatts } = from.records.arrive.data
    const data = { ...readRecord('arrive', {}), route, ratedAmps, mainsVolts, loadWatts }
    await c.insert('stepRecord', { unitId: row.id, step: 'arrive', data, updatedAt: c.now })
    await c.tell({
      kind: 'unit-created',
      unitId: row.id,
      boardId: from.board.id,
      sentence: `${two(row.number)} arrived: ${row.name}, another ${from.board.name}`,
    })
    return { id: row.id, number: row.number }
  },
  'add-evidence': async (c, { unitId, kind, value }) => {
    const view = await viewOf(c, unitId)
    const evidence = [...view.records.identify.data.evidence.filter((e) => e.kind !== kind), { kind, value }]
    const checked = identify({ evidence })
    if (!checked.ok) throw new BadRecord(checked.faults)
    const row = await ensureStepRow(c, view, 'identify')
    await c.update('stepRecord', row.id, null, {
      data: { ...view.records.identify.data, evidence },
      updatedAt: c.now,
    })
    await c.tell({
      kind: 'evidence-added',
      unitId,
      step: 'identify',
      sentence: `${two(view.number)} evidence: ${kind.replaceAll('_', ' ')} ${value.replaceAll('_', ' ')}`,
    })
    return {}
  },
  'open-trouble': async (c, { unitId, step, symptom }) => {
    const view = await viewOf(c, unitId)
    const last = view.attempts[0]
    const row = await c.insert('trouble', {
      unitId,
      step,
      symptom,
      openedAt: c.now,
      // What went wrong at writing is evidence on that attempt.
      attemptId: step === 'write' && last && last.outcome !== 'done' ? last.id : null,
    })
    await c.tell({
      kind: 'trouble-opened',
      unitId,
      step,
      sentence: `${two(view.number)} trouble: ${(symptoms.find((x) => x.symptom === symptom)?.says ?? symptom).toLowerCase()}`,
    })
    return { id: row.id }
  },
  'answer-trouble': async (c, { troubleId, test, yes }) => {
    const row = await troubleRow(c, troubleId)
    const asked = testNamed(test)
    if (!asked) throw new Refused('unknown-test', 'There is no such question.', 'Reload the page.')
    if (row.closedAt) throw new Refused('closed', 'This search is closed: its cause was found.', 'Open a new one.')
    const kept = (row.answers as { test: string; yes: boolean }[]).filter((a) => a.test !== test)
    await c.update('trouble', troubleId, null, { answers: yes === null ? kept : [...kept, { test, yes }] })
    await c.tell({
      kind: 'trouble-answered',
      unitId: row.unitId,
      step: row.step,
      sentence: `${await numberOf(c, row.unitId)} ${asked.ask} ${yes === null ? 'taken back' : yes ? 'Yes' : 'No'}`,
    })
    return {}
  },
  'close-trouble': async (c, { troubleId, cause, note }) => {
    const row = await troubleRow(c, troubleId)
    const known = cause === 'other' || causeSays(cause) !== cause
    if (!known) throw new Refused('unknown-cause', 'There is no such cause.', 'Choose one from the list, or “other”.')
    if (cause === 'other' && note.trim().length < 5)
      throw new Refused('no-note', 'Another cause wants a few words.', 'Say what it was.')
    await c.update('trouble', troubleId, null, { cause, note, closedAt: c.now })
    const [unit] = await c.tx.select().from(schema.unit).where(eq(schema.unit.id, row.unitId))
    await c.tell({
      kind: 'trouble-closed',
      unitId: row.unitId,
      boardId: unit?.boardId ?? null,
      step: row.step,
      sentence: `${two(unit?.number ?? 0)} cause found: ${cause === 'other' ? note : causeSays(cause).toLowerCase()}`,
    })
    return {}
  },
  'keep-marking': async (c, { text, counts }) => {
    const key = markingKey(text)
    if (key === '')
      throw new Refused('no-marking', 'There is no letter or digit in this marking.', 'Type it as printed.')
    const [row] = await c.tx.select().from(schema.marking).where(eq(schema.marking.key, key))
    if (row) await c.update('marking', row.id, null, { counts })
    else await c.insert('marking', { key, text, counts })
    await c.tell({ kind: 'marking-kept', sentence: `marking ${text}: counts entered` })
    return {}
  },
  'set-prior': async (c, { prior }) => {
    if (prior) {
      const checked = identify({ evidence: [], prior })
      if (!checked.ok) throw new BadRecord(checked.faults)
      await c.tx
        .insert(schema.setting)
        .values({ key: 'prior', value: prior })
        .onConflictDoUpdate({ target: schema.setting.key, set: { value: prior } })
    } else await c.tx.delete(schema.setting).where(eq(schema.setting.key, 'prior'))
    await c.tell({
      kind: 'prior-set',
      sentence: prior ? 'chances before any evidence: entered' : 'chances before any evidence: as shipped',
    })
    return {}
  },
  'keep-practice': async (c, { data, ...input }) => {
    // No event: practice never appears in the history of real work.
    const [row] = await c.tx
      .insert(schema.practice)
      .values({ ...input, data, at: c.now })
      .returning()
    return { id: row?.id }
  },
  'save-calibration': async (c, { unitId }) => {
    const view = await viewOf(c, unitId)
    const m = view.records.meter.data
    const [instrument] = m.instrumentId
      ? await c.tx.select().from(schema.kit).where(eq(schema.kit.id, m.instrumentId))
      : []
    if (!instrument)
      throw new Refused('no-instrument', 'No reference meter is chosen.', 'Choose one, or add it under Meters.')
    const points = m.points.flatMap((p) =>
      p.indicated === null || p.reference === null ? [] : [{ ...p, indicated: p.indicated, reference: p.reference }],
    )
    const input = {
      quantity: m.quantity,
      reference: InstrumentData.parse(instrument.data),
      indicatedResolution: m.indicatedResolution,
      points,
      load: { kind: m.loadKind, warm: m.warm },
      limits: { pct: m.limitPct, abs: m.limitAbs },
      zeroReadings: m.zeros,
      model: m.model,
      date: localDay(c.now),
      recheckMonths: m.recheckMonths,
    }
    const fit = fitMeter(input)
    if (!fit.ok)
      throw new Refused('no-fit', fit.faults[0]?.message ?? 'These points cannot be fitted.', 'Correct the points.')
    const row = await c.insert('calibration', {
      unitId,
      input,
      result: fit.value,
      firmware: firmwareOf(view),
      at: c.now,
    })
    const worst = Math.max(...fit.value.points.map((p) => Math.abs(p.errAfterPct ?? 0)))
    await c.tell({
      kind: 'calibrated',
      unitId,
      step: 'meter',
      sentence: `${two(view.number)} meter fitted, worst point ${worst.toFixed(2)} %`,
    })
    return { id: row.id }
  },
  'add-hub-test': async (c, { unitId, ...input }) => {
    const view = await viewOf(c, unitId)
    const hubId = view.records.hub.data.hubId
    if (!hubId) throw new Refused('no-hub', 'No hub is chosen.', 'Choose the hub first.')
    const facts = factsOfUnit(view)
    await c.insert('hubTest', {
      unitId,
      hubId,
      ...input,
      basis: Object.fromEntries(stepOf('hub').restsOn.map((f) => [f, facts[f]])),
      by: c.by,
      at: c.now,
    })
    await c.tell({
      kind: 'hub-tested',
      unitId,
      step: 'hub',
      sentence: `${two(view.number)} ${input.direction}: ${input.ok ? 'seen' : 'failed'}`,
    })
    return {}
  },
  'tag-photo': async (c, { fileId, tag }) => {
    const row = await c.update('file', fileId, null, { tag })
    await c.tell({
      kind: 'photo-tagged',
      unitId: row.unitId,
      sentence: `photo ${row.name} shows: ${tag.replaceAll('_', ' ')}`,
    })
    return {}
  },
  'patch-image': async (c, { fileId, mode }) => {
    const [source] = await c.tx.select().from(schema.file).where(eq(schema.file.id, fileId))
    if (source?.kind !== 'image') throw new Refused('gone', 'There is no such image.', 'Go back to Images.')
    const bytes = await bytesHeld(c, source.sha256)
    const patched = patchMode(bytes, mode, source.sha256)
    if (!patched.bytes) {
      const why = patched.findings[0]
      throw new Refused(
        why?.code ?? 'not-patched',
        why?.message ?? 'Nothing was patched.',
        why?.next || 'Choose another mode.',
      )
    }
    const sha256 = await keepBlob(c.tx, patched.bytes)
    const [same] = await c.tx
      .select()
      .from(schema.file)
      .where(and(eq(schema.file.sha256, sha256), eq(schema.file.kind, 'image'), isNull(schema.file.asideAt)))
    if (same) return { id: same.id, name: same.name, known: true }
    const row = await c.insert('file', {
      kind: 'image',
      name: patchedName(source.name, mode),
      sha256,
      inspection: inspectImage(patched.bytes, {}, { sha256, digest: sha256Of }),
      sourceId: source.id,
      origin: `${source.name}, mode ${patched.from} to ${mode}`,
      firmware: source.firmware,
      release: source.release,
      createdAt: c.now,
    })
    await c.tell({
      kind: 'image-patched',
      sentence: `${row.name} made from ${source.name}: mode ${patched.from} to ${mode}`,
    })
    return { id: row.id, name: row.name, known: false }
  },
  'describe-file': async (c, { fileId, version: seen, ...patch }) => {
    const row = await c.update('file', fileId, seen, patch)
    await c.tell({ kind: 'file-described', unitId: row.unitId, sentence: `${row.name}: where it came from is noted` })
    return { version: row.version }
  },
  'reveal-bytes': async (c, { fileId, offset, length }) => {
    const [row] = await c.tx.select().from(schema.file).where(eq(schema.file.id, fileId))
    if (!row) throw new Refused('gone', 'There is no such file.', 'Go back to Images.')
    const bytes = await bytesHeld(c, row.sha256)
    await c.tell({
      kind: 'bytes-revealed',
      unitId: row.unitId,
      sentence: `${row.name}: ${length} bytes at 0x${offset.toString(16).toUpperCase()} shown unmasked`,
    })
    return { hex: Buffer.from(bytes.subarray(offset, offset + length)).toString('hex') }
  },
  'add-profile': async (c, input) => {
    const row = await c.insert('profile', input)
    await c.tell({ kind: 'profile-added', sentence: `firmware added: ${row.name}` })
    return { id: row.id }
  },
  'edit-profile': async (c, { profileId, version: seen, ...patch }) => {
    const row = await c.update('profile', profileId, seen, patch)
    await c.tell({ kind: 'profile-edited', sentence: `firmware ${row.name} edited` })
    return { version: row.version }
  },
  'put-file-aside': async (c, { fileId }) => {
    const row = await c.update('file', fileId, null, { asideAt: c.now })
    await c.tell({ kind: 'file-put-aside', unitId: row.unitId, sentence: `${row.name} put aside` })
    return {}
  },
  'add-kit': async (c, input) => {
    const row = await c.insert('kit', input)
    await c.tell({ kind: 'kit-added', sentence: `${row.kind} added: ${row.name}` })
    return { id: row.id }
  },
  'edit-kit': async (c, { kitId, version: seen, name: newName, data }) => {
    const [row] = await c.tx.select().from(schema.kit).where(eq(schema.kit.id, kitId))
    if (!row) throw new Refused('gone', 'It is not in the kit any more.', 'Reload the page.')
    const parsed = parseInput(kitData[row.kind as keyof typeof kitData], data, strictCodes)
    if (!parsed.ok) throw new BadRecord(parsed.faults)
    const saved = await c.update('kit', kitId, seen, { name: newName, data: parsed.value })
    await c.tell({ kind: 'kit-edited', sentence: `${row.kind} edited: ${newName}` })
    return { version: saved.version }
  },
  'add-hub': async (c, input) => {
    const row = await c.insert('hub', input)
    await c.tell({ kind: 'hub-added', sentence: `hub added: ${row.name}` })
    return { id: row.id }
  },
  'keep-secret': async (c, { value, ...input }) => {
    const row = await c.insert('secret', { ...input, ...seal(value) })
    await c.tell({ kind: 'secret-kept', unitId: input.unitId, sentence: `secret kept: ${input.name}` })
    return { id: row.id }
  },
  'reveal-secret': async (c, { secretId }) => {
    const [row] = await c.tx.select().from(schema.secret).where(eq(schema.secret.id, secretId))
    if (!row) throw new Refused('gone', 'There is no such secret.')
    await c.tell({ kind: 'secret-revealed', unitId: row.unitId, sentence: `secret shown: ${row.name}` })
    return { value: unseal(row) }
  },
  'set-site': async (c, input) => {
    await c.tx
      .insert(schema.setting)
      .values({ key: 'site', value: input })
      .onConflictDoUpdate({ target: schema.setting.key, set: { value: input } })
    await c.tell({ kind: 'site-set', sentence: `site is ${input.name}` })
    return {}
  },
}

class BadRecord extends Error {
  constructor(readonly faults: Fault[]) {
    super('bad record')
  }
}

export const isCommand = (text: string): text is CommandName => Object.hasOwn(inputs, text)
const person = () => process.env.FRESH_COAT_PERSON ?? 'bench'

const nothingKept = 'Nothing was changed. What you typed is still on the page.'

/**
 * Carries out one command, or says why not. Only a bug of ours, or a lost database, throws.
 * @param now the moment it happens: the demo tells a story that began months ago
 */
export async function runCommand(
  db: Db,
  command: CommandName,
  input: unknown,
  now = new Date(),
): Promise<CommandResult> {
  const parsed = parseInput(inputs[command] as z.ZodType<Input<CommandName>>, input, strictCodes)
  if (!parsed.ok) return badInput(parsed.faults)
  try {
    if (command === 'undo')
      return { ok: true, value: { undone: await undoLast(db, person(), (parsed.value as Input<'undo'>).unitId) } }
    const handler = handlers[command] as Handler<CommandName>
    return { ok: true, value: await change(db, person(), now, (c) => handler(c, parsed.value)) }
  } catch (thrown) {
    if (thrown instanceof BadRecord) return badInput(thrown.faults)
    if (thrown instanceof Refused)
      return { ok: false, error: { code: thrown.code, message: thrown.message, kept: nothingKept, next: thrown.next } }
    if (thrown instanceof StaleWrite)
      return {
        ok: false,
        error: {
          code: 'stale',
          message: 'Somebody changed this in the meantime, perhaps you in another tab.',
          kept: 'Both versions are here; nothing is lost.',
          next: 'Choose which one to keep.',
          current: thrown.current,
        },
      }
    if (uniqueViolation(thrown))
      return {
        ok: false,
        error: {
          code: 'stale',
          message: 'Somebody saved the same thing a moment ago.',
          kept: nothingKept,
          next: 'Reload the page and look.',
        },
      }
    throw thrown
  }
}

const badInput = (faults: Fault[]): CommandResult => ({
  ok: false,
  error: {
    code: 'input',
    message: faults[0]?.message ?? 'The input is not understood.',
    kept: nothingKept,
    next: 'Correct the field.',
    faults,
  },
})

function uniqueViolation(thrown: unknown): boolean {
  const cause = thrown instanceof Error ? ((thrown.cause ?? thrown) as { code?: string }) : {}
  return cause.code === '23505'
}

export const largestPhoto = 8 * 1024 * 1024
export const Upload = z.object({
  kind: z.enum(['dump', 'image', 'photo']),
  name: z.string().trim().min(1).max(200),
  unitId: id.nullable().default(null),
  read: z
    .union([z.literal(1), z.literal(2)])
    .nullable()
    .default(null),
  tag: z.string().max(60).nullable().default(null),
  /** "no" for a dump that stays on the person's disk: it is looked at, and its bytes are not kept. */
  keep: z.enum(['yes', 'no']).optional(),
})
export type Upload = z.output<typeof Upload>

/** A base name that can stand in a folder and a manifest: no separators, no control characters, no leading hyphen. */
export const safeFileName = (text: string): string =>
  text
    .replace(/[\p{Cc}/\\]/gu, '_')
    .replace(/^-+/, '')
    .trim() || 'file.bin'

/** Keeps an uploaded file: inspected here again, whatever the browser said, and stored whole or not at all. */
export async function keepFile(db: Db, upload: Upload, bytes: Uint8Array, now = new Date()): Promise<CommandResult> {
  const refuse = (code: string, message: string, next: string): CommandResult => ({
    ok: false,
    error: { code, message, kept: 'Nothing was stored.', next },
  })
  const limit = upload.kind === 'photo' ? largestPhoto : largestFile
  if (bytes.length === 0) return refuse('empty-file', 'The file is empty.', 'Choose it again; perhaps it was cut off.')
  if (bytes.length > limit)
    return refuse(
      'too-large',
      `This file has ${bytes.length} bytes; at most ${limit / 1048576} MiB are taken.`,
      'Choose a smaller file.',
    )
  if (upload.kind === 'photo') {
    const size = pictureSize(bytes)
    if (size === null)
      return refuse(
        'no-photo',
        'This is no picture that can be shown (JPEG, PNG or WebP), or it breaks off at its start.',
        'Save it as JPEG and choose it again.',
      )
    if (size.width === 0 || size.height === 0)
      return refuse('no-photo', 'This picture has no pixels.', 'Take it again; the camera may have been interrupted.')
  }
  if (upload.kind === 'dump' && upload.unitId === null)
    return refuse('no-unit', 'A read of a chip belongs to a unit.', 'Open the unit and drop it there.')
  return change(db, person(), now, async (c): Promise<CommandResult> => {
    const view = upload.unitId ? await viewOf(c, upload.unitId) : null
    const family = view ? (familyOf(view)?.family ?? null) : null
    const options = { family: family === 'OTHER' ? null : family, flashBytes: view ? flashBytesOf(view) : null }
    const sha256 = sha256Of(bytes)
    const inspection =
      upload.kind === 'dump'
        ? inspectDump(bytes, options, { sha256, digest: sha256Of })
        : upload.kind === 'image'
          ? inspectImage(bytes, {}, { sha256, digest: sha256Of })
          : null
    const held = upload.kind !== 'dump' || upload.keep !== 'no'
    await keepBlob(c.tx, bytes, held)
    if (upload.kind === 'dump') {
      // A newer read takes the place of the older one, which stays in the vault, put aside.
      const older = await c.tx
        .select()
        .from(schema.file)
        .where(
          and(
            eq(schema.file.unitId, upload.unitId as string),
            eq(schema.file.kind, 'dump'),
            eq(schema.file.read, upload.read ?? 1),
            isNull(schema.file.asideAt),
          ),
        )
      for (const row of older) await c.update('file', row.id, null, { asideAt: c.now })
    }
    if (upload.kind === 'image') {
      const [same] = await c.tx
        .select()
        .from(schema.file)
        .where(and(eq(schema.file.sha256, sha256), eq(schema.file.kind, 'image'), isNull(schema.file.asideAt)))
      if (same)
        return { ok: true, value: { id: same.id, sha256, known: same.name, inspection: same.inspection as object } }
    }
    const { keep: _, ...about } = upload
    const row = await c.insert('file', {
      ...about,
      name: safeFileName(upload.name),
      read: upload.kind === 'dump' ? (upload.read ?? 1) : null,
      sha256,
      inspection,
      createdAt: c.now,
    })
    // A file that came is a read that worked: without it, only failures would count.
    if (upload.kind === 'dump' && view)
      await c.insert('attempt', {
        unitId: view.id,
        at: c.now,
        data: {
          ...wiredAs(c, view),
          action: 'read',
          outcome: 'done',
          // At which rate it was read, a file does not say.
          baud: 0,
          minutes: 0,
          verify: 'none',
          verified: false,
          message: '',
          sha256,
          fileName: row.name,
          firmware: '',
          bytes: bytes.length,
        },
      })
    const what =
      upload.kind === 'dump'
        ? `read ${row.read} of the chip ${held ? 'kept' : 'noted, its bytes stay on your disk'}`
        : `${upload.kind} kept`
    await c.tell({
      kind: 'file-kept',
      unitId: upload.unitId,
      sentence: `${view ? `${two(view.number)} ` : ''}${what}: ${row.name}`,
    })
    return { ok: true, value: { id: row.id, sha256, inspection: inspection as object | null } }
  })
}
