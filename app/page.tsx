import { conditionsOf } from '@fresh-coat/core/journey/conditions'
import { coats, stepOf } from '@fresh-coat/core/journey/steps'
import type { Metadata } from 'next'
import Link from 'next/link'
import { CommandButton } from '@/components/command-button'
import { LogList } from '@/components/log-list'
import { buttonClass, CaseNumber, CoatBands, Empty, Key, longDay, PaintBand, twoDigits } from '@/components/paint'
import { database } from '@/server/db'
import { loadShop, recentEvents } from '@/server/views'

export const dynamic = 'force-dynamic'
export const metadata: Metadata = { title: 'Bench' }

const dueSoonDays = 14

export default async function Bench() {
  const db = database()
  const shop = await loadShop(db)
  const log = await recentEvents(db, 12)
  const now = new Date().toISOString()
  const inHand = shop.units.find((u) => u.inHand) ?? null
  const of = (id: string) => shop.assessments.get(id) as NonNullable<ReturnType<typeof shop.assessments.get>>
  const waiting = shop.units
    .flatMap((u) => of(u.id).waiting.map((w) => ({ unit: u, ...w })))
    .sort((a, b) => (a.severity === b.severity ? a.unit.number - b.unit.number : a.severity === 'error' ? -1 : 1))
  const soon = shop.units.flatMap((u) => {
    const due = u.calibrations[0]?.due
    const days = due ? (Date.parse(due) - Date.parse(shop.today)) / 86_400_000 : Number.POSITIVE_INFINITY
    return days >= 0 && days <= dueSoonDays ? [{ unit: u, due: due as string }] : []
  })

  if (shop.units.length === 0)
    return (
      <main className="mx-auto max-w-3xl p-5">
        <h1 className="mb-4 text-[1.5rem]">Bench</h1>
        <Empty title="Nothing on the bench yet">
          <p>
            Take the first device, write a number on its case, and say what it is. The app then leads it from its closed
            case to a device in service, and keeps what it learns for the next one of the same board.
          </p>
          <p className="mt-4">
            <Link href="/units/new" data-key="n" className={buttonClass('main')}>
              The first unit
              <Key>n</Key>
            </Link>
          </p>
        </Empty>
      </main>
    )

  return (
    <div className="grid min-h-[calc(100dvh-52px)] lg:grid-cols-[minmax(0,1fr)_300px]">
      <main className="min-w-0 px-4 py-4 sm:px-6">
        <div className="mb-2 flex items-baseline justify-between gap-4">
          <h1 className="text-[1.05rem] text-ink-2">On the bench</h1>
          <time className="text-ink-2" dateTime={now} suppressHydrationWarning>
            {longDay(now)}
          </time>
        </div>
        {inHand ? (
          <section aria-label="In hand" className="sheet mb-5 flex flex-wrap items-center gap-x-5 gap-y-3 px-5 py-4">
            <CaseNumber n={inHand.number} />
            <div className="min-w-[16rem] flex-1">
              <h2 className="text-[1.45rem] leading-tight" dir="auto">
                {inHand.name}
              </h2>
              <p className="mb-2 text-ink-2">
                Next: {stepOf(of(inHand.id).next).next}.{' '}
                {conditionsOf(inHand, of(inHand.id).next).find((c) => !c.met)?.next ?? ''}
              </p>
              <div className="max-w-[34rem]">
                <CoatBands coats={of(inHand.id).coats} />
              </div>
            </div>
            <div className="grid gap-2">
              <Link href={`/units/${inHand.number}/${of(inHand.id).next}`} data-key="." className={buttonClass('main')}>
                Carry on
                <Key>.</Key>
              </Link>
              <CommandButton command="put-back" input={{ unitId: inHand.id }}>
                Put back
              </CommandButton>
            </div>
          </section>
        ) : (
          <section className="sheet mb-5 flex flex-wrap items-center justify-between gap-4 px-5 py-4">
            <p>Nothing is in hand. Open a unit from a lane, or begin a new one.</p>
            <Link href="/units/new" className={buttonClass('main')}>
              New unit
            </Link>
          </section>
        )}
        <div className="grid grid-cols-1 gap-3 sm:grid-cols-3 lg:grid-cols-5">
          {coats.map((coat) => {
            const lane = shop.units.filter((u) => of(u.id).lane === coat.id)
            const shown = [...lane].sort(
              (a, b) => Number(of(a.id).inService) - Number(of(b.id).inService) || a.number - b.number,
            )
            return (
              <section key={coat.id} aria-labelledby={`lane-${coat.id}`} className="min-w-0">
                <div className="flex items-baseline justify-between font-title text-[1.08rem] font-semibold">
                  <h2 id={`lane-${coat.id}`}>{coat.name}</h2>
                  <span className="font-normal text-ink-2">{lane.length}</span>
                </div>
                <PaintBand coat={coat.id} share={1} />
                <ul className="mt-2 grid gap-2">
                  {shown.map((u) => {
                    const a = of(u.id)
                    const trouble = a.waiting[0]
                    return (
                      <li key={u.id}>
                        <Link
                          href={`/units/${u.number}`}
                          className={`sheet grid grid-cols-[2rem_1fr] items-baseline gap-2 px-2.5 py-1.5 hover:border-ink ${trouble ? (trouble.severity === 'error' ? 'border-l-4 !border-l-oxide' : 'border-l-4 !border-l-ochre-line') : ''}`}
                        >
                          <span className="font-title text-[1.2rem] font-extrabold">{twoDigits(u.number)}</span>
                          <span className="min-w-0">
                            <span className="line-clamp-2 block leading-snug" dir="auto">
                              {u.name}
                            </span>
                            <span className="block truncate text-[0.87rem] text-ink-2">
                              {trouble
                                ? stepOf(trouble.step).title.toLowerCase() +
                                  (trouble.severity === 'error' ? ': trouble' : ': stale')
                                : a.inService
                                  ? 'in service'
                                  : stepOf(a.next).title.toLowerCase()}
                            </span>
                          </span>
                        </Link>
                      </li>
                    )
                  })}
                </ul>
              </section>
            )
          })}
        </div>
      </main>
      <aside
        className="border-t border-rule bg-sheet-2 px-5 py-4 lg:border-t-0 lg:border-l"
        aria-label="Waiting and log"
      >
        <div className="mb-3 flex gap-2">
          <Link href="/units/new" data-key="n" className={buttonClass('plain')}>
            New unit
            <Key>n</Key>
          </Link>
          <CommandButton command="undo" input={{ unitId: null }} look="quiet" hotkey="u">
            Undo
          </CommandButton>
        </div>
        <h2 className="text-[1.1rem]">Waiting on you</h2>
        {waiting.length === 0 && soon.length === 0 && <p className="mt-1 text-ink-2">Nothing waits.</p>}
        <ul>
          {waiting.map((w) => (
            <li key={`${w.unit.id}-${w.step}`} className="border-b border-rule-2">
              <Link
                href={`/units/${w.unit.number}/${w.step}`}
                className="grid grid-cols-[2.4rem_1fr] py-2.5 hover:underline"
              >
                <span className="font-title text-[1.15rem] font-extrabold">{twoDigits(w.unit.number)}</span>
                <span>
                  <span className="block">
                    {stepOf(w.step).title}: {w.text}
                  </span>
                  <span className="block text-[0.9rem] text-ink-2">{w.next}</span>
                </span>
              </Link>
            </li>
          ))}
          {soon.map((s) => (
            <li key={`${s.unit.id}-soon`} className="border-b border-rule-2">
              <Link
                href={`/units/${s.unit.number}/meter`}
                className="grid grid-cols-[2.4rem_1fr] py-2.5 hover:underline"
              >
                <span className="font-title text-[1.15rem] font-extrabold">{twoDigits(s.unit.number)}</span>
                <span>Meter re-check falls due {s.due}</span>
              </Link>
            </li>
          ))}
        </ul>
        <h2 className="mt-4 text-[1.1rem]">Bench log</h2>
        <LogList log={log} />
      </aside>
    </div>
  )
}
