import { answerFault } from '@/server/db/answer'
import { database } from '@/server/db/client'
import { boardsOfLot } from '@/server/units/lots'

export const dynamic = 'force-dynamic'

/** What other units of a lot turned out to be: `?lot=…&seller=…&but=NUMBER`, while it is being typed. */
export async function GET(request: Request) {
  const query = new URL(request.url).searchParams
  const text = (name: string) => (query.get(name) ?? '').slice(0, 80).replaceAll('\0', '')
  const but = Number(query.get('but'))
  try {
    const value = await boardsOfLot(
      database(),
      text('lot'),
      text('seller'),
      Number.isSafeInteger(but) && but > 0 && but < 2 ** 31 ? but : null,
    )
    return Response.json({ ok: true, value })
  } catch (cause) {
    return answerFault('lots', cause)
  }
}
