import type { UnitFile } from '@fresh-coat/core/unit/view'
import { useEffect, useRef, useState } from 'react'
import { knownAlready, useUpload } from '@/components/files/use-upload'
import { useRefresh } from '@/components/frame/use-refresh'
import type { SurfaceProps } from '@/components/steps/context'
import { type KeptPart, placed, type SetFile } from './set'

type Props = SurfaceProps<'check'>

/**
 * Firmware and version as the vault describes a file. What was said of another file does not hold for one that is not
 * described.
 */
function saidOf(images: readonly UnitFile[], fileId: string | null, before: string | null) {
  const file = images.find((f) => f.id === fileId)
  if (file?.firmware) return { firmware: file.firmware, firmwareVersion: file.release?.split('/')[0] ?? '' }
  return before === null || before === fileId ? {} : { firmware: '', firmwareVersion: '' }
}

/** As many as a record of Check holds. */
const mostFiles = 16

/** Brings an image: from the disk into the vault, or from the vault. */
export function useImage({ view, record: { data, patch }, choices }: Props) {
  const refresh = useRefresh()
  const uploading = useUpload()
  const [note, setNote] = useState('')
  const choose = (fileId: string | null) =>
    patch({ fileId, offset: null, answered: [], set: [], ...saidOf(choices.images, fileId, data.fileId) })
  const take = async (file: File) => {
    setNote('')
    const kept = await uploading.keep({ kind: 'image', name: file.name }, file, 'Keeping and checking it')
    if (!kept) return
    setNote(knownAlready(kept))
    // The same bytes may be in the vault already, described.
    choose(kept.id as string)
    refresh()
  }
  /** Several files go in together: they stay a set until they are made one file. */
  const takeSet = async (files: readonly File[], before: readonly SetFile[]) => {
    setNote('')
    const parts: KeptPart[] = []
    for (const file of files) {
      const kept = await uploading.keep({ kind: 'image', name: file.name }, file, `Keeping ${file.name}`)
      // What came so far stays; what failed says why, and can be dropped again.
      if (!kept) break
      const { id, sha256, inspection } = kept as Pick<KeptPart, 'id' | 'sha256' | 'inspection'>
      parts.push({ id, sha256, inspection, name: file.name, bytes: file.size })
    }
    if (parts.length === 0) return
    patch({
      fileId: null,
      offset: null,
      answered: [],
      firmware: '',
      firmwareVersion: '',
      set: [...before, ...placed(parts, view)].slice(0, mostFiles),
    })
    refresh()
  }
  const patched = (fileId: string) => {
    patch({ fileId, offset: null, answered: [], set: [] })
    refresh()
  }
  return {
    uploading,
    note,
    choose,
    take: (file: File) => void take(file),
    takeAll: (files: File[]) => void takeSet(files, []),
    addToSet: (files: File[]) => void takeSet(files, data.set),
    patched,
  }
}

/** The place follows from file and family until a person types another one. */
export function useExpectedPlace({ record: { data, patch } }: Props, expected: number | null, partial: boolean): void {
  const suggested = useRef<string | null>(null)
  useEffect(() => {
    if (data.offset !== null || expected === null || !data.fileId || suggested.current === data.fileId) return
    suggested.current = data.fileId
    // What belongs beside other parts on the chip must not have them erased.
    patch({ offset: expected, ...(partial ? { eraseAll: false } : {}) })
  }, [data.offset, data.fileId, expected, partial, patch])
}
