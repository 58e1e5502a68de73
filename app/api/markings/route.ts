import { answerFault } from '@/server/db/answer'
import { database } from '@/server/db/client'
import { markings } from '@/server/kit/reads'

export const dynamic = 'force-dynamic'

/** What a printed text was found to be before: `?printed=…`, while it is being typed; without it, all that are known. */
export async function GET(request: Request) {
  const printed = new URL(request.url).searchParams.get('printed')?.slice(0, 80).replaceAll('\0', '')
  try {
    return Response.json({ ok: true, value: await markings(database(), printed) })
  } catch (cause) {
    return answerFault('markings', cause)
  }
}
