import { answerFault, refuse } from '@/server/db/answer'
import { database, inSnapshot } from '@/server/db/client'
import { Refused } from '@/server/db/fault'
import { judgeSetFor, Parts } from '@/server/files/sets'
import { viewByNumber } from '@/server/units/load'

export const dynamic = 'force-dynamic'

/** What is said of several files together for the chip of a unit: `?part=FILE@OFFSET`, twice or more. Nothing is stored. */
export async function GET(request: Request, { params }: { params: Promise<{ number: string }> }) {
  const given = new URL(request.url).searchParams.getAll('part').map((part) => {
    const [fileId, offset] = part.split('@')
    return { fileId, offset: Number(offset) }
  })
  const parts = Parts.safeParse(given)
  if (!parts.success)
    return refuse(400, 'input', 'These are no files with offsets.', 'Give every file of the set its offset.')
  const number = Number((await params).number)
  try {
    const judged = await inSnapshot(database(), async (tx) => {
      const view = await viewByNumber(tx, number)
      return view && judgeSetFor(tx, view, parts.data)
    })
    if (!judged) return refuse(404, 'no-unit', 'There is no such unit.', 'Go back to Units.')
    return Response.json({ ok: true, value: judged }, { headers: { 'cache-control': 'private, no-store' } })
  } catch (cause) {
    if (cause instanceof Refused) return refuse(409, cause.code, cause.message, cause.next)
    return answerFault('set', cause)
  }
}
