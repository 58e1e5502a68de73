import { answerFault } from '@/server/db/answer'
import { database } from '@/server/db/client'
import { unitsToPlan } from '@/server/network/addresses'

export const dynamic = 'force-dynamic'

/** Units that an address plan is of: a page that plans what is typed asks for them. */
export async function GET() {
  try {
    const { units } = await unitsToPlan(database())
    return Response.json({ ok: true, value: units }, { headers: { 'cache-control': 'private, no-store' } })
  } catch (cause) {
    return answerFault('addresses', cause)
  }
}
