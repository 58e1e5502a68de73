import type { Family } from '@fresh-coat/core/families/families'
import { Release } from '@fresh-coat/core/flash/release'
import type { Metadata } from 'next'
import { z } from 'zod'
import { FirmwareForm } from '@/components/files/firmware-forms'
import { Fold } from '@/components/forms/fold'
import Link from '@/components/link'
import { database, inSnapshot } from '@/server/db/client'
import { together } from '@/server/db/together'
import { images as allImages } from '@/server/files/reads'
import { profiles as allProfiles } from '@/server/kit/reads'

export const dynamic = 'force-dynamic'
export const metadata: Metadata = { title: 'Firmware' }

const releasesWords = (n: number) => `${n} release${n === 1 ? '' : 's'}`

export default async function Firmware() {
  const { profiles, images } = await inSnapshot(database(), (tx) =>
    together({ profiles: allProfiles(tx), images: allImages(tx) }),
  )
  return (
    <main className="grid gap-4 px-4 py-4 sm:px-6">
      <p>
        <Link href="/images" className="underline underline-offset-4">
          Images
        </Link>
      </p>
      <h1 className="text-[1.5rem]">Firmware and its releases</h1>
      <p className="max-w-[70ch] text-ink-2">
        Plain data that you keep: which releases there are, how large each is, and what it may be reached from. The way
        of every unit to a version is planned from it, under Watch.
      </p>
      {profiles.map((p) => (
        <Fold
          key={p.id}
          look="sheet"
          summary={
            <>
              {p.name}{' '}
              <span className="font-normal text-ink-2">
                {p.data.families.join(', ')} · {releasesWords(p.data.releases?.length ?? 0)}
              </span>
            </>
          }
        >
          <FirmwareForm
            key={p.version}
            images={images.filter((f) => f.firmware === p.name)}
            profile={{
              id: p.id,
              version: p.version,
              name: p.name,
              families: p.data.families as Family[],
              setupAddress: p.data.setupAddress,
              about: p.data.about,
              startOffsets: p.data.startOffsets ?? {},
              console: p.data.console ?? null,
              phrases: p.data.phrases ?? null,
              air: p.data.air ?? null,
              setup: p.data.setup ?? null,
              releases: z
                .array(Release)
                .catch([])
                .parse(p.data.releases ?? []),
            }}
          />
        </Fold>
      ))}
      <Fold look="sheet" summary="Add a firmware of your own" startOpen={profiles.length === 0}>
        <FirmwareForm />
      </Fold>
    </main>
  )
}
