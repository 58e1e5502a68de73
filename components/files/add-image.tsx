'use client'
import { useState } from 'react'
import { useRefresh } from '@/components/frame/use-refresh'
import { DropFile } from './drop-file'
import { knownAlready, useUpload } from './use-upload'

export function AddImage() {
  const refresh = useRefresh()
  const uploading = useUpload()
  const [note, setNote] = useState('')
  const take = async (file: File) => {
    setNote('')
    const kept = await uploading.keep({ kind: 'image', name: file.name }, file, 'Keeping and checking it')
    if (!kept) return
    setNote(knownAlready(kept))
    refresh()
  }
  return (
    <div className="grid content-start gap-2">
      <DropFile
        label="Add an image"
        about="Up to 16 MiB; the same bytes are kept once."
        disabled={uploading.busy}
        onFile={(f) => void take(f)}
      />
      {note && <p role="status">{note}</p>}
      {uploading.state}
    </div>
  )
}
