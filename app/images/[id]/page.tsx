import { sizeWords } from '@fresh-coat/core/bytes/text'
import type { DumpInspection } from '@fresh-coat/core/dump/inspect'
import type { ImageInspection } from '@fresh-coat/core/image/inspect'
import type { Metadata } from 'next'
import Link from 'next/link'
import { notFound } from 'next/navigation'
import { ImageStructure, LayoutStrip } from '@/components/drawings/image-structure'
import { SectorMap } from '@/components/drawings/sector-map'
import { buttonClass, Fact, Findings, shortMoment, twoDigits } from '@/components/paint'
import { database } from '@/server/db'
import { loadShop } from '@/server/views'

export const dynamic = 'force-dynamic'
export const metadata: Metadata = { title: 'Image' }

export default async function ImagePage({ params }: { params: Promise<{ id: string }> }) {
  const { id } = await params
  const shop = await loadShop(database())
  const owner = shop.units.find((u) => u.files.some((f) => f.id === id && f.kind !== 'photo'))
  const file = owner?.files.find((f) => f.id === id) ?? shop.images.find((f) => f.id === id)
  if (!file) notFound()
  const found = file.inspection as ImageInspection & Partial<DumpInspection>
  const size = (found as ImageInspection).gzip?.bytes ?? file.bytes
  return (
    <main className="grid gap-5 px-4 py-4 sm:px-6 lg:grid-cols-[minmax(0,1fr)_340px]">
      <div className="grid min-w-0 content-start gap-5">
        <h1 className="text-[1.5rem] break-all">{file.name}</h1>
        <section className="sheet p-5">
          <Findings findings={found.findings} empty="Whole, and nothing speaks against it." />
        </section>
        {found.runs && found.runs.length > 0 && (
          <section className="sheet grid gap-3 p-5">
            <h2 className="text-[1.15rem]">The chip, sector by sector</h2>
            <SectorMap runs={found.runs} label="Chip map" />
          </section>
        )}
        {found.partitions && (
          <section className="sheet grid gap-3 p-5">
            <h2 className="text-[1.15rem]">Layout</h2>
            <LayoutStrip table={found.partitions} />
            {found.partitions.active && (
              <p>
                Starts {found.partitions.active.label ?? 'nothing'} (
                {found.partitions.active.reason.replaceAll('-', ' ')}).
              </p>
            )}
          </section>
        )}
        {found.images.length > 0 && (
          <section className="sheet grid gap-3 p-5">
            <h2 className="text-[1.15rem]">Programs in it</h2>
            <ImageStructure images={found.images} bytes={size} />
          </section>
        )}
      </div>
      <aside className="sheet self-start bg-sheet-2 p-5" aria-label="What is known">
        <dl>
          <Fact name="What">
            {file.kind === 'dump' ? `read ${file.read} of a chip, private` : `${found.kind.replace('-', ' ')} to write`}
          </Fact>
          <Fact name="Size">{sizeWords(file.bytes)}</Fact>
          <Fact name="SHA-256">
            <span className="pin break-all">{file.sha256}</span>
          </Fact>
          <Fact name="Family">{found.family ?? '–'}</Fact>
          <Fact name="Kept">{shortMoment(file.createdAt)}</Fact>
          {owner && (
            <Fact name="Unit">
              <Link className="underline underline-offset-4" href={`/units/${owner.number}/backup`}>
                {twoDigits(owner.number)} {owner.name}
              </Link>
            </Fact>
          )}
          {found.secrets && (
            <Fact
              name="Secrets"
              evidence={`in ${found.secrets.sectors.length} sectors; settings in ${found.secrets.settingsSectors.length} sectors`}
            >
              {found.secrets.count} found, not shown
            </Fact>
          )}
        </dl>
        <a href={`/api/files/${file.id}`} className={`${buttonClass('plain')} mt-4`}>
          Save it as it came
        </a>
      </aside>
    </main>
  )
}
