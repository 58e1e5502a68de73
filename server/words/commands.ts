import { families } from '@fresh-coat/core/families/families'
import {
  attemptFrom,
  kindName,
  lackedOf,
  mayTake,
  offersOf,
  recordsWith,
  sureMarkings,
  type TakenRecords,
  valueWords,
} from '@fresh-coat/core/paste/offer'
import { pasteKinds, readPaste } from '@fresh-coat/core/paste/paste'
import type { UnitView } from '@fresh-coat/core/unit/view'
import { stepOf } from '@fresh-coat/core/unit/way'
import { z } from 'zod'
import type { Change } from '../db/change'
import { command } from '../db/command'
import { two } from '../db/day'
import { BadInput, Refused } from '../db/fault'
import { id, stepId } from '../db/fields'
import { keepBlob } from '../files/blobs'
import { markings } from '../kit/reads'
import type { Bundled } from '../units/bundle'
import { unitView } from '../units/load'
import { holdUnit } from '../units/one'
import { heldRecord, parseRecord, writeRecord } from '../units/save'

/** A long log has thousands of offsets: the text is kept, the list of what it says is short. */
const mostFacts = 40

const name = z.string().trim().max(80)
const Kept = z.object({
  unitId: id,
  step: stepId,
  text: z.string(),
  tool: name.default(''),
  system: name.default(''),
  /** Facts to take, as they were offered: what the text does not say cannot be taken from it. */
  take: z
    .array(z.object({ kind: z.enum(pasteKinds), value: z.union([z.string(), z.number()]) }))
    .max(20)
    .default([]),
})
type Taken = z.output<typeof Kept>['take']

/** What is taken has to stand in the text, and be something a step keeps. */
function checkTaken(view: UnitView, offers: ReturnType<typeof offersOf>, take: Taken): void {
  for (const { kind, value } of take) {
    const offer = offers.find((o) => o.kind === kind && o.value === value)
    if (!offer || !(mayTake(offer) || offer.state === 'same'))
      throw new Refused(
        'not-in-text',
        `${kindName(kind)} ${valueWords({ kind, value })} cannot be taken from this text.`,
        'Look at the facts that are marked in it.',
      )
    if (offer.at !== 'attempt' && view.records[offer.at].done && offer.state === 'differs')
      throw new Refused(
        'done-already',
        `${stepOf(offer.at).title} is done with another value: ${offer.has}.`,
        'Reopen it first, if the text is right.',
      )
  }
}

async function writeTaken(c: Change, on: Bundled, changes: TakenRecords): Promise<void> {
  for (const [step, patch] of Object.entries(changes) as [keyof TakenRecords, object][])
    await writeRecord(c, on.unit.id, step, parseRecord(step, { ...heldRecord(on, step).data, ...patch }) as never)
}

/** Keeps what a tool printed, and takes facts from it into the steps that want them. */
const keepWords = command(Kept, async (c, input) => {
  const on = await holdUnit(c, input.unitId)
  const view = unitView(on, c.now)
  const read = readPaste({ text: input.text, markings: sureMarkings(await markings(c.tx), view.number) })
  if (!read.ok) throw new BadInput(read.faults)
  const offers = offersOf(view, read.value)
  checkTaken(view, offers, input.take)
  await writeTaken(c, on, recordsWith(view, input.take))
  const { facts, outcome } = read.value
  const row = await c.insert('toolWords', {
    unitId: view.id,
    step: input.step,
    sha256: await keepBlob(c.tx, new TextEncoder().encode(input.text)),
    tool: input.tool,
    system: input.system,
    reading: { facts: facts.slice(0, mostFacts), outcome, attempt: attemptFrom(read.value, input.text) },
    taken: [...new Set(input.take.map((t) => t.kind))],
    by: c.by,
    at: c.now,
  })
  const taken = input.take.map((t) => `${kindName(t.kind).toLowerCase()} ${valueWords(t)}`).join(', ')
  await c.tell({
    kind: 'words-kept',
    unitId: view.id,
    step: input.step,
    sentence: `${two(view.number)} a tool’s words kept${taken ? `; taken from them: ${taken}` : ''}`,
  })
  return { id: row.id }
})

const Said = z.object({
  unitId: id,
  step: stepId,
  mac: z
    .string()
    .regex(/^([0-9a-f]{2}:){5}[0-9a-f]{2}$/)
    .nullable(),
  flashId: z
    .string()
    .regex(/^[0-9a-f]{6}$/)
    .nullable(),
  crystalMHz: z.union([z.literal(26), z.literal(40)]).nullable(),
  family: z.enum(families).nullable(),
})

/** What the chip said over the link lands where it is wanted: only what nobody has said yet. */
const noteIdentity = command(Said, async (c, { unitId, step, ...says }) => {
  const on = await holdUnit(c, unitId)
  const view = unitView(on, c.now)
  const lacked = lackedOf(view, says)
  if (lacked.length === 0) return {}
  await writeTaken(c, on, recordsWith(view, lacked))
  const words = lacked.map((t) => `${kindName(t.kind).toLowerCase()} ${valueWords(t)}`).join(', ')
  await c.tell({ kind: 'identity-noted', unitId, step, sentence: `${two(view.number)} the chip says: ${words}` })
  return {}
})

export const wordsCommands = { 'keep-words': keepWords, 'note-identity': noteIdentity }
