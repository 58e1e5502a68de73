import { answerFault } from '@/server/db/answer'
import { database } from '@/server/db/client'
import { find } from '@/server/find'

/** What fits a text: units, boards, pads, files, kit. */
export async function GET(request: Request) {
  const text = new URL(request.url).searchParams.get('q') ?? ''
  try {
    return Response.json({ hits: await find(database(), text.replaceAll('\0', '')) })
  } catch (cause) {
    return answerFault('find', cause)
  }
}
