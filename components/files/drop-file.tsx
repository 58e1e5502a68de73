'use client'
import { useState } from 'react'
import { buttonClass } from '@/components/paint/paint'
import { ChooseFile } from './choose-file'

/** A place to drop files, or choose them; without `onFiles`, one at a time. */
export function DropFile({
  label,
  about,
  onFile,
  onFiles,
  disabled = false,
}: {
  label: string
  about: string
  onFile: (file: File) => void
  /** Several at once. */
  onFiles?: (files: File[]) => void
  disabled?: boolean
}) {
  const [over, setOver] = useState(false)
  const take = (files: File[]) => {
    const [first, ...others] = files
    if (disabled || !first) return
    if (others.length > 0 && onFiles) onFiles(files)
    else onFile(first)
  }
  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: dropping is an extra; the button inside does the same
    <div
      className={`rounded-[10px] border-2 border-dashed p-4 ${over ? 'border-verdigris bg-ok-soft' : 'border-rule bg-sheet'}`}
      onDragOver={(e) => {
        e.preventDefault()
        setOver(true)
      }}
      onDragLeave={() => setOver(false)}
      onDrop={(e) => {
        e.preventDefault()
        setOver(false)
        take([...e.dataTransfer.files])
      }}
    >
      <ChooseFile disabled={disabled} multiple={onFiles !== undefined} onFiles={take}>
        {label}
      </ChooseFile>
      <p className="mt-1.5 text-[0.93rem] text-ink-2">{about}</p>
    </div>
  )
}

/** Progress of long work, with its rate and a way to stop. */
export function Progress({
  label,
  done,
  total,
  cancel,
}: {
  label: string
  done: number
  total: number
  cancel: () => void
}) {
  return (
    <div className="grid gap-1.5" role="status">
      <div className="flex items-center gap-3">
        <span className="flex-1">
          {label}: {(done / 1048576).toFixed(1)} of {(total / 1048576).toFixed(1)} MiB
        </span>
        <button type="button" className={buttonClass('plain')} onClick={cancel}>
          Stop
        </button>
      </div>
      <progress className="h-3 w-full accent-(--verdigris)" value={done} max={total} aria-label={label} />
    </div>
  )
}
