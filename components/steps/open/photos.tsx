'use client'
import { type PhotoTag, photoTags } from '@fresh-coat/core/open/opening'
import { keptEdgePixels, mostMegapixels, pictureSize } from '@fresh-coat/core/photo/dimensions'
import type { UnitView } from '@fresh-coat/core/unit/view'
import { useState } from 'react'
import { ChooseFile } from '@/components/files/choose-file'
import { SelectField } from '@/components/forms/fields'
import { useRefresh } from '@/components/frame/use-refresh'
import { Notice } from '@/components/paint/paint'
import { type Refusal, upload } from '@/components/send'

const words = (tag: string) => tag.replaceAll('_', ' ')
const largestUpload = 8 * 1024 * 1024

/** The file as it is to be kept: a picture too large for a tablet is made smaller here, and that is said. */
async function readyToKeep(file: File): Promise<{ body: Blob; said: string }> {
  const size = pictureSize(new Uint8Array(await file.slice(0, 262_144).arrayBuffer()))
  const megapixels = size ? (size.width * size.height) / 1e6 : 0
  if (!size || (file.size <= largestUpload && megapixels <= mostMegapixels)) return { body: file, said: '' }
  const long = Math.max(size.width, size.height)
  const scale = Math.min(1, keptEdgePixels / long)
  // The browser turns the picture by its camera data while it decodes.
  const bitmap = await createImageBitmap(file, { imageOrientation: 'from-image' })
  const canvas = document.createElement('canvas')
  canvas.width = Math.max(1, Math.round(bitmap.width * scale))
  canvas.height = Math.max(1, Math.round(bitmap.height * scale))
  canvas.getContext('2d')?.drawImage(bitmap, 0, 0, canvas.width, canvas.height)
  bitmap.close()
  const body = await new Promise<Blob | null>((resolve) => canvas.toBlob(resolve, 'image/jpeg', 0.88))
  if (!body) throw new Error('the browser could not draw it')
  return {
    body,
    said: `${file.name} had ${megapixels.toFixed(0)} megapixels; it is kept at ${canvas.width} × ${canvas.height}.`,
  }
}

const unreadable = (file: File): Refusal => ({
  code: 'no-photo',
  message: `${file.name} cannot be read as a picture, or is too large for this browser.`,
  kept: 'Nothing was stored.',
  next: 'Save it smaller, as JPEG, and choose it again.',
})
const away: Refusal = {
  code: 'away',
  message: 'The server does not answer.',
  kept: 'Nothing was stored.',
  next: 'Choose the photo again.',
}

/** Keeps one; what is to be said of it, or why it was not kept. */
async function keepPhoto(file: File, unitId: string, tag: PhotoTag): Promise<{ said: string } | { error: Refusal }> {
  let ready: { body: Blob; said: string }
  try {
    ready = await readyToKeep(file)
  } catch {
    return { error: unreadable(file) }
  }
  const result = await upload({ kind: 'photo', name: file.name, unitId, tag }, ready.body, () => {}).done
  if (result.state === 'ok') return { said: ready.said }
  return { error: result.state === 'refused' ? result.error : away }
}

/** Keeps several one after the other; one that cannot be kept stops none of the others. */
function useAdding(unitId: string) {
  const refresh = useRefresh()
  const [error, setError] = useState<Refusal | null>(null)
  const [busy, setBusy] = useState('')
  const [said, setSaid] = useState('')
  const add = async (files: readonly File[], tagOf: (index: number) => PhotoTag) => {
    setError(null)
    for (const [index, file] of files.entries()) {
      setBusy(`Keeping ${file.name}…`)
      setSaid('')
      const result = await keepPhoto(file, unitId, tagOf(index))
      if ('error' in result) setError(result.error)
      else if (result.said) setSaid(result.said)
    }
    setBusy('')
    refresh()
  }
  return { add, error, saying: busy || said }
}

type Photo = UnitView['files'][number]

function OnePhoto({ photo: p, act }: { photo: Photo; act: Act }) {
  return (
    <li>
      <a href={`/api/files/${p.id}?view`} target="_blank" rel="noreferrer" className="block">
        {/* biome-ignore lint/performance/noImgElement: served from our own store, shown as it is */}
        <img
          src={`/api/files/${p.id}?view`}
          alt={p.tag ? words(p.tag) : p.name}
          className="h-28 w-40 rounded-[8px] border border-rule bg-sheet-2 object-cover"
        />
      </a>
      <select
        aria-label={`What ${p.name} shows`}
        className="field mt-1 !min-h-[2.1rem] w-40 !py-0.5 text-[0.87rem]"
        value={p.tag ?? ''}
        onChange={(e) => void act('tag-photo', { fileId: p.id, tag: e.target.value })}
      >
        {photoTags.map((t) => (
          <option key={t} value={t}>
            {words(t)}
          </option>
        ))}
      </select>
      <button
        type="button"
        className="block min-h-[1.8rem] py-1 text-[0.87rem] text-ink-2 underline"
        aria-label={`Put ${p.name} aside`}
        onClick={() => void act('put-file-aside', { fileId: p.id })}
      >
        put aside
      </button>
    </li>
  )
}

type Act = (command: string, input: Record<string, unknown>) => Promise<boolean>

/** Photos of a unit: kept as they come, shown, taken aside but never thrown away. */
export function Photos({ view, wanted, act }: { view: UnitView; wanted: readonly PhotoTag[]; act: Act }) {
  const { add, error, saying } = useAdding(view.id)
  const [tag, setTag] = useState<PhotoTag | null>(null)
  const keep = async (files: readonly File[]) => {
    await add(files, (index) => tag ?? wanted[index] ?? 'board_top')
    setTag(null)
  }
  return (
    <div className="grid gap-3">
      <div className="flex flex-wrap items-end gap-3">
        <SelectField
          label="What it shows"
          value={tag ?? wanted[0] ?? 'board_top'}
          options={photoTags.map((t) => ({ value: t, label: words(t) }))}
          onChange={setTag}
          className="min-w-[14rem]"
        />
        <ChooseFile accept="image/jpeg,image/png,image/webp" multiple onFiles={(files) => void keep(files)}>
          Add photos
        </ChooseFile>
        <span aria-live="polite" className="text-ink-2">
          {saying}
        </span>
      </div>
      {error && (
        <Notice severity="error" title={error.message}>
          {error.kept} {error.next}
        </Notice>
      )}
      <ul className="flex flex-wrap gap-3">
        {view.files
          .filter((f) => f.kind === 'photo')
          .map((p) => (
            <OnePhoto key={p.id} photo={p} act={act} />
          ))}
      </ul>
    </div>
  )
}
