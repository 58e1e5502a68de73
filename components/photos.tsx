'use client'
import type { UnitView } from '@fresh-coat/core/journey/view'
import { useRouter } from 'next/navigation'
import { useId, useState } from 'react'
import { SelectField } from './fields'
import { buttonClass, Notice } from './paint'
import { type Refusal, upload } from './send'

const tags = [
  'outside_rating_label',
  'terminals_with_legend',
  'seam_before',
  'board_top',
  'board_bottom',
  'wire_positions',
] as const
type PhotoTag = (typeof tags)[number]
const words = (tag: string) => tag.replaceAll('_', ' ')

/** Photos of a unit: kept as they come, shown, taken aside but never thrown away. */
export function Photos({ view }: { view: UnitView }) {
  const router = useRouter()
  const inputId = useId()
  const photos = view.files.filter((f) => f.kind === 'photo')
  const missing = tags.find((t) => !photos.some((p) => p.tag === t)) ?? 'board_top'
  const [tag, setTag] = useState<PhotoTag | null>(null)
  const [error, setError] = useState<Refusal | null>(null)
  const [busy, setBusy] = useState('')
  const add = async (files: FileList | null) => {
    setError(null)
    for (const file of files ?? []) {
      setBusy(`Keeping ${file.name}…`)
      const result = await upload(
        { kind: 'photo', name: file.name, unitId: view.id, tag: tag ?? missing },
        file,
        () => {},
      ).done
      if (result.state !== 'ok')
        setError(
          result.state === 'refused'
            ? result.error
            : {
                code: 'away',
                message: 'The server does not answer.',
                kept: 'Nothing was stored.',
                next: 'Choose the photo again.',
              },
        )
    }
    setBusy('')
    router.refresh()
  }
  return (
    <div className="grid gap-3">
      <div className="flex flex-wrap items-end gap-3">
        <SelectField
          label="What it shows"
          value={tag ?? missing}
          options={tags.map((t) => ({ value: t, label: words(t) }))}
          onChange={setTag}
          className="min-w-[14rem]"
        />
        <label
          htmlFor={inputId}
          className={`${buttonClass('plain')} cursor-pointer focus-within:outline-3 focus-within:outline-ochre-line`}
        >
          Add photos
          <input
            id={inputId}
            type="file"
            accept="image/jpeg,image/png,image/webp"
            multiple
            className="sr-only"
            onChange={(e) => void add(e.target.files)}
          />
        </label>
        <span aria-live="polite" className="text-ink-2">
          {busy}
        </span>
      </div>
      {error && (
        <Notice severity="error" title={error.message}>
          {error.kept} {error.next}
        </Notice>
      )}
      <ul className="flex flex-wrap gap-3">
        {photos.map((p) => (
          <li key={p.id}>
            <a href={`/api/files/${p.id}?view`} target="_blank" rel="noreferrer" className="block">
              {/* biome-ignore lint/performance/noImgElement: served from our own store, shown as it is */}
              <img
                src={`/api/files/${p.id}?view`}
                alt={p.tag ? words(p.tag) : p.name}
                className="h-28 w-40 rounded-[8px] border border-rule bg-sheet-2 object-cover"
              />
            </a>
            <p className="max-w-40 text-[0.87rem] text-ink-2">{p.tag ? words(p.tag) : p.name}</p>
          </li>
        ))}
      </ul>
    </div>
  )
}
