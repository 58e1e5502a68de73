import { z } from 'zod'
import { answerFault, refuse } from '@/server/db/answer'
import { jsonBody } from '@/server/db/body'
import { database } from '@/server/db/client'
import { Refused } from '@/server/db/fault'
import { foreignOrigin } from '@/server/db/guard'
import { type BundleWish, exportBundle } from '@/server/export/bundle'

export const dynamic = 'force-dynamic'

async function answered(wish: BundleWish): Promise<Response> {
  try {
    const now = new Date()
    const bundle = await exportBundle(database(), now, wish)
    return new Response(JSON.stringify(bundle), {
      headers: {
        'content-type': 'application/json',
        'content-disposition': `attachment; filename="fresh-coat-${now.toISOString().slice(0, 10)}.json"`,
        'cache-control': 'private, no-store',
      },
    })
  } catch (cause) {
    if (cause instanceof Refused) return refuse(409, cause.code, cause.message, cause.next)
    return answerFault('bundle', cause)
  }
}

/** Everything but secrets and dumps. */
export const GET = () => answered({})

const Wish = z.object({ passphrase: z.string().max(400), secrets: z.boolean(), dumps: z.boolean() })

/** Everything, with what was asked for sealed in it. */
export async function POST(request: Request) {
  if (foreignOrigin(request))
    return refuse(403, 'origin', 'This request came from another page.', 'Use the page of Fresh Coat itself.')
  const body = await jsonBody(request)
  const wish = body.state === 'read' ? Wish.safeParse(body.value) : null
  if (!wish?.success) return refuse(422, 'input', 'It is not clear what is wanted.', 'Try again from the page.')
  return answered(wish.data)
}
