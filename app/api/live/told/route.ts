import { answerFault } from '@/server/db/answer'
import { database } from '@/server/db/client'
import { toldUnits } from '@/server/network/told'

export const dynamic = 'force-dynamic'

/** Units that know the passwords of the place. */
export async function GET() {
  try {
    return Response.json(
      { ok: true, value: await toldUnits(database()) },
      { headers: { 'cache-control': 'private, no-store' } },
    )
  } catch (cause) {
    return answerFault('told', cause)
  }
}
