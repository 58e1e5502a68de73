import { parseInput, strictCodes } from '@fresh-coat/core/edge/fault'
import { Journal } from '@fresh-coat/core/link/journal'
import { journalOf, keepJournal } from '@/server/attempts/journal'
import { answerFault, refuse } from '@/server/db/answer'
import { jsonBody } from '@/server/db/body'
import { database } from '@/server/db/client'
import { foreignOrigin } from '@/server/db/guard'

export const dynamic = 'force-dynamic'

interface Where {
  params: Promise<{ number: string }>
}

/** The unfinished write of a unit, as whoever wrote last kept it. */
export async function GET(_: Request, { params }: Where) {
  try {
    const journal = await journalOf(database(), Number((await params).number))
    return Response.json({ ok: true, value: journal }, { headers: { 'cache-control': 'private, no-store' } })
  } catch (cause) {
    return answerFault('journal', cause)
  }
}

/** Keeps it, until an attempt is logged that is done. */
export async function PUT(request: Request, { params }: Where) {
  if (foreignOrigin(request))
    return refuse(403, 'origin', 'This request came from another page.', 'Use the page of Fresh Coat itself.')
  const body = await jsonBody(request)
  const journal = body.state === 'read' ? parseInput(Journal, body.value, strictCodes) : null
  if (!journal?.ok)
    return refuse(422, 'journal', 'This is no journal of a write.', 'The browser that writes keeps its own copy.')
  try {
    if (!(await keepJournal(database(), Number((await params).number), journal.value)))
      return refuse(404, 'no-unit', 'There is no such unit.', 'Go back to the units.')
    return Response.json({ ok: true })
  } catch (cause) {
    return answerFault('journal', cause)
  }
}
