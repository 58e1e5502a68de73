import type { DueMeter } from '@fresh-coat/core/metering/due-line'
import type { Metadata } from 'next'
import { DueLine } from '@/components/drawings/due-line'
import { SmallErrors, spanOf } from '@/components/drawings/small-errors'
import { InstrumentForm, LoadForm } from '@/components/kit/kit-forms'
import { LoadRow, ReferenceRow } from '@/components/kit/trusted-forms'
import Link from '@/components/link'
import { CaseNumber, Empty, Tag } from '@/components/paint/paint'
import { database, inSnapshot } from '@/server/db/client'
import { localDay } from '@/server/db/day'
import { kitOf } from '@/server/kit/reads'
import { type CalibrationPlot, calibrationPlots } from '@/server/meters/reads'
import { siteOf } from '@/server/network/reads'
import { type ListedUnit, meteredUnits, metersAPage } from '@/server/units/lists'

export const dynamic = 'force-dynamic'
export const metadata: Metadata = { title: 'Meters' }

const metersOf = (rows: readonly ListedUnit[]): DueMeter[] =>
  rows.flatMap(({ number, name, calibration: c }) =>
    c ? [{ number, name, worstPct: c.worstAfterPct, limitPassed: c.passed, due: c.due }] : [],
  )

const plotsAPage = 24

/** Each calibration small, on one scale: what stands out is seen without reading. */
function Plots({ rows, plots }: { rows: readonly ListedUnit[]; plots: readonly CalibrationPlot[] }) {
  const place = (p: CalibrationPlot) => rows.findIndex((u) => u.id === p.unitId)
  const drawn = plots.filter((p) => p.points.length > 0).sort((a, b) => place(a) - place(b))
  if (drawn.length === 0) return null
  const span = spanOf(drawn)
  return (
    <ul
      className="grid grid-cols-[repeat(auto-fill,minmax(9rem,1fr))] gap-x-5 gap-y-2 py-2"
      aria-label={`Calibrations, each within ${span.toFixed(1)} %`}
    >
      {drawn.map((p) => {
        const unit = rows.find((u) => u.id === p.unitId)
        return (
          unit && (
            <li key={p.unitId}>
              <Link href={`/units/${unit.number}/meter`} className="block hover:bg-ok-soft">
                <SmallErrors
                  points={p.points}
                  spanPct={span}
                  label={`Unit ${unit.number}: ${p.points.length} points, worst after ${Math.max(...p.points.map((q) => Math.abs(q.after ?? 0))).toFixed(2)} %`}
                />
                <span className="flex items-baseline gap-2 text-[0.93rem]">
                  <strong className="pin shrink-0">{String(unit.number).padStart(2, '0')}</strong>
                  <span className="truncate">{unit.name}</span>
                </span>
              </Link>
            </li>
          )
        )
      })}
    </ul>
  )
}

export default async function Meters({ searchParams }: { searchParams: Promise<{ skip?: string }> }) {
  const skip = Math.min(100_000, Math.max(0, Math.floor(Number((await searchParams).skip ?? 0)) || 0))
  const today = localDay()
  const { rows, plots, volts, ...shop } = await inSnapshot(database(), async (tx) => {
    const rows = await meteredUnits(tx, skip)
    const shown = rows.slice(0, plotsAPage).map((u) => u.id)
    const volts = (await siteOf(tx)).mainsVolts
    return { rows, volts, plots: await calibrationPlots(tx, shown), ...(await kitOf(tx)) }
  })
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
            <DueLine meters={metersOf(rows.slice(0, metersAPage))} today={today} />
            <Plots rows={rows} plots={plots} />
            <table className="plain">
              <thead>
                <tr>
                  <th>Unit</th>
                  <th>Fit</th>
                  <th>Factor</th>
                  <th>Worst point after</th>
                  <th>Verified</th>
                  <th>Due again</th>
                </tr>
              </thead>
              <tbody>
                {rows.slice(0, metersAPage).map((u) => {
                  const c = u.calibration
                  const over = c?.due != null && c.due < today
                  return (
                    <tr key={u.id}>
                      <td>
                        <Link href={`/units/${u.number}/meter`} className="flex items-center gap-3">
                          <CaseNumber n={u.number} size="small" />
                          <span className="underline underline-offset-4" dir="auto">
                            {u.name}
                          </span>
                        </Link>
                      </td>
                      <td>
                        {c ? `${c.quantity}, ${c.model === 'gain' ? 'gain' : 'gain and offset'}` : 'not calibrated'}
                      </td>
                      <td className="pin">{c ? c.gain.toFixed(5) : '–'}</td>
                      <td className="pin">{c?.worstAfterPct != null ? `${c.worstAfterPct.toFixed(3)} %` : '–'}</td>
                      <td>
                        {c ? (
                          <Tag severity={c.passed === true ? 'ok' : c.passed === false ? 'error' : 'watch'}>
                            {c.passed === true ? 'within limits' : c.passed === false ? 'outside' : 'no verify point'}
                          </Tag>
                        ) : (
                          '–'
                        )}
                      </td>
                      <td className="whitespace-nowrap">
                        {c?.due ?? '–'} {over && <Tag severity="watch">due</Tag>}
                      </td>
                    </tr>
                  )
                })}
              </tbody>
            </table>
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
            {shop.instruments.map((i) => (
              <ReferenceRow key={`${i.id} ${i.version}`} reference={i} today={today} />
            ))}
          </ul>
          <details className="sheet p-4" open={shop.instruments.length === 0}>
            <summary className="font-semibold">Add a reference meter</summary>
            <div className="mt-3">
              <InstrumentForm />
            </div>
          </details>
        </section>
        <section className="grid content-start gap-3" aria-labelledby="loads">
          <h2 id="loads" className="text-[1.15rem]">
            Reference loads
          </h2>
          <ul className="grid gap-2">
            {shop.loads.map((l) => (
              <LoadRow key={`${l.id} ${l.version}`} load={l} today={today} volts={volts} />
            ))}
          </ul>
          <details className="sheet p-4">
            <summary className="font-semibold">Add a load</summary>
            <div className="mt-3">
              <LoadForm />
            </div>
          </details>
        </section>
      </div>
    </main>
  )
}
