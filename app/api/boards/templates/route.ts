import { isKnownFamily } from '@fresh-coat/core/families/families'
import { templatesOf } from '@/server/boards/templates'
import { answerFault, refuse } from '@/server/db/answer'
import { database } from '@/server/db/client'

export const dynamic = 'force-dynamic'

/** Pin templates of the boards of a family: `?family=LX106`. */
export async function GET(request: Request) {
  const family = new URL(request.url).searchParams.get('family') ?? ''
  if (!isKnownFamily(family)) return refuse(422, 'family', 'There is no such family.', 'Name one of the families.')
  try {
    return Response.json(
      { ok: true, value: await templatesOf(database(), family) },
      { headers: { 'cache-control': 'private, no-store' } },
    )
  } catch (cause) {
    return answerFault('templates', cause)
  }
}
