import { sizeWords } from '@fresh-coat/core/bytes/text'
import { worstOf } from '@fresh-coat/core/edge/finding'
import type { ImageInspection } from '@fresh-coat/core/image/inspect'
import type { UnitFile } from '@fresh-coat/core/unit/view'
import type { Metadata } from 'next'
import { FileStrip } from '@/components/drawings/file-strip'
import { AddImage } from '@/components/files/add-image'
import Link from '@/components/link'
import { CaseNumber, Empty, shortMoment, Tag, twoDigits } from '@/components/paint/paint'
import { database, inSnapshot } from '@/server/db/client'
import { type DumpRow, dumpsOf, images } from '@/server/files/reads'
import { type StockRow, stockCount, stockPage, usersOfImages } from '@/server/units/lists'

export const dynamic = 'force-dynamic'
export const metadata: Metadata = { title: 'Images' }

const backupWords = {
  verified: ['ok', 'verified'],
  single: ['watch', 'read once'],
  differ: ['error', 'reads differ'],
  skipped: ['watch', 'skipped'],
  none: ['watch', 'none'],
} as const

const rowClass =
  'grid grid-cols-[minmax(0,1fr)_auto] items-center gap-x-5 gap-y-1 border-b border-rule-2 px-2 py-1.5 md:grid-cols-[minmax(0,1fr)_minmax(0,1fr)_minmax(0,1.3fr)_6.6rem]'

/** A file to write: its strip, what it is, what speaks against it, and where it went. */
function ImageRow({ file, most, units }: { file: UnitFile; most: number; units: readonly number[] }) {
  const found = file.inspection as ImageInspection
  // Files of some families have no header: here, without a unit, that is no fault yet.
  const headless = found.kind === 'unknown' && found.findings.every((x) => x.code === 'unknown-format')
  const worst = headless ? 'watch' : worstOf(found.findings)
  return (
    <li className={rowClass}>
      <Link href={`/images/${file.id}`} className="truncate font-semibold underline underline-offset-4" dir="auto">
        {file.name}
      </Link>
      <span className="max-md:order-3 max-md:col-span-2">
        <FileStrip
          bytes={file.bytes}
          images={found.images}
          runs={[]}
          most={most}
          label={`${found.images.reduce((n, i) => n + i.segments.length, 0)} segments`}
        />
      </span>
      <span className="truncate max-md:order-4 max-md:col-span-2">
        {found.family ?? 'no family'}, {found.kind.replaceAll('-', ' ')}, {sizeWords(file.bytes)}
        {units.length > 0 && <span className="text-ink-2">; in {units.map(twoDigits).join(', ')}</span>}
      </span>
      <Tag severity={worst}>{headless ? 'no header' : undefined}</Tag>
    </li>
  )
}

/** Stock firmware of a unit: the map of its chip as a strip, and both reads. */
function StockItem({ unit, files, most }: { unit: StockRow; files: readonly DumpRow[]; most: number }) {
  const newest = files.find((f) => f.read === 1) ?? files[0]
  const [severity, words] = backupWords[unit.backup as keyof typeof backupWords] ?? backupWords.none
  const reads = [...files].sort((a, b) => (a.read ?? 0) - (b.read ?? 0))
  return (
    <li className={rowClass}>
      <Link href={`/units/${unit.number}/backup`} className="flex min-w-0 items-center gap-3">
        <CaseNumber n={unit.number} size="small" />
        <span className="truncate font-semibold" dir="auto">
          {unit.name}
        </span>
      </Link>
      <span className="max-md:order-3 max-md:col-span-2">
        <FileStrip
          bytes={newest?.bytes ?? 0}
          images={[]}
          runs={newest?.runs ?? []}
          most={most}
          label={`Map of the chip of unit ${unit.number}`}
        />
      </span>
      <span className="truncate max-md:order-4 max-md:col-span-2">
        {reads.map((f) => (
          <Link key={f.id} href={`/images/${f.id}`} className="mr-3 underline underline-offset-4">
            read {f.read}
          </Link>
        ))}
        <span className="text-ink-2">
          {sizeWords(newest?.bytes ?? 0)}, {newest?.secrets ?? 0} {newest?.secrets === 1 ? 'secret' : 'secrets'},{' '}
          {shortMoment(newest?.createdAt ?? '')}
        </span>
      </span>
      <Tag severity={severity}>{words}</Tag>
    </li>
  )
}

