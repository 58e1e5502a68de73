import { backupName, manifestLine } from '@fresh-coat/core/flash/restore'
import { database } from '@/server/db/client'
import { localDay } from '@/server/db/day'
import { firstReads } from '@/server/files/reads'

export const dynamic = 'force-dynamic'

/** Every kept stock firmware as `sha256sum -c` reads it; `?unit=N` for one unit. Names and hashes only. */
export async function GET(request: Request) {
  const wanted = new URL(request.url).searchParams.get('unit')
  const number = wanted === null ? null : Number(wanted)
  if (number !== null && !(Number.isInteger(number) && number > 0 && number < 1e6))
    return new Response('There is no such unit.', { status: 404 })
  const lines = (await firstReads(database(), number)).map(
    (r) => manifestLine(backupName(r.number, localDay(new Date(r.createdAt))), r.sha256) ?? '',
  )
  return new Response(lines.join(''), {
    headers: {
      'content-type': 'text/plain; charset=utf-8',
      'content-disposition': `attachment; filename="${number === null ? 'stock' : `unit${String(number).padStart(3, '0')}_stock`}.sha256"`,
      'cache-control': 'private, no-store',
    },
  })
}
