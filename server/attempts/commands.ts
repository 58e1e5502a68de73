import { imageMode } from '@fresh-coat/core/image/inspect'
import { backupOf, flashBytesOf, restoreOf } from '@fresh-coat/core/steps/backup/facts'
import { firmwareChosen, writeOffsetOf } from '@fresh-coat/core/steps/check/facts'
import { padsOf } from '@fresh-coat/core/steps/pads/facts'
import { causeSays, symptomNames, symptoms, testNamed } from '@fresh-coat/core/trouble/troubleshoot'
import { gateHolds, gatesFor } from '@fresh-coat/core/unit/gates'
import { attemptActions, attemptOutcomes, type UnitView } from '@fresh-coat/core/unit/view'
import { eq } from 'drizzle-orm'
import { z } from 'zod'
import type { Change } from '../db/change'
import { command } from '../db/command'
import { two } from '../db/day'
import { Refused } from '../db/fault'
import { id, stepId } from '../db/fields'
import * as schema from '../db/schema'
import { clearGates } from '../units/gates'
import { unitView } from '../units/load'
import { holdUnit, viewOf } from '../units/one'
import { twins } from '../units/page'
import { heldRecord, writeRecord } from '../units/save'
import { dropJournal } from './journal'
import { attemptData, type StoredAttempt } from './stored'

/** How a unit is wired as an attempt is logged: filled in, so that logging takes five seconds. */
export function wiredAs(
  by: string,
  view: UnitView,
): Pick<StoredAttempt, 'by' | 'adapter' | 'entry' | 'power' | 'route' | 'logicV' | 'pads' | 'held'> {
  const { power, held, entry } = view.records.wire.data
  return {
    by,
    route: view.route,
    adapter: view.adapter?.name ?? '',
    logicV: view.adapter?.logicV ?? null,
    entry: entry ?? view.board?.entry ?? null,
    power,
    pads: padsOf(view).pads,
    held,
  }
}

const Logged = z.object({
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
  /** By hand, with whatever tool, it is; a bridge over the network cannot tell. */
  real: z.boolean().nullable().default(true),
  /** As a person calls the tool, and the system it ran on. */
  tool: z.string().trim().max(80).default(''),
  system: z.string().trim().max(80).default(''),
  /** The tool's words that tell of it. */
  wordsId: id.nullable().default(null),
  /** The kept stock firmware was written back instead of an image: this unit’s own, or that of another one of its board. */
  restored: z
    .object({ fromUnit: z.number().int().min(0).nullable() })
    .nullable()
    .default(null),
})
type Logged = z.output<typeof Logged>

/** Reading and putting back are done at Back up. */
const stepOfAttempt = ({ action, restored }: Logged) => (action === 'read' || restored ? 'backup' : 'write')

function refuseLog(view: UnitView, input: Logged): void {
  if (input.real === false)
    throw new Refused(
      'virtual',
      'That was a virtual chip: it changes nothing of a unit.',
      'Practice has a room of its own.',
    )
  if (input.wordsId !== null && !view.words.some((w) => w.id === input.wordsId))
    throw new Refused('gone', 'The tool’s words were taken back.', 'Reload the page, and log the attempt without them.')
  const step = stepOfAttempt(input)
  if (gatesFor(view, step).some((g) => !gateHolds(view, g)))
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
}

/** The files of a set that was written one by one; nothing where the image went in as it is. */
function writtenParts({ records }: UnitView): Pick<StoredAttempt, 'parts'> {
  const { set } = records.check.data
  if (!records.write.data.byParts || set.length < 2) return {}
  return {
    parts: set.flatMap(({ name, offset, bytes, sha256 }) => (offset === null ? [] : [{ name, offset, bytes, sha256 }])),
  }
}

/** The copy that went back, which the restore plan has to allow. */
async function restoredAs(c: Change, view: UnitView, { fromUnit }: NonNullable<Logged['restored']>) {
  const twin = fromUnit === null ? null : ((await twins(c.tx, view)).find((t) => t.number === fromUnit) ?? null)
  const plan = restoreOf(view, twin)
  const file = twin?.file ?? backupOf(view).first
  if (!plan.allowed || !file || (fromUnit !== null && !twin))
    throw new Refused('no-backup', 'There is no copy that may be put back.', 'See what speaks against it at Back up.')
  return {
    sha256: file.sha256,
    fileName: file.name,
    firmware: 'stock firmware',
    bytes: plan.bytes,
    offset: plan.offset,
    mode: null,
    erase: 'regions' as const,
  }
}

/** What was read or written, as it stands in the record at this moment. */
async function attemptOf(c: Change, view: UnitView, { unitId: _, restored, ...input }: Logged): Promise<StoredAttempt> {
  if (restored && input.action === 'write')
    return { ...input, ...wiredAs(c.by, view), baud: input.baud ?? 0, ...(await restoredAs(c, view, restored)) }
  if (input.action === 'read')
    return {
      ...wiredAs(c.by, view),
      ...input,
      baud: input.baud ?? 0,
      sha256: '',
      fileName: '',
      firmware: '',
      bytes: flashBytesOf(view) ?? 0,
    }
  if (!view.image) throw new Refused('no-image', 'No image is chosen.', 'Choose one at Check the image.')
  return {
    ...input,
    ...wiredAs(c.by, view),
    baud: view.records.check.data.baud,
    sha256: view.image.sha256,
    fileName: view.image.name,
    firmware: firmwareChosen(view),
    bytes: view.image.bytes,
    offset: writeOffsetOf(view),
    mode: imageMode(view.image.inspection),
    erase: view.records.check.data.eraseAll ? 'chip' : 'regions',
    ...writtenParts(view),
  }
}

