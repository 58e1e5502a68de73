import { plainlySomethingElse } from '@fresh-coat/core/bytes/what-it-is'
import { largestFile } from '@fresh-coat/core/image/inspect'
import { pictureSize } from '@fresh-coat/core/photo/dimensions'
import { flashBytesOf, readOnceForGood } from '@fresh-coat/core/steps/backup/facts'
import { familyOf } from '@fresh-coat/core/steps/identify/facts'
import type { UnitView } from '@fresh-coat/core/unit/view'
import { and, eq, isNull } from 'drizzle-orm'
import { z } from 'zod'
import { wiredAs } from '../attempts/commands'
import { type Change, change, type Touched } from '../db/change'
import type { Db } from '../db/client'
import { two } from '../db/day'
import { type CommandResult, Refused, refusalOf } from '../db/fault'
import { id } from '../db/fields'
import * as schema from '../db/schema'
import { person } from '../person'
import { clearGates } from '../units/gates'
import { loadUnit } from '../units/load'
import { viewOf } from '../units/one'
import { keepBlob, sha256Of } from './blobs'
import { sameImage } from './commands'
import { inspectBytes } from './inspect'

/** Takes files in: inspected here again, whatever the browser said, and stored whole or not at all. */

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
  /** The rate of a read, where whatever read it says so. */
  baud: z.coerce.number().int().min(300).max(4_000_000).optional(),
  /** What read it, as the row of the attempt calls it. */
  tool: z.string().trim().max(80).optional(),
})
export type Upload = z.output<typeof Upload>

/** A base name that can stand in a folder and a manifest: no separators, nothing invisible or that turns text round, no leading hyphen. */
export const safeFileName = (text: string): string =>
  text
    .replace(/[\p{Cc}\p{Cf}\p{Zl}\p{Zp}/\\]/gu, '_')
    .replace(/^-+/, '')
    .trim() || 'file.bin'

const refuse = (code: string, message: string, next: string): CommandResult => ({
  ok: false,
  error: { code, message, kept: 'Nothing was stored.', next },
})

function refusePhoto(bytes: Uint8Array): CommandResult | null {
  const size = pictureSize(bytes)
  if (size === null)
    return refuse(
      'no-photo',
      'This is no picture that can be shown (JPEG, PNG or WebP), or it breaks off at its start.',
      'Save it as JPEG and choose it again.',
    )
  if (size.width === 0 || size.height === 0)
    return refuse('no-photo', 'This picture has no pixels.', 'Take it again; the camera may have been interrupted.')
  return null
}

/** What can be said against a file before anything is read of its unit. */
function refuseFile(upload: Upload, bytes: Uint8Array): CommandResult | null {
  const limit = upload.kind === 'photo' ? largestPhoto : largestFile
  if (bytes.length === 0) return refuse('empty-file', 'The file is empty.', 'Choose it again; perhaps it was cut off.')
  if (bytes.length > limit)
    return refuse(
      'too-large',
      `This file has ${bytes.length} bytes; at most ${limit / 1048576} MiB are taken.`,
      'Choose a smaller file.',
    )
  if (upload.kind === 'dump' && upload.unitId === null)
    return refuse('no-unit', 'A read of a chip belongs to a unit.', 'Open the unit and drop it there.')
  if (upload.kind === 'photo') return refusePhoto(bytes)
  const other = plainlySomethingElse(bytes)
  return other
    ? refuse(
        'not-a-chip-file',
        `This is ${other}, not ${upload.kind === 'dump' ? 'a read of a chip' : 'firmware'}.`,
        upload.kind === 'dump'
          ? 'Choose the file that your tool read from the chip.'
          : 'Choose the image itself; unpack an archive first.',
      )
    : null
}

/** What an inspection goes by: the family and size on record. */
async function inspectionOptions(db: Db, unitId: string | null, now: Date) {
  const view = unitId ? await loadUnit(db, unitId, now) : null
  if (unitId && !view) throw new Refused('no-unit', 'There is no such unit.', 'Go back to Units.')
  const family = view ? (familyOf(view)?.family ?? null) : null
  return { family: family === 'OTHER' ? null : family, flashBytes: view ? flashBytesOf(view) : null }
}

