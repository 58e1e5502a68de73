import { sizeWords } from '@fresh-coat/core/bytes/text'
import { judgeIsolation } from '@fresh-coat/core/open/isolation'
import { itemSentence } from '@fresh-coat/core/open/opening'
import { activeLevel, confidenceOf, isIdle } from '@fresh-coat/core/pins/template'
import { troubleSentence, troubleShares } from '@fresh-coat/core/trouble/statistics'
import { causeRemedy, causeSays } from '@fresh-coat/core/trouble/troubleshoot'
import type { Metadata } from 'next'
import { notFound } from 'next/navigation'
import { z } from 'zod'
import { EditBoardForm } from '@/components/boards/board-forms'
import { PaceBars } from '@/components/drawings/pace-bars'
import { PadField } from '@/components/drawings/pad-field'
import { MarkedPhoto } from '@/components/drawings/photo-marks'
import Link from '@/components/link'
import { CaseNumber, Fact, Tag, twoDigits } from '@/components/paint/paint'
import { boardDossier } from '@/server/boards/lists'
import type { FactEvidence } from '@/server/boards/reads'
import { database, inSnapshot } from '@/server/db/client'
import { paceOfBoard } from '@/server/units/pace'

export const dynamic = 'force-dynamic'
export const metadata: Metadata = { title: 'Board' }

