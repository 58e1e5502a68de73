/** The largest body of a command, in bytes: what people type. Files come by upload. */
export const largestCommand = 256 * 1024

export type Body = { state: 'read'; value: unknown } | { state: 'too-long' } | { state: 'unreadable' }

/** The JSON of a request, never more than {@link largestCommand} bytes of it. */
export async function jsonBody(request: Request): Promise<Body> {
  if (Number(request.headers.get('content-length') ?? 0) > largestCommand) return { state: 'too-long' }
  const pieces: Uint8Array[] = []
  let total = 0
  try {
    const reader = request.body?.getReader()
    while (reader) {
      const { done, value } = await reader.read()
      if (done) break
      total += value.length
      if (total > largestCommand) {
        await reader.cancel()
        return { state: 'too-long' }
      }
      pieces.push(value)
    }
    return { state: 'read', value: JSON.parse(new TextDecoder('utf-8', { fatal: true }).decode(Buffer.concat(pieces))) }
  } catch {
    return { state: 'unreadable' }
  }
}
