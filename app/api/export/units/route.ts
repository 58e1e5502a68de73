import { stringify } from 'csv-stringify/sync'
import { database } from '@/server/db/client'
import { everyUnit } from '@/server/export/lists'

export const dynamic = 'force-dynamic'

/** Every unit with where it stands, one row each. */
export async function GET() {
  const units = await everyUnit(database())
  const head = [
    'number',
    'name',
    'place',
    'board',
    'family',
    'firmware',
    'step',
    'in service',
    'address',
    'mac',
    'topic',
    'due',
    'due what',
  ]
  const rows = units.map((u) => [
    u.number,
    u.name,
    u.place,
    u.board,
    u.family,
    u.firmware,
    u.next,
    u.inService ? 'yes' : 'no',
    u.address,
    u.mac,
    u.topic,
    u.due,
    u.dueWhat,
  ])
  return new Response(stringify([head, ...rows], { escape_formulas: true, record_delimiter: 'windows' }), {
    headers: {
      'content-type': 'text/csv; charset=utf-8',
      'content-disposition': 'attachment; filename="units.csv"',
      'cache-control': 'private, no-store',
    },
  })
}
