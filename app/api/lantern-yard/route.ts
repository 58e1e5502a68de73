import { refuse } from '@/server/db/answer'
import { foreignOrigin } from '@/server/db/guard'
import { lanternYard } from '@/server/lantern-yard'

export const dynamic = 'force-dynamic'

/** Starts Lantern Yard beside this bench. */
export async function POST(request: Request) {
  if (foreignOrigin(request))
    return refuse(403, 'origin', 'This request came from another page.', 'Use the page of Fresh Coat itself.')
  return Response.json(await lanternYard().open())
}

/** How far it is. */
export async function GET() {
  return Response.json(await lanternYard().look())
}
