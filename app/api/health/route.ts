import { answers } from '@/server/db/client'

export const dynamic = 'force-dynamic'

/** Is the server up, and does it reach its database? */
export async function GET() {
  try {
    await answers()
    return Response.json({ ok: true })
  } catch {
    return Response.json({ ok: false, error: 'The database does not answer.' }, { status: 503 })
  }
}
