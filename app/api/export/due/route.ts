import { dueCalendar } from '@fresh-coat/core/fleet/due'
import { answerFault } from '@/server/db/answer'
import { database, inSnapshot } from '@/server/db/client'
import { everythingDue } from '@/server/units/due'

export const dynamic = 'force-dynamic'

/** Everything that falls due as a calendar file. */
export async function GET() {
  try {
    const now = new Date()
    const things = await inSnapshot(database(), (tx) => everythingDue(tx, now))
    return new Response(dueCalendar(things, now.toISOString()), {
      headers: {
        'content-type': 'text/calendar; charset=utf-8',
        'content-disposition': 'attachment; filename="fresh-coat-due.ics"',
        'cache-control': 'private, no-store',
      },
    })
  } catch (cause) {
    return answerFault('due', cause)
  }
}
