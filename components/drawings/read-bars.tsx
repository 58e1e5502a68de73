import { sizeWords } from '@fresh-coat/core/bytes/text'
import type { UnitFile } from '@fresh-coat/core/unit/view'
import { ChooseFile } from '@/components/files/choose-file'

/** One read as a bar over the extent of the chip, with the way to bring its file. */
function ReadBar({
  n,
  file,
  chipBytes,
  good,
  busy,
  take,
}: {
  n: 1 | 2
  file: UnitFile | null
  chipBytes: number
  /** The two reads are equal. */
  good: boolean
  busy: boolean
  take: (file: File) => void
}) {
  const name = n === 1 ? 'first read' : 'second read'
  const share = file ? Math.min(1, file.bytes / chipBytes) : 0
  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: dropping is an extra; the label does the same
    <div
      className="grid grid-cols-[4.1rem_minmax(0,1fr)_auto] items-center gap-3"
      onDragOver={(e) => e.preventDefault()}
      onDrop={(e) => {
        e.preventDefault()
        const dropped = e.dataTransfer.files[0]
        if (dropped && !busy) take(dropped)
      }}
    >
      <span className="pin text-right text-ink-2">{n === 1 ? 'first' : 'second'}</span>
      <span className="relative h-6 overflow-hidden rounded-[4px] border border-rule bg-sheet">
        <span
          className={`absolute inset-y-0 left-0 ${good ? 'bg-verdigris' : 'bg-prussian'}`}
          style={{ width: `${share * 100}%` }}
        />
        {file && (
          <span
            className="absolute inset-0 truncate px-2 text-[0.87rem] leading-6 font-semibold text-on-paint"
            dir="auto"
          >
            {file.name}, {sizeWords(file.bytes)}
          </span>
        )}
      </span>
      <ChooseFile
        disabled={busy}
        onFiles={([chosen]) => chosen && take(chosen)}
        className="rounded-[7px] border border-ink-3 bg-sheet px-2.5 py-0.5 text-[0.93rem] font-semibold"
      >
        {file ? 'read anew' : 'choose'}
        <span className="sr-only">: the {name}</span>
      </ChooseFile>
    </div>
  )
}

/** Both reads under the map. */
export function ReadBars({
  first,
  second,
  chipBytes,
  equal,
  busy,
  take,
}: {
  first: UnitFile | null
  second: UnitFile | null
  chipBytes: number
  equal: boolean
  busy: boolean
  take: (file: File, read: 1 | 2) => unknown
}) {
  const shared = { chipBytes, good: equal, busy }
  return (
    <div className="grid gap-1.5">
      <ReadBar n={1} file={first} take={(f) => void take(f, 1)} {...shared} />
      <ReadBar n={2} file={second} take={(f) => void take(f, 2)} {...shared} />
    </div>
  )
}
