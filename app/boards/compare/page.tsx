import { diffTemplates } from '@fresh-coat/core/pins/diff'
import type { PinFunction } from '@fresh-coat/core/pins/template'
import { boardDifferences } from '@fresh-coat/core/unit/board-words'
import type { Metadata } from 'next'
import { notFound } from 'next/navigation'
import { z } from 'zod'
import { BoardPads, boardPins } from '@/components/boards/dossier'
import { ModuleDrawing } from '@/components/drawings/module-drawing'
import Link from '@/components/link'
import { Tag } from '@/components/paint/paint'
import { fnWords } from '@/components/steps/pins/words'
import { type BoardDossier, boardDossier } from '@/server/boards/lists'
import { database, inSnapshot } from '@/server/db/client'

export const dynamic = 'force-dynamic'
export const metadata: Metadata = { title: 'Two boards' }

function Side({ b }: { b: BoardDossier }) {
  const pins = boardPins(b)
  return (
    <section className="sheet grid min-w-0 content-start gap-3 p-4" aria-label={b.name}>
      <h2 className="text-[1.2rem]">
        <Link href={`/boards/${b.id}`} className="underline underline-offset-4">
          {b.name}
        </Link>
      </h2>
      <BoardPads b={b} />
      {pins.length > 0 && <ModuleDrawing pins={pins} chip={b.family ?? '?'} chosen={null} />}
    </section>
  )
}

const pinWords = (p: { pin: string; fn: PinFunction; ch: number | null }) =>
  `${p.pin}: ${fnWords[p.fn]}${p.ch ? ` ${p.ch}` : ''}`

/** From one board to the other: which functions moved, came and went; what a merge would have to settle. */
function PinsApart({ a, b }: { a: BoardDossier; b: BoardDossier }) {
  if (!a.template || !b.template) return null
  if (a.template.family !== b.template.family)
    return (
      <p className="sheet px-4 py-3">
        Their pins are not compared: {a.template.family} and {b.template.family} are different chips.
      </p>
    )
  const diff = diffTemplates(a.template, b.template)
  const rows = [
    ...diff.moved.map((m) => ({
      what: 'moved',
      words: `${fnWords[m.fn]}${m.ch ? ` ${m.ch}` : ''}: from ${m.from} to ${m.to}`,
    })),
    ...diff.removed.map((p) => ({ what: 'gone', words: pinWords(p) })),
    ...diff.added.map((p) => ({ what: 'new', words: pinWords(p) })),
    ...diff.changed.map((c) => ({ what: 'differs', words: `${c.pin}: ${c.field} is ${c.to}, was ${c.from}` })),
  ]
  return (
    <section className="sheet grid gap-2 px-4 py-3" aria-label="Pins from one to the other">
      <h2 className="text-[1.1rem]">{diff.same ? 'Their pins are the same' : `Pins: from ${a.name} to ${b.name}`}</h2>
      <ul className="grid gap-1.5">
        {rows.map((r) => (
          <li key={r.what + r.words} className="flex gap-2.5">
            <Tag severity="watch">{r.what}</Tag> {r.words}
          </li>
        ))}
      </ul>
      {diff.meta.length > 0 && (
        <p className="text-[0.93rem] text-ink-2">
          Looks and notes differ at {[...new Set(diff.meta.map((m) => m.pin))].join(', ')}; that says nothing of the
          boards.
        </p>
      )}
    </section>
  )
}

export default async function CompareBoards({ searchParams }: { searchParams: Promise<{ a?: string; b?: string }> }) {
  const { a, b } = await searchParams
  const isId = (id: string | undefined): id is string => z.uuid().safeParse(id).success
  if (!isId(a) || !isId(b)) notFound()
  const [one, other] = await inSnapshot(database(), (tx) => Promise.all([boardDossier(tx, a), boardDossier(tx, b)]))
  if (!one || !other) notFound()
  const differences = boardDifferences(one, other)
  const different = differences.filter((d) => !d.same).length
  return (
    <main className="grid content-start gap-4 px-4 py-3.5 sm:px-5">
      <h1 className="text-[1.5rem]">
        Two boards{' '}
        <span className="font-normal text-ink-2">
          {different === 0
            ? 'nothing that both know differs'
            : `${different} ${different === 1 ? 'thing' : 'things'} differ`}
        </span>
      </h1>
      <div className="grid gap-4 md:grid-cols-2">
        <Side b={one} />
        <Side b={other} />
      </div>
      <PinsApart a={one} b={other} />
      <div className="sheet overflow-x-auto px-4 py-2">
        <table className="plain">
          <thead>
            <tr>
              <th>What</th>
              <th>{one.name}</th>
              <th>{other.name}</th>
              <th>
                <span className="sr-only">Same or not</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {[...differences]
              .sort((x, y) => Number(x.same) - Number(y.same))
              .map((d) => (
                <tr key={d.name} className={d.same ? 'text-ink-2' : ''}>
                  <td>{d.name}</td>
                  <td className="min-w-[10rem]">{d.a ?? 'nobody knows'}</td>
                  <td className="min-w-[10rem]">{d.b ?? 'nobody knows'}</td>
                  <td>{!d.same && <Tag severity="watch">differs</Tag>}</td>
                </tr>
              ))}
          </tbody>
        </table>
      </div>
    </main>
  )
}
