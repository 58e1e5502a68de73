import { sizeWords } from '@fresh-coat/core/bytes/text'
import { dayWords } from '@fresh-coat/core/edge/day'
import { worstOf } from '@fresh-coat/core/edge/finding'
import type { SomeUnits } from '@fresh-coat/core/edge/some'
import type { ImageInspection } from '@fresh-coat/core/image/inspect'
import type { UnitFile } from '@fresh-coat/core/unit/view'
import type { Metadata } from 'next'
import { stripOf } from '@/components/drawings/file-strip'
import { AddImage } from '@/components/files/add-image'
import { ImagesToWrite, type ImageToWrite, KeptStock, type StockKept } from '@/components/files/image-rows'
import Link from '@/components/link'
import { Empty } from '@/components/paint/paint'
import { database, inSnapshot } from '@/server/db/client'
import { localDay } from '@/server/db/day'
import { together } from '@/server/db/together'
import { type DumpRow, dumpsOf, images } from '@/server/files/reads'
import { type StockRow, stockAPage, stockCount, stockPage, usersOfImages } from '@/server/units/lists'

export const dynamic = 'force-dynamic'
export const metadata: Metadata = { title: 'Images' }

const inNone: SomeUnits = { all: 0, numbers: [] }

/** Of a file to write what its row shows: the page brings a row once as data, not twice as what was drawn of it. */
function toWriteOf(file: UnitFile, most: number, units: SomeUnits): ImageToWrite {
  const found = file.inspection as ImageInspection
  // Files of some families have no header: here, without a unit, that is no fault yet.
  const headless = found.kind === 'unknown' && found.findings.every((x) => x.code === 'unknown-format')
  return {
    id: file.id,
    name: file.name,
    strip: stripOf({ bytes: file.bytes, images: found.images, runs: [], most }),
    segments: found.images.reduce((n, i) => n + i.segments.length, 0),
    words: `${found.family ?? 'no family'}, ${found.kind.replaceAll('-', ' ')}, ${sizeWords(file.bytes)}`,
    units,
    headless,
    worst: headless ? 'watch' : worstOf(found.findings),
  }
}

function keptOf(unit: StockRow, files: readonly DumpRow[], most: number): StockKept {
  const newest = files.find((f) => f.read === 1) ?? files[0]
  const secrets = newest?.secrets ?? 0
  return {
    number: unit.number,
    name: unit.name,
    backup: unit.backup,
    strip: stripOf({ bytes: newest?.bytes ?? 0, images: [], runs: newest?.runs ?? [], most }),
    reads: [...files].sort((a, b) => (a.read ?? 0) - (b.read ?? 0)).map(({ id, read }) => ({ id, read })),
    words: `${sizeWords(newest?.bytes ?? 0)}, ${secrets} ${secrets === 1 ? 'secret' : 'secrets'}, ${newest ? dayWords(localDay(new Date(newest.createdAt))) : ''}`,
  }
}

export default async function Images({ searchParams }: { searchParams: Promise<{ after?: string }> }) {
  const after = Math.max(0, Math.floor(Number((await searchParams).after ?? 0)) || 0)
  const shop = await inSnapshot(database(), async (tx) => {
    const first = await together({ images: images(tx), stock: stockPage(tx, after), stockCount: stockCount(tx) })
    const ids = (rows: readonly { id: string }[]) => rows.map((r) => r.id)
    const then = { users: usersOfImages(tx, ids(first.images)), dumps: dumpsOf(tx, ids(first.stock)) }
    return { ...first, ...(await together(then)) }
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
            <ImagesToWrite files={shop.images.map((f) => toWriteOf(f, mostToWrite, shop.users.get(f.id) ?? inNone))} />
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
            <KeptStock
              units={shop.stock.map((u) =>
                keptOf(
                  u,
                  shop.dumps.filter((f) => f.unitId === u.id),
                  mostRead,
                ),
              )}
            />
          )}
          {shop.stock.length === stockAPage && (
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
