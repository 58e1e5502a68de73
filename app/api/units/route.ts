import { answerFault } from '@/server/db/answer'
import { database } from '@/server/db/client'
import { rowsAtOnce, unitFilterOf } from '@/server/units/filter'
import { unitRows } from '@/server/units/lists'

const mostRows = 1_000_000

/** Rows of the list of units, from one place on; filter and order as in the address of the list. */
export async function GET(request: Request) {
  const query = Object.fromEntries(new URL(request.url).searchParams)
  const from = Math.min(mostRows, Math.max(0, Math.floor(Number(query.from ?? 0)) || 0))
  try {
    return Response.json({ value: await unitRows(database(), unitFilterOf(query), from, rowsAtOnce) })
  } catch (cause) {
    return answerFault('units', cause)
  }
}
