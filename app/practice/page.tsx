import type { Metadata } from 'next'
import { shortMoment, Tag } from '@/components/paint/paint'
import { FirstFlash } from '@/components/practice/first-flash'
import { ModuleHunt } from '@/components/practice/module-hunt'
import { PadHunt } from '@/components/practice/pad-hunt'
import { PlugHunt } from '@/components/practice/plug-hunt'
import { Rehearsal } from '@/components/practice/rehearsal'
import { database } from '@/server/db/client'
import { practiceRuns } from '@/server/practice/reads'

export const dynamic = 'force-dynamic'
export const metadata: Metadata = { title: 'Practice' }

export default async function Practice() {
  const runs = await practiceRuns(database())
  const rehearsals = runs.filter((r) => r.kind === 'rehearsal')
  return (
    <main className="grid min-h-[calc(100dvh-52px)] lg:grid-cols-[minmax(0,1fr)_260px]">
      <div className="grid min-w-0 content-start gap-3 px-4 py-3 sm:px-5">
        <h1 className="flex flex-wrap items-baseline gap-x-3 text-[1.4rem]">
          <span
            className="hatch inline-block h-4 w-10 self-center rounded-[4px] border border-ink-3"
            aria-hidden="true"
          />
          Practice
          <span className="font-read text-[0.93rem] font-normal text-ink-2">
            Virtual boards only: nothing here touches a unit, its records or its statistics.
          </span>
        </h1>
        <section className="sheet grid gap-3 p-4" aria-labelledby="rehearse">
          <h2 id="rehearse" className="text-[1.2rem]">
            The hand sequence
          </h2>
          <Rehearsal best={rehearsals.map((r) => r.score)} />
        </section>
        <section className="sheet grid gap-3 p-4" aria-labelledby="flash">
          <h2 id="flash" className="text-[1.2rem]">
            A whole first flash
          </h2>
          <FirstFlash />
        </section>
        <section className="sheet grid gap-3 p-4" aria-labelledby="hunt">
          <h2 id="hunt" className="text-[1.2rem]">
            Find the pads
          </h2>
          <PadHunt first={12} />
        </section>
        <section className="sheet grid gap-3 p-4" aria-labelledby="pins">
          <h2 id="pins" className="text-[1.2rem]">
            Which pin does what
          </h2>
          <ModuleHunt first={4} />
        </section>
        <section className="sheet grid gap-3 p-4" aria-labelledby="plug">
          <h2 id="plug" className="text-[1.2rem]">
            Calibrate a plug
          </h2>
          <PlugHunt first={3} />
        </section>
      </div>
      <aside className="border-t border-rule bg-sheet-2 px-5 py-3.5 lg:border-t-0 lg:border-l" aria-label="Runs">
        <h2 className="text-[1.1rem]">Runs so far</h2>
        {runs.length === 0 && <p className="text-ink-2">None yet.</p>}
        <ul className="grid gap-1.5 pt-2">
          {runs.slice(0, 14).map((r) => (
            <li key={r.id} className="flex items-baseline gap-2.5">
              <span className="font-title text-[1.1rem] font-bold">{r.score}</span>
              <span className="flex-1">
                {r.family === 'OTHER' ? r.kind : `${r.kind}, ${r.family}`}
                <span className="block text-[0.87rem] text-ink-3">{shortMoment(r.at)}</span>
              </span>
              {r.score >= 85 && <Tag severity="ok">clean</Tag>}
            </li>
          ))}
        </ul>
      </aside>
    </main>
  )
}
