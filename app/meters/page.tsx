import type { DueMeter } from '@fresh-coat/core/metering/due-line'
import type { Metadata } from 'next'
import { DueLine } from '@/components/drawings/due-line'
import { Fold } from '@/components/forms/fold'
import { InstrumentForm, LoadForm } from '@/components/kit/kit-forms'
import { LoadRow, ReferenceRow } from '@/components/kit/trusted-forms'
import Link from '@/components/link'
import { CalibrationTable, type MeteredUnit, Plots } from '@/components/meters/calibrations'
import { Empty } from '@/components/paint/paint'
import { database, inSnapshot } from '@/server/db/client'
import { localDay } from '@/server/db/day'
import { together } from '@/server/db/together'
import { kitOf } from '@/server/kit/reads'
import { calibrationPlots } from '@/server/meters/reads'
import { siteOf } from '@/server/network/reads'
import { type MeteredRow, meteredUnits, metersAPage } from '@/server/units/lists'

export const dynamic = 'force-dynamic'
export const metadata: Metadata = { title: 'Meters' }

const metersOf = (rows: readonly MeteredUnit[]): DueMeter[] =>
  rows.flatMap(({ number, name, calibration: c }) =>
    c ? [{ number, name, worstPct: c.worstAfterPct, limitPassed: c.passed, due: c.due }] : [],
  )

const plotsAPage = 24

/** Of a unit what its row shows: the page brings a row once as data, not twice as what was drawn of it. */
const asMetered = ({ id, number, name, calibration: c }: MeteredRow): MeteredUnit => ({
  id,
  number,
  name,
  calibration: c && {
    quantity: c.quantity,
    model: c.model,
    gain: c.gain,
    worstAfterPct: c.worstAfterPct,
    passed: c.passed,
    due: c.due,
  },
})

export default async function Meters({ searchParams }: { searchParams: Promise<{ skip?: string }> }) {
  const skip = Math.min(100_000, Math.max(0, Math.floor(Number((await searchParams).skip ?? 0)) || 0))
  const today = localDay()
  const { rows, plots, site, kit } = await inSnapshot(database(), async (tx) => {
    const first = await together({ rows: meteredUnits(tx, skip), site: siteOf(tx), kit: kitOf(tx) })
    const shown = first.rows.slice(0, plotsAPage).map((u) => u.id)
    return { ...first, plots: await calibrationPlots(tx, shown) }
  })
  const listed = rows.slice(0, metersAPage).map(asMetered)
  return (
    <main className="grid gap-4 px-4 py-3.5 sm:px-5">
      <section className="grid gap-2" aria-labelledby="cal">
        <h1 id="cal" className="text-[1.4rem]">
          Meters <span className="font-normal text-ink-2">by the day they are due again</span>
        </h1>
        {rows.length === 0 ? (
          <Empty title="No unit with a meter yet">
            <p>A unit whose board has a power meter appears here, with its last fit and when it is due again.</p>
          </Empty>
        ) : (
          <div className="sheet overflow-x-auto px-4 py-2">
            <DueLine meters={metersOf(listed)} today={today} />
            <Plots units={listed} plots={plots} />
            <CalibrationTable rows={listed} today={today} />
          </div>
        )}
        {rows.length > metersAPage && (
          <Link href={`/meters?skip=${skip + metersAPage}`} className="underline underline-offset-4">
            The next {metersAPage}
          </Link>
        )}
      </section>
      <div className="grid gap-5 lg:grid-cols-2">
        <section className="grid content-start gap-3" aria-labelledby="ref">
          <h2 id="ref" className="text-[1.15rem]">
            Reference meters
          </h2>
          <ul className="grid gap-2">
            {kit.instruments.map((i) => (
              <ReferenceRow key={`${i.id} ${i.version}`} reference={i} today={today} />
            ))}
          </ul>
          <Fold look="sheet" summary="Add a reference meter" startOpen={kit.instruments.length === 0}>
            <InstrumentForm />
          </Fold>
        </section>
        <section className="grid content-start gap-3" aria-labelledby="loads">
          <h2 id="loads" className="text-[1.15rem]">
            Reference loads
          </h2>
          <ul className="grid gap-2">
            {kit.loads.map((l) => (
              <LoadRow key={`${l.id} ${l.version}`} load={l} today={today} volts={site.mainsVolts} />
            ))}
          </ul>
          <Fold look="sheet" summary="Add a load">
            <LoadForm />
          </Fold>
        </section>
      </div>
    </main>
  )
}
