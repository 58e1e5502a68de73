import { backupName, manifestLine } from '@fresh-coat/core/flash/restore'
import { backupOf } from '@fresh-coat/core/journey/facts'
import { database } from '@/server/db'
import { loadShop } from '@/server/views'

export const dynamic = 'force-dynamic'

/** Every kept stock firmware as `sha256sum -c` reads it; `?unit=N` for one unit. Names and hashes only. */
export async function GET(request: Request) {
  const wanted = new URL(request.url).searchParams.get('unit')
  const { units } = await loadShop(database())
  const lines = units
    .filter((u) => wanted === null || String(u.number) === wanted)
    .flatMap((u) => {
      const { first } = backupOf(u)
      return first ? [manifestLine(backupName(u.number, first.createdAt.slice(0, 10)), first.sha256) ?? ''] : []
    })
  return new Response(lines.join(''), {
    headers: {
      'content-type': 'text/plain; charset=utf-8',
      'content-disposition': `attachment; filename="${wanted === null ? 'stock' : `unit${wanted.padStart(3, '0')}_stock`}.sha256"`,
      'cache-control': 'private, no-store',
    },
  })
}