/** A chip that was written in the run that read it has nothing left to be read a second time. */
function refuseOverwritten(view: UnitView): void {
  if (readOnceForGood(view))
    throw new Refused(
      'overwritten',
      'The chip was written in the run that read it: a second read would be of another firmware.',
      'Say at Back up that it was not one run, if that is so; else compare the one read with a twin.',
    )
}

/** A newer read takes the place of the older one, which stays in the vault, put aside. */
async function putOlderAside(c: Change, unitId: string, read: number): Promise<void> {
  const { file } = schema
  const older = await c.live(
    'file',
    and(eq(file.unitId, unitId), eq(file.kind, 'dump'), eq(file.read, read), isNull(file.asideAt)),
  )
  for (const row of older) await c.update('file', row.id, null, { asideAt: c.now })
}

/** A file that came is a read that worked: without it, only failures would count. */
async function noteRead(
  c: Change,
  view: UnitView,
  about: { sha256: string; name: string; bytes: number },
  { baud, tool }: Pick<Upload, 'baud' | 'tool'>,
) {
  await c.insert('attempt', {
    unitId: view.id,
    boardId: view.board?.id ?? null,
    at: c.now,
    data: {
      ...wiredAs(c.by, view),
      action: 'read',
      outcome: 'done',
      // At which rate it was read, a file alone does not say.
      baud: baud ?? 0,
      ...(tool ? { tool } : {}),
      minutes: 0,
      verify: 'none',
      verified: false,
      message: '',
      sha256: about.sha256,
      fileName: about.name,
      firmware: '',
      bytes: about.bytes,
    },
  })
}

const sentenceOf = (upload: Upload, view: UnitView | null, name: string, held: boolean): string => {
  const what =
    upload.kind === 'dump'
      ? `read ${upload.read ?? 1} of the chip ${held ? 'kept' : 'noted, its bytes stay on your disk'}`
      : `${upload.kind} kept`
  return `${view ? `${two(view.number)} ` : ''}${what}: ${name}`
}

interface Looked {
  sha256: string
  inspection: object | null
}

async function store(c: Change, upload: Upload, bytes: Uint8Array, looked: Looked): Promise<Record<string, unknown>> {
  const view = upload.unitId ? await viewOf(c, upload.unitId) : null
  const held = upload.kind !== 'dump' || upload.keep !== 'no'
  await keepBlob(c.tx, bytes, { held, sha256: looked.sha256 })
  const read = upload.kind === 'dump' ? (upload.read ?? 1) : null
  if (view && read === 2) refuseOverwritten(view)
  if (view && read !== null) await putOlderAside(c, view.id, read)
  const same = upload.kind === 'image' ? await sameImage(c, looked.sha256) : null
  if (same) return { id: same.id, sha256: same.sha256, known: same.name, inspection: same.inspection as object }
  const { keep: _, ...about } = upload
  const row = await c.insert('file', {
    ...about,
    name: safeFileName(upload.name),
    read,
    sha256: looked.sha256,
    inspection: looked.inspection,
    createdAt: c.now,
  })
  if (view && read !== null) {
    await noteRead(c, view, { sha256: looked.sha256, name: row.name, bytes: bytes.length }, upload)
    await clearGates(c, view.id, ['mains-off'], 'attempt')
  }
  await c.tell({ kind: 'file-kept', unitId: upload.unitId, sentence: sentenceOf(upload, view, row.name, held) })
  return { id: row.id, ...looked }
}

export async function keepFile(
  db: Db,
  upload: Upload,
  bytes: Uint8Array,
  now = new Date(),
): Promise<CommandResult & { touched?: Touched }> {
  const against = refuseFile(upload, bytes)
  if (against) return against
  try {
    const options = await inspectionOptions(db, upload.unitId, now)
    // Hashed and looked into once, before anything is locked.
    const sha256 = sha256Of(bytes)
    const inspection = upload.kind === 'photo' ? null : await inspectBytes(upload.kind, bytes, options, sha256)
    const done = await change(db, person(), now, (c) => store(c, upload, bytes, { sha256, inspection }))
    return { ok: true, value: done.value, touched: done.touched }
  } catch (thrown) {
    const refused = refusalOf(thrown)
    if (!refused) throw thrown
    return refused
  }
}