export default async function BoardPage({ params }: { params: Promise<{ id: string }> }) {
  const { id } = await params
  if (!z.uuid().safeParse(id).success) notFound()
  const { b, pace } = await inSnapshot(database(), async (tx) => ({
    b: await boardDossier(tx, id),
    pace: await paceOfBoard(tx, id),
  }))
  if (!b) notFound()
  const troubles = troubleShares(b.causes)
  const evidence = (key: FactEvidence['key']) => {
    const rows = b.facts.filter((f) => f.key === key).sort((x, y) => y.at.localeCompare(x.at))
    const units = [...new Set(rows.flatMap((r) => (r.unitNumber === null ? [] : [r.unitNumber])))].sort((x, y) => x - y)
    return rows[0]
      ? `From unit${units.length === 1 ? '' : 's'} ${units.map(twoDigits).join(', ')}, last ${rows[0].at.slice(0, 10)}`
      : ''
  }
  const isolation = b.isolation ? judgeIsolation(b.isolation) : null
  const none = <span className="text-ink-3">not known yet</span>
  const pins = b.template?.pins.filter((p) => !isIdle(p.fn)) ?? []
  return (
    <main className="grid gap-5 px-4 py-4 sm:px-6 lg:grid-cols-[minmax(0,1fr)_340px]">
      <div className="grid min-w-0 content-start gap-5">
        <h1 className="text-[1.6rem]">
          {b.maker} {b.product} <span className="font-normal text-ink-2">{b.revision}</span>
        </h1>
        <section className="sheet grid gap-3 p-5">
          <h2 className="text-[1.15rem]">Pads, parts side</h2>
          {b.pads && b.pads.pads.length > 0 ? (
            <PadField
              pads={b.pads.pads.map((role, index) => ({
                index,
                role,
                sure: null,
                square: b.pads?.readings?.[index]?.square ?? index === 0,
                label: b.pads?.readings?.[index]?.label ?? '',
                conflict: false,
              }))}
              rows={b.pads.rows ?? 1}
              face="top"
            />
          ) : (
            <p className="text-ink-2">Not known yet: the first unit that reaches Find the pads solves them.</p>
          )}
          <p className="text-ink-2">
            {b.pads?.pitchMm ? `${b.pads.pitchMm} mm apart. ` : ''}
            {b.pads?.bootBy === 'button'
              ? 'BOOT is on a button. '
              : b.pads?.bootBy === 'pad'
                ? 'BOOT is a pad in the row. '
                : ''}
            {evidence('pads')}
          </p>
        </section>
        <section className="sheet grid gap-3 p-5">
          <h2 className="text-[1.15rem]">Pins</h2>
          {pins.length === 0 ? (
            <p className="text-ink-2">No pin template yet: the first unit that reaches Pins makes it.</p>
          ) : (
            <div className="overflow-x-auto">
              <table className="plain">
                <thead>
                  <tr>
                    <th>Pin</th>
                    <th>Function</th>
                    <th>Channel</th>
                    <th>Active</th>
                    <th>Pull</th>
                    <th>Seen</th>
                  </tr>
                </thead>
                <tbody>
                  {pins.map((p) => (
                    <tr key={p.pin}>
                      <td className="pin font-semibold">{p.pin}</td>
                      <td>{p.fn}</td>
                      <td className="pin">{p.ch ?? '–'}</td>
                      <td>{activeLevel(p)}</td>
                      <td>{p.pull ?? 'none'}</td>
                      <td>
                        <Tag severity={confidenceOf(p.evidence) === 'confirmed' ? 'ok' : 'watch'}>
                          {confidenceOf(p.evidence)}
                        </Tag>{' '}
                        <span className="text-[0.9rem] text-ink-2">
                          {p.evidence
                            ?.map((e) => `unit ${e.unit}`)
                            .filter((x, i, all) => all.indexOf(x) === i)
                            .join(', ')}
                        </span>
                      </td>
                    </tr>
                  ))}
                </tbody>
              </table>
            </div>
          )}
        </section>
        <section className="sheet grid gap-3 p-5">
          <h2 className="text-[1.15rem]">How it opens</h2>
          {b.fasteners === null || b.fasteners.length === 0 ? (
            <p className="text-ink-2">No opening record yet.</p>
          ) : (
            <ol className="grid gap-1">
              {b.fasteners.map((f, i) => (
                <li key={f.id} className="flex gap-3 border-b border-rule-2 py-1">
                  <span className="pin w-5 text-ink-3">{i + 1}</span>
                  <span>
                    {itemSentence(f)}
                    {f.restore !== 'same' && `; back with ${f.restore.replace('_', ' ')}`}
                    {f.note && <span className="block text-[0.9rem] text-ink-2">{f.note}</span>}
                  </span>
                </li>
              ))}
            </ol>
          )}
          {b.openMinutes.length > 0 && (
            <p className="text-ink-2">
              Took {b.openMinutes.map((m) => `${m.minutes} min (${twoDigits(m.unit)})`).join(', ')}.
            </p>
          )}
          {b.parts && b.parts.length > 0 && <p>Parts to keep: {b.parts.join(', ')}.</p>}
          {b.terminals && b.terminals.length > 0 && (
            <p>Terminals: {b.terminals.map((t) => `${t.place} is ${t.legend.replace('_', ' ')}`).join('; ')}.</p>
          )}
          {b.photos.some((p) => b.marks.some((m) => m.fileId === p.id)) && (
            <div className="grid gap-3 md:grid-cols-2">
              {b.photos
                .filter((p) => b.marks.some((m) => m.fileId === p.id))
                .slice(0, 2)
                .map((p) => (
                  <MarkedPhoto key={p.id} photo={p} marks={b.marks} />
                ))}
            </div>
          )}
          {b.photos.length > 0 && (
            <ul className="flex flex-wrap gap-3">
              {b.photos
                .filter((p) => !b.marks.some((m) => m.fileId === p.id))
                .slice(0, 12)
                .map((p) => (
                  <li key={p.id}>
                    {/* biome-ignore lint/performance/noImgElement: served from our own store, shown as it is */}
                    <img
                      src={`/api/files/${p.id}?view`}
                      alt={(p.tag ?? p.name).replaceAll('_', ' ')}
                      className="h-28 w-40 rounded-[8px] border border-rule object-cover"
                    />
                  </li>
                ))}
            </ul>
          )}
        </section>
        <div className="grid gap-5 md:grid-cols-2">
          <section className="sheet grid content-start gap-3 p-5">
            <h2 className="text-[1.15rem]">Time per unit</h2>
            <PaceBars pace={pace} />
          </section>
          <section className="sheet grid content-start gap-3 p-5">
            <h2 className="text-[1.15rem]">What went wrong on it</h2>
            {troubles.length === 0 ? (
              <p className="text-ink-2">Nothing on record. “Trouble” at any step of a unit begins a search.</p>
            ) : (
              <>
                <p>{troubleSentence(b.causes)}</p>
                <ul className="grid gap-1">
                  {troubles.map((t) => (
                    <li key={t.cause} className="flex gap-3">
                      <span className="pin w-16 whitespace-nowrap">
                        {t.n} of {t.of}
                      </span>
                      <span>
                        {t.cause === 'other' ? 'something else' : causeSays(t.cause)}
                        {t.cause !== 'other' && (
                          <span className="block text-[0.9rem] text-ink-2">{causeRemedy(t.cause)}</span>
                        )}
                      </span>
                    </li>
                  ))}
                </ul>
              </>
            )}
          </section>
        </div>
        <details className="sheet p-5">
          <summary className="font-semibold">Correct its name and kind</summary>
          <div className="mt-3">
            <EditBoardForm
              key={b.version}
              boardId={b.id}
              version={b.version}
              board={{
                maker: b.maker,
                product: b.product,
                revision: b.revision,
                mains: b.mains,
                fixedWiring: b.fixedWiring,
                hasMeter: b.hasMeter,
                inPackageFlash: b.inPackageFlash,
              }}
            />
          </div>
        </details>
      </div>
      <aside className="sheet self-start bg-sheet-2 p-5" aria-label="What is known">
        <h2 className="text-[1.15rem]">What’s known</h2>
        <dl>
          <Fact name="Family" evidence={evidence('family')}>
            {b.family ?? none}
          </Fact>
          <Fact name="Markings" evidence="units identified, per family">
            {Object.entries(b.markings)
              .map(([f, n]) => `${f} × ${n}`)
              .join(', ') || none}
          </Fact>
          <Fact name="Flash" evidence={evidence('flashBytes')}>
            {b.flashBytes ? sizeWords(b.flashBytes) : none}
          </Fact>
          <Fact name="Rating" evidence={evidence('ratedAmps')}>
            {b.ratedAmps ? `${b.ratedAmps} A` : none}
          </Fact>
          <Fact name="Isolated" evidence={isolation?.reasons.join('; ')}>
            {b.mains
              ? isolation
                ? isolation.verdict === 'isolated'
                  ? 'Yes'
                  : isolation.verdict === 'non-isolated'
                    ? 'No'
                    : 'Unknown: treated as No'
                : none
              : 'Low voltage only'}
          </Fact>
          <Fact name="Way in" evidence={evidence('entry')}>
            {b.entry ?? none}
          </Fact>
          <Fact name="Modes" evidence={b.provenModes.length ? 'seen starting' : ''}>
            {b.provenModes.join(', ') || none}
          </Fact>
        </dl>
        <h2 className="mt-4 mb-2 text-[1.15rem]">Units made from it</h2>
        <ul className="flex flex-wrap gap-2">
          {b.unitNumbers.map((n) => (
            <li key={n}>
              <Link href={`/units/${n}`} aria-label={`Unit ${n}`}>
                <CaseNumber n={n} size="small" />
              </Link>
            </li>
          ))}
        </ul>
        {b.unitNumbers.length === 0 && <p className="text-ink-2">None yet.</p>}
        {b.unitCount > b.unitNumbers.length && (
          <Link href={`/units?board=${b.id}`} className="mt-2 block underline underline-offset-4">
            All {b.unitCount}
          </Link>
        )}
      </aside>
    </main>
  )
}
