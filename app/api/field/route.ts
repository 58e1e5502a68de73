import { z } from 'zod'
import { adaptersHere, openSession, PortClosed } from '@/field/ports'
import { answerFault, refuse } from '@/server/db/answer'
import { foreignOrigin } from '@/server/db/guard'

export const dynamic = 'force-dynamic'

const Wanted = z.discriminatedUnion('kind', [
  z.object({
    kind: z.literal('bridge'),
    host: z.string().trim().min(1).max(253),
    port: z.number().int().min(1).max(65_535),
  }),
  z.object({
    kind: z.literal('adapter'),
    path: z.string().min(1).max(200),
    rate: z.number().int().min(300).max(4_000_000),
  }),
])

/** The adapters of the machine that runs the app. */
export async function GET() {
  try {
    return Response.json({ ok: true, value: await adaptersHere() })
  } catch (cause) {
    return answerFault('field', cause)
  }
}

/** Opens the port that a person named, and no other. */
export async function POST(request: Request) {
  if (foreignOrigin(request))
    return refuse(403, 'origin', 'This request came from another page.', 'Use the page of Fresh Coat itself.')
  const wanted = Wanted.safeParse(await request.json().catch(() => null))
  if (!wanted.success)
    return refuse(422, 'input', 'It is not clear which port is meant.', 'Name a host and a port, or choose an adapter.')
  try {
    if (wanted.data.kind === 'adapter') {
      const { path } = wanted.data
      // A path that is no port of this machine is never opened.
      if (!(await adaptersHere()).some((a) => a.path === path))
        return refuse(404, 'gone', `${path} is no port of the machine that runs the app.`, 'Look which ones are there.')
    }
    return Response.json({ ok: true, value: await openSession(wanted.data) })
  } catch (cause) {
    if (cause instanceof PortClosed)
      return refuse(409, 'port', `The port cannot be opened: ${cause.message}.`, 'Look whether something else has it.')
    return answerFault('field', cause)
  }
}
