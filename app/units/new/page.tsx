import type { Metadata } from 'next'
import { NewUnit } from '@/components/new-unit'
import { database } from '@/server/db'
import { loadShop } from '@/server/views'

export const dynamic = 'force-dynamic'
export const metadata: Metadata = { title: 'New unit' }

export default async function NewUnitPage() {
  const shop = await loadShop(database())
  const free = Math.max(0, ...shop.units.map((u) => u.number)) + 1
  return (
    <main className="mx-auto max-w-3xl px-4 py-5">
      <h1 className="mb-1 text-[1.5rem]">A new unit</h1>
      <p className="mb-4 max-w-[60ch] text-ink-2">
        Write its number on the case with a pen that stays: that is how people find it, for years.
      </p>
      <div className="sheet p-5">
        <NewUnit
          free={free}
          boards={shop.boards.map(({ id, name, unitNumbers }) => ({ id, name, unitNumbers }))}
          places={[...new Set(shop.units.map((u) => u.place).filter(Boolean))]}
        />
      </div>
    </main>
  )
}
