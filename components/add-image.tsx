'use client'
import { useRouter } from 'next/navigation'
import { useState } from 'react'
import { DropFile, Progress } from './drop-file'
import { Notice } from './paint'
import { type Refusal, upload } from './send'

export function AddImage() {
  const router = useRouter()
  const [work, setWork] = useState<{ label: string; done: number; total: number; cancel: () => void } | null>(null)
  const [error, setError] = useState<Refusal | null>(null)
  const [note, setNote] = useState('')
  const take = async (file: File) => {
    setError(null)
    setNote('')
    const task = upload({ kind: 'image', name: file.name }, file, (done, total) =>
      setWork({ label: 'Keeping and checking it', done, total, cancel: task.cancel }),
    )
    const sent = await task.done
    setWork(null)
    if (sent.state === 'refused') setError(sent.error)
    else if (sent.state === 'away')
      setError({
        code: 'away',
        message: 'The server does not answer.',
        kept: 'The file is still where it was.',
        next: 'Drop it again when the server is back.',
      })
    else if (sent.value.known) setNote(`The vault has these bytes already, as ${sent.value.known}.`)
    router.refresh()
  }
  return (
    <div className="grid content-start gap-2">
      <DropFile
        label="Add an image"
        about="Up to 16 MiB; the same bytes are kept once."
        disabled={work !== null}
        onFile={(f) => void take(f)}
      />
      {work && <Progress {...work} />}
      {note && <p role="status">{note}</p>}
      {error && (
        <Notice severity="error" title={error.message}>
          {error.kept} {error.next}
        </Notice>
      )}
    </div>
  )
}
