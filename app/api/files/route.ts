import { largestFile } from '@fresh-coat/core/image/inspect'
import { isStepId } from '@fresh-coat/core/unit/way'
import { refuse as answer, answerFault } from '@/server/db/answer'
import { database } from '@/server/db/client'
import { statusOf } from '@/server/db/fault'
import { foreignOrigin } from '@/server/db/guard'
import { takeIn } from '@/server/files/incoming'
import { keepFile, largestPhoto, Upload } from '@/server/files/keep'
import { unitParts } from '@/server/units/parts'

const refuse = (status: number, code: string, message: string, next: string) =>
  answer(status, code, message, next, 'Nothing was stored.')

/** Takes one file: its bytes as the body, what it is in the query. Stored whole or not at all. */
export async function PUT(request: Request) {
  if (foreignOrigin(request))
    return refuse(403, 'origin', 'This request came from another page.', 'Use the page of Fresh Coat itself.')
  const query = Object.fromEntries(new URL(request.url).searchParams)
  const parsed = Upload.safeParse({
    ...query,
    read: query.read ? Number(query.read) : null,
    unitId: query.unitId ?? null,
    tag: query.tag ?? null,
  })
  if (!parsed.success)
    return refuse(422, 'input', 'It is not clear what this file is for.', 'Reload the page and choose it again.')
  const limit = parsed.data.kind === 'photo' ? largestPhoto : largestFile
  const tooLarge = (n: string) =>
    refuse(
      413,
      'too-large',
      parsed.data.kind === 'photo'
        ? `This photo has ${n} bytes; at most 8 MiB are taken.`
        : `This file has ${n} bytes; at most 16 MiB can be a flash file.`,
      'Check that you chose the right file.',
    )
  const declared = request.headers.get('content-length')
  if (declared !== null && Number(declared) > limit) return tooLarge(declared)
  try {
    const length = declared === null ? null : Number(declared)
    const taken = await takeIn(request.body, limit, length, (bytes) => keepFile(database(), parsed.data, bytes))
    if (taken.state === 'too-long') return tooLarge(`more than ${limit}`)
    if (taken.state === 'cut-off')
      return refuse(400, 'cut-off', 'The upload was cut off on the way.', 'Choose the file again.')
    const { touched, ...result } = taken.value
    const { unitId } = parsed.data
    const parts = unitId ? touched?.get(unitId) : undefined
    const step = query.step
    if (!result.ok || !parts || !unitId || !isStepId(step)) return Response.json(result, { status: statusOf(result) })
    return Response.json({ ...result, unit: await unitParts(database(), unitId, parts, step) })
  } catch (cause) {
    return answerFault('upload', cause)
  }
}
