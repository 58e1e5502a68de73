import type { GivenPart, SetPart } from '@fresh-coat/core/image/set'
import { flashBytesOf } from '@fresh-coat/core/steps/backup/facts'
import { familyOf } from '@fresh-coat/core/steps/identify/facts'
import type { UnitFile, UnitView } from '@fresh-coat/core/unit/view'
import { z } from 'zod'
import type { Source } from '../db/client'
import { command } from '../db/command'
import { two } from '../db/day'
import { Refused } from '../db/fault'
import { id, version } from '../db/fields'
import { unitView } from '../units/load'
import { holdUnit } from '../units/one'
import { heldRecord, refuseStale, writeRecord } from '../units/save'
import { keepBlob, readBlob } from './blobs'
import { sameImage } from './commands'
import { inspectBytes, judgeFiles } from './inspect'
import { filesByIds } from './reads'

/** Several files of the vault that go into a chip together. */

/** A file of the set and the flash address it goes to. */
export const Parts = z
  .array(z.object({ fileId: id, offset: z.number().int().min(0).max(0xffffffff) }))
  .min(2)
  .max(16)
export type Parts = z.output<typeof Parts>

const largestSet = 64 * 1024 * 1024

async function partsFrom(source: Source, parts: Parts) {
  const files = await filesByIds(
    source,
    parts.map((p) => p.fileId),
  )
  const chosen = parts.map(({ fileId, offset }): { file: UnitFile; offset: number } => {
    const file = files.find((f) => f.id === fileId && f.kind === 'image')
    if (!file) throw new Refused('gone', 'A file of the set is not in the vault any more.', 'Choose it again.')
    return { file, offset }
  })
  if (chosen.reduce((n, { file }) => n + file.bytes, 0) > largestSet)
    throw new Refused('too-large', 'Together these files are larger than any chip in use.', 'Leave one of them out.')
  const read: GivenPart[] = []
  // One after the other: a transaction has one line to the database.
  for (const { file, offset } of chosen)
    read.push({ file: file.name, offset, sha256: file.sha256, bytes: await readBlob(source, file.sha256) })
  return read
}

const chipOf = (view: UnitView) => ({ family: familyOf(view)?.family ?? 'OTHER', flashBytes: flashBytesOf(view) })

/** What is said of a set for the chip of a unit. Nothing is stored. */
export async function judgeSetFor(source: Source, view: UnitView, parts: Parts) {
  const { content: _, ...judged } = await judgeFiles(await partsFrom(source, parts), chipOf(view))
  return judged
}

const mergedName = (parts: readonly SetPart[], number: number): string => `unit${two(number)}-${parts.length}-files.bin`

/** "loader.bin at 0x0, table.bin at 0x8000" */
const originOf = (parts: readonly SetPart[]): string =>
  parts
    .map((p) => `${p.file} at 0x${p.offset.toString(16).toUpperCase()}`)
    .join(', ')
    .slice(0, 300)

/** Makes one file of the set at Check, keeps it, and chooses it. */
const mergeSet = command(z.object({ unitId: id, version }), async (c, { unitId, version: seen }) => {
  const on = await holdUnit(c, unitId)
  const view = unitView(on, c.now)
  const held = heldRecord(on, 'check')
  refuseStale(held, seen)
  const given = Parts.safeParse(held.data.set)
  if (!given.success)
    throw new Refused('not-placed', 'Nobody has said where each file goes.', 'Give every file its offset.')
  const { content, parts, findings } = await judgeFiles(await partsFrom(c.tx, given.data), chipOf(view))
  const against = findings.find((f) => f.severity === 'error')
  if (!content || against)
    throw new Refused(
      against?.code ?? 'overlap',
      against?.message ?? 'Two of the files lie on each other.',
      against?.next || 'Correct the set first.',
    )
  const sha256 = await keepBlob(c.tx, content)
  const [described] = (
    await filesByIds(
      c.tx,
      given.data.map((p) => p.fileId),
    )
  ).filter((f) => f.firmware)
  const file =
    (await sameImage(c, sha256)) ??
    (await c.insert('file', {
      kind: 'image',
      name: mergedName(parts, view.number),
      sha256,
      inspection: await inspectBytes('image', content, {}, sha256),
      origin: originOf(parts),
      firmware: described?.firmware ?? '',
      release: described?.release ?? '',
      createdAt: c.now,
    }))
  await writeRecord(c, unitId, 'check', {
    ...held.data,
    fileId: file.id,
    offset: 0,
    answered: [],
    eraseAll: true,
    ...(file.firmware && { firmware: file.firmware, firmwareVersion: file.release.split('/')[0] ?? '' }),
  })
  await c.tell({
    kind: 'set-merged',
    unitId,
    step: 'check',
    sentence: `${two(view.number)} one file made of ${parts.length}: ${file.name}`,
  })
  return { id: file.id, name: file.name }
})

export const setCommands = { 'merge-set': mergeSet }
