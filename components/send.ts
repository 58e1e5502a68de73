/** Talks to the server: a result, a refusal in words, or "away" when it did not answer. */
export interface Refusal {
  code: string
  message: string
  kept: string
  next: string
  faults?: { path: string; message: string }[]
  current?: Record<string, unknown>
}
export type Sent =
  | { state: 'ok'; value: Record<string, unknown> }
  | { state: 'refused'; error: Refusal }
  | { state: 'away' }

export async function send(command: string, input: unknown): Promise<Sent> {
  try {
    const response = await fetch(`/api/commands/${command}`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify(input),
    })
    if (response.status === 503) return { state: 'away' }
    const result = await response.json()
    return result.ok ? { state: 'ok', value: result.value } : { state: 'refused', error: result.error }
  } catch {
    return { state: 'away' }
  }
}

export interface UploadTask {
  done: Promise<Sent>
  cancel: () => void
}

/** Sends a file with progress; cancelling leaves nothing behind on the server. */
export function upload(
  query: Record<string, string>,
  body: Blob,
  progress: (sent: number, total: number) => void,
): UploadTask {
  const request = new XMLHttpRequest()
  const done = new Promise<Sent>((resolve) => {
    request.upload.onprogress = (e) => progress(e.loaded, e.total)
    request.onload = () => {
      try {
        const result = JSON.parse(request.responseText)
        resolve(result.ok ? { state: 'ok', value: result.value } : { state: 'refused', error: result.error })
      } catch {
        resolve({ state: 'away' })
      }
    }
    request.onerror = () => resolve({ state: 'away' })
    request.onabort = () =>
      resolve({
        state: 'refused',
        error: {
          code: 'cancelled',
          message: 'The upload was stopped.',
          kept: 'Nothing was stored.',
          next: 'Choose the file again.',
        },
      })
    request.open('PUT', `/api/files?${new URLSearchParams(query)}`)
    request.send(body)
  })
  return { done, cancel: () => request.abort() }
}
