import { jobSheet } from '@fresh-coat/core/unit/job-sheet'
import { answerFault, refuse } from '@/server/db/answer'
import { database } from '@/server/db/client'
import { viewByNumber } from '@/server/units/load'

export const dynamic = 'force-dynamic'

/** The job sheet of a unit, as Markdown. */
export async function GET(_: Request, { params }: { params: Promise<{ number: string }> }) {
  try {
    const number = Number((await params).number)
    const view = Number.isInteger(number) ? await viewByNumber(database(), number) : null
    if (!view) return refuse(404, 'no-unit', 'There is no such unit.', 'Go back to the units.')
    return new Response(jobSheet(view), {
      headers: {
        'content-type': 'text/markdown; charset=utf-8',
        'content-disposition': `attachment; filename="unit${String(number).padStart(3, '0')}.md"`,
        'cache-control': 'private, no-store',
      },
    })
  } catch (cause) {
    return answerFault('sheet', cause)
  }
}
