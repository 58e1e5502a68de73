import { sizeWords } from '@fresh-coat/core/bytes/text'
import type { DumpInspection } from '@fresh-coat/core/dump/inspect'
import { regionsOf } from '@fresh-coat/core/dump/strip'
import { finding } from '@fresh-coat/core/edge/finding'
import { describedRelease, sameRelease } from '@fresh-coat/core/flash/release'
import type { ImageInspection } from '@fresh-coat/core/image/inspect'
import type { Metadata } from 'next'
import { notFound } from 'next/navigation'
import { z } from 'zod'
import { FlashStrip, LayoutStrip } from '@/components/drawings/flash-strip'
import { ImageStructure } from '@/components/drawings/image-structure'
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

type Dossier = NonNullable<Awaited<ReturnType<typeof fileDossier>>>
type Found = ImageInspection & Partial<DumpInspection>
type Regions = ReturnType<typeof regionsOf>

const foundIn = (file: Dossier['file']) => file.inspection as Found

/** How the bytes are shared out: by their table, or, where the family keeps none, by what was found. */
function Layout({ found, regions, bytes }: { found: Found; regions: Regions; bytes: number }) {
  const { partitions } = found
  if (!partitions && regions.length === 0) return null
  return (
    <section className="sheet grid gap-3 p-4">
      <h2 className="text-[1.15rem]">Layout</h2>
      {partitions ? (
        <>
          <LayoutStrip table={partitions} />
          {partitions.active && (
            <p>
              Starts {partitions.active.label ?? 'nothing'} ({partitions.active.reason.replaceAll('-', ' ')}).
            </p>
          )}
        </>
      ) : (
        <>
          <FlashStrip regions={regions} chipBytes={bytes} />
          <p className="text-ink-2">
            This family keeps no table: programs by their headers, settings in the last five sectors.
          </p>
        </>
      )}
    </section>
  )
}

/** Another file says that it was made the same way, and is not the same. */
function MadeAlike({ other }: { other: string }) {
  return (
    <section className="sheet p-4">
      <Findings
        findings={[
          finding(
            'same-making-other-hash',
            'watch',
            `${other} was made the same way, and is another file.`,
            'Same source, state, options and libraries; their hashes differ.',
            'One of the two was made otherwise than it says, or its tools changed.',
          ),
        ]}
        empty=""
      />
    </section>
  )
}

/** The bytes themselves, where they were kept. */
function Content({ file, regions }: { file: Dossier['file']; regions: Regions }) {
  const { runs = [] } = foundIn(file)
  return (
    <section className="sheet grid gap-3 p-4">
      <h2 className="text-[1.15rem]">{runs.length > 0 ? 'The chip, sector by sector' : 'Its bytes'}</h2>
      {file.held === false ? (
        <>
          <SectorMap runs={runs} label="Chip map" />
          <p className="text-ink-2">
            The bytes stayed on your disk: only hash, length and map are kept here. Choose the file again at Back up to
            have it kept.
          </p>
        </>
      ) : (
        <>
          <FileInspector fileId={file.id} runs={runs} regions={regions} />
          <StringsList fileId={file.id} />
        </>
      )}
    </section>
  )
}

/** Where it came from, and where it went. */
function Travels({ file, source, users, boards, owner }: Dossier) {
  const link = 'underline underline-offset-4'
  return (
    <>
      {file.origin && (
        <Fact name="From">
          {source ? (
            <Link className={link} href={`/images/${source.id}`}>
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
            <Link key={u} className={`mr-2 ${link}`} href={`/units/${u}/write`}>
              {twoDigits(u)}
            </Link>
          ))}
        </Fact>
      )}
      {boards.length > 0 && (
        <Fact name="Boards">
          {boards.map((b) => (
            <Link key={b.id} className={`mr-2 ${link}`} href={`/boards/${b.id}`}>
              {b.name}
            </Link>
          ))}
        </Fact>
      )}
      <Fact name="Kept">{shortMoment(file.createdAt)}</Fact>
      {owner && (
        <Fact name="Unit">
          <Link className={link} href={`/units/${owner.number}/backup`}>
            {twoDigits(owner.number)} {owner.name}
          </Link>
        </Fact>
      )}
    </>
  )
}

