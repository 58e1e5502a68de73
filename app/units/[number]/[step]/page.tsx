import { nextName } from '@fresh-coat/core/fleet/next-name'
import { familyOf, firmwareOf, twinsOf } from '@fresh-coat/core/journey/facts'
import { isStepId, stepOf } from '@fresh-coat/core/journey/steps'
import type { Metadata } from 'next'
import { notFound } from 'next/navigation'
import { UnitWorkspace } from '@/components/unit-workspace'
import { database } from '@/server/db'
import { loadShop, paceOfBoard, recentEvents, secretsOf, unitOf } from '@/server/views'

export const dynamic = 'force-dynamic'
interface Place {
  params: Promise<{ number: string; step: string }>
}

export async function generateMetadata({ params }: Place): Promise<Metadata> {
  const { number, step } = await params
  return { title: `${number.padStart(2, '0')} ${isStepId(step) ? stepOf(step).title : ''}` }
}

export default async function UnitPage({ params }: Place) {
  const { number, step } = await params
  if (!isStepId(step)) notFound()
  const db = database()
  const shop = await loadShop(db)
  const view = unitOf(shop, Number(number))
  if (!view) notFound()
  const [log, secrets, pace] = await Promise.all([
    recentEvents(db, 7, view.id),
    secretsOf(db, view.id),
    view.board ? paceOfBoard(db, view.board.id) : null,
  ])
  const index = shop.units.indexOf(view)
  return (
    <UnitWorkspace
      key={`${view.id}-${step}`}
      view={view}
      step={step}
      log={log}
      before={shop.units[index - 1]?.number ?? null}
      after={shop.units[index + 1]?.number ?? null}
      choices={{
        boards: shop.boards.map(({ id, name, unitNumbers }) => ({ id, name, unitNumbers })),
        adapters: shop.adapters,
        instruments: shop.instruments,
        loads: shop.loads,
        hubs: shop.hubs,
        profiles: shop.profiles.map((p) => ({
          id: p.id,
          name: p.name,
          families: p.data.families,
          setupAddress: p.data.setupAddress,
          releases: p.data.releases ?? [],
        })),
        images: shop.images,
        twins: twinsOf(view, shop.units),
        otherUnits: shop.units
          .filter((u) => u.id !== view.id)
          .map((u) => ({
            number: u.number,
            name: u.name,
            apMac: u.records.join.data.apMac,
            nameSuffix: u.records.join.data.nameSuffix,
            family: familyOf(u)?.family ?? null,
            firmware: firmwareOf(u),
          })),
        markings: shop.markings,
        next: {
          number: Math.max(0, ...shop.units.map((u) => u.number)) + 1,
          name: nextName(
            view.name,
            shop.units.map((u) => u.name),
          ),
        },
        pace,
        secrets,
      }}
    />
  )
}
