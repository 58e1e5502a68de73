import { answerFault } from '@/server/db/answer'
import { database } from '@/server/db/client'
import { updateUnits } from '@/server/live/updates'

export const dynamic = 'force-dynamic'

/** Units in service that run `firmware`: a form that treats one of them otherwise asks for it by its number. */
export async function GET(request: Request) {
  const firmware = new URL(request.url).searchParams.get('firmware') ?? ''
  try {
    return Response.json(
      { ok: true, value: await updateUnits(database(), firmware) },
      { headers: { 'cache-control': 'private, no-store' } },
    )
  } catch (cause) {
    return answerFault('updates', cause)
  }
}
