import { sizeWords } from '@fresh-coat/core/bytes/text'
import type { DumpInspection } from '@fresh-coat/core/dump/inspect'
import { regionsOf } from '@fresh-coat/core/dump/strip'
import { finding } from '@fresh-coat/core/edge/finding'
import { describedRelease, sameRelease } from '@fresh-coat/core/flash/release'
import type { ImageInspection } from '@fresh-coat/core/image/inspect'
import type { Metadata } from 'next'
import { notFound } from 'next/navigation'
import { z } from 'zod'
import { FlashStrip, ImageStructure, LayoutStrip } from '@/components/drawings/image-structure'
import { SectorMap } from '@/components/drawings/sector-map'
import { FileInspector } from '@/components/files/file-inspector'
import { CompareWith, DescribeBuild, DescribeFile, ListRelease, PatchMode } from '@/components/files/image-tools'
import { StringsList } from '@/components/files/strings-list'
import { Fold } from '@/components/forms/fold'
import Link from '@/components/link'
import { buttonClass, Fact, Findings, shortMoment, twoDigits } from '@/components/paint/paint'
import { database, inSnapshot } from '@/server/db/client'
import { fileDossier } from '@/server/files/dossier'

const kindWords: Record<ImageInspection['kind'], string> = {
  app: 'a program',
  bootloader: 'a boot loader',
  merged: 'a whole-chip file',
  'partition-table': 'a partition table',
  'ota-container': 'an over-the-air container',
  blank: 'a blank file',
  unknown: 'a file without a header',
}

export const dynamic = 'force-dynamic'
export const metadata: Metadata = { title: 'Image' }

