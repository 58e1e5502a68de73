import { sizeWords } from '@fresh-coat/core/bytes/text'
import type { Metadata } from 'next'
import { NewBoardForm } from '@/components/boards/board-forms'
import { PadField } from '@/components/drawings/pad-field'
import { Fold } from '@/components/forms/fold'
import Link from '@/components/link'
import { Empty, twoDigits } from '@/components/paint/paint'
import { boardPage, boardsAPage } from '@/server/boards/lists'
import { database, inSnapshot } from '@/server/db/client'

export const dynamic = 'force-dynamic'
export const metadata: Metadata = { title: 'Boards' }

export default async function Boards({ searchParams }: { searchParams: Promise<{ after?: string }> }) {
  const after = ((await searchParams).after ?? '').slice(0, 400)
  const boards = await inSnapshot(database(), (tx) => boardPage(tx, after))
  const last = boards.at(-1)
  return (
    <main className="px-4 py-4 sm:px-6">
      <h1 className="mb-3 text-[1.5rem]">
        Boards <span className="font-normal text-ink-2">{after ? '' : boards.length}</span>
      </h1>
      {boards.length === 0 && !after && (
        <div className="mb-4">
          <Empty title="No board yet">
            <p>
              A board is what all units with the same circuit share: how it opens, its pads, pins and ratings. Two
              revisions of one product are two boards. The first unit teaches it.
            </p>
          </Empty>
        </div>
      )}
      <ul className="grid gap-3 md:grid-cols-2 xl:grid-cols-3">
        {boards.map((b) => (
          <li key={b.id}>
            <Link href={`/boards/${b.id}`} className="sheet grid h-full content-start gap-2 p-4 hover:border-ink">
              <h2 className="text-[1.2rem]">
                {b.maker} {b.product} <span className="font-normal text-ink-2">{b.revision}</span>
              </h2>
              <p className="text-ink-2">
                {[
                  b.family ?? 'family not known',
                  b.flashBytes ? `${sizeWords(b.flashBytes)} flash` : '',
                  b.ratedAmps ? `${b.ratedAmps} A` : '',
                  b.mains ? 'mains' : 'low voltage',
                  b.hasMeter ? 'meter' : '',
                ]
                  .filter(Boolean)
                  .join(' · ')}
              </p>
              {b.pads && b.pads.pads.length > 0 ? (
                <PadField
                  pads={b.pads.pads.map((role, index) => ({
                    index,
                    role,
                    sure: null,
                    square: b.pads?.readings?.[index]?.square ?? index === 0,
                    label: '',
                    conflict: false,
                  }))}
                  rows={b.pads.rows ?? 1}
                  face="top"
                />
              ) : (
                <p className="text-[0.93rem] text-ink-3">Pads not known yet.</p>
              )}
              <p className="text-[0.93rem]">
                {b.units > 0
                  ? `${b.units === 1 ? 'Unit' : 'Units'} ${b.numbers.map(twoDigits).join(', ')}${b.units > b.numbers.length ? ` and ${b.units - b.numbers.length} more` : ''}`
                  : 'No unit yet'}
              </p>
            </Link>
          </li>
        ))}
      </ul>
      {boards.length === boardsAPage && last && (
        <p className="mt-3">
          <Link href={`/boards?after=${encodeURIComponent(last.sortName)}`} className="underline underline-offset-4">
            The next {boardsAPage}
          </Link>
        </p>
      )}
      <div className="mt-4">
        <Fold look="sheet" summary="Name a new board">
          <div className="max-w-3xl">
            <NewBoardForm />
          </div>
        </Fold>
      </div>
    </main>
  )
}
