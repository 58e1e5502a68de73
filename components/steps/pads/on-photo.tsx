import type { PadReading } from '@fresh-coat/core/pads/readings'
import type { UnitFile } from '@fresh-coat/core/unit/view'
import type { PadRole } from '@fresh-coat/core/wiring/wiring'
import { PhotoStage, type StagePoint } from '@/components/drawings/photo-stage'
import { Choice } from '@/components/forms/fields'
import { buttonClass } from '@/components/paint/paint'
import type { SurfaceProps } from '@/components/steps/context'

interface Props {
  record: SurfaceProps<'pads'>['record']
  photos: readonly UnitFile[]
  roles: readonly PadRole[]
  readings: readonly PadReading[]
  chosen: number
  onChoose: (index: number) => void
}

const pointsOf = (at: readonly { x: number; y: number }[], { roles, readings }: Props): StagePoint[] =>
  at.map((place, i) => {
    const role = roles[i] ?? 'UNKNOWN'
    return {
      id: String(i),
      ...place,
      sign: role === 'UNKNOWN' ? String(i + 1) : role,
      name: `Pad ${i + 1}: ${role === 'UNKNOWN' ? 'not known' : role}`,
      shape: readings[i]?.square ? 'square' : 'round',
    }
  })

/** Where the pads lie on a photo: clicked in their order, moved by hand. */
export function PadsOnPhoto(props: Props) {
  const { record, photos, chosen, onChoose } = props
  const { data, patch } = record
  const n = data.pads.length
  const onPhoto = data.onPhoto && photos.some((p) => p.id === data.onPhoto?.fileId) ? data.onPhoto : null
  const at = onPhoto?.at ?? []
  return (
    <>
      <Choice
        label="Photo"
        compact
        value={onPhoto?.fileId ?? null}
        options={photos.map((p, i) => ({ value: p.id, label: `${i + 1} ${(p.tag ?? p.name).replaceAll('_', ' ')}` }))}
        onChange={(fileId) => patch({ onPhoto: { fileId, at } })}
      />
      {onPhoto && (
        <PhotoStage
          src={`/api/files/${onPhoto.fileId}?view`}
          alt="Photo of the board"
          chosen={at[chosen] ? String(chosen) : null}
          onChoose={(id) => id !== null && onChoose(Number(id))}
          placing={at.length < n ? `Pad ${at.length + 1}` : ''}
          onPlace={(x, y) => patch({ onPhoto: { ...onPhoto, at: [...at, { x, y }] } })}
          onMove={(id, x, y) =>
            patch({ onPhoto: { ...onPhoto, at: at.map((p, i) => (i === Number(id) ? { x, y } : p)) } })
          }
          points={pointsOf(at, props)}
        />
      )}
      <p className="text-ink-2">
        {!onPhoto
          ? 'Choose the photo that shows the pads.'
          : at.length < n
            ? `Click where pad ${at.length + 1} is.`
            : 'Every pad has its place. Drag one, or move it by arrow keys.'}
      </p>
      {onPhoto && (
        <button
          type="button"
          className={`${buttonClass('quiet')} justify-self-start`}
          onClick={() => patch({ onPhoto: null })}
        >
          Take them off the photo
        </button>
      )}
    </>
  )
}
