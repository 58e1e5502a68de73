import { thingOfUnit } from '@fresh-coat/core/unit/thing-of-unit'
import { answerFault, refuse } from '@/server/db/answer'
import { database } from '@/server/db/client'
import { siteOf } from '@/server/network/reads'
import { viewByNumber } from '@/server/units/load'

export const dynamic = 'force-dynamic'

/** The Thing Description of a unit. */
export async function GET(_: Request, { params }: { params: Promise<{ number: string }> }) {
  try {
    const number = Number((await params).number)
    const view = Number.isInteger(number) ? await viewByNumber(database(), number) : null
    if (!view) return refuse(404, 'no-unit', 'There is no such unit.', 'Go back to the units.')
    const thing = thingOfUnit(view, (await siteOf(database())).air)
    if (!thing.ok)
      return refuse(
        409,
        'no-thing',
        thing.faults[0]?.message ?? 'It cannot be described yet.',
        'Note its address at Join, or name the broker of the site.',
      )
    return Response.json(thing.value, {
      headers: {
        'content-type': 'application/td+json',
        'content-disposition': `attachment; filename="unit${String(number).padStart(3, '0')}.td.json"`,
        'cache-control': 'private, no-store',
      },
    })
  } catch (cause) {
    return answerFault('thing', cause)
  }
}
