import { isStepId } from '@fresh-coat/core/unit/way'
import { isCommand, runCommand } from '@/server/commands'
import { answerFault, refuse } from '@/server/db/answer'
import { jsonBody, largestCommand } from '@/server/db/body'
import type { Touched } from '@/server/db/change'
import { type Db, database } from '@/server/db/client'
import { statusOf } from '@/server/db/fault'
import { foreignOrigin } from '@/server/db/guard'
import { unitParts } from '@/server/units/parts'

/** What the command changed of the unit on screen, when the page says which that is: `?for=UNIT.STEP`. */
async function partsFor(db: Db, request: Request, touched: Touched | undefined) {
  const [unitId = '', step] = (new URL(request.url).searchParams.get('for') ?? '').split('.')
  const parts = touched?.get(unitId)
  return parts && isStepId(step) ? { unit: await unitParts(db, unitId, parts, step) } : {}
}

/** One command: JSON in, result or refusal out. 409 when somebody changed the same thing first. */
export async function POST(request: Request, { params }: { params: Promise<{ name: string }> }) {
  const { name } = await params
  if (foreignOrigin(request))
    return refuse(403, 'origin', 'This request came from another page.', 'Use the page of Fresh Coat itself.')
  if (!isCommand(name)) return refuse(404, 'no-command', `There is no command ${name}.`, 'Reload the page.')
  const body = await jsonBody(request)
  if (body.state === 'too-long')
    return refuse(
      413,
      'too-long',
      `This is more than ${largestCommand / 1024} KiB at once.`,
      'Shorten what was pasted to the part that matters; files are dropped, not pasted.',
      'Nothing was changed. What you typed is still on the page.',
    )
  if (body.state === 'unreadable') return refuse(400, 'json', 'The request is not readable.', 'Try again.')
  try {
    const db = database()
    const { touched, ...result } = await runCommand(db, name, body.value)
    if (!result.ok) return Response.json(result, { status: statusOf(result) })
    return Response.json({ ...result, ...(await partsFor(db, request, touched)) })
  } catch (cause) {
    return answerFault(`command ${name}`, cause)
  }
}