function Known(dossier: Dossier) {
  const { file } = dossier
  const found = foundIn(file)
  const { secrets } = found
  return (
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
      <Travels {...dossier} />
      {secrets && (
        <Fact
          name="Secrets"
          evidence={`in ${sectorCount(secrets.sectors.length)}; settings in ${sectorCount(secrets.settingsSectors.length)}`}
        >
          {secrets.count} found, not shown
        </Fact>
      )}
    </dl>
  )
}

/** What a person says of it: whose build it is, and which release of which firmware. */
function Described({ file, profiles }: Dossier) {
  const profile = profiles.find((p) => p.name === file.firmware)
  const described = profile && file.release ? describedRelease(file.release, foundIn(file)) : null
  const listed = described !== null && profile?.data.releases?.some((r) => sameRelease(r, described))
  const { id, version = 1 } = file
  return (
    <>
      <Fold look="rule" summary="Whose build it is">
        <DescribeBuild key={file.version} file={{ id, version, build: file.build ?? null }} />
      </Fold>
      <Fold look="rule" summary="Where it came from">
        <DescribeFile
          key={file.version}
          file={{
            id,
            version,
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
    </>
  )
}

const otherWords = (o: Dossier['others'][number]): string =>
  `${o.unit === null ? o.name : `${twoDigits(o.unit)} read ${o.read}`}, ${sizeWords(o.bytes)}`

/** What can be done with it. */
function Acts({ file, others }: Dossier) {
  const [first] = foundIn(file).images
  return (
    <>
      {file.held !== false && (
        <a href={`/api/files/${file.id}`} className={`${buttonClass('plain')} mt-4`}>
          Save it as it came
        </a>
      )}
      {file.kind === 'image' && first && (
        <section className="mt-5 border-t border-rule-2 pt-3">
          <h2 className="mb-2 text-[1.05rem]">Flash mode</h2>
          <PatchMode fileId={file.id} mode={first.mode} />
        </section>
      )}
      <section className="mt-5 border-t border-rule-2 pt-3">
        <h2 className="mb-2 text-[1.05rem]">Compare</h2>
        <CompareWith fileId={file.id} others={others.map((o) => ({ id: o.id, label: otherWords(o) }))} />
      </section>
    </>
  )
}

export default async function ImagePage({ params }: { params: Promise<{ id: string }> }) {
  const { id } = await params
  const dossier = z.uuid().safeParse(id).success ? await inSnapshot(database(), (tx) => fileDossier(tx, id)) : null
  if (!dossier) notFound()
  const { file, madeAlike } = dossier
  const found = foundIn(file)
  const regions = found.runs ? regionsOf(found, found.runs, file.bytes) : []
  return (
    <main className="grid min-h-[calc(100dvh-52px)] lg:grid-cols-[minmax(0,1fr)_320px]">
      <div className="grid min-w-0 content-start gap-4 px-4 py-3.5 sm:px-5">
        <h1 className="text-[1.5rem] break-all">{file.name}</h1>
        <Layout found={found} regions={regions} bytes={file.bytes} />
        {found.images.length > 0 && (
          <section className="sheet grid gap-3 p-4">
            <h2 className="text-[1.15rem]">Programs in it</h2>
            <ImageStructure images={found.images} bytes={found.gzip?.bytes ?? file.bytes} />
          </section>
        )}
        {madeAlike && <MadeAlike other={madeAlike} />}
        <section className="sheet p-4">
          <Findings findings={found.findings} empty="Whole, and nothing speaks against it." />
        </section>
        <Content file={file} regions={regions} />
      </div>
      <aside
        className="border-t border-rule bg-sheet-2 px-5 py-3.5 lg:border-t-0 lg:border-l"
        aria-label="What is known"
      >
        <Known {...dossier} />
        <Acts {...dossier} />
        {file.kind === 'image' && <Described {...dossier} />}
      </aside>
    </main>
  )
}

const sectorCount = (n: number) => `${n} sector${n === 1 ? '' : 's'}`
