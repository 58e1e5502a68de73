import { answerFault, refuse } from '@/server/db/answer'
import { database } from '@/server/db/client'
import { Refused } from '@/server/db/fault'
import { foreignOrigin } from '@/server/db/guard'
import { importBundle } from '@/server/export/bundle'

export const dynamic = 'force-dynamic'

const mostBytes = 512 * 1024 * 1024

/** Brings a bundle in, all of it or nothing. The passphrase comes in a header, never in the address. */
export async function POST(request: Request) {
  if (foreignOrigin(request))
    return refuse(403, 'origin', 'This request came from another page.', 'Use the page of Fresh Coat itself.')
  if (Number(request.headers.get('content-length') ?? 0) > mostBytes)
    return refuse(
      413,
      'too-large',
      'This bundle is larger than 512 MiB.',
      'Leave the dumps out, and carry them as files.',
    )
  let given: unknown
  try {
    given = JSON.parse(await request.text())
  } catch {
    return refuse(
      422,
      'no-bundle',
      'This file cannot be read: it is no JSON, or only a part of it.',
      'Choose the whole file; nothing was changed.',
    )
  }
  try {
    const passphrase = decodeURIComponent(request.headers.get('x-passphrase') ?? '')
    return Response.json({ ok: true, value: await importBundle(database(), given, passphrase) })
  } catch (cause) {
    if (cause instanceof Refused) return refuse(409, cause.code, cause.message, cause.next)
    return answerFault('bundle', cause)
  }
}