export default async function ImagePage({ params }: { params: Promise<{ id: string }> }) {
  const { id } = await params
  const dossier = z.uuid().safeParse(id).success ? await inSnapshot(database(), (tx) => fileDossier(tx, id)) : null
  if (!dossier) notFound()
  const { file, owner, source, users, boards, profiles } = dossier
  const found = file.inspection as ImageInspection & Partial<DumpInspection>
  const profile = profiles.find((p) => p.name === file.firmware)
  const described = profile && file.release ? describedRelease(file.release, found) : null
  const listed = described !== null && profile?.data.releases?.some((r) => sameRelease(r, described))
  const regions = found.runs ? regionsOf(found, found.runs, file.bytes) : []
  const size = (found as ImageInspection).gzip?.bytes ?? file.bytes
  return (
    <main className="grid min-h-[calc(100dvh-52px)] lg:grid-cols-[minmax(0,1fr)_320px]">
      <div className="grid min-w-0 content-start gap-4 px-4 py-3.5 sm:px-5">
        <h1 className="text-[1.5rem] break-all">{file.name}</h1>
        {!found.partitions && regions.length > 0 && (
          <section className="sheet grid gap-3 p-4">
            <h2 className="text-[1.15rem]">Layout</h2>
            <FlashStrip regions={regions} chipBytes={file.bytes} />
            <p className="text-ink-2">
              This family keeps no table: programs by their headers, settings in the last five sectors.
            </p>
          </section>
        )}
        {found.partitions && (
          <section className="sheet grid gap-3 p-4">
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
          <section className="sheet grid gap-3 p-4">
            <h2 className="text-[1.15rem]">Programs in it</h2>
            <ImageStructure images={found.images} bytes={size} />
          </section>
        )}
        {dossier.madeAlike && (
          <section className="sheet p-4">
            <Findings
              findings={[
                finding(
                  'same-making-other-hash',
                  'watch',
                  `${dossier.madeAlike} was made the same way, and is another file.`,
                  'Same source, state, options and libraries; their hashes differ.',
                  'One of the two was made otherwise than it says, or its tools changed.',
                ),
              ]}
              empty=""
            />
          </section>
        )}
        <section className="sheet p-4">
          <Findings findings={found.findings} empty="Whole, and nothing speaks against it." />
        </section>
        <section className="sheet grid gap-3 p-4">
          <h2 className="text-[1.15rem]">{found.runs?.length ? 'The chip, sector by sector' : 'Its bytes'}</h2>
          {file.held === false ? (
            <>
              <SectorMap runs={found.runs ?? []} label="Chip map" />
              <p className="text-ink-2">
                The bytes stayed on your disk: only hash, length and map are kept here. Choose the file again at Back up
                to have it kept.
              </p>
            </>
          ) : (
            <>
              <FileInspector fileId={file.id} runs={found.runs ?? []} regions={regions} />
              <StringsList fileId={file.id} />
            </>
          )}
        </section>
      </div>
      <aside
        className="border-t border-rule bg-sheet-2 px-5 py-3.5 lg:border-t-0 lg:border-l"
        aria-label="What is known"
      >
        <dl>
          <Fact name="What">
            {file.kind === 'dump' ? `read ${file.read} of a chip, private` : `${kindWords[found.kind]}, to write`}
          </Fact>
          <Fact name="Size">{sizeWords(file.bytes)}</Fact>
          <Fact name="SHA-256">
            <span className="pin break-all">{file.sha256}</span>
          </Fact>
          <Fact name="Family">{found.family ?? '–'}</Fact>
          {(file.firmware || file.release) && (
            <Fact name="Release">{[file.firmware, file.release].filter(Boolean).join(' ')}</Fact>
          )}
          {file.origin && (
            <Fact name="From">
              {source ? (
                <Link className="underline underline-offset-4" href={`/images/${source.id}`}>
                  {file.origin}
                </Link>
              ) : (
                file.origin
              )}
            </Fact>
          )}
          {users.length > 0 && (
            <Fact name="Written to">
              {users.map((u) => (
                <Link key={u} className="mr-2 underline underline-offset-4" href={`/units/${u}/write`}>
                  {twoDigits(u)}
                </Link>
              ))}
            </Fact>
          )}
          {boards.length > 0 && (
            <Fact name="Boards">
              {boards.map((b) => (
                <Link key={b.id} className="mr-2 underline underline-offset-4" href={`/boards/${b.id}`}>
                  {b.name}
                </Link>
              ))}
            </Fact>
          )}
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
              evidence={`in ${sectorCount(found.secrets.sectors.length)}; settings in ${sectorCount(found.secrets.settingsSectors.length)}`}
            >
              {found.secrets.count} found, not shown
            </Fact>
          )}
        </dl>
        {file.held !== false && (
          <a href={`/api/files/${file.id}`} className={`${buttonClass('plain')} mt-4`}>
            Save it as it came
          </a>
        )}
        {file.kind === 'image' && found.images[0] && (
          <section className="mt-5 border-t border-rule-2 pt-3">
            <h2 className="mb-2 text-[1.05rem]">Flash mode</h2>
            <PatchMode fileId={file.id} mode={found.images[0].mode} />
          </section>
        )}
        <section className="mt-5 border-t border-rule-2 pt-3">
          <h2 className="mb-2 text-[1.05rem]">Compare</h2>
          <CompareWith
            fileId={file.id}
            others={dossier.others.map((o) => ({
              id: o.id,
              label: `${o.unit === null ? o.name : `${twoDigits(o.unit)} read ${o.read}`}, ${sizeWords(o.bytes)}`,
            }))}
          />
        </section>
        {file.kind === 'image' && (
          <Fold look="rule" summary="Whose build it is">
            <DescribeBuild
              key={file.version}
              file={{ id: file.id, version: file.version ?? 1, build: file.build ?? null }}
            />
          </Fold>
        )}
        {file.kind === 'image' && (
          <Fold look="rule" summary="Where it came from">
            <DescribeFile
              key={file.version}
              file={{
                id: file.id,
                version: file.version ?? 1,
                origin: file.origin ?? '',
                firmware: file.firmware ?? '',
                release: file.release ?? '',
              }}
              firmwares={profiles.map((p) => p.name)}
            />
            {profile && described && !listed && (
              <ListRelease
                profile={{ ...profile, data: { ...profile.data, releases: profile.data.releases ?? [] } }}
                release={described}
              />
            )}
          </Fold>
        )}
      </aside>
    </main>
  )
}

const sectorCount = (n: number) => `${n} sector${n === 1 ? '' : 's'}`
