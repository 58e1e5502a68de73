import { families } from '@fresh-coat/core/families/families'
import { countsOf } from '@fresh-coat/core/identify/markings'
import { stringify } from 'csv-stringify/sync'
import { database } from '@/server/db/client'
import { markings as allMarkings } from '@/server/kit/reads'

export const dynamic = 'force-dynamic'

/** Printed markings with their counts, one row each: for a friend's workshop, or a spreadsheet. */
export async function GET() {
  const markings = await allMarkings(database())
  const rows = markings.map((m) => {
    const counts = countsOf(m)
    return [m.text, ...families.map((f) => counts[f] ?? 0), m.units.map((u) => u.number).join(' ')]
  })
  const csv = stringify([['printed', ...families, 'units'], ...rows], { escape_formulas: true })
  return new Response(csv, {
    headers: {
      'content-type': 'text/csv; charset=utf-8',
      'content-disposition': 'attachment; filename="markings.csv"',
      'cache-control': 'private, no-store',
    },
  })
}
