import type { UnitView } from '@fresh-coat/core/unit/view'
import type { LogEntry } from '@/components/frame/log-list'

/** Talks to the server: a result, a refusal in words, or "away" when it did not answer. */
export interface Refusal {
  code: string
  message: string
  kept: string
  next: string
  faults?: { path: string; message: string }[]
  current?: Record<string, unknown>
}

/** What a command changed of the unit on screen. */
export interface UnitParts {
  /** Null: the unit is not there any more. */
  view: Partial<Omit<UnitView, 'records'>> | null
  records: Partial<UnitView['records']>
  log: LogEntry[]
}

export type Sent =
  | { state: 'ok'; value: Record<string, unknown>; unit?: UnitParts }
  | { state: 'refused'; error: Refusal }
  | { state: 'away' }

interface Answer {
  ok: boolean
  value: Record<string, unknown>
  unit?: UnitParts
  error: Refusal
}
const sentOf = (answer: Answer): Sent =>
  answer.ok
    ? { state: 'ok', value: answer.value, ...(answer.unit ? { unit: answer.unit } : {}) }
    : { state: 'refused', error: answer.error }

/** Why nothing came of it, in words; null when something did. */
export function refusalOf(sent: Sent): Refusal | null {
  if (sent.state === 'ok') return null
  if (sent.state === 'refused') return sent.error
  return {
    code: 'away',
    message: 'The server does not answer.',
    kept: 'Nothing was changed.',
    next: 'Try again when it is back.',
  }
}

/** What the server answers at an address that only tells. @throws with words for a page, where it tells nothing or is away */
export async function ask<T>(path: string): Promise<T> {
  const answer = await fetch(path)
    .then((response) => response.json() as Promise<{ value?: T; error?: { message: string } }>)
    .catch(() => null)
  if (answer?.value === undefined) throw new Error(answer?.error?.message ?? 'The server does not answer.')
  return answer.value
}

export interface SendOptions {
  /** "UNIT.STEP" on screen: the answer tells what changed of it. */
  onScreen?: string
  /** Sent even though the page is being left. */
  keepalive?: boolean
}

export async function send(command: string, input: unknown, options: SendOptions = {}): Promise<Sent> {
  const query = options.onScreen ? `?for=${options.onScreen}` : ''
  try {
    const response = await fetch(`/api/commands/${command}${query}`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify(input),
      keepalive: options.keepalive ?? false,
    })
    // Gone for a while, not a refusal: it is tried again.
    if (response.status === 503 || response.status === 502 || response.status === 504) return { state: 'away' }
    return sentOf((await response.json()) as Answer)
  } catch {
    return { state: 'away' }
  }
}

export interface UploadTask {
  done: Promise<Sent>
  cancel: () => void
}

const cancelled: Refusal = {
  code: 'cancelled',
  message: 'The upload was stopped.',
  kept: 'Nothing was stored.',
  next: 'Choose the file again.',
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
        resolve(sentOf(JSON.parse(request.responseText) as Answer))
      } catch {
        resolve({ state: 'away' })
      }
    }
    request.onerror = () => resolve({ state: 'away' })
    request.onabort = () => resolve({ state: 'refused', error: cancelled })
    request.open('PUT', `/api/files?${new URLSearchParams(query)}`)
    request.send(body)
  })
  return { done, cancel: () => request.abort() }
}
