import { isStepId } from '@fresh-coat/core/unit/way'
import { answerFault, refuse } from '@/server/db/answer'
import { database } from '@/server/db/client'
import { unitPage } from '@/server/units/page'

/** What the page of a unit shows at a step: the browser asks for it ahead, so that the next step is there at once. */
export async function GET(_: Request, { params }: { params: Promise<{ number: string; step: string }> }) {
  const { number, step } = await params
  try {
    const page = isStepId(step) ? await unitPage(database(), Number(number), step) : null
    if (!page) return refuse(404, 'no-unit', 'There is no such unit.', 'Go back to Units.')
    return Response.json({ ok: true, value: page }, { headers: { 'cache-control': 'private, no-store' } })
  } catch (cause) {
    return answerFault('unit page', cause)
  }
}
