'use client'
import type { Severity } from '@fresh-coat/core/edge/finding'
import type { SomeUnits } from '@fresh-coat/core/edge/some'
import { FileStrip, type Strip } from '@/components/drawings/file-strip'
import Link from '@/components/link'
import { CaseNumber, numbersOf, Tag } from '@/components/paint/paint'
import { useFirstScreen } from '@/components/tables/first-screen'

/** Files to write, and the stock firmware that is kept, in rows. */

export interface ImageToWrite {
  id: string
  name: string
  strip: Strip
  segments: number
  /** What it is: family, kind, size. */
  words: string
  /** The units it was chosen for. */
  units: SomeUnits
  headless: boolean
  worst: Severity
}

export interface StockKept {
  number: number
  name: string
  backup: string
  strip: Strip
  reads: { id: string; read: number | null }[]
  /** Size, secrets, when. */
  words: string
}

const backupWords = {
  verified: ['ok', 'verified'],
  single: ['watch', 'read once'],
  differ: ['error', 'reads differ'],
  skipped: ['watch', 'skipped'],
  none: ['watch', 'none'],
} as const

const rowClass =
  'grid grid-cols-[minmax(0,1fr)_auto] items-center gap-x-5 gap-y-1 border-b border-rule-2 px-2 py-1.5 md:grid-cols-[minmax(0,1fr)_minmax(0,0.9fr)_minmax(0,1.4fr)_7.6rem]'

/** Each file to write: its strip, what it is, what speaks against it, and where it went. */
export function ImagesToWrite({ files }: { files: readonly ImageToWrite[] }) {
  return (
    <ul className="sheet px-2 py-1">
      {files.map((f) => (
        <li key={f.id} className={rowClass}>
          <Link
            href={`/images/${f.id}`}
            className="font-semibold underline underline-offset-4 [overflow-wrap:anywhere]"
            dir="auto"
          >
            {f.name}
          </Link>
          <span className="max-md:order-3 max-md:col-span-2">
            <FileStrip strip={f.strip} label={`${f.segments} segments`} />
          </span>
          <span className="max-md:order-4 max-md:col-span-2">
            {f.words}
            {f.units.all > 0 && <span className="text-ink-2">; in {numbersOf(f.units)}</span>}
          </span>
          <Tag severity={f.worst}>{f.headless ? 'no header' : undefined}</Tag>
        </li>
      ))}
    </ul>
  )
}

const rowsAtFirst = 20

/** Stock firmware of each unit: the map of its chip as a strip, and both reads. */
export function KeptStock({ units }: { units: readonly StockKept[] }) {
  const drawn = useFirstScreen(units.length, rowsAtFirst)
  return (
    <ul className="sheet px-2 py-1">
      {units.slice(0, drawn).map((u) => {
        const [severity, words] = backupWords[u.backup as keyof typeof backupWords] ?? backupWords.none
        return (
          <li key={u.number} className={rowClass}>
            <Link href={`/units/${u.number}/backup`} className="flex min-w-0 items-center gap-3">
              <CaseNumber n={u.number} size="small" />
              <span className="font-semibold [overflow-wrap:anywhere]" dir="auto">
                {u.name}
              </span>
            </Link>
            <span className="max-md:order-3 max-md:col-span-2">
              <FileStrip strip={u.strip} label={`Map of the chip of unit ${u.number}`} />
            </span>
            <span className="max-md:order-4 max-md:col-span-2">
              {u.reads.map((f) => (
                <Link key={f.id} href={`/images/${f.id}`} className="mr-3 underline underline-offset-4">
                  read {f.read}
                </Link>
              ))}
              <span className="text-ink-2">{u.words}</span>
            </span>
            <Tag severity={severity}>{words}</Tag>
          </li>
        )
      })}
    </ul>
  )
}
