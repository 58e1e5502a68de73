'use client'
import { type ReactNode, useState } from 'react'
import { Notice } from '@/components/paint/paint'
import { type Refusal, upload } from '@/components/send'
import { Progress } from './drop-file'

export interface Work {
  label: string
  done: number
  total: number
  cancel: () => void
}

export interface Uploading {
  busy: boolean
  setWork: (work: Work | null) => void
  setError: (error: Refusal | null) => void
  /** Sends a file with progress; what the server made of it, or null after saying why not. */
  keep: (query: Record<string, string>, file: File, label: string) => Promise<Record<string, unknown> | null>
  /** Progress with its way to stop, and what went wrong: to be placed where the file was dropped. */
  state: ReactNode
}

/** One file on its way to the server. */
export function useUpload(): Uploading {
  const [work, setWork] = useState<Work | null>(null)
  const [error, setError] = useState<Refusal | null>(null)
  const keep: Uploading['keep'] = async (query, file, label) => {
    setError(null)
    const task = upload(query, file, (done, total) => setWork({ label, done, total, cancel: task.cancel }))
    const sent = await task.done
    setWork(null)
    if (sent.state === 'ok') return sent.value
    setError(
      sent.state === 'refused'
        ? sent.error
        : {
            code: 'away',
            message: 'The server does not answer.',
            kept: 'The file is still where it was; nothing was stored.',
            next: 'Choose it again when the server is back.',
          },
    )
    return null
  }
  return {
    busy: work !== null,
    setWork,
    setError,
    keep,
    state: (
      <>
        {work && <Progress {...work} />}
        {error && (
          <Notice severity="error" title={error.message}>
            {error.kept} {error.next}
          </Notice>
        )}
      </>
    ),
  }
}

/** What to say when the vault has the same bytes under another name. */
export const knownAlready = (value: Record<string, unknown>): string =>
  value.known ? `The vault has these bytes already, as ${value.known}.` : ''
