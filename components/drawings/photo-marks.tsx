'use client'
import { type MarkKind, markKinds, type PhotoMark } from '@fresh-coat/core/steps/open/record'
import type { UnitFile } from '@fresh-coat/core/unit/view'
import { useState } from 'react'
import { Choice, TextField } from '@/components/forms/fields'
import { buttonClass } from '@/components/paint/paint'
import { PhotoStage, type StagePoint } from './photo-stage'

const kindWords: Record<MarkKind, { name: string; sign: string; shape: StagePoint['shape']; hint: string }> = {
  terminal: { name: 'Terminal', sign: 'T', shape: 'square', hint: 'its legend, as printed on the cover' },
  screw: { name: 'Screw', sign: 'S', shape: 'round', hint: 'its driver, or where it hides' },
  pad: { name: 'Pad', sign: 'P', shape: 'round', hint: 'what it is, once it is known' },
  chip: { name: 'Chip', sign: 'C', shape: 'square', hint: 'what is printed on it' },
  hazard: { name: 'Hazard', sign: '!', shape: 'square', hint: 'what can hurt here' },
  trace: { name: 'Trace', sign: '~', shape: 'diamond', hint: 'from where to where' },
}
const photoName = (f: UnitFile) => (f.tag ? f.tag.replaceAll('_', ' ') : f.name)

export const stagePoints = (marks: readonly PhotoMark[]): StagePoint[] =>
  marks.map((m) => ({
    id: m.id,
    x: m.x,
    y: m.y,
    sign: m.label.slice(0, 6) || kindWords[m.kind].sign,
    name: `${kindWords[m.kind].name}${m.label ? `: ${m.label}` : ''}`,
    shape: kindWords[m.kind].shape,
  }))

/** Marks on the photos of a unit: placed by clicking, named beside the picture, kept with the opening record. */
export function PhotoMarks({
  photos,
  marks,
  onChange,
  first = 'terminal',
}: {
  photos: readonly UnitFile[]
  marks: readonly PhotoMark[]
  onChange: (marks: PhotoMark[]) => void
  /** What a click places to begin with. */
  first?: MarkKind
}) {
  const [fileId, setFileId] = useState(photos[0]?.id ?? '')
  const [kind, setKind] = useState<MarkKind>(first)
  const [chosen, setChosen] = useState<string | null>(null)
  const photo = photos.find((p) => p.id === fileId) ?? photos[0]
  if (!photo) return null
  const here = marks.filter((m) => m.fileId === photo.id)
  const set = (id: string, change: Partial<PhotoMark>) =>
    onChange(marks.map((m) => (m.id === id ? { ...m, ...change } : m)))
  return (
    <div className="grid gap-3">
      {photos.length > 1 && (
        <Choice
          label="Photo"
          compact
          value={photo.id}
          options={photos.map((p, i) => ({ value: p.id, label: `${i + 1} ${photoName(p)}` }))}
          onChange={(id) => {
            setFileId(id)
            setChosen(null)
          }}
        />
      )}
      <Choice
        label="A click places a"
        compact
        value={kind}
        options={markKinds.map((k) => ({ value: k, label: kindWords[k].name }))}
        onChange={setKind}
      />
      <div className="grid gap-4 md:grid-cols-[minmax(0,1fr)_17rem]">
        <PhotoStage
          src={`/api/files/${photo.id}?view`}
          alt={photoName(photo)}
          points={stagePoints(here)}
          chosen={chosen}
          onChoose={setChosen}
          placing={kindWords[kind].name}
          onPlace={(x, y) => {
            const id = crypto.randomUUID()
            onChange([...marks, { id, fileId: photo.id, kind, x, y, label: '' }])
            setChosen(id)
          }}
          onMove={(id, x, y) => set(id, { x, y })}
        />
        <ul className="grid content-start gap-2">
          {here.length === 0 && <li className="text-ink-2">No mark on this photo yet.</li>}
          {here.map((m) => (
            <li
              key={m.id}
              className={`grid grid-cols-[1fr_auto] items-end gap-2 rounded-[8px] p-1.5 ${m.id === chosen ? 'bg-ok-soft' : ''}`}
              onFocus={() => setChosen(m.id)}
            >
              <TextField
                label={kindWords[m.kind].name}
                hint={m.id === chosen ? `${kindWords[m.kind].hint}.` : undefined}
                value={m.label}
                maxLength={80}
                onChange={(label) => set(m.id, { label })}
              />
              <button
                type="button"
                className={`${buttonClass('quiet')} !px-2`}
                aria-label={`Remove ${kindWords[m.kind].name.toLowerCase()} ${m.label}`}
                onClick={() => onChange(marks.filter((x) => x.id !== m.id))}
              >
                Remove
              </button>
            </li>
          ))}
        </ul>
      </div>
    </div>
  )
}

/** The same photo with its marks, to look at. */
export function MarkedPhoto({ photo, marks }: { photo: UnitFile; marks: readonly PhotoMark[] }) {
  const [chosen, setChosen] = useState<string | null>(null)
  return (
    <PhotoStage
      src={`/api/files/${photo.id}?view`}
      alt={`${photoName(photo)}, ${photo.name}`}
      points={stagePoints(marks.filter((m) => m.fileId === photo.id))}
      chosen={chosen}
      onChoose={setChosen}
      placing=""
    />
  )
}
