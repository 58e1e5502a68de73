import { familyOf, firmwareOf } from '@fresh-coat/core/journey/facts'
import { stepOf } from '@fresh-coat/core/journey/steps'
import type { Metadata } from 'next'
import Link from 'next/link'
import { buttonClass, CaseNumber, coatPaint, Empty, Key, Tag } from '@/components/paint'
import { database } from '@/server/db'
import { loadShop } from '@/server/views'

export const dynamic = 'force-dynamic'
export const metadata: Metadata = { title: 'Units' }

export default async function Units() {
  const shop = await loadShop(database())
  const of = (id: string) => shop.assessments.get(id) as NonNullable<ReturnType<typeof shop.assessments.get>>
  return (
    <main className="px-4 py-4 sm:px-6">
      <div className="mb-3 flex items-center justify-between gap-4">
        <h1 className="text-[1.5rem]">
          Units <span className="font-normal text-ink-2">{shop.units.length}</span>
        </h1>
        <Link href="/units/new" data-key="n" className={buttonClass('main')}>
          New unit
          <Key>n</Key>
        </Link>
      </div>
      {shop.units.length === 0 ? (
        <Empty title="No unit yet">
          <p>A unit is one device with a number on its case. Begin with the one you have in hand.</p>
        </Empty>
      ) : (
        <ul className="grid gap-2">
          {shop.units.map((u) => {
            const a = of(u.id)
            return (
              <li key={u.id}>
                <Link
                  href={`/units/${u.number}`}
                  className="sheet grid grid-cols-[3rem_minmax(0,1fr)] items-center gap-x-4 gap-y-1 px-3.5 py-2 hover:border-ink md:grid-cols-[3rem_minmax(0,1.4fr)_minmax(0,1.2fr)_7rem_minmax(0,1fr)_9rem]"
                >
                  <CaseNumber n={u.number} size="small" />
                  <span className="min-w-0">
                    <span className="block truncate font-semibold" dir="auto">
                      {u.name}
                    </span>
                    <span className="block truncate text-[0.9rem] text-ink-2" dir="auto">
                      {u.place || 'no place'}
                    </span>
                  </span>
                  <span className="truncate max-md:col-start-2">{u.board?.name ?? 'board not named'}</span>
                  <span className="pin max-md:hidden">{familyOf(u)?.family ?? '–'}</span>
                  <span className="truncate text-ink-2 max-md:hidden">{firmwareOf(u) || '–'}</span>
                  <span className="grid gap-1 max-md:col-start-2">
                    <span
                      className="flex h-[9px] gap-[3px]"
                      role="img"
                      aria-label={a.coats.map((c) => `${c.name} ${c.done} of ${c.of}`).join(', ')}
                    >
                      {a.coats.map((c) => (
                        <span key={c.id} className="flex-1 overflow-hidden rounded-[2px] bg-unpainted">
                          <span
                            className="block h-full"
                            style={{
                              width: `${c.of === 0 ? 100 : (c.done / c.of) * 100}%`,
                              background: coatPaint[c.id],
                            }}
                          />
                        </span>
                      ))}
                    </span>
                    <span className="text-[0.9rem]">
                      {a.waiting.length > 0 ? (
                        <Tag severity={a.waiting[0]?.severity ?? 'watch'}>
                          {stepOf(a.waiting[0]?.step ?? 'arrive').title.toLowerCase()}
                        </Tag>
                      ) : a.inService ? (
                        'in service'
                      ) : (
                        `next: ${stepOf(a.next).title.toLowerCase()}`
                      )}
                    </span>
                  </span>
                </Link>
              </li>
            )
          })}
        </ul>
      )}
    </main>
  )
}
