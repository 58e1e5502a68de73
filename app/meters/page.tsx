import type { DueMeter } from '@fresh-coat/core/metering/due-line'
import type { Metadata } from 'next'
import { DueLine } from '@/components/drawings/due-line'
import { InstrumentForm, LoadForm } from '@/components/kit/kit-forms'
import Link from '@/components/link'
import { CaseNumber, Empty, Tag } from '@/components/paint/paint'
import { database, inSnapshot } from '@/server/db/client'
import { localDay } from '@/server/db/day'
import { kitOf } from '@/server/kit/reads'
import { type ListedUnit, meteredUnits, metersAPage } from '@/server/units/lists'

export const dynamic = 'force-dynamic'
export const metadata: Metadata = { title: 'Meters' }

const metersOf = (rows: readonly ListedUnit[]): DueMeter[] =>
  rows.flatMap(({ number, name, calibration: c }) =>
    c ? [{ number, name, worstPct: c.worstAfterPct, limitPassed: c.passed, due: c.due }] : [],
  )

export default async function Meters({ searchParams }: { searchParams: Promise<{ skip?: string }> }) {
  const skip = Math.min(100_000, Math.max(0, Math.floor(Number((await searchParams).skip ?? 0)) || 0))
  const today = localDay()
  const { rows, ...shop } = await inSnapshot(database(), async (tx) => ({
    rows: await meteredUnits(tx, skip),
    ...(await kitOf(tx)),
  }))
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
              <li key={i.id} className="sheet px-4 py-2.5">
                <strong>{i.name}</strong> ±({i.gainPct} % of reading + {i.digits} digits), one digit is {i.resolution}
              </li>
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
              <li key={l.id} className="sheet px-4 py-2.5">
                <strong>{l.name}</strong> {l.watts} W, {l.kind}
              </li>
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
