import type { Metadata } from 'next'
import { shortMoment, Tag } from '@/components/paint/paint'
import { PadHunt } from '@/components/practice/pad-hunt'
import { Rehearsal } from '@/components/practice/rehearsal'
import { database } from '@/server/db/client'
import { practiceRuns } from '@/server/practice/reads'

export const dynamic = 'force-dynamic'
export const metadata: Metadata = { title: 'Practice' }

export default async function Practice() {
  const runs = await practiceRuns(database())
  const rehearsals = runs.filter((r) => r.kind === 'rehearsal')
  return (
    <main className="grid gap-4 px-4 py-4 sm:px-6">
      <div>
        <span className="hatch block h-3 w-full rounded-[4px] border border-ink-3" aria-hidden="true" />
        <h1 className="mt-2 text-[1.5rem]">Practice</h1>
        <p className="max-w-[70ch] text-ink-2">
          Virtual boards only. Nothing here touches a unit, its records or its statistics, and nothing seen here is
          proven on a real one.
        </p>
      </div>
      <div className="grid gap-4 xl:grid-cols-[minmax(0,1fr)_300px]">
        <div className="grid min-w-0 content-start gap-4">
          <section className="sheet grid gap-3 p-5" aria-labelledby="rehearse">
            <h2 id="rehearse" className="text-[1.2rem]">
              The hand sequence
            </h2>
            <Rehearsal best={rehearsals.map((r) => r.score)} />
          </section>
          <section className="sheet grid gap-3 p-5" aria-labelledby="hunt">
            <h2 id="hunt" className="text-[1.2rem]">
              Find the pads
            </h2>
            <PadHunt first={12} />
          </section>
        </div>
        <aside className="sheet self-start bg-sheet-2 p-5" aria-label="Runs">
          <h2 className="text-[1.1rem]">Runs so far</h2>
          {runs.length === 0 && <p className="text-ink-2">None yet.</p>}
          <ul className="grid gap-1.5 pt-2">
            {runs.slice(0, 14).map((r) => (
              <li key={r.id} className="flex items-baseline gap-2.5">
                <span className="font-title text-[1.1rem] font-bold">{r.score}</span>
                <span className="flex-1">
                  {r.kind}, {r.family}
                  <span className="block text-[0.87rem] text-ink-3">{shortMoment(r.at)}</span>
                </span>
                {r.score >= 85 && <Tag severity="ok">clean</Tag>}
              </li>
            ))}
          </ul>
        </aside>
      </div>
    </main>
  )
}
