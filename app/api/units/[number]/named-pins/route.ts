import { pinsNamedIn } from '@fresh-coat/core/pins/from-dump'
import { backupOf } from '@fresh-coat/core/steps/backup/facts'
import { answerFault, refuse } from '@/server/db/answer'
import { database } from '@/server/db/client'
import { bytesOfFile } from '@/server/files/private-bytes'
import { viewByNumber } from '@/server/units/load'

export const dynamic = 'force-dynamic'

/** Pins that the kept stock firmware of a unit names with a function: a guess, and nothing of what looks like a secret. */
export async function GET(_: Request, { params }: { params: Promise<{ number: string }> }) {
  try {
    const view = await viewByNumber(database(), Number((await params).number))
    const first = view && backupOf(view).first
    if (!first) return refuse(404, 'no-backup', 'There is no stock backup of this unit.', 'Read it at Back up.')
    const found = await bytesOfFile(database(), first.id)
    if (!found.ok) return found.missing
    return Response.json(
      { ok: true, value: { name: found.name, pins: pinsNamedIn(found.bytes) } },
      { headers: { 'cache-control': 'private, no-store' } },
    )
  } catch (cause) {
    return answerFault('named pins', cause)
  }
}
