import { hexNumber, sizeWords } from '@fresh-coat/core/bytes/text'
import { compareDumps } from '@fresh-coat/core/dump/compare'
import type { DumpInspection } from '@fresh-coat/core/dump/inspect'
import { sectorRuns } from '@fresh-coat/core/dump/sectors'
import { regionsOf } from '@fresh-coat/core/dump/strip'
import type { LayoutRegion } from '@fresh-coat/core/image/partitions'
import type { Metadata } from 'next'
import { notFound } from 'next/navigation'
import { z } from 'zod'
import { FileInspector } from '@/components/files/file-inspector'
import Link from '@/components/link'
import { amount, Findings } from '@/components/paint/paint'
import { database } from '@/server/db/client'
import { readBlob } from '@/server/files/blobs'
import { fileById } from '@/server/files/reads'

export const dynamic = 'force-dynamic'
export const metadata: Metadata = { title: 'Compare' }

const mostMarks = 4000

/** What a place on the chip belongs to: by the layout in the file, or by the usual map of a family that has none. */
function ownerOf(regions: readonly LayoutRegion[], offset: number): string {
  const region = regions.find((r) => offset >= r.offset && offset < r.offset + r.length)
  if (!region) return 'free space or files'
  if (region.label === 'program' || region.label === 'loader')
    return `the ${region.label} at ${hexNumber(region.offset)}`
  return region.label || 'free space'
}

/** Two kept files beside each other: what differs, where, and whose it is. Bytes of two reads are never mixed. */
export default async function ComparePage({ searchParams }: { searchParams: Promise<{ a?: string; b?: string }> }) {
  const { a, b } = await searchParams
  const db = database()
  const file = (id: string | undefined) => (z.uuid().safeParse(id).success ? fileById(db, id as string) : null)
  const [first, second] = [await file(a), await file(b)]
  if (!first || !second || first.kind === 'photo' || second.kind === 'photo') notFound()
  const elsewhere = [first, second].find((f) => f.held === false)
  if (elsewhere)
    return (
      <main className="grid gap-3 px-4 py-4 sm:px-6">
        <h1 className="text-[1.5rem]">Compare</h1>
        <p className="sheet p-5">
          The bytes of <strong className="break-all">{elsewhere.name}</strong> stayed on your disk.{' '}
          {first.sha256 === second.sha256
            ? 'The hashes of both are equal, so the bytes are.'
            : 'The hashes differ. To see where, choose both files again at Back up and have them kept here.'}
        </p>
      </main>
    )
  const [one, two] = [await readBlob(db, first.sha256), await readBlob(db, second.sha256)]
  const result = compareDumps(one, two)
  const runs = [sectorRuns(one), sectorRuns(two)] as const
  const regions = regionsOf(first.inspection as Partial<DumpInspection> | null, runs[0], one.length)
  const sectors = result.ranges.flatMap((r) =>
    Array.from({ length: Math.ceil(r.length / 4096) }, (_, i) => r.offset / 4096 + i),
  )
  const marks: number[] = []
  for (let i = 0; i < Math.min(one.length, two.length) && marks.length < mostMarks; i++)
    if (one[i] !== two[i]) marks.push(i)
  const start = result.ranges[0] ? Math.floor((marks[0] ?? result.ranges[0].offset) / 16) * 16 : 0
  return (
    <main className="grid gap-5 px-4 py-4 sm:px-6">
      <h1 className="text-[1.5rem]">Compare</h1>
      <p className="break-all">
        <Link className="underline underline-offset-4" href={`/images/${first.id}`}>
          {first.name}
        </Link>{' '}
        ({sizeWords(first.bytes)}) with{' '}
        <Link className="underline underline-offset-4" href={`/images/${second.id}`}>
          {second.name}
        </Link>{' '}
        ({sizeWords(second.bytes)})
      </p>
      <section className="sheet grid gap-3 p-5">
        <Findings findings={result.findings} />
        <p className="text-ink-2">
          {amount(result.differingBytes)} bytes in {amount(result.differingSectors.length)} of {amount(result.sectors)}{' '}
          sectors differ; {amount(result.bitsLost)} bits lost, {amount(result.bitsGained)} gained.
        </p>
        {result.ranges.length > 0 && (
          <div className="overflow-x-auto">
            <table className="plain">
              <thead>
                <tr>
                  <th>From</th>
                  <th>Bytes</th>
                  <th>Belongs to</th>
                </tr>
              </thead>
              <tbody>
                {result.ranges.slice(0, 60).map((r) => (
                  <tr key={r.offset}>
                    <td className="pin">{hexNumber(r.offset)}</td>
                    <td className="pin">{amount(r.length)}</td>
                    <td>{ownerOf(regions, r.offset)}</td>
                  </tr>
                ))}
              </tbody>
            </table>
            {result.ranges.length > 60 && <p className="text-ink-2">and {result.ranges.length - 60} more ranges.</p>}
          </div>
        )}
      </section>
      <div className="grid gap-5 xl:grid-cols-2">
        {(
          [
            [first, runs[0], one],
            [second, runs[1], two],
          ] as const
        ).map(([file, map, bytes]) => (
          <section key={file.id} className="sheet grid min-w-0 content-start gap-3 p-5">
            <h2 className="text-[1.1rem] break-all">{file.name}</h2>
            <FileInspector
              fileId={file.id}
              name={`${file.name}, ${file === first ? 'first' : 'second'}`}
              runs={map}
              marked={sectors}
              marks={marks}
              start={start}
              regions={regionsOf(file.inspection as Partial<DumpInspection> | null, map, bytes.length)}
            />
          </section>
        ))}
      </div>
      {marks.length === mostMarks && (
        <p className="text-ink-2">Only the first {amount(mostMarks)} differing bytes are pointed out one by one.</p>
      )}
    </main>
  )
}
