import { answerFault } from '@/server/db/answer'
import { database } from '@/server/db/client'
import { heardAddresses } from '@/server/live/reads'

export const dynamic = 'force-dynamic'

/** Addresses that were said on the air, as a list like any other: MAC, address, name. */
export async function GET() {
  try {
    const rows = await heardAddresses(database())
    const value =
      rows.length === 0 ? '' : ['mac\tip\thost name', ...rows.map((r) => `${r.mac}\t${r.ip}\t${r.name}`)].join('\n')
    return Response.json({ ok: true, value }, { headers: { 'cache-control': 'private, no-store' } })
  } catch (cause) {
    return answerFault('heard', cause)
  }
}
