import type { Metadata } from 'next'
import { notFound } from 'next/navigation'
import { z } from 'zod'
import { EditBoardForm } from '@/components/boards/board-forms'
import { BoardDrawn, BoardFactsList } from '@/components/boards/dossier'
import { HowItOpens, TimePerUnit, UnitsOfBoard, WhatWentWrong } from '@/components/boards/sections'
import { Fold } from '@/components/forms/fold'
import Link from '@/components/link'
import { boardChoices, boardDossier } from '@/server/boards/lists'
import { database, inSnapshot } from '@/server/db/client'
import { together } from '@/server/db/together'
import { paceOfBoard } from '@/server/units/pace'

export const dynamic = 'force-dynamic'
export const metadata: Metadata = { title: 'Board' }

export default async function BoardPage({ params }: { params: Promise<{ id: string }> }) {
  const { id } = await params
  if (!z.uuid().safeParse(id).success) notFound()
  const { b, pace, boards } = await inSnapshot(database(), (tx) =>
    together({ b: boardDossier(tx, id), pace: paceOfBoard(tx, id), boards: boardChoices(tx) }),
  )
  if (!b) notFound()
  const others = boards.filter((o) => o.id !== id)
  const { maker, product, revision, mains, fixedWiring, hasMeter, inPackageFlash } = b
  return (
    <main className="grid min-h-[calc(100dvh-52px)] lg:grid-cols-[minmax(0,1fr)_320px]">
      <div className="grid min-w-0 content-start gap-4 px-4 py-3.5 sm:px-5">
        <h1 className="text-[1.5rem] leading-tight">
          {maker} {product} <span className="font-normal text-ink-2">{revision}</span>
        </h1>
        <BoardDrawn b={b} />
        <div className="grid gap-4 md:grid-cols-2">
          <HowItOpens b={b} photos={b.photos} marks={b.marks} />
          <div className="grid content-start gap-4">
            <WhatWentWrong causes={b.causes} />
            <TimePerUnit pace={pace} />
          </div>
        </div>
        <Fold look="sheet" summary="Correct its name and kind">
          <EditBoardForm
            key={b.version}
            boardId={b.id}
            version={b.version}
            board={{ maker, product, revision, mains, fixedWiring, hasMeter, inPackageFlash }}
          />
        </Fold>
      </div>
      <aside
        className="grid content-start gap-4 border-t border-rule bg-sheet-2 px-5 py-3.5 lg:border-t-0 lg:border-l"
        aria-label="What is known"
      >
        <section>
          <h2 className="text-[1.1rem]">What’s known</h2>
          <BoardFactsList b={b} facts={b.facts} />
        </section>
        <section>
          <h2 className="mb-2 text-[1.1rem]">Its units</h2>
          <UnitsOfBoard b={b} />
        </section>
        {others.length > 0 && (
          <section>
            <h2 className="mb-1 text-[1.1rem]">Beside another board</h2>
            <ul className="grid gap-1">
              {others
                .filter((o) => o.name.startsWith(maker))
                .concat(others.filter((o) => !o.name.startsWith(maker)))
                .slice(0, 4)
                .map((o) => (
                  <li key={o.id}>
                    <Link href={`/boards/compare?a=${b.id}&b=${o.id}`} className="underline underline-offset-4">
                      {o.name}
                    </Link>
                  </li>
                ))}
            </ul>
          </section>
        )}
      </aside>
    </main>
  )
}
