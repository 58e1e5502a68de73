import { isCommand, runCommand } from '@/server/commands'
import { database } from '@/server/db'
import { foreignOrigin } from '@/server/guard'

const refuse = (status: number, code: string, message: string, next: string) =>
  Response.json(
    { ok: false, error: { code, message, kept: 'Nothing was changed. What you typed is still on the page.', next } },
    { status },
  )

/** One command: JSON in, result or refusal out. 409 when somebody changed the same thing first. */
export async function POST(request: Request, { params }: { params: Promise<{ name: string }> }) {
  const { name } = await params
  if (foreignOrigin(request))
    return refuse(403, 'origin', 'This request came from another page.', 'Use the page of Fresh Coat itself.')
  if (!isCommand(name)) return refuse(404, 'no-command', `There is no command ${name}.`, 'Reload the page.')
  let input: unknown
  try {
    input = await request.json()
  } catch {
    return refuse(400, 'json', 'The request is not readable.', 'Try again.')
  }
  try {
    const result = await runCommand(database(), name, input)
    return Response.json(result, { status: result.ok ? 200 : result.error.code === 'stale' ? 409 : 422 })
  } catch (cause) {
    console.error(`command ${name} failed:`, cause instanceof Error ? cause.message.split('\n')[0] : cause)
    return refuse(503, 'unavailable', 'The database does not answer.', 'It is tried again by itself.')
  }
}
