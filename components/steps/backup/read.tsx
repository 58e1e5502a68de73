import { sizeWords } from '@fresh-coat/core/bytes/text'
import type { UnitFile } from '@fresh-coat/core/unit/view'
import { DropFile } from '@/components/files/drop-file'
import { shortMoment, Tag } from '@/components/paint/paint'

/** One read of the chip: what is kept of it, and where the next one is dropped. */
export function Read({
  n,
  file,
  busy,
  take,
  aside,
}: {
  n: 1 | 2
  file: UnitFile | null
  busy: boolean
  take: (file: File) => void
  aside: (file: UnitFile) => void
}) {
  const label = n === 1 ? 'First read' : 'Second read'
  return (
    <div className="grid content-start gap-2">
      <h3 className="text-[1.05rem]">{label}</h3>
      {file && (
        <div className="rounded-[10px] border border-rule bg-sheet-2 p-3">
          <p className="break-all">
            <strong>{file.name}</strong>, {sizeWords(file.bytes)}
          </p>
          <p className="pin break-all text-ink-2">{file.sha256}</p>
          <p className="text-[0.9rem] text-ink-2">
            <Tag severity="ok">private</Tag>{' '}
            {file.held === false ? (
              <>noted {shortMoment(file.createdAt)} · its bytes are on your disk only</>
            ) : (
              <>
                kept {shortMoment(file.createdAt)} ·{' '}
                <a className="underline underline-offset-4" href={`/api/files/${file.id}`}>
                  Save it as it came
                </a>
              </>
            )}
          </p>
          <button type="button" className="underline underline-offset-4" onClick={() => aside(file)}>
            Put it aside: it is not this unit’s chip
          </button>
        </div>
      )}
      <DropFile
        label={
          file ? `Read again: drop the new ${label.toLowerCase()}` : `Drop the ${label.toLowerCase()}, or choose it`
        }
        about="Up to 16 MiB, plain bytes from 0 to the end of the chip."
        disabled={busy}
        onFile={take}
      />
    </div>
  )
}