function attemptSentence(view: UnitView, input: Logged): string {
  const how = input.outcome.replace('-', ' ')
  const written = input.outcome === 'done' ? (input.verified ? `equal by ${input.verify}` : 'not checked') : how
  if (input.restored) return `${two(view.number)} stock firmware put back: ${written}, ${input.minutes} min`
  return `${two(view.number)} ${input.action} ${input.action === 'read' ? how : written}, ${input.minutes} min`
}

const logAttempt = command(Logged, async (c, input) => {
  const on = await holdUnit(c, input.unitId)
  const view = unitView(on, c.now)
  refuseLog(view, input)
  const row = await c.insert('attempt', {
    unitId: view.id,
    boardId: view.board?.id ?? null,
    at: c.now,
    data: await attemptOf(c, view, input),
  })
  if (stepOfAttempt(input) === 'write') {
    const held = heldRecord(on, 'write')
    if (held.version === null) await writeRecord(c, view.id, 'write', held.data)
  }
  // A write that is done leaves nothing half written, whatever tool did it.
  if (input.action === 'write' && input.outcome === 'done') await dropJournal(c.tx, view.id)
  await clearGates(c, view.id, ['mains-off'], 'attempt')
  await c.tell({
    kind: 'attempt-logged',
    unitId: view.id,
    step: stepOfAttempt(input),
    sentence: attemptSentence(view, input),
  })
  return { id: row.id }
})

const annotateAttempt = command(
  z.object({ attemptId: id, text: z.string().trim().min(1).max(1000) }),
  async (c, { attemptId, text }) => {
    const [row] = await c.live('attempt', eq(schema.attempt.id, attemptId))
    if (!row) throw new Refused('gone', 'There is no such attempt.', 'Reload the page.')
    const { unit } = await holdUnit(c, row.unitId)
    const data = attemptData(row.data)
    const note = { at: c.now.toISOString(), by: c.by, text }
    await c.update('attempt', attemptId, row.version, { data: { ...data, notes: [...(data.notes ?? []), note] } })
    await c.tell({
      kind: 'attempt-annotated',
      unitId: row.unitId,
      step: data.action === 'read' ? 'backup' : 'write',
      sentence: `${two(unit.number)} noted on an attempt: ${text.slice(0, 80)}`,
    })
    return { id: row.id }
  },
)

async function troubleRow(c: Change, troubleId: string) {
  const [row] = await c.live('trouble', eq(schema.trouble.id, troubleId))
  if (!row) throw new Refused('gone', 'There is no such search any more.', 'Reload the page.')
  return { row, unit: (await holdUnit(c, row.unitId)).unit }
}

const openTrouble = command(
  z.object({ unitId: id, step: stepId, symptom: z.enum(symptomNames as [string, ...string[]]) }),
  async (c, { unitId, step, symptom }) => {
    const view = await viewOf(c, unitId)
    const last = view.attempts[0]
    const row = await c.insert('trouble', {
      unitId,
      boardId: view.board?.id ?? null,
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
)

const answerTrouble = command(
  z.object({ troubleId: id, test: z.string().max(40), yes: z.boolean().nullable() }),
  async (c, { troubleId, test, yes }) => {
    const { row, unit } = await troubleRow(c, troubleId)
    const asked = testNamed(test)
    if (!asked) throw new Refused('unknown-test', 'There is no such question.', 'Reload the page.')
    if (row.closedAt) throw new Refused('closed', 'This search is closed: its cause was found.', 'Open a new one.')
    const kept = (row.answers as { test: string; yes: boolean }[]).filter((a) => a.test !== test)
    await c.update('trouble', troubleId, null, { answers: yes === null ? kept : [...kept, { test, yes }] })
    await c.tell({
      kind: 'trouble-answered',
      unitId: row.unitId,
      step: row.step,
      sentence: `${two(unit.number)} ${asked.ask} ${yes === null ? 'taken back' : yes ? 'Yes' : 'No'}`,
    })
    return {}
  },
)

const closeTrouble = command(
  z.object({ troubleId: id, cause: z.string().max(40), note: z.string().max(1000).default('') }),
  async (c, { troubleId, cause, note }) => {
    const { row, unit } = await troubleRow(c, troubleId)
    const known = cause === 'other' || causeSays(cause) !== cause
    if (!known) throw new Refused('unknown-cause', 'There is no such cause.', 'Choose one from the list, or “other”.')
    if (cause === 'other' && note.trim().length < 5)
      throw new Refused('no-note', 'Another cause wants a few words.', 'Say what it was.')
    await c.update('trouble', troubleId, null, { cause, note, closedAt: c.now })
    await c.tell({
      kind: 'trouble-closed',
      unitId: row.unitId,
      boardId: unit.boardId,
      step: row.step,
      sentence: `${two(unit.number)} cause found: ${cause === 'other' ? note : causeSays(cause).toLowerCase()}`,
    })
    return {}
  },
)

export const attemptCommands = {
  'log-attempt': logAttempt,
  'annotate-attempt': annotateAttempt,
  'open-trouble': openTrouble,
  'answer-trouble': answerTrouble,
  'close-trouble': closeTrouble,
}
