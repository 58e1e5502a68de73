'use client'
import { useRouter } from 'next/navigation'
import { useState } from 'react'
import { DropFile } from './drop-file'
import { knownAlready, useUpload } from './use-upload'

export function AddImage() {
  const router = useRouter()
  const uploading = useUpload()
  const [note, setNote] = useState('')
  const take = async (file: File) => {
    setNote('')
    const kept = await uploading.keep({ kind: 'image', name: file.name }, file, 'Keeping and checking it')
    if (!kept) return
    setNote(knownAlready(kept))
    router.refresh()
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
