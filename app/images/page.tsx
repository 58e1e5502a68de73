import { sizeWords } from '@fresh-coat/core/bytes/text'
import { worstOf } from '@fresh-coat/core/edge/finding'
import type { ImageInspection } from '@fresh-coat/core/image/inspect'
import type { Metadata } from 'next'
import { AddImage } from '@/components/files/add-image'
import Link from '@/components/link'
import { CaseNumber, Empty, shortMoment, Tag } from '@/components/paint/paint'
import { database, inSnapshot } from '@/server/db/client'
import { dumpsOf, images } from '@/server/files/reads'
import { stockCount, stockPage, usersOfImages } from '@/server/units/lists'

export const dynamic = 'force-dynamic'
export const metadata: Metadata = { title: 'Images' }

const backupWords = {
  verified: ['ok', 'verified'],
  single: ['watch', 'read once'],
  differ: ['error', 'reads differ'],
  skipped: ['watch', 'skipped'],
  none: ['watch', 'none'],
} as const

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
  const usedBy = (fileId: string) => shop.users.get(fileId) ?? []
  return (
    <main className="grid gap-6 px-4 py-4 sm:px-6">
      <div className="flex flex-wrap items-baseline gap-x-6 gap-y-1">
        <h1 className="text-[1.5rem]">Images</h1>
        <Link href="/images/firmware" className="underline underline-offset-4">
          Firmware and its releases
        </Link>
        {shop.stockCount > 0 && (
          <a href="/api/export/manifest" className="underline underline-offset-4">
            Manifest of the kept stock firmware
          </a>
        )}
      </div>
      <section className="grid gap-3" aria-labelledby="to-write">
        <h2 id="to-write" className="text-[1.15rem]">
          To write <span className="font-normal text-ink-2">{shop.images.length}</span>
        </h2>
        <div className="grid gap-3 lg:grid-cols-[minmax(0,1fr)_20rem]">
          {shop.images.length === 0 ? (
            <Empty title="No image yet">
              <p>
                Drop a firmware file here or at a unit’s Check step. It is inspected, kept by its hash, and offered to
                every unit it fits.
              </p>
            </Empty>
          ) : (
            <div className="sheet overflow-x-auto px-4 py-2">
              <table className="plain">
                <thead>
                  <tr>
                    <th>File</th>
                    <th>For</th>
                    <th>Kind</th>
                    <th>Size</th>
                    <th>SHA-256</th>
                    <th>Checks</th>
                    <th>Units</th>
                  </tr>
                </thead>
                <tbody>
                  {shop.images.map((f) => {
                    const found = f.inspection as ImageInspection
                    // Files of some families have no header: here, without a unit, that is no fault yet.
                    const worst =
                      found.kind === 'unknown' && found.findings.every((x) => x.code === 'unknown-format')
                        ? 'watch'
                        : worstOf(found.findings)
                    return (
                      <tr key={f.id}>
                        <td className="break-all">
                          <Link href={`/images/${f.id}`} className="font-semibold underline underline-offset-4">
                            {f.name}
                          </Link>
                        </td>
                        <td>{found.family ?? '–'}</td>
                        <td>{found.kind.replace('-', ' ')}</td>
                        <td className="whitespace-nowrap">{sizeWords(f.bytes)}</td>
                        <td className="pin">{f.sha256.slice(0, 12)}</td>
                        <td>
                          <Tag severity={worst}>
                            {worst === 'watch' && found.kind === 'unknown' ? 'no header' : undefined}
                          </Tag>
                        </td>
                        <td className="pin">{usedBy(f.id).join(', ') || '–'}</td>
                      </tr>
                    )
                  })}
                </tbody>
              </table>
            </div>
          )}
          <AddImage />
        </div>
      </section>
      <section className="grid gap-3" aria-labelledby="stock">
        <h2 id="stock" className="text-[1.15rem]">
          Stock firmware kept <span className="font-normal text-ink-2">{shop.stockCount} units, private</span>
        </h2>
        {shop.stock.length === 0 ? (
          <Empty title="No stock firmware kept yet">
            <p>Two equal reads of a whole chip make a verified backup. They are dropped at a unit’s Back up step.</p>
          </Empty>
        ) : (
          <ul className="grid gap-2">
            {shop.stock.map((u) => {
              const files = shop.dumps.filter((f) => f.unitId === u.id)
              const newest = files.find((f) => f.read === 1) ?? files[0]
              const [severity, words] = backupWords[u.backup as keyof typeof backupWords] ?? backupWords.none
              return (
                <li key={u.id} className="sheet flex flex-wrap items-center gap-x-5 gap-y-1.5 px-4 py-2.5">
                  <Link href={`/units/${u.number}/backup`} aria-label={`Unit ${u.number}`}>
                    <CaseNumber n={u.number} size="small" />
                  </Link>
                  <span className="min-w-[12rem] flex-1 font-semibold" dir="auto">
                    {u.name}
                  </span>
                  <Tag severity={severity}>{words}</Tag>
                  {[...files]
                    .sort((a, b) => (a.read ?? 0) - (b.read ?? 0))
                    .map((f) => (
                      <Link key={f.id} href={`/images/${f.id}`} className="underline underline-offset-4">
                        read {f.read}, {sizeWords(f.bytes)}, <span className="pin">{f.sha256.slice(0, 8)}</span>
                      </Link>
                    ))}
                  <span className="text-[0.9rem] text-ink-2">
                    {newest?.secrets ?? 0} secrets inside · {shortMoment(newest?.createdAt ?? '')}
                  </span>
                </li>
              )
            })}
          </ul>
        )}
        {shop.stock.length === 50 && (
          <Link href={`/images?after=${shop.stock.at(-1)?.number}`} className="underline underline-offset-4">
            The next ones
          </Link>
        )}
      </section>
    </main>
  )
}
