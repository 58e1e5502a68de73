import { answerFault, refuse } from '@/server/db/answer'
import { database } from '@/server/db/client'
import { unitOnAir } from '@/server/live/reads'

export const dynamic = 'force-dynamic'

/** One unit on the air: now, what happened, its hours, what was asked of it. */
export async function GET(_: Request, { params }: { params: Promise<{ number: string }> }) {
  try {
    const number = Number((await params).number)
    const value = Number.isInteger(number) ? await unitOnAir(database(), number) : null
    if (!value) return refuse(404, 'no-unit', 'There is no such unit.', 'Go back to the units.')
    return Response.json({ ok: true, value }, { headers: { 'cache-control': 'private, no-store' } })
  } catch (cause) {
    return answerFault('live', cause)
  }
}