export default async function Images({ searchParams }: { searchParams: Promise<{ after?: string }> }) {
  const after = Math.max(0, Math.floor(Number((await searchParams).after ?? 0)) || 0)
  const shop = await inSnapshot(database(), async (tx) => {
    const toWrite = await images(tx)
    const stock = await stockPage(tx, after)
    return {
      images: toWrite,
      users: await usersOfImages(
        tx,
        toWrite.map((f) => f.id),
      ),
      stock,
      stockCount: await stockCount(tx),
      dumps: await dumpsOf(
        tx,
        stock.map((u) => u.id),
      ),
    }
  })
  const mostToWrite = Math.max(1, ...shop.images.map((f) => f.bytes))
  const mostRead = Math.max(1, ...shop.dumps.map((f) => f.bytes))
  return (
    <main className="grid min-h-[calc(100dvh-52px)] lg:grid-cols-[minmax(0,1fr)_300px]">
      <div className="grid min-w-0 content-start gap-4 px-4 py-3.5 sm:px-5">
        <section aria-labelledby="to-write">
          <h1 id="to-write" className="text-[1.4rem]">
            Images to write <span className="font-normal text-ink-2">{shop.images.length}</span>
          </h1>
          {shop.images.length === 0 ? (
            <Empty title="No image yet">
              <p>
                Drop a firmware file here or at a unit’s Check step. It is inspected, kept by its hash, and offered to
                every unit it fits.
              </p>
            </Empty>
          ) : (
            <ul className="sheet px-2 py-1">
              {shop.images.map((f) => (
                <ImageRow key={f.id} file={f} most={mostToWrite} units={shop.users.get(f.id) ?? []} />
              ))}
            </ul>
          )}
        </section>
        <section aria-labelledby="stock">
          <h2 id="stock" className="text-[1.2rem]">
            Stock firmware kept{' '}
            <span className="font-normal text-ink-2">
              {shop.stockCount} {shop.stockCount === 1 ? 'unit' : 'units'}, private
            </span>
          </h2>
          {shop.stock.length === 0 ? (
            <Empty title="No stock firmware kept yet">
              <p>Two equal reads of a whole chip make a verified backup. They are dropped at a unit’s Back up step.</p>
            </Empty>
          ) : (
            <ul className="sheet px-2 py-1">
              {shop.stock.map((u) => (
                <StockItem key={u.id} unit={u} files={shop.dumps.filter((f) => f.unitId === u.id)} most={mostRead} />
              ))}
            </ul>
          )}
          {shop.stock.length === 50 && (
            <Link href={`/images?after=${shop.stock.at(-1)?.number}`} className="underline underline-offset-4">
              The next ones
            </Link>
          )}
        </section>
      </div>
      <aside
        className="grid content-start gap-4 border-t border-rule bg-sheet-2 px-5 py-3.5 lg:border-t-0 lg:border-l"
        aria-label="Add"
      >
        <h2 className="text-[1.1rem]">Bring one in</h2>
        <AddImage />
        <p className="grid gap-2.5 leading-[1.7]">
          <Link href="/images/firmware" className="underline underline-offset-4">
            Firmware and its releases
          </Link>
          {shop.stockCount > 0 && (
            <a href="/api/export/manifest" className="underline underline-offset-4">
              Manifest of the kept stock firmware
            </a>
          )}
        </p>
      </aside>
    </main>
  )
}
